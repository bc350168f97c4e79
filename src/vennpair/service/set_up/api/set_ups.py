"""Set-ups of several sections: begun, planned, started, stopped, undone."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, get_args

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.content.groups import Treatment
from vennpair.core.deploy.sheet import LONGEST_SHIFT, Into, Wish
from vennpair.service.connect.api.base import Viewset
from vennpair.service.deploy.api.sheets import (
    PlanSerializer,
    SheetSerializer,
    WishSerializer,
    sheet_of,
)
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.actions.pair_course import WAYS
from vennpair.service.pair.actions.pair_several import propose_for
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.pairings import MOST_SHELLS
from vennpair.service.pair.queries import courses_for, shells_for, titles_for
from vennpair.service.set_up.actions.begin_set_up import Wanted, begin_set_up
from vennpair.service.set_up.actions.plan_set_up import (
    OwnWishes,
    Wishes,
    plan_set_up,
    sections_of,
)
from vennpair.service.set_up.actions.start_set_up import (
    forget_set_up,
    start_set_up,
    stop_set_up,
    undo_set_up,
)
from vennpair.service.set_up.models import SetUp, Stage


class SetUpSectionSerializer(serializers.Serializer[Any]):
    """One shell of a set-up: ``stage`` is refused, reading, not_read, ready, running, waiting,
    live, failed, stopped, undoing, undone or not_undone; ``job`` says more, ``message`` and
    ``remedy`` why it is refused. ``troubles`` counts steps that were not done and links that do not
    open well.
    """

    shell = serializers.UUIDField(source="shell_id")
    name = serializers.CharField()
    pairing = serializers.UUIDField(source="pairing_id", allow_null=True)
    course = serializers.SerializerMethodField()
    stage = serializers.ChoiceField(get_args(Stage))
    message = serializers.CharField()
    remedy = serializers.CharField()
    troubles = serializers.IntegerField()
    job = JobSerializer(source="current", allow_null=True)

    def get_course(self, section: Any) -> str:
        """Return the homework course's title and code."""
        course = section.pairing.course if section.pairing else None
        return f"{course.title}, {course.code}" if course else ""


class SetUpSerializer(serializers.ModelSerializer[SetUp]):
    """A set-up with its sections, in the order in which they were named."""

    sections = serializers.SerializerMethodField()

    class Meta:
        model = SetUp
        fields = read_only_fields = [
            "id",
            "made_at",
            "started_at",
            "scores",
            "access",
            "navigation",
            "way",
            "total",
            "words",
            "sections",
        ]

    def to_representation(self, instance: SetUp) -> dict[str, Any]:
        """Read words and sections in one query: between two of them the last section could end."""
        self.looked_at = sections_of(instance)
        seen = self.looked_at[0].set_up if self.looked_at else instance
        return super().to_representation(seen)

    def get_sections(self, set_up: SetUp) -> SetUpSectionSerializer(many=True):  # type: ignore[valid-type]
        """Return the sections."""
        return SetUpSectionSerializer(self.looked_at, many=True).data


class SetUpRowSerializer(serializers.ModelSerializer[SetUp]):
    """A set-up in a list: the labels of its shells."""

    shells = serializers.SerializerMethodField()

    class Meta:
        model = SetUp
        fields = read_only_fields = ["id", "made_at", "started_at", "shells"]

    def get_shells(self, set_up: SetUp) -> list[str]:
        """Return the labels of its shells."""
        return [each.name for each in set_up.sections.all()]


class WantedSectionSerializer(serializers.Serializer[Any]):
    """A shell, and the course to pair it with: left out, the one that fits; or the publisher makes
    one, of a ``title``, as a ``copy_of`` or ``section_of`` a course. Unused where the shell is
    paired already.
    """

    shell = serializers.UUIDField()
    course = serializers.UUIDField(required=False, allow_null=True)
    share = serializers.BooleanField(
        default=False,
        help_text="share a course that another shell has, where its publisher allows that",
    )
    title = serializers.UUIDField(required=False, allow_null=True)
    copy_of = serializers.UUIDField(required=False, allow_null=True)
    section_of = serializers.UUIDField(required=False, allow_null=True)
    name = serializers.CharField(
        max_length=200,
        allow_blank=True,
        default="",
        help_text="what the publisher shall call a course that it makes",
    )

    def validate(self, facts: Any) -> Any:
        """At most one of the four says which course."""
        if sum(bool(facts.get(name)) for name in ("course", *WAYS)) > 1:
            raise serializers.ValidationError(
                "Say at most one of course, title, copy_of, section_of."
            )
        return facts


class NewSetUpSerializer(serializers.Serializer[Any]):
    """Which shells, and the agreement that each is read and written."""

    sections = serializers.ListField(
        child=WantedSectionSerializer(), min_length=1, max_length=MOST_SHELLS
    )
    agree = serializers.BooleanField(default=False)


