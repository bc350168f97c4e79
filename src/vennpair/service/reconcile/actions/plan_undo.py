"""What would take a settlement back: each write put back to exactly what was there before it."""

from __future__ import annotations

from vennpair.core.reconcile.remedies import MAKE_AGAIN, PUT_BACK, WRITES_SCORE
from vennpair.service.kernel.errors import Refused
from vennpair.service.reconcile.models import Settlement, SettleStep
from vennpair.service.reconcile.record_outcome import UNDO
from vennpair.service.stored import ColumnPutBack, ScoreWrite


def plan_undo(settlement: Settlement) -> list[SettleStep]:
    """Return the steps, unsaved, the last one first.

    Raises Refused where nothing of it can be taken back.
    """
    if settlement.state != "done":
        raise Refused(
            "not_done",
            "This settlement is not carried out, so there is nothing to undo.",
            "Wait until it is done, or put the proposal aside.",
            409,
        )
    done = [
        each
        for each in settlement.steps.select_related("placement", "person").order_by("-position")
        if each.state == SettleStep.State.DONE and is_reversible(each)
    ]
    if not done:
        raise Refused(
            "nothing_to_undo",
            "Nothing of this settlement is left to undo.",
            "Look at the newer settlements.",
            409,
        )
    steps = [_reverse(each) for each in done]
    for position, step in enumerate(steps):
        step.position = position
    return steps


def is_reversible(step: SettleStep) -> bool:
    """Say whether a step can be taken back: a column made again may hold scores, and no service
    makes one without points.
    """
    return step.remedy not in {MAKE_AGAIN, UNDO} and not (
        step.remedy == PUT_BACK and step.kind == "points_missing"
    )


def _reverse(done: SettleStep) -> SettleStep:
    step = SettleStep(
        key=done.key,
        scope=done.scope,
        kind=done.kind,
        remedy=UNDO,
        placement=done.placement,
        person=done.person,
        item=done.item,
        learner=done.learner,
        publisher=done.publisher,
        before=done.after,
        after=done.before,
        facts={"reverses": done.pk, **_write(done)},
        memory=done.memory,
    )
    writes = done.remedy in WRITES_SCORE or done.remedy == PUT_BACK
    step.words = (
        f"{done.title}: {_said(done.after)} becomes {_said(done.before)} again"
        if writes
        else f"{done.title}: the decision is undone"
    )
    return step


def _write(done: SettleStep) -> ColumnPutBack | ScoreWrite | dict[str, str]:
    if done.remedy == PUT_BACK:
        return ColumnPutBack(to=done.before)
    if (
        done.remedy in WRITES_SCORE
    ):  # in the column's own points, so that the very same number is there again
        return ScoreWrite(
            given=done.before, maximum=None if done.before is None else done.facts["points"]
        )
    return {}


def _said(text: str | None) -> str:
    return "empty" if text is None else text
