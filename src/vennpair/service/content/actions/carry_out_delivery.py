"""Carry out a delivery: folders level by level, then everything else side by side, then the order;
from wherever it was left.

An entry's key for the platform is the delivery's and its position's, so a worker killed between the
platform's answer and our note of it makes nothing twice.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import ExitStack

from django.db import transaction
from django.db.models import QuerySet

from vennpair.core.counting import many
from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.actions.list_catalogue import CATALOGUE
from vennpair.service.content.matching_context import OWN_LAUNCH
from vennpair.service.content.models import Delivery, Entry, Import, Placement
from vennpair.service.content.outline_order import arrange
from vennpair.service.content.package_view import view
from vennpair.service.content.queries import STANDING
from vennpair.service.content.sending import Sender, Sent, Task
from vennpair.service.content.storage import spooled
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.trail import record

TO_MAKE = [Entry.State.WAITING, Entry.State.IN_FLIGHT]
UNFINISHED = [*TO_MAKE, Entry.State.LINKED]


def carry_out_delivery(job: Job) -> str:
    """Do what is not done.

    Raises OutsideError where the platform asks for patience, Cancelled, Refused.
    """
    delivery = Delivery.objects.select_related(
        "import_of__pairing__shell__platform", "import_of__package"
    ).get(job=job)
    made, shell = delivery.import_of, delivery.import_of.pairing.shell
    if made.package is None and made.source != CATALOGUE:
        raise Refused(
            "package_gone",
            "The package's bytes are not kept any more.",
            "Import it again, then choose again.",
            410,
        )
    gateway = shell_gateway(shell)
    with ExitStack() as stack:
        package = (
            stack.enter_context(view(stack.enter_context(spooled(made.package))))
            if made.package
            else None
        )
        sender = Sender(
            gateway, shell.outline_url, shell.lineitems_url, OWN_LAUNCH, package, _identifiers(made)
        )
        _Delivering(job, delivery, sender, gateway).run()
    return _finish(job, delivery, gateway)


def identifier_of(made: Import, entry: Entry) -> str:
    """Return the name under which the platform keeps an entry for us: the same for the same entry
    of the same package.
    """
    return f"{made.identifier or made.pk}:{entry.key}"[:255]


def _identifiers(made: Import) -> dict[str, str]:
    """Return, by member, the identifier of the page or file entry that shows it: of those that
    stand or will stand in the shell.
    """
    there = (
        made.entries.filter(kind="page", state__in=[*STANDING, *UNFINISHED])
        .exclude(member="")
        .order_by("-position")
    )
    return {entry.member: identifier_of(made, entry) for entry in there}


class _Delivering:
    """One run of a delivery."""

    def __init__(
        self, job: Job, delivery: Delivery, sender: Sender, gateway: PlatformGateway
    ) -> None:
        self.job, self.delivery, self.sender = job, delivery, sender
        self.made = delivery.import_of
        self.gateway = gateway
        self.shell = self.made.pairing.shell
        self.there = {node.id: node for node in gateway.outline(self.shell.outline_url)}
        self.placements = {
            str(each.item_id): each for each in Placement.objects.filter(pairing=self.made.pairing)
        }

    def run(self) -> None:
        if self.delivery.made_folder and not self.delivery.folder_id:
            self._folder()
        for depth in sorted(
            set(self._unfinished().filter(kind="folder").values_list("depth", flat=True))
        ):
            self._wave(self._unfinished().filter(kind="folder", depth=depth))
        self._wave(self._unfinished().exclude(kind="folder"))
        self._columns()
        if cancel_asked(self.job):
            left = self._unfinished().update(state=Entry.State.UNTOUCHED, message="")
            self._stands(
                Entry.objects.filter(delivery=self.delivery, state=Entry.State.LINKED),
                "Stopped before its column was made.",
            )
            put_in_order(self.delivery, self.gateway)
            raise Cancelled(
                f"Stopped with {many(left, 'entry', 'entries')} left; what was brought in until"
                " then stays."
            )

    def _unfinished(self) -> QuerySet[Entry]:
        return Entry.objects.filter(delivery=self.delivery, state__in=TO_MAKE)

    def _folder(self) -> None:
        node = self.gateway.make_folder(
            self.shell.outline_url, self.delivery.folder, f"{self.delivery.pk}-folder"
        )
        with transaction.atomic():
            self.delivery.folder_id = node.id
            self.delivery.save(update_fields=["folder_id"])
            step_done(self.job, f"bringing into '{self.delivery.folder}'")

    def _wave(self, unfinished: QuerySet[Entry]) -> None:
        """Bring in entries whose folders stand; where somebody asked to stop, none."""
        if cancel_asked(self.job):
            return
        entries = list(unfinished)
        parents = dict(
            Entry.objects.filter(import_of=self.made, kind="folder")
            .exclude(node="")
            .values_list("position", "node")
        )
        ready = [each for each in entries if each.parent < 0 or each.parent in parents]
        for each in entries:
            if each.parent >= 0 and each.parent not in parents:
                _fail(each, "Its folder could not be made, see there why.")
        Entry.objects.filter(pk__in=[each.pk for each in ready]).update(state=Entry.State.IN_FLIGHT)
        run_concurrently(
            self._tasks(ready, parents),
            self.sender.send,
            self._settle,
            lambda: not cancel_asked(self.job),
        )

    def _tasks(self, entries: Sequence[Entry], parents: dict[int, str]) -> Iterator[Task]:
        for entry in entries:
            node = self.there.get(entry.node) if entry.action == "update" else None
            yield Task(
                entry,
                parents.get(entry.parent, self.delivery.folder_id),
                f"{self.delivery.pk}-{entry.position}",
                identifier_of(self.made, entry),
                node,
                self.placements.get(str(entry.item_id)),
            )

    def _columns(self) -> None:
        """Make columns one after another in the outline's order: a gradebook shows them as they
        were made.
        """
        linked = (
            Entry.objects.filter(delivery=self.delivery, state=Entry.State.LINKED)
            .select_related("item__placement")
            .order_by("position")
        )
        tasks = (
            Task(entry, "", "", "", placement=entry.item.placement)
            for entry in linked
            if entry.item
        )
        run_concurrently(
            tasks,
            self.sender.column,
            self._settle_columns,
            lambda: not cancel_asked(self.job),
            width=1,
        )

    def _settle_columns(self, outcomes: list[Outcome[Task, str]]) -> None:
        with transaction.atomic():
            for task, result in outcomes:
                if isinstance(result, OutsideError) and result.failure.kind is FailureKind.LATER:
                    continue
                url, note = (
                    (
                        "",
                        f"Without a column: {result.failure.message} {result.failure.remedy}"[:500],
                    )
                    if isinstance(result, OutsideError)
                    else (result, "")
                )
                self._stands(Entry.objects.filter(pk=task.entry.pk), note, url)
                step_done(self.job, f"making the column of '{task.entry.shown_title[:100]}'")

    def _stands(self, linked: QuerySet[Entry], note: str, column: str = "") -> None:
        """Note links as standing, with or without their column."""
        Placement.objects.filter(item__entries__in=linked).update(
            state=Placement.State.PLACED, column_url=column
        )
        linked.update(state=Entry.State.MADE, message=note)

    def _settle(self, outcomes: list[Outcome[Task, Sent]]) -> None:
        with transaction.atomic():
            for task, result in outcomes:
                if not isinstance(result, OutsideError):
                    self._note(task, result)
                elif result.failure.kind is FailureKind.LATER:
                    Entry.objects.filter(pk=task.entry.pk).update(
                        state=Entry.State.WAITING, message=result.failure.message[:500]
                    )
                    continue
                else:
                    _fail(
                        task.entry,
                        f"{result.failure.message} {result.failure.remedy}",
                        task.placement,
                    )
                step_done(self.job, f"bringing in '{task.entry.shown_title[:100]}'")

    def _note(self, task: Task, sent: Sent) -> None:
        entry = task.entry
        state = (
            Entry.State.UPDATED
            if task.node is not None
            else Entry.State.LINKED
            if entry.column
            else Entry.State.MADE
        )
        maker = {} if task.node is not None else {"made_by": self.delivery}
        Entry.objects.filter(pk=entry.pk).update(
            state=state, node=sent.node.id, etag=sent.node.etag, message=sent.note[:500], **maker
        )
        if task.placement:
            standing = Placement.State.PLANNED if entry.column else Placement.State.PLACED
            Placement.objects.filter(pk=task.placement.pk).update(
                state=standing,
                entry_id=sent.node.id,
                resource_link_id=sent.node.resource_link_id,
                column_url="",
            )


def _fail(entry: Entry, message: str, placement: Placement | None = None) -> None:
    Entry.objects.filter(pk=entry.pk).update(state=Entry.State.FAILED, message=message[:500])
    if placement:
        Placement.objects.filter(pk=placement.pk).update(state=Placement.State.FAILED)


def put_in_order(delivery: Delivery, gateway: PlatformGateway) -> None:
    """Put what was made into the package's order among what stood there. Raises OutsideError."""
    rows = list(
        delivery.import_of.entries.exclude(node="")
        .order_by("position")
        .values_list("node", "state", "delivery_id")
    )
    made = {node for node, state, of in rows if state == Entry.State.MADE and of == delivery.pk}
    arrange(
        gateway, delivery.import_of.pairing.shell.outline_url, [node for node, _, _ in rows], made
    )


