"""See it as a learner: each link opened as the platform's test learner, down both hops."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any, TypeVar
from urllib.parse import parse_qs, urlsplit

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import read_moment, same_moment, shifted, shown
from vennpair.core.deploy.learner_check import Met, Walked, judge, with_alike
from vennpair.core.deploy.places import hidden_around
from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.launch_client import Visit, walk
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import Publisher, User
from vennpair.service.content.addresses import opens_itself
from vennpair.service.content.models import Placement
from vennpair.service.deploy.launch_hints import opened_by
from vennpair.service.deploy.models import LearnerCheck
from vennpair.service.deploy.shell_snapshot import require_columns
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import cancel_asked, start_job, step_done
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import CheckedLink, LinkFlaw
from vennpair.standards.lti.grades import LineItem, Score
from vennpair.standards.outline import Node

CHECK, AT_ONCE = "learner_check", 6
Answer = TypeVar("Answer")


def start_check(pairing: Pairing, placements: Sequence[Any], actor: User) -> LearnerCheck:
    """Start opening placements, all that are there where none is named. Raises Refused."""
    require_instructor(actor, pairing.shell)
    require_columns(pairing)
    # A web link leads past both of us.
    there = pairing.placements.filter(state=Placement.State.PLACED).exclude(resource_link_id="")
    if pairing.shell.outline_url:
        there = there.exclude(entry_id="")
    chosen = list(
        (there.filter(pk__in=placements) if placements else there).values_list("pk", flat=True)
    )
    if not chosen:
        raise Refused(
            "nothing_to_do",
            "No link of this pairing is in the shell.",
            "Deploy items first.",
            409,
        )
    with transaction.atomic():
        return check_after(pairing, chosen, actor, asked=True)


def check_after(
    pairing: Pairing, placements: Sequence[Any], actor: User | None, *, asked: bool = False
) -> LearnerCheck:
    """Enqueue a check in the caller's transaction."""
    job = start_job(CHECK, pairing, actor, len(placements))
    return LearnerCheck.objects.create(
        pairing=pairing, job=job, placements=[str(each) for each in placements], asked=asked
    )


@dataclass(frozen=True, slots=True)
class _Shell:
    """What is read once for all links: the tree, the columns, and whether the platform has a test
    learner.
    """

    gateway: PlatformGateway
    url: str
    outline: Sequence[Node]
    columns: dict[str, LineItem]
    publisher: Publisher
    viewable: bool
    zone: str
    platform: frozenset[str]


def carry_out_check(job: Job) -> str:
    """Open each link and judge what is met. Raises OutsideError where the shell cannot be read."""
    check = LearnerCheck.objects.select_related(
        "pairing__shell__platform__institution", "pairing__course__publisher"
    ).get(job=job)
    pairing, job.done = check.pairing, 0
    read = _read(pairing)
    titles = list(pairing.items.filter(gone=False).values_list("title", flat=True))
    placements = list(
        Placement.objects.filter(pk__in=check.placements)
        .select_related("item")
        .order_by("item__position")
    )
    mets: dict[str, Met] = {}
    _note_tester(check, read, placements)

    def settle(outcomes: list[Outcome[Placement, Met]]) -> None:
        for placement, met in outcomes:
            if not isinstance(met, OutsideError):
                mets[str(placement.pk)] = met
                step_done(job, f"opened '{placement.title[:100]}'")

    run_concurrently(
        placements, partial(_meet, read), settle, lambda: not cancel_asked(job), AT_ONCE
    )
    _require_taken_back(mets)
    there = {str(each.pk): each for each in placements if str(each.pk) in mets}
    mets = with_alike(mets, {key: each.item.title for key, each in there.items()})
    ordered = [
        _row(each, judge(key, each.item.title, titles, mets[key])) for key, each in there.items()
    ]
    return _note(check, ordered, job.made_by)


