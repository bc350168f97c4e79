"""Carry out one section of a set-up: place, check as a learner, turn the relay on, place the first
steps; and take all of it back.

Each part is a job of its own, with its own steps, reasons and undoing; here they are run in their
order, in this worker. Called again after a kill, it goes on from what is there.
"""

from __future__ import annotations

import logging
from decimal import Decimal
from typing import cast
from uuid import uuid5

from django.db import transaction
from django.utils import timezone

from vennpair.core.content.groups import Treatment
from vennpair.core.counting import many
from vennpair.core.deploy.ways import Way, weighting_of
from vennpair.core.failures import FailureKind
from vennpair.core.pair.first_steps import Access
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.content.actions.start_delivery import DELIVERY
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.average_column import make_average
from vennpair.service.deploy.actions.check_as_learner import start_check
from vennpair.service.deploy.actions.look_for_drift import start_looking
from vennpair.service.deploy.actions.mend_drift import start_mending
from vennpair.service.deploy.actions.take_back import start_taking_back
from vennpair.service.deploy.models import LearnerCheck, Rollout
from vennpair.service.kernel.audit.notify import notify
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import (
    MOST_TRIES,
    Cancelled,
    step_done,
)
from vennpair.service.pair.actions.change_pairing import turn_relay
from vennpair.service.pair.actions.change_tool import TOOL, look_at_tool, start_change
from vennpair.service.pair.actions.place_first_steps import choose_first_steps
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.actions.change_rules import change_rule
from vennpair.service.relay.actions.release import show_columns
from vennpair.service.relay.models import RelayRule
from vennpair.service.set_up.actions.bring_readings import start_bringing
from vennpair.service.set_up.actions.section_parts import (
    begun,
    carry_out_part,
    counts_of,
    placed_of,
    run_part,
    section_of,
)
from vennpair.service.set_up.actions.section_words import came_of, goes
from vennpair.service.set_up.models import Section, SetUp

PARTS = 8  # placed, columns hidden, readings, total, checked, relay, first steps, navigation
TOTAL_POINTS = Decimal(100)
log = logging.getLogger(__name__)


def carry_out_section(job: Job) -> str:
    """Do what is not done yet. Raises OutsideError, Refused, Cancelled."""
    section = section_of(job)
    try:
        words = _carry_out(job, section)
    except (Refused, Cancelled) as error:
        _end(section, f"{section.name}: {error}")
        raise
    except OutsideError as error:
        if error.failure.kind is not FailureKind.LATER or job.tries >= MOST_TRIES:
            _end(section, f"{section.name}: {error}")
        raise
    _end(section, "")
    return words


def _carry_out(job: Job, section: Section) -> str:
    pairing, set_up, actor = section.paired, section.set_up, section.set_up.made_by
    job.done, job.total = 0, PARTS
    carry_out_part(job, section.placing)
    _put_right(job, section, pairing, actor)
    step_done(job, "items placed")
    placed, failed = counts_of(section)
    if failed and not placed:
        raise Refused(
            "nothing_placed",
            "No link could be placed.",
            "Look at the operation for the reasons, and try its steps again there.",
        )
    hidden = "" if set_up.columns_shown else _hide_columns(section, pairing, actor)
    step_done(job, "columns shown as wanted")
    _bring(job, section, pairing, actor)
    step_done(job, "readings brought in")
    _add_total(section, pairing, set_up, actor)
    step_done(job, "total column made")
    checked = _checked(job, section, pairing, actor)
    step_done(job, "opened as a learner")
    _turn_on(section, pairing, set_up, actor)
    step_done(job, "relay set")
    told = set_up.complete and pairing.access == set_up.access
    if section.page is not None or (set_up.access and not told):
        if section.page is None:
            access = cast("Access", set_up.access)
            with transaction.atomic():  # so that a kill between leaves no page that nobody knows
                section.page = choose_first_steps(pairing, access, True, actor, actor.language)
                section.save(update_fields=["page"])
        carry_out_part(job, section.page)
    step_done(job, "first steps placed")
    if set_up.navigation:
        _show_tool(job, section, pairing, actor)
        carry_out_part(job, section.tool)
    step_done(job, "shown in the navigation")
    trouble = f", {many(failed, 'step')} not done: see the operations" if failed else ""
    trouble += hidden
    if section.bringing is not None:
        trouble += f"; {section.bringing.message}"
    return f"{many(placed, 'link')} placed{trouble}; {checked}; {goes(set_up)}"


def _put_right(job: Job, section: Section, pairing: Pairing, actor: User) -> None:
    """Put right what the plan showed to have drifted, and take back what it showed to go; columns
    with scores stay in the gradebook.
    """
    if section.drifts and section.mending is None:
        section.mending = begun(job, kind="rollout", rollout__purpose=Rollout.Purpose.MEND)
        if section.mending is None:
            meant = {(placement, kind) for placement, kind in section.drifts}
            run_part(start_looking(pairing, actor))
            rows = [(each.pk, (str(each.placement_id), each.kind)) for each in pairing.drifts.all()]
            found = [key for key, what in rows if what in meant]
            made = start_mending(pairing, found, "follow", actor) if found else None
            section.mending = made.job if made else None
        section.save(update_fields=["mending"])
    carry_out_part(job, section.mending)
    if section.removals and section.taking is None:
        there = pairing.placements.filter(
            pk__in=section.removals, state=Placement.State.PLACED
        ).values_list("pk", flat=True)
        section.taking = begun(job, kind="rollout", rollout__purpose=Rollout.Purpose.TAKE_BACK)
        if there and section.taking is None:
            section.taking = start_taking_back(pairing, list(there), "keep", actor).job
        section.save(update_fields=["taking"])
    carry_out_part(job, section.taking)