class OwnWishesSerializer(serializers.Serializer[Any]):
    """What holds in one shell only; items are the first section's."""

    folders = serializers.DictField(child=serializers.CharField(max_length=255), default=dict)
    wishes = serializers.DictField(child=WishSerializer(), default=dict)
    without = serializers.ListField(child=serializers.UUIDField(), default=list, max_length=2000)


class SetUpWishesSerializer(SheetSerializer):
    """What is wanted: the fields of a sheet (into folders by unit where nothing is said), and what
    goes on after placing.
    """

    items = serializers.ListField(
        child=serializers.UUIDField(),
        default=list,
        max_length=2000,
        help_text="of the first section's course; none: all graded ones",
    )
    shifts = serializers.DictField(
        child=serializers.IntegerField(min_value=-LONGEST_SHIFT, max_value=LONGEST_SHIFT),
        default=dict,
        help_text="days by which a shell's dates are moved, by its id",
    )
    start = serializers.DateField(
        default=None,
        allow_null=True,
        help_text="a day of the term's first week: dates move there by whole weeks",
    )
    own = serializers.DictField(
        child=OwnWishesSerializer(),
        default=dict,
        help_text="what holds in one shell only, by its id",
    )
    complete = serializers.BooleanField(
        default=False,
        help_text="this is all that should be: remove other links, fix what changed",
    )
    into = serializers.ChoiceField(list(get_args(Into)), default="unit")
    scores = serializers.ChoiceField(SetUp.Scores.choices, default=SetUp.Scores.SUBMISSION)
    access = serializers.ChoiceField(["", "code", "fee", "free"], default="", allow_blank=True)
    navigation = serializers.BooleanField(
        default=False, help_text="learners find Venn Pair in the navigation"
    )
    way = serializers.ChoiceField(
        SetUp.Way.choices,
        default=SetUp.Way.COLUMNS,
        help_text="a column for each graded item; links with one average column; or one link to the"
        " course. Where items are named, they are placed",
    )
    total = serializers.CharField(
        default="",
        allow_blank=True,
        max_length=255,
        help_text="title of a column with a total of all, kept up while the relay is on",
    )
    readings = serializers.BooleanField(
        default=False, help_text="readings and videos come along, in the folders of their units"
    )
    columns_shown = serializers.BooleanField(
        default=True, help_text="learners see the scores of new columns at once"
    )
    review = serializers.ChoiceField(
        list(get_args(Treatment)),
        default="keep",
        help_text="units that repeat or are optional: like others, hidden from learners, or left"
        " out",
    )


class FolderGuessSerializer(serializers.Serializer[Any]):
    """The folder guessed for a unit; ``node`` is its id where it is there already."""

    unit = serializers.CharField()
    folder = serializers.CharField()
    node = serializers.CharField()
    why = serializers.CharField()


class RemovalSerializer(serializers.Serializer[Any]):
    """A placed link that would be taken back, and why."""

    placement = serializers.UUIDField(source="placement.pk")
    title = serializers.CharField(source="placement.title")
    why = serializers.CharField()


class PlannedDriftSerializer(serializers.Serializer[Any]):
    """A change in the shell that would be put right."""

    placement = serializers.CharField()
    kind = serializers.CharField()
    title = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()
    who = serializers.CharField()


class SettingSerializer(serializers.Serializer[Any]):
    """Something of the pairing that would change: relay, scores or access."""

    what = serializers.CharField()
    before = serializers.CharField()
    after = serializers.CharField()


class SectionPlanSerializer(serializers.Serializer[Any]):
    """What will happen in one section: in a sentence, and item by item. ``shift`` is proposed, in
    days; it is used where ``start`` was given.
    """

    shell = serializers.UUIDField(source="section.shell_id")
    name = serializers.CharField(source="section.name")
    sentence = serializers.CharField()
    shift = serializers.IntegerField()
    folders = FolderGuessSerializer(many=True)
    plan = PlanSerializer(source="planned", allow_null=True)
    writes = serializers.BooleanField()
    removals = RemovalSerializer(source="beside.removals", many=True)
    drifts = PlannedDriftSerializer(source="beside.drifts", many=True)
    settings = SettingSerializer(source="beside.settings", many=True)
    total = serializers.CharField(help_text="title of the column with a total that is made")
    review = serializers.IntegerField(help_text="items of units that repeat or are optional")
    readings = serializers.IntegerField(help_text="readings and videos that the shell has not")
    message = serializers.CharField(help_text="why a section that is ready cannot be written to")
    remedy = serializers.CharField(help_text="what to do about that")
    there = serializers.IntegerField(help_text="links that are in the shell already")
    brings = serializers.IntegerField(help_text="those that would be brought in")


class SetUpPlanSerializer(serializers.Serializer[Any]):
    """The plan of every section."""

    sections = SectionPlanSerializer(many=True)