def _read(pairing: Pairing) -> _Shell:
    """Read what the links are held against. Raises OutsideError."""
    shell = pairing.shell
    gateway = shell_gateway(shell)
    outline, offers = gateway.outline_and_offers(shell.outline_url)
    columns = {each.id: each for each in gateway.line_items(shell.lineitems_url)}
    hosts = frozenset(
        urlsplit(each).netloc for each in (shell.outline_url, shell.platform.authorization_url)
    )
    return _Shell(
        gateway,
        shell.outline_url,
        outline,
        columns,
        pairing.course.publisher,
        "learner_view" in offers,
        shell.zone,
        hosts,
    )


def _note(check: LearnerCheck, rows: list[CheckedLink], actor: User | None) -> str:
    """Keep what was met; return it in words."""
    trouble = sum(any(finding["level"] != "note" for finding in row["findings"]) for row in rows)
    later = sum(any(finding["code"] == "not_yet" for finding in row["findings"]) for row in rows)
    words = _words(len(rows), trouble, later)
    with transaction.atomic():
        LearnerCheck.objects.filter(pk=check.pk).update(rows=rows)
        record(
            "learner_check.done",
            f"{words[0].upper()}{words[1:]}.",
            pairing=check.pairing,
            actor=actor,
            after={"links": len(rows), "trouble": trouble},
        )
    return words


def _words(links: int, trouble: int, later: int) -> str:
    """Say what came of a check; what learners do not see yet could not be opened, and is not called
    well.
    """
    said = [
        f"{many(links - later, 'link')} opened as a test learner"
        + (
            ""
            if links == later
            else ", all as they should be"
            if not trouble
            else f", {trouble} with trouble"
        )
    ]
    return ", ".join(
        said + ([f"{later} not shown to learners yet, so not opened"] if later else [])
    )


def testers(pairing: Pairing) -> set[str]:
    """Return the platform's user ids of its test learner: scores of theirs are nobody's."""
    return set(
        LearnerCheck.objects.filter(pairing=pairing)
        .exclude(tester="")
        .values_list("tester", flat=True)
    )


def _note_tester(check: LearnerCheck, shell: _Shell, placements: Sequence[Placement]) -> None:
    """Note who the test learner is before any score is tried, so that nobody takes one for a
    learner's.
    """
    there = {node.id for node in shell.outline}
    first = next((each.entry_id for each in placements if each.entry_id in there), "")
    if shell.viewable and first:
        LearnerCheck.objects.filter(pk=check.pk).update(
            tester=shell.gateway.learner_view(shell.url, first)[1][:255]
        )


def _row(placement: Placement, walked: Walked) -> CheckedLink:
    return CheckedLink(
        placement=str(placement.pk),
        title=placement.title,
        visible=walked.verdicts["visible"],
        opens=walked.verdicts["opens"],
        date=walked.verdicts["date"],
        score=walked.verdicts["score"],
        findings=[
            LinkFlaw(code=each.code, message=each.message, remedy=each.remedy, level=each.level)
            for each in walked.findings
        ],
    )


def _meet(shell: _Shell, placement: Placement) -> Met:
    """Go to one link; what goes wrong on the way is what is looked for, so nothing is raised."""
    node = next((each for each in shell.outline if each.id == placement.entry_id), None)
    column = shell.columns.get(placement.column_url)
    wanted, _ = shifted(placement.item.due_at, placement.shift_days, shell.zone)
    there = next(
        (
            each
            for each in (column.end if column else "", node.due_at if node else "")
            if each and not same_moment(each, wanted)
        ),
        "",
    )
    facts: dict[str, Any] = {
        "standing": node is not None,
        "date_wanted": shown(wanted, shell.zone),
        "date_there": shown(there, shell.zone),
        "dates_agree": not there or not wanted,
        "addressed": opens_itself(placement.item, shell.publisher),
    }
    if not shell.url:  # the platform tells of no links, and lets no tool open one as a learner
        return Met(**facts | {"standing": True}, viewed=False)
    if node is None:
        return Met(**facts)
    around = hidden_around(shell.outline, node.folder)
    if placement.visible and not (node.visible and node.audience == "everyone"):
        facts["hidden_by"] = "the link is hidden"
    elif placement.visible and around is not None:
        facts["hidden_by"] = f"it is in the hidden folder '{around.title}'"
    elif not placement.visible:
        facts["not_before"] = "the moment that you show it"
    elif (start := read_moment(node.shown_from)) and start > timezone.now():
        facts["not_before"] = shown(node.shown_from, shell.zone)
    if facts.get("not_before") or not shell.viewable:
        return Met(**facts, viewed=shell.viewable)
    return Met(**facts, **_through(shell, node, column))