def _checked(job: Job, section: Section, pairing: Pairing, actor: User) -> str:
    """Open what was placed as a learner would; return what came of it."""
    if section.checking is None:
        placed = placed_of(section)
        if not placed or section.placing is None:
            return "nothing new to open as a learner"
        own = LearnerCheck.objects.filter(pairing=pairing, made_at__gt=section.placing.made_at)
        try:
            found = own.order_by("made_at").first() or start_check(pairing, placed, actor)
        except Refused as refused:  # the platform tells too little for it
            return f"not opened as a learner: {refused.message.rstrip('.')}"
        section.checking = found.job
        section.save(update_fields=["checking"])
    carry_out_part(job, section.checking)
    return section.checking.message


def _turn_on(section: Section, pairing: Pairing, set_up: SetUp, actor: User) -> None:
    if set_up.way == SetUp.Way.COURSE and not set_up.total:
        return
    if set_up.scores == SetUp.Scores.LATER:
        if set_up.complete and pairing.relay_on:
            turn_relay(pairing, False, actor)
        return
    rule = RelayRule.objects.filter(pairing=pairing, scope="all").first()
    said = rule.changes if rule else {}
    if said.get("when", SetUp.Scores.SUBMISSION) != set_up.scores:
        change_rule(pairing, "all", "", said | {"when": set_up.scores}, actor)
    pairing.refresh_from_db()
    if not pairing.relay_on:
        with transaction.atomic():
            turn_relay(pairing, True, actor)
            section.relay_turned = True
            section.save(update_fields=["relay_turned"])


def _show_tool(job: Job, section: Section, pairing: Pairing, actor: User) -> None:
    """Let learners find the tool in the navigation, unless they do; a platform that takes no such
    change leaves it to the person.
    """
    wanted = {"on": True, "navigation": True, "audience": "everyone"}
    if section.tool is not None:
        return
    try:
        section.tool = begun(job, kind=TOOL)
        now = look_at_tool(pairing.shell).tool if section.tool is None else None
        if now is not None and any(getattr(now, name) != wanted[name] for name in wanted):
            section.tool = start_change(pairing.shell, wanted, "", actor)
    except Refused as refused:
        log.warning("the tool of pairing %s is not shown to all: %s", pairing.pk, refused.message)
        return
    section.save(update_fields=["tool"])


def _hide_columns(section: Section, pairing: Pairing, actor: User) -> str:
    """Keep the scores of the new columns from learners' view; return what is to be said of it."""
    placed = placed_of(section)
    rows = show_columns(pairing, placed, False, actor) if placed else []
    if not rows:
        return ""
    left = sum(row["result"] != "done" for row in rows)
    if left == len(rows):
        return "; the platform does not let Venn Pair hide columns: hide them in the gradebook"
    kept = many(len(rows) - left, "column is hidden", "columns are hidden")
    return f"; {kept} from learners until you show them"


def _bring(job: Job, section: Section, pairing: Pairing, actor: User) -> None:
    """Bring readings and videos in, into the folders in which the links are."""
    if section.set_up.readings and section.bringing is None:
        section.bringing = begun(job, kind=DELIVERY)
        if section.bringing is None:
            review = cast("Treatment", section.set_up.review)
            section.bringing = start_bringing(pairing, review, actor)
        section.save(update_fields=["bringing"])
    carry_out_part(job, section.bringing)


def _add_total(section: Section, pairing: Pairing, set_up: SetUp, actor: User) -> None:
    """Make the column with a total, once: its id comes from the section's, so that one made just
    before a kill is found again. One of the same title that was there before stays as it is.
    """
    if not set_up.total or section.total is not None:
        return
    key = uuid5(set_up.pk, f"total of section {section.pk}")
    made = pairing.averages.filter(pk=key).first()
    if made is None and pairing.averages.filter(title__iexact=set_up.total).exists():
        return
    placed = Placement.objects.filter(pairing=pairing, pk__in=placed_of(section))
    items = placed.filter(item__kind="graded").values_list("item", flat=True)
    graded = pairing.items.filter(kind="graded", gone=False)
    asked = {
        "id": key,
        "title": set_up.total,
        "points": TOTAL_POINTS,
        "items": list(items) or list(graded.values_list("pk", flat=True)),
        "weighting": weighting_of(cast("Way", set_up.way)),
        "keeps_up": True,
    }
    section.total = made or make_average(pairing, asked, actor)
    section.save(update_fields=["total"])


def _end(section: Section, trouble: str) -> None:
    """Note that a section has ended; the last one tells whoever began it."""
    with transaction.atomic():
        set_up = SetUp.objects.select_for_update().get(pk=section.set_up_id)
        section.ended_at, section.message = timezone.now(), trouble[:500]
        section.save(update_fields=["ended_at", "message"])
        started = list(
            set_up.sections.exclude(job=None).select_related("shell", "checking__learner_check")
        )
        if any(each.ended_at is None for each in started):
            return
        set_up.words = came_of(started, set_up)
        set_up.save(update_fields=["words"])
        notify(set_up.made_by, f"{set_up.words}.", f"/set-ups/{set_up.pk}")
