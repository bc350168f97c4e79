"""Changing the tool's place in a shell, as an operation."""

from __future__ import annotations

from typing import Any

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import Kind, Reversal, StepRow
from vennpair.service.pair.actions.change_tool import TOOL, change_in_words, plan_undo, start_undo
from vennpair.service.pair.models import ShellStep


class ToolKind(Kind):
    """Whether Venn Pair is turned on in a shell, where, and for whom."""

    name, alone, step = TOOL, TOOL, ShellStep
    busy = (
        "tool_changing",
        "The tool's place in this shell is being changed already.",
        "Wait a moment; nothing needs to be clicked again.",
    )

    def says(self, job: Job) -> str:
        """Return what it does."""
        if job.undoes_id:
            return "Undoing a change of Venn Pair's place in the shell"
        return "Changing Venn Pair's place in the shell"

    def subject(self, job: Job) -> str:
        """Return the job's own id."""
        return str(job.pk)

    def link(self, job: Job) -> str:
        """Return where the console shows it."""
        return f"/pairings/{job.pairing_id}"

    def row(self, step: ShellStep) -> StepRow:
        """Return a step in the shape that all have."""
        changes = step.facts["changes"]
        before = {name: step.before[name] for name in changes}
        return StepRow(
            "change the tool's place",
            step.title,
            step.state,
            step.message,
            change_in_words(before),
            change_in_words(changes),
        )

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do with it. Raises OutsideError."""
        step = ShellStep.objects.get(job=job)
        back = change_in_words({name: step.before[name] for name in step.facts["changes"]})
        return [Reversal(step.title, f"put back: {back}", plan_undo(job))]

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""
        return start_undo(job, actor)
