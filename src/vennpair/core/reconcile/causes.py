"""The cause of a finding as a sentence: what happened, from what the ledger and both sides tell."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal

from vennpair.core.moments import on_words
from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import Person, PublisherScore, SentFact
from vennpair.core.reconcile.learners import Open
from vennpair.core.reconcile.numbers import shortest


@dataclass(frozen=True, slots=True)
class CellFacts:
    """What is known of a cell that does not agree."""

    kind: str
    publisher: PublisherScore | None
    gradebook: Decimal | None
    column_points: Decimal | None
    item_points: Decimal | None
    sent: SentFact | None = None
    read: bool = True

    @property
    def reported(self) -> bool:
        """Say whether the publisher's score is the one that it reported to us."""
        return (
            self.publisher is not None
            and self.sent is not None
            and self.sent.newest == self.publisher.mark.score
        )

    @property
    def last(self) -> Mark | None:
        """Return what was sent last."""
        return self.sent.mark if self.sent else None


def cause_of_cell(facts: CellFacts, zone: str) -> str:
    """Return the cause in a sentence or two; what cannot be known is said as such."""
    return _SENTENCES[facts.kind](facts, zone)


def cause_of_learner(each: Open, person: Person) -> str:
    """Return why somebody is on one side only, as far as it can be known."""
    who = person.name or person.email or person.number or "Somebody without a name"
    likely = (
        " Likely the same person:"
        f" {each.candidates[0].learner.name or each.candidates[0].learner.email}"
        f" ({each.candidates[0].why})."
        if each.candidates
        else ""
    )
    if each.kind == "ambiguous":
        return (
            f"{who} could be more than one learner, so Venn Pair"
            f" {'matched them by their id only' if each.holds else 'matched nobody by it'}.{likely}"
        )
    if each.kind == "publisher_only":
        address = f" as {person.email}" if person.email else ""
        return (
            f"{who} is registered at the publisher{address}, but is not among the learners of the"
            " shell:"
            f" {_PUBLISHER_ONLY.get(person.hint, _UNKNOWN).format(where=person.where)}.{likely}"
        )
    return (
        f"{who} is in the shell, but not at the publisher:"
        f" {_SHELL_ONLY.get(person.hint, 'never started there, or registered under another address')}.{likely}"
    )


_UNKNOWN = "why cannot be seen from here"
_PUBLISHER_ONLY = {
    "dropped": ("the shell no longer lists them, so they have dropped or been moved"),
    "other_section": "the roster of {where} lists this address, so they work in the wrong section",
    "direct": "they never came through a link of a shell, so they registered there directly",
    "started": "they came through a link of another course or under another account",
}
_SHELL_ONLY = {
    "never_started": "they have not opened any link yet",
    "started": (
        "they have opened a link, but the publisher lists no account of theirs in this course; they"
        " may have registered under another address"
    ),
}


def _unsent(facts: CellFacts, zone: str) -> str:
    if facts.reported:
        return (
            "The publisher reported"
            f" {_score(facts.publisher)}{_on(facts.sent.reported if facts.sent else None, zone)},"
            " and it was not sent yet."
        )
    return (
        f"The publisher has {_score(facts.publisher)}{_at(facts.publisher, zone)}, but never"
        " reported it to Venn Pair."
    )


def _cleared(facts: CellFacts, zone: str) -> str:
    if facts.publisher is None:
        return f"Both sides are empty now; we had sent {_mark(facts.last)}{_sent_on(facts, zone)}."
    return (
        f"We sent {_mark(facts.last)}{_sent_on(facts, zone)}; since then the gradebook's cell was"
        " emptied."
    )


def _behind(facts: CellFacts, zone: str) -> str:
    return (
        f"The gradebook still holds {_n(facts.gradebook)}, which we sent{_sent_on(facts, zone)}."
        f" The publisher now has {_score(facts.publisher)}{_at(facts.publisher, zone)}"
        f"{', reported but not sent yet.' if facts.reported else '; that new attempt was never reported to Venn Pair.'}"
    )


