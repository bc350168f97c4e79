"""Carry out a delivery: folders level by level, then everything else side by side, then columns,
then the order; from wherever it was left.
"""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import ExitStack
from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from vennpair.core.counting import many
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.actions.list_catalogue import CATALOGUE
from vennpair.service.content.gradebook_order import arrange_columns
from vennpair.service.content.matching_context import OWN_LAUNCH
from vennpair.service.content.models import Delivery, DeliveryStep, Entry, Import, Placement
from vennpair.service.content.outline_order import arrange
from vennpair.service.content.package_view import view
from vennpair.service.content.queries import IN_SHELL
from vennpair.service.content.sending import Sender, Sent, Task
from vennpair.service.content.storage import spooled
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.operations.steps import stop_rest
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.trail import record

Kind = DeliveryStep.Kind


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
            "The package's bytes are no longer stored.",
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
            gateway,
            shell.outline_url,
            shell.lineitems_url,
            shell.zone,
            OWN_LAUNCH,
            package,
            _identifiers(made),
        )
        _DeliveryRunner(job, delivery, sender).run_all()
    if cancel_asked(job):
        raise Cancelled(_stopped(delivery, gateway))
    return _finish(job, delivery, gateway)


def identifier_of(made: Import, entry: Entry) -> str:
    """Return the name under which the platform keeps an entry for us: the same for the same entry
    of the same package.
    """
    return f"{made.identifier or made.pk}:{entry.key}"[:255]


def _identifiers(made: Import) -> dict[str, str]:
    """Return, by member, the identifier of the page or file entry that shows it: of those that
    are or will be in the shell.
    """
    there = (
        made.entries.filter(kind="page", state__in=[*IN_SHELL, Entry.State.WAITING])
        .exclude(member="")
        .order_by("-position")
    )
    return {entry.member: identifier_of(made, entry) for entry in there}


