"""The end of a rollout: what is in the shell is read back, and it is said what could not be
done.
"""

from __future__ import annotations

from django.conf import settings
from django.db import transaction

from vennpair.core.counting import many
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.hooks import dates_moved
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.check_as_learner import check_after
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.ordering import note_places
from vennpair.service.deploy.shell_snapshot import read_shell
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.trail import record
from vennpair.standards.lti.grades import LineItem


def finish_rollout(job: Job, rollout: Rollout, gateway: PlatformGateway) -> str:
    """Read back, turn the pairing live at its first rollout, and return the words that it ends
    with. Raises OutsideError.
    """
    pairing = rollout.pairing
    read = read_shell(gateway, pairing.shell.outline_url)
    outline = read.outline
    columns = gateway.line_items(pairing.shell.lineitems_url)
    _remove_twins(gateway, rollout, columns)
    entries, urls = {node.id for node in outline}, {item.id for item in columns}
    placed = list(
        Placement.objects.filter(
            steps__job=rollout.job_id,
            steps__kind__in=["link", "change_link"],
            steps__state=Step.State.DONE,
        ).distinct()
    )
    missing = [
        each
        for each in placed
        if (each.entry_id and each.entry_id not in entries)
        or (each.column_url and each.column_url not in urls)
    ]
    failed = rollout.steps.filter(state=Step.State.FAILED).values("placement").distinct().count()
    with transaction.atomic():
        Placement.objects.filter(pk__in=[each.pk for each in missing]).update(
            state=Placement.State.FAILED
        )
        note_places(pairing, outline, read.book)
        if rollout.steps.filter(
            kind__in=["change_link", "change_column"], state=Step.State.DONE
        ).exists():
            dates_moved(pairing)
        if placed and rollout.purpose == Rollout.Purpose.DEPLOY:
            go_live(pairing, "with its first rollout")
        words = _words(rollout, len(placed) - len(missing), failed + len(missing))
        record("rollout.done", f"Rollout done: {words}.", pairing=pairing, actor=job.made_by)
        fresh = [each.pk for each in placed if each not in missing and each.resource_link_id]
        if settings.CHECK_AS_LEARNER and fresh and rollout.purpose == Rollout.Purpose.DEPLOY:
            check_after(pairing, fresh, job.made_by)
    return words


def _remove_twins(gateway: PlatformGateway, rollout: Rollout, columns: list[LineItem]) -> None:
    """Remove a second column of one link: made by a call that was under way when its worker was
    killed. It is new and empty.
    """
    ours = {
        str(each.pk): each.column_url
        for each in Placement.objects.filter(
            steps__job=rollout.job_id, steps__kind="column"
        ).exclude(column_url="")
    }
    for item in columns:
        if item.tag == TAG and item.resource_id in ours and item.id != ours[item.resource_id]:
            gateway.remove_line_item(item.id)


def _changed(rollout: Rollout) -> int:
    """Return how many links a rollout changed that were there before it."""
    done = rollout.steps.filter(state=Step.State.DONE, placement__isnull=False)
    if rollout.purpose != Rollout.Purpose.DEPLOY:
        return 0
    made = done.filter(kind__in=["link", "column"]).values("placement")
    return done.exclude(placement__in=made).values("placement").distinct().count()


def _words(rollout: Rollout, good: int, bad: int) -> str:
    done = rollout.steps.filter(state=Step.State.DONE)
    removed, ordered = (
        done.filter(kind="remove_link").count(),
        done.filter(kind__in=["order", "gradebook"]).count(),
    )
    doing = (
        ("item placed", "items placed")
        if rollout.purpose == Rollout.Purpose.DEPLOY
        else ("link fixed", "links fixed")
    )
    changed = min(good, _changed(rollout))
    parts = (
        [f"{many(good - changed, *doing)} and read back"]
        if good > changed or (rollout.purpose == Rollout.Purpose.DEPLOY and not changed)
        else []
    )
    if changed:
        parts.append(f"{many(changed, 'link')} changed and read back")
    if done.filter(kind="show_folders").exists():
        parts.append("hidden folders shown")
    if removed:
        parts.append(f"{many(removed, 'link')} removed")
    if ordered:
        parts.append("put in order")
    return (", ".join(parts) or "nothing had to be changed") + (
        f", {bad} not done: see the steps" if bad else ""
    )
