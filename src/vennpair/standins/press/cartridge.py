"""A homework course as a Common Cartridge."""

from __future__ import annotations

from dataclasses import replace
from html import escape
from typing import IO

from django.conf import settings

from vennpair.standards.cartridge.writer import THIN_KINDS, Entry, Profile, write_cartridge
from vennpair.standins.press.models import Course, Item

# What the units of the book are about, by their numbers.
SUBJECTS = {
    "Surface water": range(1, 5),
    "Groundwater": range(5, 7),
    "Water management": range(7, 10),
}


def write_course(course: Course, target: IO[bytes], profile: Profile = "full") -> None:
    """Write the course's units and items as folders, pages, web links and LTI links.

    Thin: without the pages.
    """
    entries = []
    for unit in course.units.prefetch_related("items"):
        entries.append(Entry(f"unit{unit.position}", unit.title, "folder"))
        about = _subjects(unit.position)
        entries.extend(replace(_entry(item), subjects=about) for item in unit.items.all())
    kept = [each for each in entries if profile == "full" or each.kind in THIN_KINDS]
    write_cartridge(target, f"course-{course.sourced_id}", course.title, "en-US", kept, profile)


def _subjects(unit: int) -> tuple[str, ...]:
    """Return what a unit of the book is about."""
    return tuple(name for name, units in SUBJECTS.items() if unit in units)


def _entry(item: Item) -> Entry:
    if item.kind == "video":
        return Entry(item.sourced_id, item.title, "web_link", 1, url=item.url, new_window=True)
    if item.kind in {"reading", "notes"}:
        html = (
            f"<!doctype html><html><head><title>{escape(item.title)}</title></head><body>"
            f"<h1>{escape(item.title)}</h1><p>{escape(item.text)}</p></body></html>"
        )
        return Entry(
            item.sourced_id,
            item.title,
            "page",
            1,
            html=html,
            audience="instructor" if item.kind == "notes" else "everyone",
        )
    return Entry(
        item.sourced_id,
        item.title,
        "lti_link",
        1,
        url=f"{settings.BASE_URL}/lti/launch",
        custom={"item": item.sourced_id},
    )
