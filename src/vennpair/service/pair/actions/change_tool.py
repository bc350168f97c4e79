"""Whether Venn Pair is turned on in a shell, where in the navigation, and for whom (Shell Outline
protocol).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from vennpair.core.failures import Failure, FailureKind
from vennpair.core.pair.states import count, they
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.actions.begin import begin
from vennpair.service.operations.runner import Record, StepRunner
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing, Shell, ShellStep
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import ShellTool

TOOL = "tool"
KNOWN = ("on", "navigation", "position", "audience")
BY_HAND = (
    "Open the shell's settings on the course platform, where tools or the navigation are chosen.",
    "Turn Venn Pair on: for everyone, if learners are to find a page of their own homework in the"
    " navigation, else for instructors only.",
    "Open Venn Pair from the shell once; this page then shows the time of that launch.",
)


@dataclass(frozen=True, slots=True)
class ToolState:
    """``offered`` is false where the platform has no outline service.

    Then ``by_hand`` says what the person does.
    """

    offered: bool
    tool: ShellTool | None
    links: int
    by_hand: tuple[str, ...] = ()


def look_at_tool(shell: Shell) -> ToolState:
    """Return the tool's place in a shell and how many links need it. Raises OutsideError,
    Refused.
    """
    current = shell.pairings.exclude(state=Pairing.State.ENDED)
    links = sum(each.placements.placed().count() for each in current)  # one, at most
    if not shell.outline_url or v.SCOPE_OUTLINE not in shell.scopes:
        return ToolState(False, None, links, BY_HAND)
    return ToolState(True, shell_gateway(shell).tool(shell.outline_url), links)


def warning(state: ToolState, changes: dict[str, Any]) -> str:
    """Say what a change would break, or nothing."""
    if changes.get("on") is False and state.links:
        return (
            f"{count(state.links, 'homework link')} in this shell {they(state.links, 'goes', 'go')}"
            " dead while Venn Pair is off; scores that the publisher reports still reach the"
            " gradebook."
        )
    return ""


def start_change(shell: Shell, changes: dict[str, Any], etag: str, actor: User) -> Job:
    """Begin changing the tool's place; a change on what somebody altered since ``etag`` is not
    made.

    Raises OutsideError, Refused.
    """
    require_instructor(actor, shell)
    before = look_at_tool(shell)
    if before.tool is None:
        raise Refused(
            "no_outline",
            "The platform offers no service for this; it is done by hand there.",
            " ".join(BY_HAND),
        )
    if etag and etag != before.tool.etag:
        raise Refused(
            "outside_stale",
            "The tool's place was changed in the shell since you looked at it.",
            "Look at it again, then change it.",
        )
    pairing = shell.pairings.exclude(state=Pairing.State.ENDED).first()
    if pairing is None:
        raise Refused(
            "not_paired",
            "This shell is not paired, so there is no record to keep the change in.",
            "Pair it with a homework course first.",
        )
    return _begin(pairing, changes, before.tool, actor)


def plan_undo(job: Job) -> str:
    """Say why the tool's place stays as it is; empty where it can be put back. Raises
    OutsideError.
    """
    step = ShellStep.objects.get(job=job)
    shell = job.pairing.shell
    if step.state != ShellStep.State.DONE:
        return "it was not changed"
    now = shell_gateway(shell).tool(shell.outline_url)
    return "" if now.etag == step.etag else "it was changed in the shell since"


def start_undo(job: Job, actor: User) -> Job:
    """Begin putting the tool's place back as it was. Raises Refused, OutsideError."""
    require_instructor(actor, job.pairing.shell)
    if why := plan_undo(job):
        raise Refused(
            "nothing_to_do",
            f"The tool stays where it is: {why}.",
            "Change it under Pair, or in the shell by hand.",
        )
    done = ShellStep.objects.get(job=job)
    back = {name: done.before[name] for name in done.facts["changes"]}
    now = ShellTool(**(done.before | done.facts["changes"] | {"etag": done.etag}))
    return _begin(job.pairing, back, now, actor, undoes=job)


def carry_out_tool(job: Job) -> str:
    """Change the tool's place. Raises OutsideError, Refused, Cancelled."""
    step = _ToolRunner(job).run_only(("tool_not_changed", "The tool's place could not be changed."))
    shell, changes = job.pairing.shell, step.facts["changes"]
    words = f"Venn Pair in {shell.label or shell.title} was changed: {change_in_words(changes)}"
    with transaction.atomic():
        record(
            "tool.changed",
            f"{words}.",
            pairing=job.pairing,
            actor=job.made_by,
            before=step.before,
            after=step.before | changes,
        )
    return words


def change_in_words(changes: Mapping[str, Any]) -> str:
    """Say what is changed."""
    said: dict[str, dict[Any, str]] = {
        "on": {True: "turned on", False: "turned off"},
        "navigation": {True: "put in the navigation", False: "taken out of the navigation"},
        "audience": {"everyone": "shown to everyone", "instructor": "shown to instructors only"},
    }
    return ", ".join(
        f"moved to place {changes[name] + 1}" if name == "position" else said[name][changes[name]]
        for name in KNOWN
        if name in changes
    )


def _begin(
    pairing: Pairing,
    changes: dict[str, Any],
    before: ShellTool,
    actor: User,
    **fields: Any,
) -> Job:
    with transaction.atomic():
        job = begin(TOOL, pairing, actor, 1, **fields)
        ShellStep.objects.create(
            job=job,
            position=0,
            kind=ShellStep.Kind.TOOL,
            facts={"title": "Venn Pair", "changes": changes, "etag": before.etag},
            before={name: getattr(before, name) for name in KNOWN},
        )
    return job


class _ToolRunner(StepRunner[ShellStep]):
    """One change of the tool's place."""

    def __init__(self, job: Job) -> None:
        super().__init__(job, job.pair_steps.all())
        self.gateway, self.url = shell_gateway(job.pairing.shell), job.pairing.shell.outline_url

    def does(self, step: ShellStep) -> str:
        """Say what is done."""
        return "changing the tool's place"

    def call(self, step: ShellStep) -> Record:
        """Change it, and read back that it is so."""
        changes, key = step.facts["changes"], step.idempotency_key
        self.gateway.change_tool(self.url, key, step.facts["etag"], **changes)
        seen = self.gateway.tool(self.url)
        # A platform may put it last where it was to be further down than there are entries.
        wrong = [
            name for name in changes if name != "position" and getattr(seen, name) != changes[name]
        ]
        if wrong:
            raise OutsideError(
                Failure(
                    FailureKind.NEVER,
                    "not_shown",
                    "The platform accepted the change, but the shell does not show it.",
                    "Look at the shell's settings on the platform.",
                )
            )
        return lambda: self._note(step, seen.etag)

    def _note(self, step: ShellStep, etag: str) -> None:
        step.etag = etag
        if self.job.undoes_id is None:
            return
        ShellStep.objects.filter(job=self.job.undoes_id).update(state=ShellStep.State.UNDONE)
        undone = ShellStep.objects.get(job=self.job.undoes_id)
        # The change before counts again as it was written, and can be undone in its turn.
        earlier = ShellStep.objects.filter(job__pairing=self.job.pairing, kind=ShellStep.Kind.TOOL)
        earlier.filter(state=ShellStep.State.DONE, etag=undone.facts["etag"]).update(etag=etag)
