"""Steering a relay: its rules, letting go what is held, showing columns, and feeding it by hand."""

from __future__ import annotations

from typing import Any

from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.relay.rules import in_words
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.models import Pairing
from vennpair.service.relay.actions.change_rules import change_rule, foresee_rule
from vennpair.service.relay.actions.pull_results import start_pull
from vennpair.service.relay.actions.release import held_of, release, show_columns
from vennpair.service.relay.actions.take_file import take_file
from vennpair.service.relay.models import Cell, RelayRule, Release
from vennpair.service.relay.rule_lookup import changes_of, placed_with_rules, rule_for

RULE_SCOPES = ["all", "category", "item"]


class ItemRuleSerializer(serializers.Serializer[Any]):
    """What holds for one item with a column, in words, and which attempt the publisher counts where
    it tells.
    """

    placement = serializers.UUIDField()
    item = serializers.UUIDField()
    title = serializers.CharField()
    category = serializers.CharField()
    words = serializers.CharField()
    publisher_counts = serializers.CharField()
    own = serializers.DictField()
    held = serializers.IntegerField()


class RulesSerializer(serializers.Serializer[Any]):
    """The rule for all, what categories change of it, and what results for each item."""

    changes = serializers.DictField()
    words = serializers.CharField()
    attempts = serializers.BooleanField()
    categories = serializers.DictField(child=serializers.DictField())
    items = ItemRuleSerializer(many=True)


class ChangeRuleSerializer(serializers.Serializer[Any]):
    """``changes`` replaces what the scope said before; empty takes it back.

    ``key``: the category's title or the item's id.
    """

    scope = serializers.ChoiceField(RULE_SCOPES)
    key = serializers.CharField(default="", allow_blank=True, max_length=255)
    changes = serializers.DictField()
    dry_run = serializers.BooleanField(default=False)


class RuleOutcomeSerializer(serializers.Serializer[Any]):
    """The rule that results, in words, and how many scores are decided again."""

    scope = serializers.CharField()
    key = serializers.CharField()
    changes = serializers.DictField()
    words = serializers.CharField()
    cells = serializers.IntegerField()


class RuleViewset(OfPairing):
    """What is relayed, in which numbers and when."""

    queryset = RelayRule.objects.none()
    serializer_class = RulesSerializer
    pagination_class = None

    @extend_schema(
        responses=the_one(RulesSerializer),
        operation_id="pairings_relay_rules_retrieve",
        filters=False,
    )
    def list(self, request: Request, pairing_pk: str) -> Response:
        """Return the rules."""
        return Response(RulesSerializer(_rules(self.pairing())).data)

    @extend_schema(request=ChangeRuleSerializer, responses=RuleOutcomeSerializer)
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Change the rule for all, for a category or for an item."""
        pairing, asked = self.pairing(), read(ChangeRuleSerializer, request)
        facts = asked
        words = (facts["scope"], facts["key"], facts["changes"])
        done = (
            foresee_rule(pairing, *words)
            if facts["dry_run"]
            else change_rule(pairing, *words, self.user)
        )
        return Response(RuleOutcomeSerializer(done).data)


def _rules(pairing: Pairing) -> dict[str, Any]:
    changes = changes_of(pairing)
    held: dict[Any, int] = {}
    for placement in Cell.objects.filter(pairing=pairing, state=Cell.State.HELD).values_list(
        "placement", flat=True
    ):
        held[placement] = held.get(placement, 0) + 1
    items = [
        {
            "placement": each.placement.pk,
            "item": each.placement.item_id,
            "title": each.placement.title,
            "category": each.placement.category or each.placement.item.category,
            "words": in_words(each.rule),
            "publisher_counts": (
                (each.placement.item.catalogue or {}).get("attempts", {}).get("counts", "")
            ),
            "own": changes.get(("item", str(each.placement.item_id)), {}),
            "held": held.get(each.placement.pk, 0),
        }
        for each in sorted(
            placed_with_rules(pairing).values(),
            key=lambda each: (each.placement.item.position, str(each.placement.pk)),
        )
    ]
    attempts = pairing.items.filter(catalogue__attempts__reported="each").exists()
    categories = {key: said for (scope, key), said in changes.items() if scope == "category"}
    return {
        "changes": changes.get(("all", ""), {}),
        "words": in_words(rule_for(changes, "", "")),
        "attempts": attempts,
        "categories": categories,
        "items": items,
    }


class ReleaseSerializer(serializers.Serializer[Any]):
    """Which items, all where none is named.

    ``early`` also lets go what is held for a due date or a time of day.
    """

    placements = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=2000)
    early = serializers.BooleanField(default=False)
    dry_run = serializers.BooleanField(default=False)


class ReleasedSerializer(serializers.Serializer[Any]):
    """How many scores were let go, or would be."""

    released = serializers.IntegerField()


class ReleaseViewset(OfPairing):
    """Letting go what is held."""

    queryset = Release.objects.none()
    serializer_class = ReleaseSerializer

    @extend_schema(request=ReleaseSerializer, responses=ReleasedSerializer)
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Let go what has come by now."""
        pairing, asked = self.pairing(), read(ReleaseSerializer, request)
        chosen, early = asked["placements"], asked["early"]
        count = (
            held_of(pairing, chosen, early=early).count()
            if asked["dry_run"]
            else release(pairing, chosen, self.user, early=early)
        )
        return Response({"released": count})