def _finish(job: Job, delivery: Delivery, gateway: PlatformGateway) -> str:
    """Order, read back what stands in the shell now, and say it."""
    made, pairing = delivery.import_of, delivery.import_of.pairing
    put_in_order(delivery, gateway)
    nodes = {node.id: node for node in gateway.outline(pairing.shell.outline_url)}
    entries = list(delivery.entries.filter(state__in=[Entry.State.MADE, Entry.State.UPDATED]))
    with transaction.atomic():
        for entry in entries:
            if entry.node in nodes:
                entry.etag = nodes[entry.node].etag
            else:
                entry.state, entry.message = (
                    Entry.State.FAILED,
                    "The platform took it, but it does not stand in the shell now.",
                )
        Entry.objects.bulk_update(entries, ["etag", "state", "message"], batch_size=500)
        words = report_of(delivery)
        Import.objects.filter(pk=made.pk).update(stage=Import.Stage.DONE)
        if delivery.entries.filter(kind="lti_link", state=Entry.State.MADE).exists():
            go_live(pairing, "with the first links that were imported")
        record(
            "delivery.done",
            f"'{made.title}' was brought into the shell: {words}.",
            pairing=pairing,
            actor=job.made_by,
        )
    return words


def report_of(delivery: Delivery) -> str:
    """Return what became of a delivery's entries, in words."""
    names = {
        Entry.State.MADE: "made",
        Entry.State.UPDATED: "updated",
        Entry.State.SAME: "there already",
        Entry.State.KEPT: "kept as changed in the shell",
        Entry.State.LEFT_OUT: "left out",
        Entry.State.FAILED: "not done",
        Entry.State.REMOVED: "removed",
    }
    counts: dict[str, int] = {}
    for state in delivery.entries.values_list("state", flat=True):
        counts[state] = counts.get(state, 0) + 1
    return (
        ", ".join(f"{counts[state]} {words}" for state, words in names.items() if counts.get(state))
        or "nothing"
    )
