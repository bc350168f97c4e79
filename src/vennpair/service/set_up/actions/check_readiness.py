"""Check what a pairing needs, now, on both sides; a draft that passes becomes ready."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import Count

from vennpair.core.pair.checks import Check
from vennpair.core.pair.guess import CourseFacts
from vennpair.core.pair.readiness import PairingFacts, may_be_ready, readiness
from vennpair.core.pair.ready_items import ItemsFacts
from vennpair.core.pair.ready_people import PeopleFacts
from vennpair.core.pair.ready_services import ServiceFacts
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.content.addresses import opens_itself
from vennpair.service.content.models import Item, Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.match_learners import own_students, subject_of, subs_by
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.consent import agreed, shell_gateway
from vennpair.service.pair.models import AccountLink, Learner, LearnerMatch, Pairing
from vennpair.service.pair.queries import may_change
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.models import Comparison, Finding
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.oneroster.objects import User
from vennpair.standards.outline import Node, ShellTool

T = TypeVar("T")


def check_readiness(pairing: Pairing, user: Any) -> list[Check]:
    """Return all checks as they concern ``user``.

    A side that does not answer is itself a finding, not an error.
    """
    roster, students, teachers = (
        _asked(lambda: _roster(pairing)),
        _asked(lambda: own_students(pairing)),
        _asked(
            lambda: publisher_gateway(pairing.course.publisher).teachers(pairing.course.sourced_id)
        ),
    )
    services = _services(pairing, roster is not None, students is not None)
    people = _people(pairing, user, roster or [], students or [], teachers)
    checks = readiness(PairingFacts(services, people, _items(pairing)))
    if pairing.state == Pairing.State.DRAFT and not pairing.plan_open and may_be_ready(checks):
        _become_ready(pairing)
    return checks


def _asked(ask: Callable[[], T]) -> T | None:
    try:
        return ask()
    except (OutsideError, Refused):
        return None


def _roster(pairing: Pairing) -> list[Learner] | None:
    return refresh_roster(pairing.shell) if pairing.shell.memberships_url else None


def _services(pairing: Pairing, roster: bool, answers: bool) -> ServiceFacts:
    shell, course = pairing.shell, pairing.course
    outline = bool(shell.outline_url) and v.SCOPE_OUTLINE in shell.scopes
    tool: ShellTool | None = (
        _asked(lambda: shell_gateway(shell).tool(shell.outline_url)) if outline else None
    )
    others = (
        Pairing.objects.filter(course=course)
        .exclude(pk=pairing.pk)
        .exclude(state=Pairing.State.ENDED)
        .select_related("shell")
    )
    return ServiceFacts(
        agreed=agreed(shell),
        can_read_roster=roster,
        can_write_columns=bool(shell.lineitems_url)
        and v.SCOPE_LINE_ITEM in shell.scopes
        and v.SCOPE_SCORE in shell.scopes,
        can_write_outline=outline,
        publisher=course.publisher.name,
        publisher_answers=answers,
        course_there=not course.gone,
        tool_on=tool.on if tool else None,
        tool_audience=tool.audience if tool else "",
        shared_with=tuple(each.shell.label or each.shell.title for each in others),
        sharing_allowed="sharing" in course.publisher.features,
    )


def _people(
    pairing: Pairing,
    user: Any,
    roster: list[Learner],
    students: list[User],
    teachers: list[User] | None,
) -> PeopleFacts:
    known = {learner.email.casefold() for learner in roster if learner.email}
    confirmed = set(
        LearnerMatch.objects.filter(course=pairing.course).values_list("student", flat=True)
    )
    launched, numbers = subs_by(roster), {each.number for each in roster if each.number}
    unknown = [
        each
        for each in students
        if not subject_of(each, launched)
        and each.identifier not in numbers
        and each.sourced_id not in confirmed
    ]
    link = AccountLink.objects.filter(
        user=user, publisher=pairing.course.publisher, state=AccountLink.State.LINKED
    ).first()
    placed = Placement.objects.filter(pairing=pairing, state=Placement.State.PLACED).count()
    return PeopleFacts(
        publisher=pairing.course.publisher.name,
        instructor=may_change(user, pairing.shell),
        linked=f"{link.name} ({link.email})" if link else "",
        teaches=None
        if link is None or teachers is None
        else any(each.sourced_id == link.account_id for each in teachers),
        teachers=None if teachers is None else tuple(_name(each) for each in teachers),
        enrolled=tuple(_name(each) for each in unknown if each.email.casefold() in known),
        strangers=tuple(_name(each) for each in unknown if each.email.casefold() not in known)
        if roster
        else (),
        confirmed=len(confirmed),
        links=placed,
        learners=len(roster),
        opened=sum(learner.first_launch is not None for learner in roster),
        access=pairing.access,
    )


def _items(pairing: Pairing) -> ItemsFacts:
    shell, course = pairing.shell, pairing.course
    graded = Item.objects.filter(pairing=pairing, kind="graded", gone=False)
    items = list(graded.select_related("decision", "placement"))
    entries = dict(
        Placement.objects.filter(pairing=pairing, state=Placement.State.PLACED)
        .exclude(entry_id="")
        .values_list("entry_id", "title")
    )
    outline = bool(shell.outline_url) and bool(
        {v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ} & set(shell.scopes)
    )
    nodes: list[Node] = (
        (_asked(lambda: shell_gateway(shell).outline(shell.outline_url)) or [])
        if outline and entries
        else []
    )
    return ItemsFacts(
        CourseFacts(shell.title, shell.label),
        CourseFacts(course.title, course.code, course.term),
        shell.timezone,
        course.timezone,
        tuple(item.title for item in items),
        tuple(item.shown_title for item in items if not item.due_at and not _decided(item)),
        _hidden(nodes, entries),
        tuple(each.shown_title for each in items if not opens_itself(each, course.publisher)),
        _differences(pairing),
    )


def _decided(item: Item) -> bool:
    """Say whether somebody decided what becomes of an item without a date, or placed it."""
    placement = getattr(item, "placement", None)
    placed = placement is not None and placement.state == Placement.State.PLACED
    return placed or hasattr(item, "decision")


def _differences(pairing: Pairing) -> dict[str, int] | None:
    """Return how many findings of each kind the last comparison left open, or None before the
    first; what somebody decided to keep is not told again.
    """
    last = Comparison.objects.done().filter(pairing=pairing).first()
    return (
        None
        if last is None
        else dict(
            Finding.objects.filter(comparison=last, kept=None)
            .order_by()
            .values_list("kind")
            .annotate(Count("pk"))
        )
    )


def _hidden(nodes: list[Node], entries: dict[str, str]) -> tuple[str, ...]:
    """Return the titles of links that learners cannot see: hidden themselves, or by a folder around
    them.
    """
    by_id = {node.id: node for node in nodes}

    def seen(node: Node | None) -> bool:
        while node is not None:
            if not node.visible or node.audience != "everyone":
                return False
            node = by_id.get(node.folder)
        return True

    return tuple(
        title for entry, title in entries.items() if entry in by_id and not seen(by_id[entry])
    )


def _become_ready(pairing: Pairing) -> None:
    with transaction.atomic():
        if Pairing.objects.filter(pk=pairing.pk, state=Pairing.State.DRAFT).update(
            state=Pairing.State.READY
        ):
            record(
                "pairing.ready",
                "The pairing is ready: every check that must pass does.",
                pairing=pairing,
                before={"state": "draft"},
                after={"state": "ready"},
            )
            pairing.state = Pairing.State.READY


def _name(user: User) -> str:
    return f"{user.given_name} {user.family_name}".strip()
