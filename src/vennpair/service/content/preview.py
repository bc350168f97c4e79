"""A look at one entry before it is imported: a page made harmless, a link, a quiz's questions."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from vennpair.service.content.models import Entry
from vennpair.service.content.package_view import PackageView, view_of
from vennpair.service.content.pages import member_of, references, shown
from vennpair.standards.cartridge.descriptors import tool_details
from vennpair.standards.cartridge.questions import read_questions

MOST_QUESTIONS = 200
MOST_HTML = 500_000


def preview(entry: Entry) -> dict[str, Any]:
    """Return what there is to see: ``html``, ``url``, ``custom``, ``questions`` and the ``files``
    that come along.
    """
    seen: dict[str, Any] = {
        "kind": entry.kind,
        "title": entry.shown_title,
        "html": "",
        "url": entry.url,
        "custom": entry.custom,
        "new_window": entry.new_window,
        "questions": [],
        "files": list(entry.files),
        "vendor": "",
    }
    if (
        entry.kind
        in {"page", "lti_link", "discussion", "assignment", "assessment", "question_bank"}
        and entry.member
        and (entry.kind != "lti_link" or entry.import_of.package is not None)
    ):
        with view_of(entry.import_of) as package:
            seen |= _looked_into(entry, package)
    return seen


def _looked_into(entry: Entry, package: PackageView) -> dict[str, Any]:
    if entry.kind == "page":
        html = package.page(entry.member)
        members = filter(
            None, (package.find(member_of(each, entry.member)) for each in references(html))
        )
        return {
            "html": shown(html)[:MOST_HTML],
            "files": list(dict.fromkeys([*entry.files, *members])),
        }
    if entry.kind in {"discussion", "assignment"}:
        return {"html": shown(package.descriptor(entry).text)[:MOST_HTML]}
    if entry.kind == "lti_link":
        return {"vendor": tool_details(package.document(entry)).vendor}
    questions = read_questions(package.document(entry), MOST_QUESTIONS)
    return {"questions": [_plain(asdict(each)) for each in questions]}


def _plain(question: dict[str, Any]) -> dict[str, Any]:
    points = question["points"]
    return question | {
        "prompt": shown(question["prompt"]),
        "choices": [shown(each) for each in question["choices"]],
        "points": None if points is None else f"{points.normalize():f}",
    }
