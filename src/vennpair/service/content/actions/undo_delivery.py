"""Take out of the shell what a delivery brought, unless somebody has used or changed it since, and
show again what it hid.
"""

from __future__ import annotations

from dataclasses import dataclass

from django.db import transaction
from django.db.models import F, QuerySet

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.content.actions.start_delivery import UNDO
from vennpair.service.content.models import Delivery, DeliveryStep, Entry, Import, Placement
from vennpair.service.content.queries import steps_in_shell
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked
from vennpair.service.operations.actions.begin import begin
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.operations.steps import stop_rest
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import DeliveryFolder
from vennpair.standards.outline import Node

Kind = DeliveryStep.Kind


@dataclass(frozen=True, slots=True)
class Removal:
    """What undoing does with one entry: it is taken out, or ``shows`` it to learners again; ``why``
    is the reason that it stays as it is, empty where it does not.
    """

    entry: Entry
    node: Node | None
    why: str = ""
    shows: bool = False


def plan_undo(delivery: Delivery) -> list[Removal]:
    """Return what undoing would do with each entry that was made, deepest first, then with what was
    hidden.

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
    made = steps_in_shell().filter(job=delivery.job_id)
    going: set[str] = set()
    removals = []
    # From the end, so that a folder comes after all that is in it.
    for entry in Entry.objects.filter(steps__in=made).order_by("-position"):
        node = nodes.get(entry.node)
        why = _reason_to_stay(entry, node, placements.get(entry.node))
        if (
            not why
            and entry.kind == "folder"
            and any(each.folder == entry.node and each.id not in going for each in outline)
        ):
            why = "something else is in it"
        if not why:
            going.add(entry.node)
        removals.append(Removal(entry, node, why))
    return removals + [
        Removal(step.entry, node, shows=True)
        for step in _hid(delivery)
        if step.entry and (node := nodes.get(step.node)) is not None and not node.visible
    ]


def _hid(delivery: Delivery) -> QuerySet[DeliveryStep]:
    """Return the steps that only hid an entry that is there since."""
    done = delivery.steps.filter(kind=Kind.UPDATE, state=DeliveryStep.State.DONE, facts__hides=True)
    return done.filter(node=F("entry__node")).select_related("entry")


def start_undo(delivery: Delivery, actor: User) -> Delivery:
    """Enqueue the undoing. Raises Refused where nothing can be taken out, and OutsideError."""
    pairing = delivery.import_of.pairing
    require_instructor(actor, pairing.shell)
    removals = plan_undo(delivery)
    going = [each for each in removals if not each.why]
    if not going:
        raise Refused(
            "nothing_to_do",
            "Nothing of this import can be taken out: it was undone already, or all of it is used"
            " or changed.",
            "Remove in the shell by hand what should go.",
            409,
        )
    steps = [_step(each) for each in removals]
    if delivery.made_folder and delivery.folder_id:
        facts = DeliveryFolder(title=delivery.folder)
        steps.append(DeliveryStep(kind=Kind.REMOVE_FOLDER, node=delivery.folder_id, facts=facts))
    with transaction.atomic():
        total = sum(step.state == DeliveryStep.State.PLANNED for step in steps)
        job = begin(UNDO, pairing, actor, total, undoes=delivery.job)
        undo = Delivery.objects.create(
            import_of=delivery.import_of, job=job, folder=delivery.folder
        )
        for position, step in enumerate(steps):
            step.job, step.position = job, position
        DeliveryStep.objects.bulk_create(steps, batch_size=1_000)
        left = [step for step in steps if step.state == DeliveryStep.State.LEFT]
        for step in left:
            Entry.objects.filter(steps=step).update(message=step.message)
        record(
            "delivery.undoing",
            _going_words(going, delivery.import_of.title),
            pairing=pairing,
            actor=actor,
        )
    return undo


def _going_words(going: list[Removal], title: str) -> str:
    shown = sum(each.shows for each in going)
    out = len(going) - shown
    if not shown:
        return (
            f"{many(out, 'entry', 'entries')} of '{title}' {'is' if out == 1 else 'are'} being taken"
            " out of the shell again."
        )
    if not out:
        return (
            f"{many(shown, 'entry', 'entries')} of '{title}' {'is' if shown == 1 else 'are'} being"
            " shown to learners again."
        )
    return (
        f"{many(out, 'entry', 'entries')} of '{title}' {'is' if out == 1 else 'are'} being taken out"
        f" of the shell again, and {shown} shown to learners again."
    )


def _step(removal: Removal) -> DeliveryStep:
    kind = Kind.SHOW if removal.shows else Kind.REMOVE
    step = DeliveryStep(kind=kind, entry=removal.entry, node=removal.entry.node)
    if removal.why:
        step.state, step.message = DeliveryStep.State.LEFT, f"Not taken out: {removal.why}."
    return step


def carry_out_undo(job: Job) -> str:
    """Take out what can go: entries side by side, then folders, the deepest first.

    Raises OutsideError, Cancelled.
    """
    delivery = Delivery.objects.select_related("import_of__pairing__shell__platform", "job").get(
        job=job.undoes_id
    )
    made = delivery.import_of
    running = _UndoRunner(job, delivery)
    steps = list(running.planned().select_related("entry"))
    folders = [step for step in steps if step.entry is None or step.entry.kind == "folder"]
    running.run([step for step in steps if step not in folders])
    running.run(folders, width=1)
    if cancel_asked(job):
        stop_rest(job.content_steps.all())
        raise Cancelled(f"Stopped; {job.done} taken out until then.")
    with transaction.atomic():
        in_shell = steps_in_shell().filter(entry__import_of=made).exists()
        stage = Import.Stage.DONE if in_shell else Import.Stage.CHECKED
        Import.objects.filter(pk=made.pk).update(stage=stage)
        words = _done_words(job)
        record(
            "delivery.undone",
            f"'{made.title}': {words}.",
            pairing=made.pairing,
            actor=job.made_by,
        )
    return words


def _done_words(job: Job) -> str:
    done = DeliveryStep.State.DONE
    taken = job.content_steps.filter(kind=Kind.REMOVE)
    gone = taken.filter(state=done).count()
    stays = taken.count() - gone
    shown = job.content_steps.filter(kind=Kind.SHOW, state=done).count()
    out = f"{gone} taken out" + (f", {stays} stay: see the entries" if stays else "")
    if not shown:
        return out
    if not taken:
        return f"{shown} shown to learners again"
    return f"{out}, {shown} shown to learners again"


class _UndoRunner(StepRunner[DeliveryStep]):
    """Entries on their way out of the shell. What was used or changed since it was planned
    stays.
    """

    def __init__(self, job: Job, delivery: Delivery) -> None:
        super().__init__(job, job.content_steps.all())
        self.delivery, shell = delivery, delivery.import_of.pairing.shell
        self.gateway, self.url = shell_gateway(shell), shell.outline_url
        self.now = {each.entry.pk: each for each in plan_undo(delivery)}
        placements = Placement.objects.filter(pairing=delivery.import_of.pairing)
        self.columns = dict(placements.exclude(column_url="").values_list("entry_id", "column_url"))

    def does(self, step: DeliveryStep) -> str:
        """Say what a step does, while it runs."""
        return f"{'showing' if step.kind == Kind.SHOW else 'taking out'} '{step.title[:100]}'"

    def call(self, step: DeliveryStep) -> Record:
        """Take one entry out, or the folder that was made for all."""
        if step.kind == Kind.REMOVE_FOLDER:
            inside = [each for each in self.gateway.outline(self.url) if each.folder == step.node]
            if inside:
                return lambda: self._left(step, "something else is in it")
            self.gateway.remove_node(self.url, Node(step.node, step.title, "folder"))
            return lambda: None
        now = self.now.get(step.entry_id) if step.entry_id else None
        if step.kind == Kind.SHOW:
            return self._show(step, now)
        if now is None:
            return lambda: self._left(step, "a later import has brought it again")
        if now.why:
            return lambda: self._left(step, now.why)
        if now.node is not None:
            self.gateway.remove_node(self.url, now.node)
        if column := self.columns.get(step.node):
            self.gateway.remove_line_item(column)
        return lambda: self._taken_out(step, now.entry)

    def _show(self, step: DeliveryStep, now: Removal | None) -> Record:
        """Show learners again what was hidden, unless somebody has shown it since."""
        if now is None or now.node is None:
            return lambda: self._shown(step, None)
        node = self.gateway.change_node(self.url, now.node, step.idempotency_key, visible=True)
        etag = node.etag if now.node.etag == now.entry.etag else now.entry.etag
        return lambda: self._shown(step, etag)

    def failed(self, step: DeliveryStep, message: str) -> None:
        """Record what could not be taken out or shown."""
        super().failed(step, f"Not {'shown' if step.kind == Kind.SHOW else 'taken out'}: {message}")
        Entry.objects.filter(steps=step).update(message=step.message)

    def _left(self, step: DeliveryStep, why: str) -> None:
        step.state, step.message = DeliveryStep.State.LEFT, f"Not taken out: {why}."
        Entry.objects.filter(steps=step).update(message=step.message)

    def _shown(self, step: DeliveryStep, etag: str | None) -> None:
        """Note that learners see an entry; ``etag`` is None where they saw it already."""
        fields = {"state": Entry.State.SAME, "visible": True, "message": ""}
        Entry.objects.filter(steps=step).update(**fields | ({"etag": etag} if etag else {}))
        self.delivery.steps.filter(kind=Kind.UPDATE, entry=step.entry_id).update(
            state=DeliveryStep.State.UNDONE
        )

    def _taken_out(self, step: DeliveryStep, entry: Entry) -> None:
        Placement.objects.filter(item=entry.item_id, entry_id=step.node).delete()
        Entry.objects.filter(pk=entry.pk).update(
            state=Entry.State.REMOVED, message="", node="", etag=""
        )
        made = self.delivery.steps.filter(kind=Kind.MAKE, entry=entry)
        made.update(state=DeliveryStep.State.UNDONE)


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