class _DeliveryRunner(StepRunner[DeliveryStep]):
    """The steps of one delivery on their way."""

    def __init__(self, job: Job, delivery: Delivery, sender: Sender) -> None:
        super().__init__(job, job.content_steps.all())
        self.delivery, self.sender, self.made = delivery, sender, delivery.import_of
        outline = sender.gateway.outline(sender.outline_url)
        self.there = {node.id: node for node in outline}
        # One object for a placement: what making its link notes the making of its column reads.
        self.placements = {
            each.item_id: each for each in Placement.objects.filter(pairing=self.made.pairing)
        }
        self.with_column = set(self.steps.filter(kind=Kind.COLUMN).values_list("entry", flat=True))
        folders = self.made.entries.filter(kind="folder").exclude(node="")
        self.folders = dict(folders.values_list("position", "node"))

    def run_all(self) -> None:
        """Run what is left of it."""
        self.run(self._open(kind=Kind.FOLDER))
        writes = self._open(kind__in=[Kind.MAKE, Kind.UPDATE])
        folders = [step for step in writes if self._entry(step).kind == "folder"]
        for depth in sorted({self._entry(step).depth for step in folders}):
            self._run_inside(step for step in folders if self._entry(step).depth == depth)
        self._run_inside(step for step in writes if self._entry(step).kind != "folder")
        # A gradebook shows columns as they were made.
        self.run(self._open(kind=Kind.COLUMN), width=1)

    def does(self, step: DeliveryStep) -> str:
        """Say what a step does, while it runs."""
        doing = {Kind.FOLDER: "making the folder", Kind.COLUMN: "making the column of"}
        return f"{doing.get(Kind(step.kind), 'bringing in')} '{step.title[:100]}'"

    def call(self, step: DeliveryStep) -> Record:
        """Make the call of a step."""
        if step.kind == Kind.FOLDER:
            node = self.sender.gateway.make_folder(
                self.sender.outline_url, step.title, step.idempotency_key
            )
            return lambda: self._note_folder(node.id)
        if step.facts.get("hides"):
            return self._hide(step)
        task = self._task(step)
        if step.kind == Kind.COLUMN:
            url = self.sender.column(task)
            return lambda: self._note_placed(task.placement, url)
        sent = self.sender.send(task)
        return lambda: self._note(step, task, sent)

    def _hide(self, step: DeliveryStep) -> Record:
        """Keep an entry from learners; nothing else of it is written."""
        entry, sender = self._entry(step), self.sender
        before = self.there.get(entry.node)
        if before is None:
            return lambda: self._gone(step)
        node = sender.gateway.change_node(
            sender.outline_url, before, step.idempotency_key, visible=False
        )
        # What somebody changed in the shell stays known as changed.
        etag = node.etag if before.etag == entry.etag else entry.etag
        return lambda: self._note_hidden(step, etag)

    def failed(self, step: DeliveryStep, message: str) -> None:
        """Record what could not be brought in; a link stays without its column."""
        super().failed(step, message)
        if step.entry is None:
            return
        placement = self._placement(step.entry)
        if step.kind == Kind.COLUMN:
            self._note_placed(placement, "")
            words = f"Without a column: {message}"[:500]
            Entry.objects.filter(pk=step.entry.pk).update(message=words)
            return
        Entry.objects.filter(pk=step.entry.pk).update(
            state=Entry.State.FAILED, message=message[:500]
        )
        if placement is not None:
            placement.state = Placement.State.FAILED
            placement.save(update_fields=["state"])
        self.planned().filter(entry=step.entry, kind=Kind.COLUMN).update(
            state=DeliveryStep.State.FAILED, message="Its link could not be placed."
        )

    def _open(self, **wanted: Any) -> list[DeliveryStep]:
        return list(self.planned().filter(**wanted).select_related("entry"))

    def _entry(self, step: DeliveryStep) -> Entry:
        if step.entry is None:
            raise AssertionError(f"a step of kind {step.kind} belongs to an entry")
        return step.entry

    def _run_inside(self, steps: Iterable[DeliveryStep]) -> None:
        """Run the steps of entries whose folders are there; the others fail."""
        ready: list[DeliveryStep] = []
        for step in steps:
            parent = self._entry(step).parent
            if parent < 0 or parent in self.folders:
                ready.append(step)
            elif self.goes_on():
                with transaction.atomic():
                    self.failed(step, "Its folder could not be made, see there why.")
                    step_done(self.job)
        self.run(ready)

    def _task(self, step: DeliveryStep) -> Task:
        entry = self._entry(step)
        return Task(
            entry,
            self.folders.get(entry.parent, self.delivery.folder_id),
            step.idempotency_key,
            identifier_of(self.made, entry),
            self.there.get(entry.node) if step.kind == Kind.UPDATE else None,
            self._placement(entry),
            tuple(step.facts.get("questions", ())),
        )

    def _placement(self, entry: Entry) -> Placement | None:
        """Return the placement that a tool's link is of."""
        if entry.kind != "lti_link" or entry.item_id is None:
            return None
        return self.placements.get(entry.item_id)

    def _note_hidden(self, step: DeliveryStep, etag: str) -> None:
        entry = self._entry(step)
        step.node = entry.node
        Entry.objects.filter(pk=entry.pk).update(state=Entry.State.UPDATED, etag=etag, message="")
        if entry.kind == "folder":
            self.folders[entry.position] = entry.node

    def _gone(self, step: DeliveryStep) -> None:
        step.state, step.message = DeliveryStep.State.LEFT, "It is no longer in the shell."
        Entry.objects.filter(steps=step).update(message=step.message)

    def _note_folder(self, node: str) -> None:
        self.delivery.folder_id = node
        self.delivery.save(update_fields=["folder_id"])

    def _note(self, step: DeliveryStep, task: Task, sent: Sent) -> None:
        entry, step.node = task.entry, sent.node.id
        state = Entry.State.UPDATED if step.kind == Kind.UPDATE else Entry.State.MADE
        Entry.objects.filter(pk=entry.pk).update(
            state=state, node=sent.node.id, etag=sent.node.etag, message=sent.note[:500]
        )
        if entry.kind == "folder":
            self.folders[entry.position] = sent.node.id
        if (placement := task.placement) is not None:
            placement.entry_id = sent.node.id
            placement.resource_link_id = sent.node.resource_link_id
            waits = entry.pk in self.with_column
            placement.state = Placement.State.PLANNED if waits else Placement.State.PLACED
            placement.column_url = ""
            placement.save(update_fields=["entry_id", "resource_link_id", "state", "column_url"])

    def _note_placed(self, placement: Placement | None, column: str) -> None:
        """Note that a link is there, with its column or without."""
        if placement is not None:
            placement.state, placement.column_url = Placement.State.PLACED, column
            placement.save(update_fields=["state", "column_url"])


