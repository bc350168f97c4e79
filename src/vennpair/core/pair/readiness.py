"""The checks that a pairing must pass, each with what is wrong and what to do."""

from __future__ import annotations

from dataclasses import dataclass

from vennpair.core.pair import ready_items, ready_people, ready_services
from vennpair.core.pair.checks import Check
from vennpair.core.pair.ready_items import ItemsFacts
from vennpair.core.pair.ready_people import PeopleFacts
from vennpair.core.pair.ready_services import ServiceFacts


@dataclass(frozen=True, slots=True)
class PairingFacts:
    """Everything that the checks look at."""

    services: ServiceFacts
    people: PeopleFacts
    items: ItemsFacts


def readiness(facts: PairingFacts) -> list[Check]:
    """Return all checks, those that fail first.

    Within one state in the order in which one sets up.
    """
    checks = [
        *ready_services.checks(facts.services),
        *ready_people.checks(facts.people),
        *ready_items.checks(facts.items),
    ]
    order = {"fail": 0, "warn": 1, "ok": 2}
    return sorted(checks, key=lambda check: order[check.state])


def may_be_ready(checks: list[Check]) -> bool:
    """Say whether a draft may become ready: nothing fails."""
    return all(check.state != "fail" for check in checks)
