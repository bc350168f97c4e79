"""What learners are told first: written for a pairing, and placed in the shell as a page."""

from __future__ import annotations

from django.db import transaction

from vennpair.core.pair.first_steps import Access, FirstSteps, first_steps
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.language.spoken import ENGLISH, catalogue
from vennpair.service.operations.actions.begin import begin
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing, ShellStep
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.stored import PageFacts, PageTaken
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import Node

FIRST_STEPS = "first_steps"
Kind = ShellStep.Kind


def write_first_steps(pairing: Pairing, access: Access, language: str) -> FirstSteps:
    """Return the page for a pairing, in a language that there are sentences of, else in English."""
    placed = pairing.placements.placed().order_by("item__position").first()
    page = first_steps(
        access,
        pairing.course.publisher.name,
        pairing.course.title,
        pairing.shell.label or pairing.shell.title,
        placed.title if placed else "",
    )
    spoken = language.partition("-")[0].lower()
    known = spoken != ENGLISH and catalogue(spoken)
    return page.told(known.say, spoken) if known else page


def choose_first_steps(
    pairing: Pairing, access: Access, place: bool, actor: User, language: str
) -> Job | None:
    """Note how access is paid and, with ``place``, begin putting the page at the top of the shell;
    return that job. Learners read it in the ``language`` of whoever places it.

    A page that was placed before is brought up to date. Raises Refused.
    """
    require_instructor(actor, pairing.shell)
    shell = pairing.shell
    if place and (not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes):
        raise Refused(
            "no_outline",
            "The platform offers no Shell Outline service, so Venn Pair cannot place the page.",
            "Copy the text into a page or message of the course yourself.",
        )
    with transaction.atomic():
        Pairing.objects.filter(pk=pairing.pk).update(access=access)
        record(
            "first_steps.chosen",
            f"The first steps for learners (access {access}) were chosen"
            f" {'to be placed in the shell' if place else 'to be handed out'}.",
            pairing=pairing,
            actor=actor,
            after={"access": access},
        )
        if not place:
            return None
        page = write_first_steps(pairing, access, language)
        job = begin(FIRST_STEPS, pairing, actor, 1)
        facts = PageFacts(title=page.title, html=page.html, access=access)
        ShellStep.objects.create(job=job, position=0, kind=Kind.PLACE, facts=facts)
    return job


def plan_undo(job: Job) -> str:
    """Say why the page of a job stays as it is; empty where it can be taken out, or put back as it
    was. Raises OutsideError.
    """
    step = ShellStep.objects.get(job=job)
    shell = job.pairing.shell
    outline = shell_gateway(shell).outline(shell.outline_url)
    node = next((each for each in outline if each.id == step.node), None)
    if step.state != ShellStep.State.DONE or node is None:
        return "it is no longer there"
    return "" if node.etag == step.etag else "it was changed in the shell since"


def start_undo(job: Job, actor: User) -> Job:
    """Begin taking the page out, or putting it back as it was. Raises Refused, OutsideError."""
    require_instructor(actor, job.pairing.shell)
    if why := plan_undo(job):
        raise Refused(
            "nothing_to_do",
            f"The page stays: {why}.",
            "Change or remove it in the shell by hand.",
            409,
        )
    done = ShellStep.objects.get(job=job)
    with transaction.atomic():
        undo = begin(FIRST_STEPS, job.pairing, actor, 1, undoes=job)
        ShellStep.objects.create(
            job=undo,
            position=0,
            kind=Kind.REMOVE,
            node=done.node,
            facts=PageTaken(title=done.title, was=done.before),
        )
    return undo


def carry_out_first_steps(job: Job) -> str:
    """Place the page, or take it out again. Raises OutsideError, Cancelled."""
    step = _PageRunner(job).run_only(("page_not_placed", "The page could not be changed."))
    words = f"'{step.title}' {_came(step)}"
    with transaction.atomic():
        verb = "first_steps.placed" if step.kind == Kind.PLACE else "first_steps.undone"
        record(verb, f"{words}.", pairing=job.pairing, actor=job.made_by)
    return words


def _came(step: ShellStep) -> str:
    if step.kind == Kind.PLACE:
        return "was brought up to date" if step.before else "is at the top of the shell"
    return "is as it was before" if step.facts["was"] else "was taken out of the shell"


class _PageRunner(StepRunner[ShellStep]):
    """One page on its way into a shell, or out of it."""

    def __init__(self, job: Job) -> None:
        super().__init__(job, job.pair_steps.all())
        shell = job.pairing.shell
        self.gateway, self.url = shell_gateway(shell), shell.outline_url
        placed = ShellStep.objects.filter(
            job__pairing=job.pairing, kind=Kind.PLACE, state=ShellStep.State.DONE
        )
        self.placed = set(placed.values_list("node", flat=True))

    def does(self, step: ShellStep) -> str:
        """Say what is done."""
        return "placing the page" if step.kind == Kind.PLACE else "putting the page back"

    def call(self, step: ShellStep) -> Record:
        """Place, change or remove the page."""
        outline = self.gateway.outline(self.url)
        if step.kind == Kind.PLACE:
            return self._place(step, next((n for n in outline if n.id in self.placed), None))
        node = next((each for each in outline if each.id == step.node), None)
        if node is not None and step.facts["was"]:
            was = step.facts["was"]
            node = self.gateway.change_node(self.url, node, step.idempotency_key, **was)
        elif node is not None:
            self.gateway.remove_node(self.url, node)
        return lambda: self._note_undone(step, node.etag if node else "")

    def _place(self, step: ShellStep, there: Node | None) -> Record:
        wanted = {"title": step.title, "html": step.facts["html"]}
        before: dict[str, str] = {}
        if there is None:
            node = self.gateway.make_entry(
                self.url, "page", step.idempotency_key, position=0, **wanted
            )
        else:
            before = {"title": there.title, "html": self.gateway.html(self.url, there.id)}
            node = self.gateway.change_node(self.url, there, step.idempotency_key, **wanted)

        def note() -> None:
            step.node, step.etag, step.before = node.id, node.etag, before

        return note

    def _note_undone(self, step: ShellStep, etag: str) -> None:
        ShellStep.objects.filter(job=self.job.undoes_id).update(state=ShellStep.State.UNDONE)
        # The one before is again as it was written, and can be undone in its turn.
        before = ShellStep.objects.filter(job__pairing=self.job.pairing, kind=Kind.PLACE)
        before.filter(state=ShellStep.State.DONE, node=step.node).update(etag=etag)