def _stopped(delivery: Delivery, gateway: PlatformGateway) -> str:
    """Give up what was not begun, and put into order what was; return how far it came.

    Raises OutsideError.
    """
    rest = delivery.steps.filter(state=DeliveryStep.State.PLANNED)
    with transaction.atomic():
        entries = Entry.objects.filter(
            steps__in=rest.filter(kind__in=[Kind.MAKE, Kind.UPDATE]), state=Entry.State.WAITING
        )
        left = entries.update(state=Entry.State.UNTOUCHED, message="")
        linked = Entry.objects.filter(
            steps__in=rest.filter(kind=Kind.COLUMN), state=Entry.State.MADE
        )
        Placement.objects.filter(item__entries__in=linked).update(state=Placement.State.PLACED)
        linked.update(message="Stopped before its column was made.")
        stop_rest(rest)
    put_in_order(delivery, gateway)
    entries_left = many(left, "entry", "entries")
    return f"Stopped with {entries_left} left; what was brought in until then stays."


def put_in_order(delivery: Delivery, gateway: PlatformGateway) -> None:
    """Put what was made into the package's order among what was there. Raises OutsideError."""
    nodes = list(
        delivery.import_of.entries.exclude(node="")
        .order_by("position")
        .values_list("node", flat=True)
    )
    made = set(_done(delivery, Kind.MAKE).values_list("node", flat=True))
    arrange(gateway, delivery.import_of.pairing.shell.outline_url, nodes, made)


def _arrange_columns(delivery: Delivery, gateway: PlatformGateway) -> None:
    """Put the columns that were made into the publisher's order and categories, as a rollout does.

    Raises OutsideError.
    """
    pairing = delivery.import_of.pairing
    made = Placement.objects.filter(
        item__entries__in=_done(delivery, Kind.COLUMN).values("entry")
    ).exclude(column_url="")
    fresh = list(made.distinct().order_by("item__position", "pk"))
    if not fresh:
        return
    row = pairing.placements.exclude(column_url="").order_by("item__position", "pk")
    arrange_columns(
        gateway,
        pairing.shell.outline_url,
        list(row),
        [each.column_url for each in fresh],
        fresh,
        f"category-{delivery.pk}",
    )


def _done(delivery: Delivery, *kinds: str) -> QuerySet[DeliveryStep]:
    return delivery.steps.filter(kind__in=kinds, state=DeliveryStep.State.DONE)


def _finish(job: Job, delivery: Delivery, gateway: PlatformGateway) -> str:
    """Order, read back what is in the shell now, and say it."""
    made, pairing = delivery.import_of, delivery.import_of.pairing
    put_in_order(delivery, gateway)
    outline, offers = gateway.outline_and_offers(pairing.shell.outline_url)
    if "gradebook" in offers:
        _arrange_columns(delivery, gateway)
    nodes = {node.id: node for node in outline}
    steps = list(_done(delivery, Kind.MAKE, Kind.UPDATE).select_related("entry"))
    gone = [step for step in steps if step.node not in nodes]
    with transaction.atomic():
        entries = []
        for step in steps:
            # What was only hidden may be somebody's own by now, and stays known as that.
            if step.entry is not None and step.node in nodes and not step.facts.get("hides"):
                step.entry.etag = nodes[step.node].etag
                entries.append(step.entry)
        Entry.objects.bulk_update(entries, ["etag"], batch_size=500)
        lost = {"message": "The platform took it, but it is not in the shell now."}
        DeliveryStep.objects.filter(pk__in=[step.pk for step in gone]).update(
            state=DeliveryStep.State.FAILED, **lost
        )
        Entry.objects.filter(pk__in=[step.entry_id for step in gone]).update(
            state=Entry.State.FAILED, **lost
        )
        words = report_of(delivery)
        Import.objects.filter(pk=made.pk).update(stage=Import.Stage.DONE)
        if _done(delivery, Kind.MAKE).filter(entry__kind="lti_link").exists():
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
    states = DeliveryStep.State
    names: dict[tuple[str, str], str] = {
        (Kind.MAKE, states.DONE): "made",
        (Kind.UPDATE, states.DONE): "updated",
        ("same", states.LEFT): "there already",
        ("keep", states.LEFT): "kept as changed in the shell",
        ("leave_out", states.LEFT): "left out",
        (Kind.MAKE, states.FAILED): "not done",
        (Kind.UPDATE, states.FAILED): "not done",
        (Kind.MAKE, states.UNDONE): "taken out again",
    }
    counts: dict[str, int] = {}
    for kind, why, state in delivery.steps.values_list("kind", "facts__why", "state"):
        if (words := names.get((why or kind, state))) is not None:
            counts[words] = counts.get(words, 0) + 1
    return (
        ", ".join(
            f"{counts[words]} {words}" for words in dict.fromkeys(names.values()) if words in counts
        )
        or "nothing"
    )
