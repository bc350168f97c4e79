"""The document in which every error of the API leaves (RFC 9457)."""

from __future__ import annotations

from typing import Any

from vennpair.service.kernel.request_id import current

MEDIA = "application/problem+json"


def problem_document(
    status: int, code: str, detail: str, remedy: str, **extra: Any
) -> dict[str, Any]:
    """Return a problem document; ``extra`` are further fields of it, ``request`` is where to look
    in the log.
    """
    asked = {"request": current()} if current() else {}
    return (
        {
            "type": f"urn:vennpair:problem:{code}",
            "title": code.replace("_", " "),
            "status": status,
            "code": code,
            "detail": detail,
            "remedy": remedy,
        }
        | asked
        | extra
    )