def wishes_of(asked: dict[str, Any]) -> Wishes:
    """Return what was asked for as the actions take it."""
    return Wishes(
        sheet_of(asked),
        tuple(str(each) for each in asked["items"]),
        asked["shifts"],
        asked["start"],
        asked["scores"],
        asked["access"],
        asked["navigation"],
        {
            shell: OwnWishes(
                own["folders"],
                {item: Wish(**wish) for item, wish in own["wishes"].items()},
                frozenset(str(each) for each in own["without"]),
            )
            for shell, own in asked["own"].items()
        },
        asked["complete"],
        asked["way"],
        asked["total"],
        asked["review"],
        asked["readings"],
        asked["columns_shown"],
    )


class SetUpViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, Viewset):
    """One's own set-ups, the newest first."""

    queryset = SetUp.objects.none()
    serializer_class = SetUpSerializer
    ordering = ("-made_at", "id")

    def get_queryset(self) -> QuerySet[SetUp]:
        """Return one's own."""
        mine = SetUp.objects.filter(made_by=self.user)
        return mine.prefetch_related("sections__shell") if self.action == "list" else mine

    def get_serializer_class(self) -> Any:
        """Lists leave out how far each section is."""
        return SetUpRowSerializer if self.action == "list" else SetUpSerializer

    @extend_schema(request=NewSetUpSerializer, responses={201: SetUpSerializer})
    def create(self, request: Request) -> Response:
        """Pair each shell that is not paired, and begin to read the courses. Nothing is written to
        a shell before the set-up is started.
        """
        asked = read(NewSetUpSerializer, request)
        wanted = {each["shell"]: self._wanted(each) for each in asked["sections"]}
        set_up = begin_set_up(
            self._guessed(list(wanted.values())), self.user, agreeing=asked["agree"]
        )
        return Response(SetUpSerializer(set_up).data, status=201)

    @extend_schema(request=None, responses={204: None})
    def destroy(self, request: Request, pk: str) -> Response:
        """Forget a set-up that was never started; what it paired stays paired."""
        forget_set_up(self.get_object())
        return Response(status=204)

    @extend_schema(request=SetUpWishesSerializer, responses=SetUpPlanSerializer)
    @action(detail=True, methods=["post"])
    def plan(self, request: Request, pk: str) -> Response:
        """Say what would happen in every section; change nothing."""
        wishes = wishes_of(read(SetUpWishesSerializer, request))
        planned = plan_set_up(self.get_object(), wishes, self.user)
        return Response(SetUpPlanSerializer({"sections": planned}).data)

    @extend_schema(request=SetUpWishesSerializer, responses={202: SetUpSerializer})
    @action(detail=True, methods=["post"])
    def start(self, request: Request, pk: str) -> Response:
        """Begin with every section that is ready."""
        set_up = self.get_object()
        start_set_up(set_up, wishes_of(read(SetUpWishesSerializer, request)), self.user)
        return self._shown(set_up)

    @extend_schema(request=None, responses={202: SetUpSerializer})
    @action(detail=True, methods=["post"])
    def stop(self, request: Request, pk: str) -> Response:
        """Ask it to stop; what is in flight is finished first."""
        set_up = self.get_object()
        stop_set_up(set_up)
        return self._shown(set_up)

    @extend_schema(request=None, responses={202: SetUpSerializer})
    @action(detail=True, methods=["post"])
    def undo(self, request: Request, pk: str) -> Response:
        """Begin taking back all that it did, where that is safe."""
        set_up = self.get_object()
        undo_set_up(set_up, self.user)
        return self._shown(set_up)

    def _shown(self, set_up: SetUp) -> Response:
        set_up.refresh_from_db()
        return Response(SetUpSerializer(set_up).data, status=202)

    def _wanted(self, asked: dict[str, Any]) -> Wanted:
        """Return what is wanted of a shell. Raises Http404 for what the user may not see."""
        shells = shells_for(self.user).select_related("platform__institution")
        courses = courses_for(self.user)
        course, way = asked.get("course"), next((name for name in WAYS if asked.get(name)), "")
        sources: Any = titles_for(self.user) if way == "title" else courses
        return Wanted(
            get_object_or_404(shells, pk=asked["shell"]),
            get_object_or_404(courses, pk=course) if course else None,
            asked["share"],
            way,
            get_object_or_404(sources, pk=asked[way]) if way else None,
            asked["name"],
        )

    def _guessed(self, wanted: list[Wanted]) -> list[Wanted]:
        """Fill in the course that fits where none was named and the shell is not paired."""
        open_ = [
            each.shell
            for each in wanted
            if each.course is None
            and each.source is None
            and not each.shell.pairings.exclude(state="ended").exists()
        ]
        named = [each.course.pk for each in wanted if each.course is not None]
        rows = propose_for(self.user, open_, named) if open_ else []
        guessed = {row.shell.pk: row.course for row in rows}
        return [replace(each, course=each.course or guessed.get(each.shell.pk)) for each in wanted]
