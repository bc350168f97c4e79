"""Take out of the shell what a delivery brought, unless somebody has used or changed it since."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.connect.models import User
from vennpair.service.content.actions.start_delivery import UNDO
from vennpair.service.content.models import Delivery, Entry, Import, Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import Outcome, run_concurrently
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.operations.actions.begin import begin
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Removal:
    """What undoing does with one entry: ``why`` is empty where it is taken out, else the reason
    that it stays.
    """

    entry: Entry
    node: Node | None
    why: str = ""


def plan_undo(delivery: Delivery) -> list[Removal]:
    """Return what undoing would do with each entry that was made, deepest first.

    Raises OutsideError, Refused.
    """
    shell = delivery.import_of.pairing.shell
    outline = shell_gateway(shell).outline(shell.outline_url)
    nodes = {node.id: node for node in outline}
    placements = {
        each.entry_id: each
        for each in Placement.objects.filter(pairing=delivery.import_of.pairing).exclude(
            entry_id=""
        )
    }
    entries = list(delivery.made.exclude(node="").order_by("-position"))
    going: set[str] = set()
    removals = []
    for entry in entries:  # from the end, so that a folder comes after all that is in it
        node = nodes.get(entry.node)
        why = _reason_to_stay(entry, node, placements.get(entry.node))
        if (
            not why
            and entry.kind == "folder"
            and any(each.folder == entry.node and each.id not in going for each in outline)
        ):
            why = "something else stands in it"
        if not why:
            going.add(entry.node)
        removals.append(Removal(entry, node, why))
    return removals


def start_undo(delivery: Delivery, actor: User) -> Delivery:
    """Enqueue the undoing. Raises Refused where nothing can be taken out, and OutsideError."""
    pairing = delivery.import_of.pairing
    require_instructor(actor, pairing.shell)
    removals = [each for each in plan_undo(delivery) if not each.why]
    if not removals:
        raise Refused(
            "nothing_to_do",
            "Nothing of this import can be taken out: it was undone already, or all of it is used"
            " or changed.",
            "Remove in the shell by hand what should go.",
            409,
        )
    with transaction.atomic():
        job = begin(UNDO, pairing, actor, len(removals), undoes=delivery.job)
        undo = Delivery.objects.create(
            import_of=delivery.import_of, job=job, folder=delivery.folder
        )
        record(
            "delivery.undoing",
            f"{many(len(removals), 'entry', 'entries')} of '{delivery.import_of.title}'"
            f" {'is' if len(removals) == 1 else 'are'} being taken out of the shell again.",
            pairing=pairing,
            actor=actor,
        )
    return undo


def carry_out_undo(job: Job) -> str:
    """Take out what can go: entries side by side, then folders, the deepest first.

    Raises OutsideError.
    """
    delivery = Delivery.objects.select_related("import_of__pairing__shell__platform", "job").get(
        job=job.undoes_id
    )
    pairing = delivery.import_of.pairing
    shell = pairing.shell
    gateway = shell_gateway(shell)
    removals = plan_undo(delivery)
    undoing = _Undoing(job, delivery, gateway)
    undoing.wave([each for each in removals if not each.why and each.entry.kind != "folder"])
    for removal in [each for each in removals if not each.why and each.entry.kind == "folder"]:
        undoing.wave([removal])
    if cancel_asked(job):
        raise Cancelled(f"Stopped; {job.done} taken out until then.")
    if delivery.made_folder and not any(
        node.folder == delivery.folder_id for node in gateway.outline(shell.outline_url)
    ):
        gateway.remove_node(shell.outline_url, Node(delivery.folder_id, delivery.folder, "folder"))
    with transaction.atomic():
        for removal in removals:
            if removal.why:
                Entry.objects.filter(pk=removal.entry.pk).update(
                    message=f"Not taken out: {removal.why}."[:500]
                )
        stays = delivery.made.exclude(node="").count()
        gone = job.done
        there = Entry.objects.filter(import_of=delivery.import_of_id, made_by__isnull=False)
        Import.objects.filter(pk=delivery.import_of_id).update(
            stage=Import.Stage.DONE if there.exclude(node="").exists() else Import.Stage.CHECKED
        )
        words = f"{gone} taken out" + (f", {stays} stay: see the entries" if stays else "")
        record(
            "delivery.undone",
            f"'{delivery.import_of.title}': {words}.",
            pairing=pairing,
            actor=job.made_by,
        )
    return words


class _Undoing:
    def __init__(self, job: Job, delivery: Delivery, gateway: PlatformGateway) -> None:
        self.job, self.gateway = job, gateway
        self.url = delivery.import_of.pairing.shell.outline_url
        self.columns = dict(
            Placement.objects.filter(pairing=delivery.import_of.pairing)
            .exclude(column_url="")
            .values_list("entry_id", "column_url")
        )

    def wave(self, removals: Sequence[Removal]) -> None:
        run_concurrently(removals, self._remove, self._settle, lambda: not cancel_asked(self.job))

    def _remove(self, removal: Removal) -> None:
        if removal.node is not None:
            self.gateway.remove_node(self.url, removal.node)
        if column := self.columns.get(removal.entry.node):
            self.gateway.remove_line_item(column)

    def _settle(self, outcomes: list[Outcome[Removal, None]]) -> None:
        with transaction.atomic():
            for removal, result in outcomes:
                if isinstance(result, OutsideError):
                    if result.failure.kind is not FailureKind.LATER:
                        Entry.objects.filter(pk=removal.entry.pk).update(
                            message=f"Not taken out: {result.failure.message}"[:500]
                        )
                    continue
                Placement.objects.filter(
                    item=removal.entry.item_id, entry_id=removal.entry.node
                ).delete()
                Entry.objects.filter(pk=removal.entry.pk).update(
                    state=Entry.State.REMOVED, message="", node="", etag="", made_by=None
                )
                step_done(self.job, f"taking out '{removal.entry.shown_title[:100]}'")


def _reason_to_stay(entry: Entry, node: Node | None, placement: Placement | None) -> str:
    if node is None:
        return ""
    if node.used or (
        placement is not None and (placement.ledger.exists() or placement.cells.exists())
    ):
        return "learners have worked with it"
    if entry.etag and node.etag != entry.etag:
        return "it was changed in the shell since"
    return ""
