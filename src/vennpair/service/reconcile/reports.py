"""A comparison to take away, in the form that was asked for."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from django.http import HttpResponse
from django.utils.http import content_disposition_header

from vennpair.core.reconcile.report import Report, report_of_live
from vennpair.core.reconcile.report.page import as_page
from vennpair.service.reconcile.models import Comparison


def _spreadsheet(report: Report) -> bytes:
    from vennpair.core.reconcile.report.sheets import as_xlsx  # slow to load, and seldom asked for

    return as_xlsx(report)


def _table(report: Report) -> bytes:
    from vennpair.core.reconcile.report.sheets import as_csv

    return as_csv(report)


FORMS: dict[str, tuple[str, Callable[[Report], bytes]]] = {
    "html": ("text/html; charset=utf-8", as_page),
    "xlsx": ("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", _spreadsheet),
    "csv": ("text/csv; charset=utf-8", _table),
    "json": (
        "application/json",
        lambda report: json.dumps(report.as_json(), ensure_ascii=False).encode(),
    ),
}


def answer_with(data: bytes, media: str, name: str) -> HttpResponse:
    """Return bytes to take away.

    A page needs nothing but itself: it may run no script, wherever its texts come from.
    """
    shown = "inline" if media.startswith("text/html") else "attachment"
    said = content_disposition_header(shown == "attachment", name) or shown
    return HttpResponse(
        data,
        content_type=media,
        headers={
            "Content-Disposition": said,
            "Content-Security-Policy": "default-src 'none'; style-src 'unsafe-inline'",
            "X-Content-Type-Options": "nosniff",
        },
    )


def write_report(
    comparison: Comparison, document: dict[str, Any], findings: list[dict[str, Any]], form: str
) -> tuple[bytes, str, str]:
    """Return the bytes, their media type and a file name.

    ``document`` and ``findings`` are what the API says of the comparison.
    """
    pairing = comparison.pairing
    shell = pairing.shell.label or pairing.shell.title
    media, write = FORMS[form]
    report = report_of_live(
        document,
        findings,
        f"{shell}: {pairing.course.title}",
        pairing.course.publisher.name,
        f"{pairing.shell.platform.name}, {shell}",
        pairing.shell.zone,
    )
    safe = "".join(each if each.isalnum() else "-" for each in shell).strip("-")
    return write(report), media, f"comparison-{safe}-{document['at'][:10]}.{form}"
