"""The rule of each placement of a pairing, and when its scores were last released."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Any

from django.db.models import Max

from vennpair.core.relay.rules import Rule, rule_of
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.models import RelayRule, Release


@dataclass(frozen=True, slots=True)
class Placed:
    """What the sending of a placement's scores depends on."""

    placement: Placement
    rule: Rule
    released: datetime | None

    @property
    def points(self) -> Decimal | None:
        """Return the points of its column, as deployed."""
        return self.placement.points


def changes_of(pairing: Pairing) -> dict[tuple[str, str], dict[str, Any]]:
    """Return what each scope and key changes."""
    return {
        (each.scope, each.key): each.changes for each in RelayRule.objects.filter(pairing=pairing)
    }


def rule_for(changes: dict[tuple[str, str], dict[str, Any]], category: str, item: Any) -> Rule:
    """Return the rule of an item: what is said for all, for its category, for itself."""
    return rule_of(
        changes.get(key, {}) for key in (("all", ""), ("category", category), ("item", str(item)))
    )


def placed_with_rules(pairing: Pairing) -> dict[Any, Placed]:
    """Return every placement that has a column, by id."""
    changes = changes_of(pairing)
    released = dict(
        Release.objects.filter(placement__pairing=pairing)
        .order_by()
        .values("placement")
        .annotate(at=Max("at"))
        .values_list("placement", "at")
    )
    placements = (
        Placement.objects.filter(pairing=pairing).exclude(column_url="").select_related("item")
    )
    return {
        each.pk: Placed(
            each,
            rule_for(changes, each.category or each.item.category, each.item_id),
            released.get(each.pk),
        )
        for each in placements
    }