class ShowColumnsSerializer(serializers.Serializer[Any]):
    """Which columns, all where none is named, and whether learners are to see them."""

    placements = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=2000)
    shown = serializers.BooleanField()


class ShownColumnSerializer(serializers.Serializer[Any]):
    """What came of one column: ``done``, ``unknown`` where the platform has no such thing,
    ``failed`` with why.
    """

    placement = serializers.UUIDField()
    title = serializers.CharField()
    result = serializers.CharField()
    reason = serializers.CharField()


class ShowViewset(OfPairing):
    """Showing learners the scores of columns, or keeping them from view."""

    queryset = Release.objects.none()
    serializer_class = ShowColumnsSerializer
    pagination_class = None

    @extend_schema(request=ShowColumnsSerializer, responses=ShownColumnSerializer(many=True))
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Turn columns."""
        pairing, asked = self.pairing(), read(ShowColumnsSerializer, request)
        rows = show_columns(pairing, asked["placements"], asked["shown"], self.user)
        return Response(ShownColumnSerializer(rows, many=True).data)


class PullViewset(OfPairing):
    """Reading the publisher's results."""

    queryset = Release.objects.none()
    serializer_class = JobSerializer

    @extend_schema(request=None, responses={202: JobSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Read what changed since the last time."""
        return Response(JobSerializer(start_pull(self.pairing(), self.user)).data, status=202)


class ScoreFileSerializer(serializers.Serializer[Any]):
    """A tidy CSV, a OneRoster 1.2 set or a wide table with its layout.

    ``as_of`` is when it was exported, now unless named.
    """

    file = serializers.FileField()
    layout = serializers.CharField(default="", allow_blank=True)
    class_id = serializers.CharField(default="", allow_blank=True)
    as_of = serializers.DateTimeField(required=False)
    dry_run = serializers.BooleanField(default=False)


class TakenFileSerializer(serializers.Serializer[Any]):
    """What the file holds, how many learners were matched, and how many scores are new or
    changed.
    """

    learners = serializers.IntegerField()
    matched = serializers.IntegerField()
    items = serializers.IntegerField()
    scores = serializers.IntegerField()
    changed = serializers.IntegerField()
    words = serializers.CharField()


class ScoreFileViewset(OfPairing):
    """Scores from a file."""

    queryset = Release.objects.none()
    serializer_class = ScoreFileSerializer
    parser_classes = [MultiPartParser]

    @extend_schema(
        request={"multipart/form-data": ScoreFileSerializer}, responses=TakenFileSerializer
    )
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Take the scores of a file into the ledger."""
        pairing, asked = self.pairing(), read(ScoreFileSerializer, request)
        facts = asked
        upload = facts["file"]
        taken = take_file(
            pairing,
            upload.name,
            upload.read(),
            self.user,
            as_of=facts.get("as_of") or timezone.now(),
            layout=facts["layout"],
            class_id=facts["class_id"],
            dry_run=facts["dry_run"],
        )
        return Response(TakenFileSerializer(taken).data)
