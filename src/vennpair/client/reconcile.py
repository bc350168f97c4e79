"""Reconciling: comparisons, their findings, settling them, the story of a cell and notes on it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from vennpair.client.schema import (
    Agreement,
    CellStory,
    ChoiceRequest,
    CompareAll,
    Comparison,
    Finding,
    Found,
    Me,
    Note,
    Schedule,
    Settlement,
    SettlementPreview,
    Statement,
    Today,
)
from vennpair.client.transport import Transport


class Reconciling(Transport):
    """The part of the client that compares the two sides."""

    def compare(
        self, pairing: str, *, gradebook: Path | None = None, layout: str = "", class_id: str = ""
    ) -> Comparison:
        """Start a comparison, or join the one under way; with ``gradebook``, a file stands for what
        the platform's gradebook says.

        Raises OSError where the file cannot be read.
        """
        if gradebook is None:
            return self._post(Comparison, f"/pairings/{pairing}/comparisons", {})
        files = {"gradebook": (gradebook.name, gradebook.read_bytes())}
        return self._call(
            Comparison,
            "POST",
            f"/pairings/{pairing}/comparisons",
            data={"layout": layout, "class_id": class_id},
            files=files,
        )

    def agreement(self, **filters: str) -> Iterator[Agreement]:
        """Yield every pairing with how far it agrees, the most urgent first.

        Filtered by ``q`` (words of the shell, its course or a teacher), ``platform``, ``state`` or
        ``open``.
        """
        return self._list(Agreement, "/agreement", filters)

    def today(self) -> Today:
        """Return what needs you today across all shells, the most urgent first, and how many scores
        came in and were delivered on each of the last fourteen days.
        """
        return self._get(Today, "/today")

    def search(self, words: str) -> list[Found]:
        """Return shells, items and learners of yours that hold every word, at most eight of each;
        fewer than two letters find nothing.
        """
        return self._get(list[Found], "/search", {"q": words})

    def compare_all(self) -> int:
        """Compare every live or paused pairing, a few of one platform at a time.

        Return how many.
        """
        return self._post(CompareAll, "/agreement", {})["asked"]

    def statement(self, pairing: str) -> Statement:
        """Say whether the grades of a pairing are ready to be submitted, and why."""
        return self._get(Statement, f"/pairings/{pairing}/statement")

    def change_schedule(self, pairing: str, **changes: bool | str | None) -> Schedule:
        """Change ``nightly`` or ``grades_due`` (an ISO date, or None)."""
        return self._call(
            Schedule, "PATCH", f"/pairings/{pairing}/statement/schedule", json=changes
        )

    def change_digest(self, wish: str) -> Me:
        """Change how often one is told what the nights found: ``daily``, ``weekly`` or
        ``never``.
        """
        return self._call(Me, "PATCH", "/me", json={"digest": wish})

    def compare_files(
        self, publisher: Path, gradebook: Path, *, layout: str = "", class_id: str = ""
    ) -> dict[str, Any]:
        """Compare two files at the service, which keeps nothing of them.

        Raises OSError where one cannot be read.
        """
        files = {
            name: (path.name, path.read_bytes())
            for name, path in (("publisher", publisher), ("gradebook", gradebook))
        }
        return self._call(
            dict[str, Any],
            "POST",
            "/file-comparisons",
            data={"layout": layout, "class_id": class_id},
            files=files,
        )

    def comparison(self, pairing: str, comparison: str) -> Comparison:
        """Return one comparison."""
        return self._get(Comparison, f"/pairings/{pairing}/comparisons/{comparison}")

    def comparisons(self, pairing: str) -> Iterator[Comparison]:
        """Yield comparisons, newest first, without their matrix."""
        return self._list(Comparison, f"/pairings/{pairing}/comparisons")

    def findings(self, pairing: str, comparison: str, **filters: str) -> Iterator[Finding]:
        """Yield the findings of a comparison, errors first.

        Filtered by ``kind``, ``level``, ``scope``, ``side``, ``item``, ``learner``, ``kept`` or
        ``new``.
        """
        return self._list(
            Finding, f"/pairings/{pairing}/comparisons/{comparison}/findings", filters
        )

    def settle(
        self,
        pairing: str,
        comparison: str,
        *,
        safe: bool = False,
        kinds: Mapping[str, str] | None = None,
        findings: Sequence[ChoiceRequest] = (),
        dry_run: bool = False,
    ) -> SettlementPreview:
        """Settle findings: all ``safe`` cells, whole ``kinds`` by a remedy each (empty: the
        default), single ``findings``.

        With ``dry_run`` only say what would be written. Of an assistant it becomes a proposal.
        """
        asked = {
            "comparison": comparison,
            "safe": safe,
            "kinds": dict(kinds or {}),
            "findings": list(findings),
            "dry_run": dry_run,
        }
        return self._post(SettlementPreview, f"/pairings/{pairing}/settlements", asked)

    def settlements(self, pairing: str) -> Iterator[Settlement]:
        """Yield settlements and proposals, newest first, without their steps."""
        return self._list(Settlement, f"/pairings/{pairing}/settlements")

    def settlement(self, pairing: str, settlement: str) -> Settlement:
        """Return one settlement with its steps."""
        return self._get(Settlement, f"/pairings/{pairing}/settlements/{settlement}")

    def carry_out(self, pairing: str, settlement: str) -> Settlement:
        """Carry out a proposal."""
        return self._post(Settlement, f"/pairings/{pairing}/settlements/{settlement}/carry-out", {})

    def dismiss(self, pairing: str, settlement: str) -> Settlement:
        """Put a proposal aside."""
        return self._post(Settlement, f"/pairings/{pairing}/settlements/{settlement}/dismiss", {})

    def cell(self, pairing: str, placement: str, learner: str) -> CellStory:
        """Return the story of one cell."""
        return self._get(CellStory, f"/pairings/{pairing}/placements/{placement}/cells/{learner}")

    def notes(self, pairing: str) -> Iterator[Note]:
        """Yield the notes that people left on cells."""
        return self._list(Note, f"/pairings/{pairing}/notes")

    def leave_note(self, pairing: str, placement: str, learner: str, text: str) -> Note:
        """Leave a note on a cell."""
        return self._post(
            Note,
            f"/pairings/{pairing}/notes",
            {"placement": placement, "learner": learner, "text": text},
        )

    def take_note_away(self, pairing: str, note: int) -> None:
        """Take a note away."""
        self._done("DELETE", f"/pairings/{pairing}/notes/{note}")