def _through(shell: _Shell, node: Node, column: LineItem | None) -> dict[str, Any]:
    """Open a link as the test learner and try a score; return what was met."""
    try:
        address, user = shell.gateway.learner_view(shell.url, node.id)
    except OutsideError as error:
        return {"stopped": "platform", "words": error.failure.message}
    visit = walk(address)
    if visit.dropped:  # once more, as a browser would
        visit = walk(address)
    met: dict[str, Any] = {
        "opened": _opened(visit),
        "heading": visit.heading,
        "page": visit.last.partition("?")[0],
    }
    if visit.broken or visit.status >= 400:
        met |= {
            "stopped": _who(visit, shell),
            "words": f"{visit.broken[:1].upper()}{visit.broken[1:]}."
            if visit.broken
            else visit.words[:200],
        }
    if column is not None and user:
        met |= _try_score(shell.gateway, column, user)
    return met


def _opened(visit: Visit) -> str:
    """Return the placement that our hint, or our LTI 1.1 form, sent on to the publisher."""
    hints = [
        hint
        for address in visit.trail
        for hint in parse_qs(urlsplit(address).query).get("lti_message_hint", [])
    ]
    found = [placement for hint in hints if (placement := opened_by(hint))]
    keyed = [
        fields["resource_link_id"]
        for fields in visit.sent
        if fields.get("oauth_signature") and fields.get("resource_link_id")
    ]
    return next(iter([*found, *keyed]), "")


def _who(visit: Visit, shell: _Shell) -> str:
    host = urlsplit(visit.last).netloc
    return (
        "venn_pair"
        if host == urlsplit(settings.BASE_URL).netloc
        else "platform"
        if host in shell.platform
        else "publisher"
    )


def _try_score(gateway: PlatformGateway, column: LineItem, user: str) -> dict[str, Any]:
    """Send full marks for the test learner, look whether they are shown, and take them back; each
    once more where a connection broke, which says nothing about the column.
    """
    full = Score(user, timezone.now(), column.score_maximum, column.score_maximum)
    met: dict[str, Any] = {}
    try:
        _twice(lambda: gateway.send_score(column.id, full))
        there = any(
            each.user_id == user and each.score is not None
            for each in _twice(lambda: gateway.results(column.id, user))
        )
        words = "" if there else "The platform accepted it and does not show it."
        met |= {"score_back": there, "score_words": words}
    except OutsideError as error:
        met |= {"score_back": False, "score_words": error.failure.message}
    empty = Score(user, timezone.now(), None, None, "Initialized", "NotReady")
    try:
        _twice(lambda: gateway.send_score(column.id, empty))
    except OutsideError as error:
        if error.failure.kind is FailureKind.LATER:
            met["score_left"] = True
        else:
            words = f"It could not be removed, so remove it by hand: {error.failure.message}"
            met |= {"score_back": False, "score_words": words}
    return met


def _twice(call: Callable[[], Answer]) -> Answer:
    """Call, and once more where the other side asks for patience. Raises OutsideError."""
    try:
        return call()
    except OutsideError as error:
        if error.failure.kind is not FailureKind.LATER:
            raise
    return call()


def _require_taken_back(mets: Mapping[str, Met]) -> None:
    """Let the whole check be done again where the platform broke off while a test score was in a
    column: the next one takes it back. Raises OutsideError.
    """
    if left := sum(met.score_left for met in mets.values()):
        words = f"The platform broke off while a test score was in {many(left, 'column')}."
        remedy = "The links are opened again as soon as it answers, and the score is removed."
        raise OutsideError(Failure(FailureKind.LATER, "test_score_left", words, remedy))
