"""What is asked of a rollout, and the plan that answers."""

from __future__ import annotations

from datetime import datetime
from decimal import Decimal
from typing import Any, get_args

from rest_framework import serializers

from vennpair.core.deploy.plan import Action
from vennpair.core.deploy.sheet import LONGEST_SHIFT, Applied, Sheet, Wish, description_of
from vennpair.core.levels import Level
from vennpair.service.content.models import Placement
from vennpair.service.deploy.actions.plan_deploy import Planned, Section
from vennpair.service.kernel.web.described import fields_from
from vennpair.service.pair.models import Pairing


def _is_time(text: str) -> None:
    try:
        datetime.fromisoformat(text)
    except ValueError:
        raise serializers.ValidationError(
            "Write a time as 2027-03-12T23:59, in the course's zone unless it names another."
        ) from None


class TimeField(serializers.CharField):
    """A time in ISO 8601; one without a zone is the course's."""

    def __init__(self, **options: Any) -> None:
        super().__init__(max_length=40, validators=[_is_time], **options)


class WishSerializer(serializers.Serializer[Any]):
    """What is wanted of one item instead of what holds for all; left out: nothing else.

    Points and date count where the publisher has none.
    """

    title = serializers.CharField(required=False, allow_blank=True, max_length=2000)
    becomes = serializers.ChoiceField(["column", "link"], required=False)
    points = serializers.DecimalField(
        max_digits=14, decimal_places=4, required=False, allow_null=True
    )
    due_at = TimeField(required=False, allow_blank=True)
    category = serializers.CharField(required=False, allow_blank=True, max_length=200)
    visible = serializers.BooleanField(required=False)
    shown_from = TimeField(required=False, allow_blank=True)
    new_window = serializers.BooleanField(required=False)
    folder = serializers.CharField(required=False, max_length=255)
    words = serializers.CharField(
        required=False, max_length=500, help_text="of a page's text, which become the link"
    )


class SheetSerializer(serializers.Serializer[Any]):
    """What is wanted of all chosen items (``core/deploy/sheet.py``)."""

    shown_from = TimeField(allow_blank=True, default="")
    applies = serializers.ListField(
        child=serializers.ChoiceField(list(get_args(Applied))),
        default=list,
        help_text="with update, what placed items take from this sheet too, and all of it",
    )
    wishes = serializers.DictField(child=WishSerializer(), default=dict)

    def get_fields(self) -> dict[str, serializers.Field[Any, Any, Any, Any]]:
        """Return the sheet's described fields, and those of this class in their place."""
        return fields_from(Sheet, description_of()) | super().get_fields()


class SectionSerializer(serializers.Serializer[Any]):
    """A shell that the rollout goes to as well, with what is its own.

    Left out: as the sheet says.
    """

    pairing = serializers.UUIDField()
    shift_days = serializers.IntegerField(
        required=False, allow_null=True, min_value=-LONGEST_SHIFT, max_value=LONGEST_SHIFT
    )
    folder = serializers.CharField(required=False, allow_blank=True, max_length=255)
    folders = serializers.DictField(child=serializers.CharField(max_length=255), required=False)


class NewRolloutSerializer(SheetSerializer):
    """Which items of the pairing's course, into which shells, and how."""

    items = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=2000)
    sections = SectionSerializer(many=True, default=list)
    dry_run = serializers.BooleanField(default=False)


def sheet_of(asked: dict[str, Any]) -> Sheet:
    """Return what was asked for as the rules take it."""
    names = set(Sheet.__slots__) - {"wishes", "applies"}
    wishes = {item: Wish(**wish) for item, wish in asked["wishes"].items()}
    return Sheet(
        **{name: asked[name] for name in names} | {"folder": asked["folder"].strip()},
        applies=tuple(asked["applies"]),
        wishes=wishes,
    )


def section_of(asked: dict[str, Any], pairing: Pairing) -> Section:
    """Return one section as the actions take it."""
    return Section(pairing, asked.get("shift_days"), asked.get("folder"), asked.get("folders"))


