"""The inspection of a cartridge as plain JSON values (DESIGN 8, ``vennpair cartridge inspect``)."""

from __future__ import annotations

from decimal import Decimal
from typing import Any, TypedDict

from vennpair.standards.cartridge.findings import Finding
from vennpair.standards.cartridge.model import Cartridge, OutlineRow

Json = dict[str, Any]


class ReportedFinding(TypedDict):
    """What is wrong with a package, where in it, and what to do; ``level`` is error, warning or
    note.
    """

    code: str
    level: str
    where: str
    message: str
    remedy: str


def inspection(cartridge: Cartridge) -> Json:
    """Return the document that ``cartridge inspect --format json`` prints."""
    return {
        "version": cartridge.version,
        "profile": cartridge.profile,
        "title": cartridge.title,
        "language": cartridge.language,
        "counts": cartridge.counts(),
        "outline": [outline_row(row) for row in cartridge.outline],
        "loose": [
            {"resource": each.id, "kind": each.kind, "href": each.href or None}
            for each in cartridge.loose
        ],
        "findings": [finding(each) for each in cartridge.findings],
    }


def refusal(found: Finding) -> Json:
    """Return the same document for a file that cannot be used: empty but for its one finding."""
    empty: Json = {
        "version": None,
        "profile": None,
        "title": None,
        "language": None,
        "counts": {},
        "outline": [],
        "loose": [],
    }
    return empty | {"findings": [finding(found)]}


def outline_row(row: OutlineRow) -> Json:
    """Return one outline row; what a kind does not have is null."""
    resource = row.resource
    descriptor = resource.descriptor if resource else None
    return {
        "id": row.id,
        "title": row.title,
        "kind": row.kind,
        "depth": row.depth,
        "resource": row.reference or None,
        "href": (resource.href if resource else "") or None,
        "url": (descriptor.url if descriptor else "") or None,
        "points": _number(descriptor.points if descriptor else None),
        "audience": row.audience,
        "custom": dict(descriptor.custom) if descriptor else {},
        "new_window": descriptor.new_window if descriptor else False,
    }


def finding(found: Finding) -> ReportedFinding:
    """Return one finding."""
    return ReportedFinding(
        code=found.code,
        level=found.level,
        where=found.where,
        message=found.message,
        remedy=found.remedy,
    )


def _number(value: Decimal | None) -> int | float | None:
    if value is None:
        return None
    return int(value) if value == value.to_integral_value() else float(value)
