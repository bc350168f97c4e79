"""Change what is relayed, in which numbers and when."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django.db import transaction

from vennpair.core.relay.rules import Counts, RuleError, in_words, read_changes, rule_of
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import User
from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue
from vennpair.service.content.models import Placement
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.relay.models import Cell, RelayRule
from vennpair.service.relay.rule_lookup import changes_of, rule_for
from vennpair.service.relay.scheduling import wake

_OPEN = [
    Cell.State.WAITING,
    Cell.State.HELD,
    Cell.State.ACCEPTED,
    Cell.State.EMPTY,
    Cell.State.WITHDRAWN,
]


def foresee_rule(pairing: Pairing, scope: str, key: str, changes: dict[str, Any]) -> dict[str, Any]:
    """Say what a change of rule would mean: the rule in words, and how many scores would be looked
    at again. Raises Refused.
    """
    known = _checked(pairing, scope, key, changes)
    merged = changes_of(pairing) | {(scope, key): known}
    item = pairing.items.filter(pk=key).first() if scope == "item" else None
    category = key if scope == "category" else (item.category if item else "")
    rule = (
        rule_for(merged, category, key if scope == "item" else "")
        if scope != "all"
        else rule_of([known])
    )
    return {
        "scope": scope,
        "key": key,
        "changes": known,
        "words": in_words(rule),
        "cells": _cells(pairing, scope, key).count(),
    }


def change_rule(
    pairing: Pairing, scope: str, key: str, changes: dict[str, Any], actor: User
) -> dict[str, Any]:
    """Set what a scope changes, nothing where ``changes`` is empty; scores are decided again.

    Raises Refused.
    """
    require_instructor(actor, pairing.shell)
    foreseen = foresee_rule(pairing, scope, key, changes)
    with transaction.atomic():
        before = RelayRule.objects.filter(pairing=pairing, scope=scope, key=key).first()
        if foreseen["changes"]:
            RelayRule.objects.update_or_create(
                pairing=pairing, scope=scope, key=key, defaults={"changes": foreseen["changes"]}
            )
        elif before is not None:
            before.delete()
        wake(_cells(pairing, scope, key))
        whom = {"all": "all items", "category": f"the category '{key}'", "item": "one item"}[scope]
        record(
            "relay.rule",
            f"The rule for {whom}: {foreseen['words']}",
            pairing=pairing,
            actor=actor,
            before=before.changes if before else None,
            after=foreseen["changes"],
        )
    return foreseen


def _cells(pairing: Pairing, scope: str, key: str) -> Any:
    cells = Cell.objects.filter(pairing=pairing, state__in=_OPEN)
    if scope == "category":
        titles = [
            each.pk
            for each in Placement.objects.filter(pairing=pairing).select_related("item")
            if (each.category or each.item.category) == key
        ]
        return cells.filter(placement__in=titles)
    return cells.filter(placement__item_id=key) if scope == "item" else cells


def _checked(pairing: Pairing, scope: str, key: str, changes: dict[str, Any]) -> dict[str, Any]:
    try:
        known = read_changes(changes)
    except RuleError as error:
        raise Refused("bad_rule", str(error), "Change that and try again.", 422) from error
    if scope == "item" and not pairing.items.filter(pk=key).exists():
        raise Refused(
            "unknown_item",
            "The pairing does not have this item.",
            "Look at the list of items.",
            422,
        )
    if known.get("counts", Counts.PUBLISHER) != Counts.PUBLISHER and not reports_attempts(pairing):
        message = (
            "The publisher does not say that it reports each attempt, so Venn Pair cannot choose"
            " among them."
        )
        raise Refused(
            "no_attempts",
            message,
            "Choose at the publisher which attempt counts; Venn Pair relays that.",
            409,
        )
    return known


def reports_attempts(pairing: Pairing) -> bool:
    """Say whether the publisher's catalogue tells that each attempt is reported
    (docs/course-provisioning.md).
    """
    told = pairing.items.filter(catalogue__attempts__reported="each")
    if not pairing.items.filter(catalogue__has_key="attempts").exists():
        with suppress(
            OutsideError
        ):  # nobody has read the catalogue yet; where it cannot be read, nothing is known
            refresh_catalogue(pairing)
    return told.exists()
