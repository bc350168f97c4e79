"""What is there beside a sheet that says all that should be: links to take back, drift to put
right, and how scores and first steps are doing.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from vennpair.core.deploy.drift import Drift
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.look_for_drift import drifts_now
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import RelayRule


@dataclass(frozen=True, slots=True)
class Removal:
    """A placed link that the sheet does not name, and why it goes."""

    placement: Placement
    why: str


@dataclass(frozen=True, slots=True)
class Setting:
    """Something of the pairing that differs: ``relay``, ``scores`` or ``access``; in words."""

    what: str
    before: str
    after: str


@dataclass(frozen=True, slots=True)
class Beside:
    """All of it, for one section."""

    removals: tuple[Removal, ...] = ()
    drifts: tuple[Drift, ...] = ()
    settings: tuple[Setting, ...] = ()


NOTHING = Beside()


def plan_beside(pairing: Pairing, items: Mapping[str, Any], scores: str, access: str) -> Beside:
    """Look at both sides; nothing is changed. ``items`` are those that should be there.

    Raises OutsideError.
    """
    placed = pairing.placements.filter(state=Placement.State.PLACED).exclude(entry_id="")
    removals = tuple(
        Removal(
            each,
            "the publisher no longer has it" if each.item.gone else "the sheet does not name it",
        )
        for each in placed.select_related("item").order_by("item__position")
        if str(each.item_id) not in items
    )
    going = {str(each.placement.pk) for each in removals}
    drifts = tuple(each for each in drifts_now(pairing) if each.placement not in going)
    return Beside(removals, drifts, tuple(_settings(pairing, scores, access)))


def _settings(pairing: Pairing, scores: str, access: str) -> list[Setting]:
    found = []
    wanted = scores != "later"
    if pairing.relay_on != wanted:
        found.append(Setting("relay", _on(pairing.relay_on), _on(wanted)))
    rule = RelayRule.objects.filter(pairing=pairing, scope="all").first()
    when = (rule.changes if rule else {}).get("when", "submission")
    if wanted and when != scores:
        found.append(Setting("scores", when, scores))
    if access and pairing.access != access:
        found.append(Setting("access", pairing.access or "not said", access))
    return found


def _on(on: bool) -> str:
    return "on" if on else "off"
