"""What an item is to look like in a shell, and what is there of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal

from vennpair.core.deploy.columns import Notice
from vennpair.core.deploy.dates import in_course, in_zone, read_moment, same_moment, shifted
from vennpair.core.deploy.sheet import Sheet
from vennpair.core.deploy.titles import LONGEST, renamed, shortened


@dataclass(frozen=True, slots=True)
class Target:
    """A link as it is to be in the shell; with a column where ``points`` is not None.

    Times are ISO 8601 with their zone.
    """

    title: str
    points: Decimal | None = None
    due_at: str = ""
    category: str = ""
    visible: bool = True
    shown_from: str = ""
    new_window: bool = False

    def with_points(self, points: Decimal | None) -> Target:
        """Return the target with a column of these points, or without one, and then without a
        category.
        """
        return replace(self, points=points, category=self.category if points is not None else "")


@dataclass(frozen=True, slots=True)
class Standing:
    """A placed link: as it was deployed, where, shifted by how many days, and what the
    publisher said of it then (``seen``).
    """

    target: Target
    folder: str = ""
    folder_title: str = ""
    shift_days: int = 0
    seen: Target = Target("")
    node: str = ""

    def in_zone(self, zone: str) -> Standing:
        """Return it with its due date in the course's zone, as targets are written."""
        due = in_zone(self.target.due_at, zone)
        return replace(self, target=replace(self.target, due_at=due))

    def brought_up(self, each: Candidate, wanted: Target, sheet: Sheet) -> Target:
        """Return the standing link with what the publisher changed since, and with what the sheet
        says outright.
        """
        now, wish = self.target, sheet.wish(each.item)
        if sheet.pattern or wish.title is not None or each.title != self.seen.title:
            now = replace(now, title=wanted.title)
        if wish.becomes == "link":
            now = replace(now, points=None, category="")
        elif wanted.points is not None and (
            wish.becomes == "column" or (now.points is not None and each.points != self.seen.points)
        ):
            now = replace(now, points=wanted.points)
        if (
            wish.due_at is not None
            or not same_moment(each.due_at, self.seen.due_at)
            or sheet.shift_days not in {None, self.shift_days}
        ):
            now = replace(now, due_at=wanted.due_at)
        if now.points is not None and (
            sheet.category != "publisher"
            or wish.category is not None
            or each.category != self.seen.category
        ):
            now = replace(now, category=wanted.category)
        if wish.visible is not None or "visible" in sheet.applies:
            now = replace(now, visible=wanted.visible)
        if wish.shown_from is not None or "shown_from" in sheet.applies:
            now = replace(now, shown_from=wanted.shown_from)
        if wish.new_window is not None or "new_window" in sheet.applies:
            now = replace(now, new_window=wanted.new_window)
        return now


@dataclass(frozen=True, slots=True)
class Candidate:
    """An item that somebody chose, as the publisher tells of it, with what is there of it in the
    shell.

    ``brought`` by an import, as content; ``half`` where a rollout made the link and not all that
    belongs to it; ``addressed`` where its link opens it, and not the publisher's front page.
    """

    item: str
    title: str
    kind: str
    points: Decimal | None = None
    due_at: str = ""
    audience: str = "everyone"
    unit: str = ""
    category: str = ""
    position: int = 0
    standing: Standing | None = None
    brought: bool = False
    half: bool = False
    addressed: bool = True


def target_of(each: Candidate, number: int, sheet: Sheet, zone: str) -> tuple[Target, list[Notice]]:
    """Return what the sheet makes of an item, its points aside, and what to say of it.

    Raises BadPattern, ValueError.
    """
    wish = sheet.wish(each.item)
    title, said = _titled(each, number, sheet)
    days = (
        sheet.shift_days
        if sheet.shift_days is not None
        else (each.standing.shift_days if each.standing else 0)
    )
    due, skipped = (
        shifted(each.due_at, days, zone)
        if each.due_at
        else in_course(wish.due_at, zone)
        if wish.due_at
        else ("", False)
    )
    start, start_skipped = _start(
        wish.shown_from if wish.shown_from is not None else sheet.shown_from,
        sheet.shown_before,
        due,
        days,
        zone,
    )
    if skipped or start_skipped:
        said.append(_hour_skipped(each, title, due=skipped))
    visible = (
        sheet.visible if wish.visible is None else wish.visible
    ) and each.audience == "everyone"
    category = (
        {"publisher": each.category, "none": ""}.get(sheet.category, sheet.category)
        if wish.category is None
        else wish.category
    )
    window = sheet.new_window if wish.new_window is None else wish.new_window
    return Target(title, None, due, category, visible, start, window), said


def _titled(each: Candidate, number: int, sheet: Sheet) -> tuple[str, list[Notice]]:
    """Return the title that an item gets, and what to say of it."""
    wish, said = sheet.wish(each.item), []
    facts = {
        "title": each.title,
        "unit": each.unit,
        "number": str(number),
        "category": each.category,
        "points": f"{each.points.normalize():f}" if each.points else "",
    }
    full = " ".join(wish.title.split()) if wish.title is not None else renamed(sheet.pattern, facts)
    title = shortened(full, min(sheet.longest, LONGEST))
    if not title:
        said.append(
            Notice(
                "title_empty",
                each.item,
                each.title,
                "A link without a title could not be told from others.",
                "Give it a title.",
                "error",
            )
        )
    elif title != full:
        said.append(
            Notice(
                "title_shortened",
                each.item,
                title,
                f"The title has {len(full)} characters and is shortened to '{title[:60]}…'.",
                "Give it a shorter one to choose what stays.",
                "note",
            )
        )
    return title, said


def _hour_skipped(each: Candidate, title: str, *, due: bool) -> Notice:
    words = (
        f"The clocks go forward on the day that '{title}' is {'due' if due else 'shown'},"
        " and its hour does not exist; the hour after it is taken."
    )
    remedy = "Choose another time where that matters."
    return Notice("hour_skipped", each.item, title, words, remedy, "note")


def _start(typed: str, before: int | None, due: str, days: int, zone: str) -> tuple[str, bool]:
    if typed:
        moment, skipped = in_course(typed, zone)
        later, again = shifted(moment, days, zone)
        return later, skipped or again
    return shifted(due, -before, zone) if before is not None and read_moment(due) else ("", False)
