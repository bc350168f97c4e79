"""Reconciling: comparisons, their findings, settling them, the story of a cell and notes on it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import cast

from vennpair.client.reconciling_types import CellStory, Choice, Comparison, Finding, Note, Preview, Settlement
from vennpair.client.transport import Transport


class Reconciling(Transport):
    """The part of the client that compares the two sides."""

    def compare(self, pairing: str) -> Comparison:
        """Start a comparison, or join the one under way."""
        return cast(Comparison, self._post(f"/pairings/{pairing}/comparisons", {}))

    def comparison(self, pairing: str, comparison: str) -> Comparison:
        """Return one comparison."""
        return cast(Comparison, self._get(f"/pairings/{pairing}/comparisons/{comparison}"))

    def comparisons(self, pairing: str) -> Iterator[Comparison]:
        """Yield comparisons, newest first, without their matrix."""
        return cast(Iterator[Comparison], self._list(f"/pairings/{pairing}/comparisons"))

    def findings(self, pairing: str, comparison: str, **filters: str) -> Iterator[Finding]:
        """Yield the findings of a comparison, errors first; filtered by ``kind``, ``level``, ``scope``, ``side``, ``item``, ``learner``, ``kept`` or ``new``."""
        return cast(Iterator[Finding], self._list(f"/pairings/{pairing}/comparisons/{comparison}/findings", filters))

    def settle(self, pairing: str, comparison: str, *, safe: bool = False, kinds: Mapping[str, str] | None = None, findings: Sequence[Choice] = (), dry_run: bool = False) -> Preview:
        """Settle findings: all ``safe`` cells, whole ``kinds`` by a remedy each (empty: the default), single ``findings``.

        With ``dry_run`` only say what would be written. Of an assistant it becomes a proposal.
        """
        asked = {"comparison": comparison, "safe": safe, "kinds": dict(kinds or {}), "findings": list(findings), "dry_run": dry_run}
        return cast(Preview, self._post(f"/pairings/{pairing}/settlements", asked))

    def settlements(self, pairing: str) -> Iterator[Settlement]:
        """Yield settlements and proposals, newest first, without their steps."""
        return cast(Iterator[Settlement], self._list(f"/pairings/{pairing}/settlements"))

    def settlement(self, pairing: str, settlement: str) -> Settlement:
        """Return one settlement with its steps."""
        return cast(Settlement, self._get(f"/pairings/{pairing}/settlements/{settlement}"))

    def carry_out(self, pairing: str, settlement: str) -> Settlement:
        """Carry out a proposal."""
        return cast(Settlement, self._post(f"/pairings/{pairing}/settlements/{settlement}/carry-out", {}))

    def dismiss(self, pairing: str, settlement: str) -> Settlement:
        """Put a proposal aside."""
        return cast(Settlement, self._post(f"/pairings/{pairing}/settlements/{settlement}/dismiss", {}))

    def undo_settlement(self, pairing: str, settlement: str, *, dry_run: bool = False) -> Preview:
        """Put back exactly what stood before a settlement."""
        return cast(Preview, self._post(f"/pairings/{pairing}/settlements/{settlement}/undo", {"dry_run": dry_run}))

    def cell(self, pairing: str, placement: str, learner: str) -> CellStory:
        """Return the story of one cell."""
        return cast(CellStory, self._get(f"/pairings/{pairing}/placements/{placement}/cells/{learner}"))

    def notes(self, pairing: str) -> Iterator[Note]:
        """Yield the notes that people left on cells."""
        return cast(Iterator[Note], self._list(f"/pairings/{pairing}/notes"))

    def leave_note(self, pairing: str, placement: str, learner: str, text: str) -> Note:
        """Leave a note on a cell."""
        return cast(Note, self._post(f"/pairings/{pairing}/notes", {"placement": placement, "learner": learner, "text": text}))

    def take_note_away(self, pairing: str, note: int) -> None:
        """Take a note away."""
        self._call("DELETE", f"/pairings/{pairing}/notes/{note}")
