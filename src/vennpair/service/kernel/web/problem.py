"""The document in which every error of the API leaves (RFC 9457)."""

from __future__ import annotations

from typing import Any

MEDIA = "application/problem+json"


def problem_document(
    status: int, code: str, detail: str, remedy: str, **extra: Any
) -> dict[str, Any]:
    """Return a problem document; ``extra`` are further fields of it."""
    return {
        "type": f"urn:vennpair:problem:{code}",
        "title": code.replace("_", " "),
        "status": status,
        "code": code,
        "detail": detail,
        "remedy": remedy,
    } | extra