def _edited(facts: CellFacts, zone: str) -> str:
    sent = f"our score of {_mark(facts.last)}{_sent_on(facts, zone)}"
    if facts.publisher is None:
        return (
            f"Typed over in the gradebook after {sent}: it holds {_n(facts.gradebook)}; the"
            " publisher no longer has a score."
        )
    if (
        facts.last
        and facts.gradebook == facts.last.score
        and facts.column_points != facts.item_points
    ):
        return (
            f"The gradebook holds {_n(facts.gradebook)} as we sent it, but its column now has"
            f" {_n(facts.column_points)} points instead of {_n(facts.item_points)}, so it counts"
            " for another share."
        )
    return (
        f"Typed over in the gradebook after {sent}: it holds {_n(facts.gradebook)}, the publisher"
        f" still has {_score(facts.publisher)}. Who typed it, the platform does not tell."
    )


def _clash(facts: CellFacts, zone: str) -> str:
    return (
        f"Both sides moved after our score of {_mark(facts.last)}{_sent_on(facts, zone)}: the"
        f" publisher now has {_score(facts.publisher)}{_at(facts.publisher, zone)}, the gradebook"
        f" {_n(facts.gradebook)}. A person must choose."
    )


def _differ(facts: CellFacts, zone: str) -> str:
    return (
        f"The publisher has {_score(facts.publisher)}{_at(facts.publisher, zone)}, the gradebook"
        f" {_n(facts.gradebook)}; Venn Pair never sent a score here, so it cannot know which is"
        " right."
    )


def _gradebook_only(facts: CellFacts, zone: str) -> str:
    return (
        f"The gradebook holds {_n(facts.gradebook)}, entered there; the publisher"
        f" {'has no score' if facts.read else 'reported none'} and we sent none."
    )


def _unread(facts: CellFacts, zone: str) -> str:
    there = (
        "The gradebook's cell is empty"
        if facts.gradebook is None
        else f"The gradebook holds {_n(facts.gradebook)}"
    )
    sent = f"; we sent {_mark(facts.last)}{_sent_on(facts, zone)}" if facts.last else ""
    return (
        f"{there}{sent}. The publisher's scores of this item were not read, so whether that is"
        " right is not known; nothing is written here."
    )


def _withdrawn(facts: CellFacts, zone: str) -> str:
    return (
        f"The gradebook holds {_n(facts.gradebook)}, which we sent{_sent_on(facts, zone)}; the"
        " publisher has taken the score back."
    )


def _held(facts: CellFacts, zone: str) -> str:
    return (
        f"The publisher has {_score(facts.publisher)}."
        f" {facts.sent.held if facts.sent and facts.sent.held else 'Held until its release time.'}"
    )


def _refused(facts: CellFacts, zone: str) -> str:
    sent = facts.sent or SentFact(None)
    return (
        f"The publisher has {_score(facts.publisher)}{_at(facts.publisher, zone)}; the platform"
        f" refused it{_on(sent.refused_at, zone)}: {sent.refused}"
    )


_SENTENCES = {
    "unsent": _unsent,
    "cleared": _cleared,
    "behind": _behind,
    "edited": _edited,
    "clash": _clash,
    "differ": _differ,
    "gradebook_only": _gradebook_only,
    "withdrawn": _withdrawn,
    "unread": _unread,
    "held": _held,
    "refused": _refused,
}


def _n(value: Decimal | None) -> str:
    return "none" if value is None else shortest(value)


def _score(score: PublisherScore | None) -> str:
    return _mark(score.mark if score else None)


def _at(score: PublisherScore | None, zone: str) -> str:
    return _on(score.at if score else "", zone)


def _sent_on(facts: CellFacts, zone: str) -> str:
    """Return when the last score went, and that it was somebody's choice where it was."""
    if facts.sent is None:
        return ""
    return _on(facts.sent.at, zone) + (", settling a comparison" if facts.sent.settled else "")


def _mark(mark: Mark | None) -> str:
    if mark is None:
        return "no score"
    return _n(mark.score) + (f" of {_n(mark.points)}" if mark.points else "")


def _on(when: datetime | str | None, zone: str) -> str:
    """Return `` on March 3 at 2:02 PM`` in the course's zone, or nothing where the time is not
    known.
    """
    if not when:
        return ""
    try:
        moment = datetime.fromisoformat(when) if isinstance(when, str) else when
    except ValueError:
        return ""
    return on_words(moment, zone)
