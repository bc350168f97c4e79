"""Look for drift: what was deployed against what is on both sides now."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from datetime import date, datetime

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.dates import read_due
from vennpair.core.deploy.drift import SHELL as SHELL_SIDE
from vennpair.core.deploy.drift import Drift, ShellNow, find_drifts, lost_from_page
from vennpair.core.failures import FailureKind
from vennpair.core.pair.nightly_window import night_of
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.mend_drift import KEPT, start_mending
from vennpair.service.deploy.mapping import PAGE, deployed, seen_of
from vennpair.service.deploy.models import DriftFound, Watch
from vennpair.service.deploy.shell_snapshot import ShellRead, read_shell, require_columns
from vennpair.service.deploy.step_handlers import reference
from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import start_job, step_done
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti.grades import LineItem

LOOK = "drift"
AT_ONCE = 4  # so many of one platform begin by night; the others follow as these end


def start_looking(pairing: Pairing, actor: User) -> Job:
    """Start looking on demand. Raises Refused."""
    require_instructor(actor, pairing.shell)
    require_columns(pairing)
    with transaction.atomic():
        return start_job(LOOK, pairing, actor, 3)


def drifts_now(pairing: Pairing) -> list[Drift]:
    """Return what changed in the shell since it was deployed; nothing is noted. Raises
    OutsideError.
    """
    shell = pairing.shell
    gateway = shell_gateway(shell)
    read = read_shell(gateway, shell.outline_url)
    columns = {each.id: each for each in gateway.line_items(shell.lineitems_url)}
    placements = [each for each in _placements(pairing, held=False) if each.seen]
    found = _found(pairing, placements, read, columns, _page_texts(pairing, gateway))
    return [each for each in found if each.side == SHELL_SIDE]


def _page_texts(pairing: Pairing, gateway: PlatformGateway) -> dict[str, str]:
    """Return the texts of the pages that links are opened from, empty where a page is gone.

    Raises OutsideError where the shell cannot be read.
    """
    rows = pairing.placements.placed().filter(seen__has_key=PAGE).values_list("seen", flat=True)
    texts = {}
    for page in dict.fromkeys(seen[PAGE] for seen in rows):
        try:
            texts[page] = gateway.html(pairing.shell.outline_url, page)
        except OutsideError as error:
            if error.failure.kind is FailureKind.LATER:
                raise
            texts[page] = ""
    return texts


def _found(
    pairing: Pairing,
    placements: list[Placement],
    read: ShellRead,
    columns: Mapping[str, LineItem],
    texts: Mapping[str, str],
) -> list[Drift]:
    """Return the drifts of placements, without those that somebody decided to keep."""
    found = find_drifts(
        [deployed(each, pairing.course.publisher) for each in placements],
        ShellNow(read.outline, columns, read.book, pairing.shell.zone, read.offers),
    )
    there = {node.id: node.title for node in read.outline}
    found += [
        lost_from_page(
            deployed(each, pairing.course.publisher), there.get(each.seen[PAGE], "its page")
        )
        for each in placements
        if PAGE in each.seen and reference(str(each.pk)) not in texts.get(each.seen[PAGE], "")
    ]
    kept = {str(each.pk): each.seen.get(KEPT, {}) for each in placements}
    return [each for each in found if kept[each.placement].get(each.kind) != each.after]


def carry_out_looking(job: Job) -> str:
    """Read both sides, compare, and note what was found.

    Where drift is always met in one way, begin that. Raises OutsideError.
    """
    pairing, job.done = job.pairing, 0
    refresh_catalogue(pairing, job.made_by)
    step_done(job, "reading the shell")
    shell = pairing.shell
    gateway = shell_gateway(shell)
    read = read_shell(gateway, shell.outline_url)
    columns = {each.id: each for each in gateway.line_items(shell.lineitems_url)}
    texts = _page_texts(pairing, gateway)
    step_done(job, "comparing")
    with transaction.atomic():
        _find_written(pairing, read)
        placements = _placements(pairing)
        first = _first_looks(placements, read, pairing.shell.zone)
        found = _found(pairing, placements, read, columns, texts)
        rows = _note(pairing, found)
        watch, _ = Watch.objects.update_or_create(
            pairing=pairing, defaults={"looked_at": timezone.now()}
        )
        step_done(job)
        words = (
            f"{many(len(found), 'change')} found" if found else "nothing has changed since placing"
        )
        if first:
            words += f", {many(first, 'link')} seen for the first time"
        if found:
            record(
                "drift.found",
                f"{many(len(found), 'thing has', 'things have')} changed since the rollout.",
                pairing=pairing,
                actor=job.made_by,
                after={"drifts": len(found)},
            )
    if found and watch.way != Watch.Way.ASK:
        start_mending(pairing, [row.pk for row in rows], watch.way, job.made_by)
        words += (
            f"; they are being {'followed' if watch.way == Watch.Way.FOLLOW else 'kept'}, as chosen"
        )
    return words


def _note(pairing: Pairing, found: list[Drift]) -> list[DriftFound]:
    """Put what was found in place of what an earlier look found."""
    DriftFound.objects.filter(pairing=pairing).delete()
    rows = [
        DriftFound(
            pairing=pairing,
            placement_id=each.placement,
            kind=each.kind,
            side=each.side,
            level=each.level,
            title=each.title,
            before=each.before[:500],
            after=each.after[:500],
            who=each.who,
            breaks=each.breaks[:300],
        )
        for each in found
    ]
    return DriftFound.objects.bulk_create(rows, batch_size=1_000)


def _placements(pairing: Pairing, *, held: bool = True) -> list[Placement]:
    """Return what is there, held; where the platform tells of no links, what has a column."""
    states = [Placement.State.PLACED, Placement.State.FAILED]
    there = Placement.objects.filter(pairing=pairing, state__in=states).select_related("item")
    if held:
        there = there.select_for_update(of=("self",), no_key=True)
    if pairing.shell.outline_url:
        return list(there.exclude(entry_id=""))
    found = list(there.exclude(column_url=""))
    for each in found:
        each.entry_id = ""  # of links nothing is told, so none is missed
    return found


def look_by_night(now: datetime) -> int:
    """Begin looking where it is the course's night and it was not looked at in it, a few of one
    platform at a time; return how many began.

    Each is a job of its own, so that one platform that is down keeps none waiting.
    """
    live = (
        Pairing.objects.filter(state=Pairing.State.LIVE)
        .exclude(shell__outline_url="", shell__lineitems_url="")
        .select_related("watch", "shell__platform__institution")
        .order_by("made_at", "pk")
    )
    nights = apart(live, lambda each: (each, night_of(now, each.shell.zone)), "finding the night")
    due = [
        (pairing, night)
        for pairing, night in nights
        if night and getattr(getattr(pairing, "watch", None), "night", None) != night
    ]
    if not due:
        return 0
    busy = Counter(
        Job.objects.filter(kind=LOOK, state__in=[Job.State.QUEUED, Job.State.RUNNING]).values_list(
            "pairing__shell__platform", flat=True
        )
    )
    begun = 0
    for pairing, night in due:
        platform = pairing.shell.platform_id
        if busy[platform] < AT_ONCE:
            busy[platform] += 1
            begun += len(apart([(pairing, night)], _begin, "looking for changes"))
    return begun


def _begin(due: tuple[Pairing, date]) -> None:
    pairing, night = due
    Watch.objects.update_or_create(pairing=pairing, defaults={"night": night})
    start_job(LOOK, pairing, None, 3)


def _find_written(pairing: Pairing, read: ShellRead) -> None:
    """Find the links of a written cartridge, or of an answer to the platform, by the placement that
    they carry; nobody has to open them first.
    """
    waiting = {
        str(each.pk): each
        for each in Placement.objects.select_for_update(no_key=True).filter(
            pairing=pairing, state=Placement.State.WRITTEN
        )
    }
    found = [node for node in read.outline if node.custom.get("placement") in waiting]
    for node in found:
        each = waiting[node.custom["placement"]]
        each.entry_id, each.resource_link_id, each.column_url, each.state, each.seen = (
            node.id,
            node.resource_link_id,
            node.column,
            Placement.State.PLACED,
            {},
        )
        each.save()
    if found:
        go_live(pairing, "with the first links that were found in the shell")


def _first_looks(placements: list[Placement], read: ShellRead, zone: str) -> int:
    """Take what is there for what was deployed, of links that no rollout placed: an import's, a
    cartridge's, a copied shell's.
    """
    nodes = {node.id: node for node in read.outline}
    titles = {node.id: node.title for node in read.outline if node.kind == "folder"}
    fresh = []
    for each in placements:
        node = nodes.get(each.entry_id)
        if each.seen or node is None:
            continue
        each.seen, each.folder_id, each.folder, each.place = (
            seen_of(each.item),
            node.folder,
            titles.get(node.folder, ""),
            node.position,
        )
        each.title, each.visible, each.shown_from, each.new_window = (
            node.title,
            node.visible,
            node.shown_from,
            node.new_window,
        )
        each.due_at = each.due_at or read_due(node.due_at, zone)
        each.category = read.book.title_of(each.column_url) if read.book and each.column_url else ""
        fresh.append(each)
    Placement.objects.bulk_update(
        fresh,
        [
            "seen",
            "folder_id",
            "folder",
            "place",
            "title",
            "visible",
            "shown_from",
            "new_window",
            "due_at",
            "category",
        ],
        batch_size=500,
    )
    return len(fresh)