class TargetSerializer(serializers.Serializer[Any]):
    """A link as it is to be in the shell; with a column where ``points`` is not null."""

    title = serializers.CharField()
    points = serializers.SerializerMethodField()
    due_at = serializers.CharField()
    category = serializers.CharField()
    visible = serializers.BooleanField()
    shown_from = serializers.CharField()
    new_window = serializers.BooleanField()

    def get_points(self, target: Any) -> str | None:
        """Return the points without trailing zeros."""
        return None if target.points is None else f"{Decimal(target.points):f}"


class DifferenceSerializer(serializers.Serializer[Any]):
    """A field that will change."""

    field = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()
    cause = serializers.ChoiceField(["publisher", "sheet"])


class RowSerializer(serializers.Serializer[Any]):
    """What becomes of one item: make, change, same or leave_out."""

    item = serializers.CharField()
    action = serializers.ChoiceField(get_args(Action))
    target = TargetSerializer()
    folder = serializers.CharField()
    folder_title = serializers.CharField()
    differences = DifferenceSerializer(many=True)


class NewFolderSerializer(serializers.Serializer[Any]):
    """A folder that will be made."""

    key = serializers.CharField()
    title = serializers.CharField()
    parent = serializers.CharField()  # type: ignore[assignment]  # our word


class PlanNoticeSerializer(serializers.Serializer[Any]):
    """Something about one item that one should know before it happens; ``error`` keeps it out."""

    code = serializers.CharField()
    level = serializers.ChoiceField(get_args(Level))
    item = serializers.CharField()
    title = serializers.CharField()
    message = serializers.CharField()
    remedy = serializers.CharField()


class PlanSerializer(serializers.Serializer[Any]):
    """All that will happen in one shell, item by item in its order. ``lost``: items that this
    section's course does not have.

    ``unread``: the section's homework course was not read yet, so nothing is known of it.
    """

    pairing = serializers.CharField(source="pairing.pk")
    shell = serializers.CharField(source="pairing.shell.label")
    zone = serializers.CharField(source="pairing.shell.zone")
    shift_days = serializers.IntegerField(source="sheet.shift_days", allow_null=True)
    folders = NewFolderSerializer(source="plan.folders", many=True)
    rows = RowSerializer(source="plan.rows", many=True)
    make = serializers.SerializerMethodField()
    change = serializers.SerializerMethodField()
    same = serializers.SerializerMethodField()
    columns = serializers.IntegerField(source="plan.columns")
    categories = serializers.ListField(source="plan.categories", child=serializers.CharField())
    notices = PlanNoticeSerializer(source="plan.notices", many=True)
    lost = serializers.ListField(child=serializers.CharField())
    unread = serializers.BooleanField()
    page_html = serializers.CharField(
        help_text="the page's text with its links, where items go into one; safe to show"
    )

    def get_make(self, planned: Planned) -> int:
        """Return how many links will be made."""
        return len(planned.plan.of("make"))

    def get_change(self, planned: Planned) -> int:
        """Return how many links will be changed or moved."""
        return len(planned.plan.of("change"))

    def get_same(self, planned: Planned) -> int:
        """Return how many are there already."""
        return len(planned.plan.of("same"))


class PlansSerializer(serializers.Serializer[Any]):
    """The plan for every shell."""

    shells = PlanSerializer(many=True)


class PlacementSerializer(serializers.ModelSerializer[Placement]):
    """A link as it was deployed."""

    points = serializers.SerializerMethodField()
    due_at = serializers.CharField(read_only=True)
    item_title = serializers.CharField(source="item.shown_title")
    unit = serializers.CharField(source="item.unit")
    column = serializers.SerializerMethodField()

    class Meta:
        model = Placement
        fields = read_only_fields = [
            "id",
            "item",
            "item_title",
            "unit",
            "state",
            "title",
            "folder",
            "folder_id",
            "place",
            "entry_id",
            "column",
            "points",
            "due_at",
            "category",
            "visible",
            "shown_from",
            "new_window",
            "shift_days",
        ]

    def get_points(self, placement: Placement) -> str | None:
        """Return the points without trailing zeros."""
        return None if placement.points is None else f"{placement.points.normalize():f}"

    def get_column(self, placement: Placement) -> bool:
        """Say whether it has a column."""
        return bool(placement.column_url)
