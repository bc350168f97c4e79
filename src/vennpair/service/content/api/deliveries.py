"""The serializers of deliveries: what is ordered, what it will do, and what became of it."""

from __future__ import annotations

from typing import Any, get_args

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from vennpair.core.content.bring import Action
from vennpair.service.content.actions.carry_out_delivery import report_of
from vennpair.service.content.actions.plan_delivery import DeliveryPlan, Order
from vennpair.service.content.models import Delivery, Written
from vennpair.service.pair.api.jobs import JobSerializer

KINDS = [
    "folder",
    "page",
    "file",
    "web_link",
    "discussion",
    "assignment",
    "lti_link",
    "assessment",
    "question_bank",
]


class ChoiceSerializer(serializers.Serializer[Any]):
    """Which entries: ``everything``, by id (a folder with all in it), by kind, by words of the
    title; ``review`` folders as a group.
    """

    everything = serializers.BooleanField(default=False)
    entries = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=10_000)
    kinds = serializers.ListField(child=serializers.ChoiceField(KINDS), default=list)
    words = serializers.CharField(allow_blank=True, default="", max_length=200)
    review = serializers.ChoiceField(["keep", "hide", "leave_out"], default="keep")


class NewDeliverySerializer(ChoiceSerializer):
    """The choice, the folder (title or id.

    Empty is the top), and whether graded links with points and a date get a column.
    """

    folder = serializers.CharField(allow_blank=True, default="", max_length=255)
    columns = serializers.BooleanField(default=True)
    questions = serializers.DictField(
        child=serializers.ListField(
            child=serializers.IntegerField(min_value=1, max_value=10_000), max_length=10_000
        ),
        default=dict,
        help_text="which questions of a quiz come along, by entry: numbers from 1; all where none",
    )
    dry_run = serializers.BooleanField(default=False)


class NewWrittenSerializer(ChoiceSerializer):
    """The choice, and the profile of the cartridge to write."""

    profile = serializers.ChoiceField(["full", "thin"], default="full")


def order_of(asked: dict[str, Any]) -> Order:
    """Return what was asked for as the actions take it."""
    entries = tuple(str(each) for each in asked["entries"])
    return Order(
        asked["everything"],
        entries,
        tuple(asked["kinds"]),
        asked["words"],
        asked["review"],
        asked.get("folder", "").strip(),
        asked.get("columns", True),
        {entry: tuple(sorted(set(some))) for entry, some in asked.get("questions", {}).items()},
    )


class PlannedEntrySerializer(serializers.Serializer[Any]):
    """One entry with what will be done: make, update, same, keep or leave_out."""

    id = serializers.CharField()
    title = serializers.CharField()
    kind = serializers.CharField()
    depth = serializers.IntegerField()
    action = serializers.ChoiceField(get_args(Action))
    visible = serializers.BooleanField()
    points = serializers.CharField(allow_null=True)
    why = serializers.CharField()
    remedy = serializers.CharField()


class DeliveryPlanSerializer(serializers.Serializer[Any]):
    """All that will happen, before it does.

    ``points`` of an entry are those of its column, null where it gets none.
    """

    folder = serializers.CharField()
    new_folder = serializers.CharField()
    counts = serializers.SerializerMethodField()
    columns = serializers.SerializerMethodField()
    entries = serializers.SerializerMethodField()

    @extend_schema_field(
        {
            "type": "object",
            "properties": {each: {"type": "integer"} for each in get_args(Action)},
            "required": list(get_args(Action)),
        }
    )
    def get_counts(self, plan: DeliveryPlan) -> dict[Action, int]:
        """Return how many entries have each action."""
        return {each: plan.count(each) for each in get_args(Action)}

    def get_columns(self, plan: DeliveryPlan) -> int:
        """Return how many columns will be made."""
        return len(plan.columns)

    @extend_schema_field(PlannedEntrySerializer(many=True))
    def get_entries(self, plan: DeliveryPlan) -> list[dict[str, Any]]:
        """Return the entries in reading order."""
        rows = []
        for entry, planned in plan.rows:
            points = (
                f"{entry.points.normalize():f}"
                if entry.position in plan.columns and entry.points is not None
                else None
            )
            facts = {
                "id": str(entry.pk),
                "title": entry.shown_title,
                "kind": entry.kind,
                "depth": entry.depth,
                "points": points,
            }
            rows.append(
                facts
                | {
                    "action": planned.action,
                    "visible": planned.visible,
                    "why": planned.why,
                    "remedy": planned.remedy,
                }
            )
        return rows


class DeliverySerializer(serializers.ModelSerializer[Delivery]):
    """A delivery with its job, and in words what became of it."""

    job = JobSerializer(read_only=True)
    undoes = serializers.SerializerMethodField()
    words = serializers.SerializerMethodField()

    class Meta:
        model = Delivery
        fields = read_only_fields = ["id", "folder", "undoes", "made_at", "words", "job"]

    @extend_schema_field({"type": ["string", "null"], "format": "uuid"})
    def get_undoes(self, delivery: Delivery) -> str | None:
        """Return the delivery that this one takes back."""
        undone = delivery.job.undoes
        return str(undone.delivery.pk) if undone else None

    def get_words(self, delivery: Delivery) -> str:
        """Return what became of it."""
        if delivery.job.undoes_id:
            return ""
        # What it ended with: a later one may have had to do with its entries since.
        return report_of(delivery) if delivery.job.unfinished else delivery.job.message


class WrittenSerializer(serializers.ModelSerializer[Written]):
    """A cartridge that was written; ``package`` is where its bytes can be had, null until it is
    done.
    """

    job = JobSerializer(read_only=True)
    filename = serializers.CharField(source="package.filename", default="")
    size = serializers.IntegerField(source="package.size", default=0)

    class Meta:
        model = Written
        fields = read_only_fields = ["id", "profile", "package", "filename", "size", "job"]
