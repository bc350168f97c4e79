"""Deploying: plans and rollouts, placements, order, drift, the learner's view, averages."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from vennpair.client.schema import (
    Drift,
    Job,
    LearnerCheck,
    Mended,
    Placement,
    Plan,
    Plans,
    Rollout,
    Started,
    Watch,
    WholeRollout,
)
from vennpair.client.transport import Transport


class Deploying(Transport):
    """The part of the client that deploys and keeps right.

    A ``sheet`` has the fields of ``SheetSerializer`` in the schema.
    """

    def plan(self, pairing: str, items: Sequence[str], **sheet: Any) -> list[Plan]:
        """Say what deploying would do, shell by shell; ``sections`` names further ones.

        Changes nothing.
        """
        asked = sheet | {"items": list(items), "dry_run": True}
        return self._post(Plans, f"/pairings/{pairing}/rollouts", asked)["shells"]

    def deploy(self, pairing: str, items: Sequence[str], **sheet: Any) -> list[WholeRollout]:
        """Start a rollout in each shell."""
        asked = sheet | {"items": list(items)}
        return self._post(Started, f"/pairings/{pairing}/rollouts", asked)["rollouts"]

    def rollout(self, pairing: str, rollout: str) -> WholeRollout:
        """Return one rollout with its steps."""
        return self._get(WholeRollout, f"/pairings/{pairing}/rollouts/{rollout}")

    def rollouts(self, pairing: str) -> Iterator[Rollout]:
        """Yield the rollouts of a pairing, the newest first, without their steps."""
        return self._list(Rollout, f"/pairings/{pairing}/rollouts")

    def write_links(self, pairing: str, items: Sequence[str], target: Path, **sheet: Any) -> None:
        """Save the links as a thin cartridge to upload.

        Raises OSError where the file cannot be written.
        """
        self._download(
            f"/pairings/{pairing}/rollouts/cartridge", target, sheet | {"items": list(items)}
        )

    def outline(self, pairing: str) -> list[dict[str, Any]]:
        """Return the shell's outline as it is now."""
        return self._get(list[dict[str, Any]], f"/pairings/{pairing}/outline")

    def travels(self, pairing: str) -> dict[str, Any]:
        """Return the route that rollouts take, and what travels between the two sides."""
        return self._get(dict[str, Any], f"/pairings/{pairing}/travels")

    def placements(self, pairing: str) -> Iterator[Placement]:
        """Yield the links that are in the shell, in the publisher's order."""
        return self._list(Placement, f"/pairings/{pairing}/placements")

    def plan_take_back(
        self, pairing: str, placements: Sequence[str], scores: str = "ask"
    ) -> list[dict[str, Any]]:
        """Say how many scores the columns hold and what becomes of them."""
        return self._post(
            list[dict[str, Any]],
            f"/pairings/{pairing}/placements/take-back",
            {"placements": list(placements), "scores": scores, "dry_run": True},
        )

    def take_back(self, pairing: str, placements: Sequence[str], scores: str = "ask") -> Rollout:
        """Take placements back; ``scores`` is keep, export or remove."""
        return self._post(
            Rollout,
            f"/pairings/{pairing}/placements/take-back",
            {"placements": list(placements), "scores": scores},
        )

    def exports(self, pairing: str) -> list[dict[str, str]]:
        """Return the exported columns, the newest first."""
        return self._get(list[dict[str, str]], f"/pairings/{pairing}/exports")

    def fetch_export(self, pairing: str, export: str, target: Path) -> None:
        """Save an exported column. Raises OSError where the file cannot be written."""
        self._download(f"/pairings/{pairing}/exports/{export}/file", target)

    def plan_order(self, pairing: str, **wanted: Any) -> dict[str, Any]:
        """Say what ordering would change: ``by`` and ``folder``, or ``entries`` and ``after``."""
        return self._post(dict[str, Any], f"/pairings/{pairing}/orders", wanted | {"dry_run": True})

    def order(self, pairing: str, **wanted: Any) -> Rollout:
        """Put what is there into another order."""
        return self._post(Rollout, f"/pairings/{pairing}/orders", wanted)

    def watch(self, pairing: str) -> Watch:
        """Return what the last look for drift found."""
        return self._get(Watch, f"/pairings/{pairing}/drifts")

    def look_for_drift(self, pairing: str) -> Job:
        """Look for drift now."""
        return self._post(Job, f"/pairings/{pairing}/drifts", {})

    def mend(self, pairing: str, drifts: Sequence[Drift], way: str) -> Rollout | None:
        """Meet drifts: ``follow`` or ``keep``.

        None where nothing has to be written to the shell.
        """
        asked = {"drifts": [each["id"] for each in drifts], "way": way}
        return self._post(Mended, f"/pairings/{pairing}/drifts/mend", asked)["rollout"]

    def choose_way(self, pairing: str, way: str) -> Watch:
        """Choose how drift is met from now on: ask, follow or keep."""
        return self._post(Watch, f"/pairings/{pairing}/drifts/way", {"way": way})

    def check_as_learner(self, pairing: str, placements: Sequence[str] = ()) -> LearnerCheck:
        """Open links as the platform's test learner, all where none is named."""
        return self._post(
            LearnerCheck, f"/pairings/{pairing}/learner-checks", {"placements": list(placements)}
        )

    def learner_check(self, pairing: str, check: str) -> LearnerCheck:
        """Return one check with its rows."""
        return self._get(LearnerCheck, f"/pairings/{pairing}/learner-checks/{check}")

    def learner_checks(self, pairing: str) -> list[LearnerCheck]:
        """Return the last checks, the newest first."""
        return self._get(list[LearnerCheck], f"/pairings/{pairing}/learner-checks")

    def make_average(
        self, pairing: str, title: str, points: str, items: Sequence[str], **how: Any
    ) -> dict[str, Any]:
        """Make a column with a total of graded items.

        ``how``: categories, weighting, weights, missing, places, keeps_up.
        """
        return self._post(
            dict[str, Any],
            f"/pairings/{pairing}/averages",
            how | {"title": title, "points": points, "items": list(items)},
        )

    def remove_average(self, pairing: str, average: str) -> None:
        """Remove a column with a total. Raises Refusal ``has_scores`` where it holds any."""
        self._done("DELETE", f"/pairings/{pairing}/averages/{average}")

    def averages(self, pairing: str) -> list[dict[str, Any]]:
        """Return the columns with an average."""
        return self._get(list[dict[str, Any]], f"/pairings/{pairing}/averages")

    def average_rows(self, pairing: str, average: str) -> list[dict[str, Any]]:
        """Return every learner's average now, with its arithmetic."""
        return self._get(list[dict[str, Any]], f"/pairings/{pairing}/averages/{average}/rows")

    def fetch_average(self, pairing: str, average: str, target: Path) -> None:
        """Save the averages as a table. Raises OSError where the file cannot be written."""
        self._download(f"/pairings/{pairing}/averages/{average}/file", target)

    def send_average(self, pairing: str, average: str) -> Job:
        """Relay the averages into their column."""
        return self._post(Job, f"/pairings/{pairing}/averages/{average}/send", {})

    def answer_picking(self, picking: str, items: Sequence[str], **sheet: Any) -> dict[str, Any]:
        """Sign what was picked for a platform: what the browser posts back."""
        return self._post(
            dict[str, Any], f"/pickings/{picking}/answer", sheet | {"items": list(items)}
        )
