"""Scores one by one: the stream of a pairing, and the story of each."""

from __future__ import annotations

from typing import Any

import django_filters
from django.db.models import OuterRef, Q, QuerySet, Subquery
from drf_spectacular.utils import extend_schema_field
from rest_framework import mixins, serializers

from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.relay.claiming import plain_score
from vennpair.service.relay.models import Cell, LedgerEntry, Passage, Stray


@extend_schema_field({"type": "string", "nullable": True})
class PlainScore(serializers.Field[Any, Any, Any, Any]):
    """A score as text, without trailing zeros."""

    def to_representation(self, value: Any) -> str | None:
        """Write it."""
        return plain_score(value)


class ScoreSerializer(serializers.ModelSerializer[Cell]):
    """One learner's score in one column: its state, why, since when it waits and
    until when.
    """

    placement = serializers.UUIDField(source="placement_id")
    item = serializers.CharField(source="placement.title")
    learner_id = serializers.UUIDField()
    learner = serializers.CharField(source="learner.name")
    email = serializers.CharField(source="learner.email")
    reported = serializers.SerializerMethodField()
    reported_at = serializers.SerializerMethodField()
    points = serializers.SerializerMethodField()
    sent = serializers.SerializerMethodField()

    class Meta:
        model = Cell
        fields = read_only_fields = [
            "id",
            "placement",
            "item",
            "learner_id",
            "learner",
            "email",
            "state",
            "why",
            "reason",
            "remedy",
            "reported",
            "points",
            "reported_at",
            "sent",
            "sent_at",
            "since",
            "until",
            "tries",
            "changed_at",
        ]

    def get_reported(self, cell: Cell) -> str | None:
        """Return the newest score that the publisher reported."""
        return plain_score(cell.newest_given)  # type: ignore[attr-defined]  # annotated

    def get_points(self, cell: Cell) -> str | None:
        """Return out of how many."""
        return plain_score(cell.newest_maximum)  # type: ignore[attr-defined]  # annotated

    def get_reported_at(self, cell: Cell) -> str | None:
        """Return the publisher's own time of it."""
        moment = cell.newest_at  # type: ignore[attr-defined]  # annotated
        return moment.isoformat() if moment else None

    def get_sent(self, cell: Cell) -> str | None:
        """Return what the platform last accepted."""
        return plain_score(cell.sent_given)


class LedgerEntrySerializer(serializers.ModelSerializer[LedgerEntry]):
    """One report of the publisher, and how it came."""

    given, maximum = PlainScore(), PlainScore()

    class Meta:
        model = LedgerEntry
        fields = read_only_fields = [
            "id",
            "via",
            "timestamp",
            "submitted_at",
            "received_at",
            "given",
            "maximum",
            "activity",
            "grading",
            "comment",
        ]


class PassageSerializer(serializers.ModelSerializer[Passage]):
    """What became of a score at one moment."""

    given, maximum = PlainScore(), PlainScore()

    class Meta:
        model = Passage
        fields = read_only_fields = [
            "id",
            "at",
            "what",
            "given",
            "maximum",
            "entry",
            "lag_ms",
            "words",
        ]


class ScoreStorySerializer(ScoreSerializer):
    """The same, with every report and everything that was done with it, the oldest first."""

    ledger = serializers.SerializerMethodField()
    passages = serializers.SerializerMethodField()

    class Meta(ScoreSerializer.Meta):
        fields = read_only_fields = [*ScoreSerializer.Meta.fields, "ledger", "passages"]

    @extend_schema_field(LedgerEntrySerializer(many=True))
    def get_ledger(self, cell: Cell) -> list[dict[str, Any]]:
        """Return every report."""
        entries = LedgerEntry.objects.filter(
            placement=cell.placement_id, learner=cell.learner_id
        ).order_by("pk")
        return list(LedgerEntrySerializer(entries, many=True).data)

    @extend_schema_field(PassageSerializer(many=True))
    def get_passages(self, cell: Cell) -> list[dict[str, Any]]:
        """Return everything that was done."""
        return list(PassageSerializer(cell.passages.order_by("pk"), many=True).data)


class ScoreFilter(django_filters.FilterSet):
    """By state (several, with commas), what is waited for, item and learner."""

    state = django_filters.BaseInFilter(field_name="state")
    why = django_filters.BaseInFilter(field_name="why")
    placement = django_filters.UUIDFilter(field_name="placement_id")
    learner = django_filters.CharFilter(
        method="of_learner", help_text="part of a learner's name or address"
    )

    def of_learner(self, queryset: QuerySet[Cell], name: str, value: str) -> QuerySet[Cell]:
        """Keep those of learners whose name or address holds it."""
        return queryset.filter(
            Q(learner__name__icontains=value) | Q(learner__email__icontains=value)
        )

    class Meta:
        model = Cell
        fields: list[str] = []


class ScoreViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Scores of a pairing, what changed last first."""

    queryset = Cell.objects.none()
    ordering = ("-changed_at", "-pk")
    filterset_class = ScoreFilter
    lookup_value_converter = "str"

    def get_serializer_class(self) -> Any:
        """Return the story for one, a line for each of many."""
        return ScoreStorySerializer if self.action == "retrieve" else ScoreSerializer

    def in_pairing(self) -> QuerySet[Cell]:
        """Return the pairing's cells that ever had a report."""
        reports = LedgerEntry.objects.filter(
            placement=OuterRef("placement"), learner=OuterRef("learner")
        ).order_by("-timestamp", "-pk")
        return (
            Cell.objects.filter(pairing=self.pairing())
            .select_related("placement", "learner")
            .annotate(
                newest_given=Subquery(reports.values("given")[:1]),
                newest_maximum=Subquery(reports.values("maximum")[:1]),
                newest_at=Subquery(reports.values("timestamp")[:1]),
            )
        )


class StraySerializer(serializers.ModelSerializer[Stray]):
    """A report for an account that nobody in the shell is known to have."""

    item = serializers.CharField(source="placement.title")
    given = serializers.SerializerMethodField()

    class Meta:
        model = Stray
        fields = read_only_fields = [
            "id",
            "item",
            "account",
            "name",
            "email",
            "given",
            "received_at",
        ]

    def get_given(self, stray: Stray) -> str | None:
        """Return the score as text."""
        given = stray.report.get("scoreGiven")
        return None if given is None else f"{given} of {stray.report.get('scoreMaximum')}"


class StrayViewset(mixins.ListModelMixin, OfPairing):
    """Reports that wait for somebody to say whose they are."""

    serializer_class = StraySerializer
    queryset = Stray.objects.none()
    ordering = ("received_at", "pk")

    def in_pairing(self) -> QuerySet[Stray]:
        """Return the pairing's."""
        return Stray.objects.filter(placement__pairing=self.pairing()).select_related("placement")
