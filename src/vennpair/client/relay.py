"""Relaying: how it is doing, its scores one by one, its rules, letting go what is held, and feeding
it by hand.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from vennpair.client.schema import (
    Job,
    Queued,
    Relay,
    Released,
    RuleOutcome,
    Score,
    ScoreStory,
)
from vennpair.client.transport import Transport


class Relaying(Transport):
    """The part of the client that sees to scores on their way."""

    def relay(self, pairing: str) -> Relay:
        """Say how the relay is doing."""
        return self._get(Relay, f"/pairings/{pairing}/relay")

    def relay_chart(self, pairing: str, hours: int = 24) -> dict[str, Any]:
        """Return scores received and accepted over time, and the lag between."""
        return self._get(dict[str, Any], f"/pairings/{pairing}/relay/chart", {"hours": str(hours)})

    def scores(self, pairing: str, **filters: str) -> Iterator[Score]:
        """Yield scores, what changed last first.

        Filtered by ``state`` and ``why`` (several with commas), ``placement`` or ``learner``.
        """
        return self._list(Score, f"/pairings/{pairing}/scores", filters)

    def score(self, pairing: str, score: int) -> ScoreStory:
        """Return one score with its whole story."""
        return self._get(ScoreStory, f"/pairings/{pairing}/scores/{score}")

    def strays(self, pairing: str) -> Iterator[dict[str, Any]]:
        """Yield the reports of accounts that nobody in the shell is known to have."""
        return self._list(dict[str, Any], f"/pairings/{pairing}/strays")

    def send_again(
        self,
        pairing: str,
        *,
        force: bool = False,
        dry_run: bool = False,
        learners: Sequence[str] = (),
        placements: Sequence[str] = (),
        category: str | None = None,
    ) -> Queued:
        """Compare with the gradebook, then queue what it shows otherwise (or all, with ``force``).

        All scores where none are named.
        """
        asked = {
            "force": force,
            "dry_run": dry_run,
            "learners": list(learners),
            "placements": list(placements),
            "category": category,
        }
        return self._post(Queued, f"/pairings/{pairing}/relay", asked)

    def change_relay_setting(self, pairing: str, **changes: int) -> dict[str, Any]:
        """Change ``alarm_minutes`` or ``pull_minutes``."""
        return self._call(
            dict[str, Any], "PATCH", f"/pairings/{pairing}/relay/setting", json=changes
        )

    def relay_rules(self, pairing: str) -> dict[str, Any]:
        """Return the rule for all, what categories change, and what results for each item."""
        return self._get(dict[str, Any], f"/pairings/{pairing}/relay-rules")

    def change_rule(
        self, pairing: str, scope: str, key: str, changes: dict[str, Any], *, dry_run: bool = False
    ) -> RuleOutcome:
        """Replace what a scope (``all``, ``category``, ``item``) changes; nothing takes it back."""
        return self._post(
            RuleOutcome,
            f"/pairings/{pairing}/relay-rules",
            {"scope": scope, "key": key, "changes": changes, "dry_run": dry_run},
        )

    def release(
        self,
        pairing: str,
        placements: Sequence[str] = (),
        *,
        early: bool = False,
        dry_run: bool = False,
    ) -> int:
        """Let go what is held, of all items where none is named (``early``: for a time too).

        Return how many scores.
        """
        wanted = {"placements": list(placements), "early": early, "dry_run": dry_run}
        return self._post(Released, f"/pairings/{pairing}/releases", wanted)["released"]

    def show_columns(
        self, pairing: str, shown: bool, placements: Sequence[str] = ()
    ) -> list[dict[str, Any]]:
        """Show learners the scores of columns, or keep them from view."""
        return self._post(
            list[dict[str, Any]],
            f"/pairings/{pairing}/column-views",
            {"shown": shown, "placements": list(placements)},
        )

    def pull_results(self, pairing: str) -> Job:
        """Read the publisher's results that changed since the last time."""
        return self._post(Job, f"/pairings/{pairing}/pulls", {})

    def take_scores(
        self,
        pairing: str,
        file: Path,
        *,
        layout: str = "",
        class_id: str = "",
        dry_run: bool = False,
    ) -> dict[str, Any]:
        """Take the scores of a file into the ledger. Raises OSError where it cannot be read."""
        fields = {"layout": layout, "class_id": class_id, "dry_run": str(dry_run).lower()}
        return self._call(
            dict[str, Any],
            "POST",
            f"/pairings/{pairing}/score-files",
            data=fields,
            files={"file": (file.name, file.read_bytes())},
        )

    def platforms_health(self) -> list[dict[str, Any]]:
        """Say how each platform takes scores; for administrators."""
        return self._get(list[dict[str, Any]], "/connections/health")
