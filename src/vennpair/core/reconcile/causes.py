"""The cause of a finding as a sentence: what happened, from what the ledger and both sides tell."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from zoneinfo import ZoneInfo

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import PlacedItem
from vennpair.core.reconcile.learners import Open
from vennpair.core.reconcile.numbers import plain


@dataclass(frozen=True, slots=True)
class CellFacts:
    """What is known of a cell that does not agree."""

    kind: str
    publisher: Mark | None
    publisher_at: str
    reported: bool
    gradebook: Decimal | None
    column_points: Decimal | None
    item_points: Decimal | None
    sent: Mark | None
    sent_at: datetime | None
    refused: str = ""
    held: str = ""


def cause_of_cell(facts: CellFacts, zone: str) -> str:
    """Return the cause in a sentence or two; what cannot be known is said as such."""
    return _SENTENCES[facts.kind](facts, zone)


def cause_of_column(code: str, item: PlacedItem | None, title: str) -> str:
    """Return what is wrong with a column, and what it breaks."""
    if code == "column_extra" or item is None:
        return f"The gradebook has a column '{title}' that no placement claims; Venn Pair leaves it alone."
    sentences = {
        "column_missing": f"The column of '{title}' is gone from the gradebook, so its scores have nowhere to go.",
        "points_differ": f"'{title}' has {_n(item.points)} points at the publisher and {_n(item.column_points)} in the gradebook: somebody changed the column, and scores are scaled until it is put right.",
        "points_missing": f"'{title}' states no points on one side, so its scores are compared as they stand.",
        "due_differs": f"'{title}' is due at another time in the gradebook ({item.column_due}) than at the publisher ({item.due_at}).",
        "title_differs": f"'{title}' is called '{item.column_title}' in the gradebook.",
        "item_gone": f"The publisher no longer has '{title}'; its column will get no more scores.",
    }
    return sentences[code]


def cause_of_learner(each: Open) -> str:
    """Return why somebody stands on one side only."""
    who = each.learner.name or each.learner.email or each.learner.id
    likely = f" Likely the same person: {each.candidates[0].learner.name or each.candidates[0].learner.email} ({each.candidates[0].why})." if each.candidates else ""
    if each.kind == "publisher_only":
        address = f" as {each.learner.email}" if each.learner.email else ""
        return f"{who} is registered at the publisher{address}, but nobody in the shell matches.{likely}"
    if each.kind == "shell_only":
        return f"{who} is in the shell, but not at the publisher: never started there, or registered under another address.{likely}"
    return f"{who} could be more than one learner, so Venn Pair matched nobody by it.{likely}"


def _unsent(facts: CellFacts, zone: str) -> str:
    if facts.reported:
        return f"The publisher reported {_mark(facts.publisher)}{_on(facts.publisher_at, zone)}, and it was not sent yet."
    return f"The publisher has {_mark(facts.publisher)}{_on(facts.publisher_at, zone)}, but never reported it to Venn Pair."


def _cleared(facts: CellFacts, zone: str) -> str:
    return f"We sent {_mark(facts.sent)}{_on(facts.sent_at, zone)}; since then the gradebook's cell was emptied."


def _behind(facts: CellFacts, zone: str) -> str:
    start = f"The gradebook still holds {_n(facts.gradebook)}, which we sent{_on(facts.sent_at, zone)}. The publisher now has {_mark(facts.publisher)}{_on(facts.publisher_at, zone)}"
    return start + (", reported but not sent yet." if facts.reported else "; that new attempt was never reported to Venn Pair.")


def _edited(facts: CellFacts, zone: str) -> str:
    sent = f"our score of {_mark(facts.sent)}{_on(facts.sent_at, zone)}"
    if facts.publisher is None:
        return f"Typed over in the gradebook after {sent}: it holds {_n(facts.gradebook)}; the publisher has no score any more."
    if facts.sent and facts.gradebook == facts.sent.score and facts.column_points != facts.item_points:
        return f"The gradebook holds {_n(facts.gradebook)} as we sent it, but its column now has {_n(facts.column_points)} points instead of {_n(facts.item_points)}, so it counts for another share."
    return f"Typed over in the gradebook after {sent}: it holds {_n(facts.gradebook)}, the publisher still has {_mark(facts.publisher)}."


def _clash(facts: CellFacts, zone: str) -> str:
    return f"Both sides moved after our score of {_mark(facts.sent)}{_on(facts.sent_at, zone)}: the publisher now has {_mark(facts.publisher)}, the gradebook {_n(facts.gradebook)}. A person must choose."


def _differ(facts: CellFacts, zone: str) -> str:
    return f"The publisher has {_mark(facts.publisher)}, the gradebook {_n(facts.gradebook)}; Venn Pair never sent a score here, so it cannot know which is right."


def _gradebook_only(facts: CellFacts, zone: str) -> str:
    return f"The gradebook holds {_n(facts.gradebook)}, entered there; the publisher has no score and we sent none."


def _withdrawn(facts: CellFacts, zone: str) -> str:
    return f"The gradebook holds {_n(facts.gradebook)}, which we sent{_on(facts.sent_at, zone)}; the publisher has taken the score back."


def _held(facts: CellFacts, zone: str) -> str:
    return f"The publisher has {_mark(facts.publisher)}. {facts.held or 'Held until its release time.'}"


def _refused(facts: CellFacts, zone: str) -> str:
    return f"The publisher has {_mark(facts.publisher)}; the platform refused it: {facts.refused}"


def _gone(facts: CellFacts, zone: str) -> str:
    return _cleared(facts, zone) if facts.publisher else f"Both sides are empty now; we had sent {_mark(facts.sent)}{_on(facts.sent_at, zone)}."


_SENTENCES = {
    "unsent": _unsent,
    "cleared": _gone,
    "behind": _behind,
    "edited": _edited,
    "clash": _clash,
    "differ": _differ,
    "gradebook_only": _gradebook_only,
    "withdrawn": _withdrawn,
    "held": _held,
    "refused": _refused,
}


def _n(value: Decimal | None) -> str:
    if value is None:
        return "none"
    return plain(value.quantize(Decimal(1)) if value == value.to_integral_value() else value.normalize())


def _mark(mark: Mark | None) -> str:
    if mark is None:
        return "no score"
    return _n(mark.score) + (f" of {_n(mark.points)}" if mark.points else "")


def _on(when: datetime | str | None, zone: str) -> str:
    """Return `` on 3 March at 14:02`` in the course's zone, or nothing where the time is not known."""
    if not when:
        return ""
    try:
        moment = datetime.fromisoformat(when) if isinstance(when, str) else when
    except ValueError:
        return ""
    if moment.tzinfo is None:
        return f" on {moment.day} {moment:%B}"
    local = moment.astimezone(ZoneInfo(zone))
    return f" on {local.day} {local:%B} at {local:%H:%M}"
