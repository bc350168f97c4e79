"""Plan a set-up: which items go where in each section, with guesses where nothing was said."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.db.models import Count, Q
from django.utils import timezone

from vennpair.core.content.groups import Treatment
from vennpair.core.counting import many
from vennpair.core.deploy.dates import proposed_shift, read_moment
from vennpair.core.deploy.folder_guess import FolderGuess, guess_folders
from vennpair.core.deploy.plan import ShellSnapshot
from vennpair.core.deploy.sheet import Sheet, Wish
from vennpair.core.deploy.ways import Way, chosen_by, is_review, sheet_by, total_title
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item
from vennpair.service.deploy.actions.plan_deploy import Planned, plan_deploy
from vennpair.service.deploy.actions.plan_deploy import Section as Target
from vennpair.service.deploy.models import AverageColumn, Step
from vennpair.service.deploy.shell_snapshot import read_shells
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructors
from vennpair.service.set_up.actions.bring_readings import readings_of
from vennpair.service.set_up.actions.plan_beside import NOTHING, Beside, plan_beside
from vennpair.service.set_up.models import Section, SetUp


@dataclass(frozen=True, slots=True)
class OwnWishes:
    """What holds in one shell only; items are the first section's."""

    folders: Mapping[str, str] = field(default_factory=dict)
    wishes: Mapping[str, Wish] = field(default_factory=dict)
    without: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Wishes:
    """What is wanted of a set-up.

    ``items`` are the first section's, all graded ones where none is named; ``shifts`` are days by
    shell, before those of the sheet; ``start`` is a day of the term's first week. ``own`` is what
    holds in one shell only, by shell. ``complete``: the wishes say all that should be, so what
    is there beside them is taken back, and what drifted is put right. ``way`` and ``review`` say
    what is placed where no item is named; ``total`` is the title of a column with a total.
    """

    sheet: Sheet
    items: tuple[str, ...] = ()
    shifts: Mapping[str, int] = field(default_factory=dict)
    start: date | None = None
    scores: str = SetUp.Scores.SUBMISSION
    access: str = ""
    navigation: bool = False
    own: Mapping[str, OwnWishes] = field(default_factory=dict)
    complete: bool = False
    way: Way = "columns"
    total: str = ""
    review: Treatment = "keep"
    readings: bool = False
    columns_shown: bool = True

    @property
    def column(self) -> str:
        """Return the title of the column with a total, empty for none."""
        return total_title(self.way, self.total)


@dataclass(frozen=True, slots=True)
class SectionPlan:
    """What will happen in one section; ``folders`` are guesses, ``shift`` is what is proposed, in
    days, where none was said, ``planned`` is None where the section is not ready. ``total`` is the
    title of the column that would be made, ``review`` counts chosen items of review units,
    ``readings`` the readings and videos that the shell does not have, and ``brings`` those that
    would come; ``message`` says why a section that is ready cannot be written to, ``remedy`` what
    to do.
    """

    section: Section
    planned: Planned | None
    folders: tuple[FolderGuess, ...] = ()
    shift: int = 0
    beside: Beside = NOTHING
    total: str = ""
    review: int = 0
    readings: int = 0
    brings: int = 0
    message: str = ""
    remedy: str = ""

    @property
    def there(self) -> int:
        """Return how many chosen items have a link in the shell already."""
        if self.planned is None:
            return 0
        return len(self.planned.plan.of("same")) + len(self.planned.plan.of("change"))

    @property
    def writes(self) -> bool:
        """Say whether anything would be changed."""
        planned = self.planned is not None and bool(self.planned.plan.writes)
        return planned or self.beside != NOTHING or bool(self.total or self.brings)

    @property
    def sentence(self) -> str:
        """Say in a sentence what will happen."""
        if self.planned is None:
            if self.message:
                return f"{self.section.name}: nothing. {self.message}"
            return f"{self.section.name}: nothing, as {_why(self.section)}."
        plan, days = self.planned.plan, self.planned.sheet.shift_days or 0
        parts = [f"{many(len(plan.of('make')), 'link')} with {many(plan.columns, 'column')}"]
        if plan.folders:
            parts.append(f"{many(len(plan.folders), 'new folder')}")
        if changed := len(plan.of("change")):
            parts.append(f"{many(changed, 'link')} changed")
        if days:
            parts.append(f"dates moved by {many(abs(days), 'day')} {'on' if days > 0 else 'back'}")
        if out := len(plan.of("leave_out")):
            parts.append(f"{many(out, 'item')} left out")
        if gone := len(self.beside.removals):
            parts.append(f"{many(gone, 'link')} removed")
        if drifts := len(self.beside.drifts):
            parts.append(f"{many(drifts, 'change')} in the shell fixed")
        if self.brings:
            parts.append(many(self.brings, "reading or video", "readings and videos"))
        if self.total:
            parts.append(f"a column '{self.total}' with a total")
        parts += [f"{_SETTINGS[each.what]} {each.after}" for each in self.beside.settings]
        return f"{self.section.name}: {', '.join(parts)}."


_SETTINGS = {"relay": "relay", "scores": "scores go by", "access": "access paid by"}


def sections_of(set_up: SetUp) -> list[Section]:
    """Return the sections with their jobs, what was not done, and their set-up as it was in the
    same moment, in order: one query, however many there are.
    """
    parts = ("reading", "placing", "mending", "taking", "bringing", "page", "tool")
    related = (*parts, "checking__learner_check", "job", "undoing")
    failed = Q(placing__deploy_steps__state=Step.State.FAILED)
    return list(
        set_up.sections.select_related(
            "set_up",
            "shell__platform__institution",
            "pairing__shell__platform__institution",
            "pairing__course__publisher",
            *related,
        )
        .annotate(not_done=Count("placing__deploy_steps", filter=failed))
        .order_by("position")
    )


def plan_set_up(set_up: SetUp, wishes: Wishes, actor: User) -> list[SectionPlan]:
    """Plan every section that is ready; nothing is changed. Raises Refused, OutsideError."""
    sections = sections_of(set_up)
    ready = [each for each in sections if each.stage == "ready"]
    require_instructors(actor, [each.shell for each in ready])
    if not ready:
        raise Refused(
            "not_ready",
            "No section of this set-up is ready to be planned.",
            "Wait until their homework courses are read; each section says what it waits for.",
        )
    shells, hindered = read_shells([each.paired for each in ready])
    lead = ready[0].paired
    chosen = _chosen(lead, wishes)
    hidden = [str(each.pk) for each in chosen if wishes.review == "hide" and is_review(each)]
    sheet = sheet_by(wishes.sheet, wishes.way, hidden)
    guesses, shifts, targets = _guessed(ready, wishes, shells)
    keys = [str(each.pk) for each in chosen]
    planned = {each.pairing.pk: each for each in plan_deploy(lead, keys, sheet, targets, shells)}
    totals = _totals(list(planned), wishes.column)
    return [
        SectionPlan(
            each,
            found := planned.get(each.paired.pk) if each in ready else None,
            guesses.get(str(each.shell_id), ()),
            shifts.get(str(each.shell_id), 0),
            plan_beside(each.paired, found.items, wishes.scores, wishes.access)
            if wishes.complete and found is not None
            else NOTHING,
            totals.get(each.pairing_id, ""),
            sum(map(is_review, found.items.values())) if found is not None else 0,
            there := len(readings_of(each.paired, wishes.review)) if found is not None else 0,
            there if wishes.readings else 0,
            *(_words(why) if (why := hindered.get(str(each.pairing_id))) else ("", "")),
        )
        for each in sections
    ]


def _chosen(lead: Pairing, wishes: Wishes) -> list[Item]:
    """Return the first section's items that are placed. Raises Refused where there are none."""
    offered = list(lead.items.filter(gone=False).order_by("position", "id"))
    named = set(wishes.items)
    found = (
        [each for each in offered if str(each.pk) in named]
        if named
        else chosen_by(offered, wishes.way, wishes.review)
    )
    course = f"{lead.course.title}, {lead.course.code}"
    if missing := len(named) - len(found) if named else 0:
        raise Refused(
            "unknown_item",
            f"{missing} of the chosen items are not in {course}.",
            "Read the list again and choose from it.",
            422,
        )
    if not found and wishes.way == "course":
        raise Refused(
            "no_course_link",
            f"The publisher tells of no link to {course}, as a whole.",
            "Place links to its items instead.",
            422,
        )
    if not found:
        raise Refused(
            "no_items",
            f"{course}, has no graded item, so there is nothing to place.",
            "Name items of another kind, or add graded ones at the publisher.",
            422,
        )
    return found


def _words(error: Refused | OutsideError) -> tuple[str, str]:
    """Return why a shell cannot be written to, and what to do."""
    if isinstance(error, OutsideError):
        return error.failure.message, error.failure.remedy
    return error.message, error.remedy


def _guessed(
    ready: Sequence[Section], wishes: Wishes, shells: Mapping[str, ShellSnapshot]
) -> tuple[dict[str, tuple[FolderGuess, ...]], dict[str, int], list[Target]]:
    """Return by shell the folders guessed and the days proposed, and each section as plans take
    it.
    """
    guesses: dict[str, tuple[FolderGuess, ...]] = {}
    shifts: dict[str, int] = {}
    targets = []
    for section in (each for each in ready if str(each.paired.pk) in shells):
        pairing, key = section.paired, str(section.shell_id)
        items = list(_graded(pairing))
        outline = shells[str(pairing.pk)].outline
        folders = [(node.id, node.title) for node in outline if node.kind == "folder"]
        units = list(dict.fromkeys(each.unit for each in items if each.unit))
        into_units = wishes.sheet.into == "unit" and wishes.way != "course"
        guesses[key] = guess_folders(units, folders) if into_units else ()
        shifts[key] = _proposed(items, wishes, pairing.shell.zone)
        targets.append(_target(section, pairing, wishes, guesses[key], shifts[key]))
    return guesses, shifts, targets


def _totals(pairings: Sequence[Any], title: str) -> dict[Any, str]:
    """Return by pairing the title of the total that is to be made; one that is there is not made
    twice.
    """
    if not title:
        return {}
    there = AverageColumn.objects.filter(pairing__in=pairings, title__iexact=title)
    known = set(there.values_list("pairing_id", flat=True))
    return {each: title for each in pairings if each not in known}


def _target(
    section: Section,
    pairing: Pairing,
    wishes: Wishes,
    guesses: Sequence[FolderGuess],
    shift: int,
) -> Target:
    """Return a section as plans take it: a wish goes before a guess."""
    own = wishes.own.get(str(section.shell_id), OwnWishes())
    said = dict(wishes.sheet.folders) | dict(own.folders)
    folders = {each.unit: said.get(each.unit) or each.node or each.folder for each in guesses}
    days = wishes.shifts.get(str(section.shell_id), wishes.sheet.shift_days)
    return Target(
        pairing,
        days if days is not None or wishes.start is None else shift,
        None,
        said | folders,
        own.wishes,
        own.without,
    )


def _proposed(items: Sequence[Item], wishes: Wishes, zone: str) -> int:
    moments = [each.due_at for each in items if read_moment(each.due_at)]
    first = min(moments, key=lambda each: read_moment(each) or timezone.now(), default="")
    return proposed_shift(first, timezone.now(), zone, wishes.start)


def _graded(pairing: Pairing) -> Any:
    return pairing.items.filter(kind="graded", gone=False).order_by("position", "id")


def _why(section: Section) -> str:
    if section.message:
        return section.message[:1].lower() + section.message[1:].rstrip(".")
    if section.reading is not None and section.stage == "not_read":
        return f"its homework course could not be read ({section.reading.message.rstrip('.')})"
    return "its homework course is still being read"
