"""Pairings: make, look, foresee, change."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.utils.translation import get_language
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.actions.change_pairing import change_state, foresee, turn_relay
from vennpair.service.pair.actions.pair_course import SET_UP, WAYS, pair_course, pair_new
from vennpair.service.pair.actions.pair_several import Outcome, pair_several, propose_for
from vennpair.service.pair.actions.place_first_steps import choose_first_steps, write_first_steps
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell, Title
from vennpair.service.pair.queries import (
    courses_for,
    may_change,
    pairings_for,
    require_instructor,
    shells_for,
    titles_for,
)

MOST_SHELLS = 50


class PairedCourseSerializer(serializers.ModelSerializer[HomeworkCourse]):
    """The homework course of a pairing."""

    publisher = serializers.CharField(source="publisher.name", read_only=True)

    class Meta:
        model = HomeworkCourse
        fields = read_only_fields = ["id", "title", "code", "term", "publisher"]


class PairedShellSerializer(serializers.ModelSerializer[Shell]):
    """The shell of a pairing; ``timezone`` is the course's, else the institution's."""

    timezone = serializers.CharField(source="zone", read_only=True)
    platform = serializers.CharField(source="platform.name", read_only=True)

    class Meta:
        model = Shell
        fields = read_only_fields = ["id", "title", "label", "timezone", "platform"]


class PairingSerializer(serializers.ModelSerializer[Pairing]):
    """One shell joined to one homework course.

    ``set_up`` is the job that sets it up, where there was one.
    """

    shell = PairedShellSerializer(read_only=True)
    course = PairedCourseSerializer(read_only=True)
    may_change = serializers.SerializerMethodField()
    set_up = serializers.SerializerMethodField()

    class Meta:
        model = Pairing
        fields = read_only_fields = [
            "id",
            "state",
            "relay_on",
            "access",
            "shell",
            "course",
            "made_at",
            "ended_at",
            "may_change",
            "set_up",
        ]

    def get_may_change(self, pairing: Pairing) -> bool:
        """Say whether the user may change things."""
        return may_change(self.context["request"].user, pairing.shell)

    def get_set_up(self, pairing: Pairing) -> JobSerializer(allow_null=True):  # type: ignore[valid-type]
        """Return the set-up's job."""
        job = Job.objects.filter(pairing=pairing, kind=SET_UP).order_by("-made_at").first()
        return JobSerializer(job).data if job else None


class NewPairingSerializer(serializers.Serializer[Any]):
    """Which shell with which course; or let the publisher make one: of a ``title``, as a
    ``copy_of`` or ``section_of`` a course.
    """

    shell = serializers.UUIDField()
    course = serializers.UUIDField(required=False)
    title = serializers.UUIDField(required=False)
    copy_of = serializers.UUIDField(required=False)
    section_of = serializers.UUIDField(required=False)
    name = serializers.CharField(
        max_length=200,
        required=False,
        allow_blank=True,
        default="",
        help_text="what the publisher shall call a course that it makes",
    )
    share = serializers.BooleanField(
        default=False,
        help_text="share a course that another shell has, where its publisher allows that",
    )
    agree = serializers.BooleanField(
        default=False, help_text="agree to what /shells/{id}/consent lists, if nobody has"
    )

    def validate(self, facts: Any) -> Any:
        """Exactly one of the four says which course."""
        if sum(name in facts for name in ("course", *WAYS)) != 1:
            raise serializers.ValidationError(
                "Say exactly one of course, title, copy_of, section_of."
            )
        return facts


class ChangePairingSerializer(serializers.Serializer[Any]):
    """What to change; what is left out stays.

    An ended pairing is taken up again by ``paused``, within 30 days.
    """

    state = serializers.ChoiceField(["live", "paused", "ended"], required=False)
    relay_on = serializers.BooleanField(required=False)


class ConsequencesSerializer(serializers.Serializer[Any]):
    """What a change of state does to links, columns and scores, in sentences."""

    state = serializers.ChoiceField(Pairing.State.choices)
    consequences = serializers.ListField(child=serializers.CharField())


class FirstStepsSerializer(serializers.Serializer[Any]):
    """What learners are told first; ``html`` is safe to show.

    ``chosen`` is how access is paid, as last chosen; ``job`` places the page, where that was asked
    for.
    """

    access = serializers.ChoiceField(["code", "fee", "free"])
    chosen = serializers.CharField()
    title = serializers.CharField()
    text = serializers.CharField()
    html = serializers.CharField()
    job = JobSerializer(allow_null=True)


class ChooseFirstStepsSerializer(serializers.Serializer[Any]):
    """How access is paid, and whether the page is placed in the shell."""

    access = serializers.ChoiceField(["code", "fee", "free"])
    place = serializers.BooleanField(default=False)


class PairSerializer(serializers.Serializer[Any]):
    """One shell with one course."""

    shell = serializers.UUIDField()
    course = serializers.UUIDField()


class SeveralSerializer(serializers.Serializer[Any]):
    """The shells to guess for, or the pairs to make."""

    shells = serializers.ListField(
        child=serializers.UUIDField(), required=False, max_length=MOST_SHELLS
    )
    pairs = PairSerializer(many=True, required=False, max_length=MOST_SHELLS)  # type: ignore[call-arg]
    agree = serializers.BooleanField(default=False)


class SeveralRowSerializer(serializers.Serializer[Any]):
    """A shell with its course: guessed (``pairing`` null), paired, or refused with why."""

    shell = serializers.UUIDField()
    label = serializers.CharField()  # type: ignore[assignment]  # our word
    course = serializers.UUIDField(allow_null=True)
    course_name = serializers.CharField()
    reasons = serializers.ListField(child=serializers.CharField())
    pairing = serializers.UUIDField(allow_null=True)
    refused = serializers.CharField()


class PairingViewset(mixins.RetrieveModelMixin, Viewset):
    """Pairings of the user's shells."""

    serializer_class = PairingSerializer
    queryset = Pairing.objects.none()

    def get_queryset(self) -> QuerySet[Pairing]:
        """Return what the user may see."""
        return pairings_for(self.user)

    @extend_schema(request=NewPairingSerializer, responses={201: PairingSerializer})
    def create(self, request: Request) -> Response:
        """Pair a shell with a course, or let the publisher make one.

        Then ``set_up`` is the job that does it.
        """
        facts = read(NewPairingSerializer, request)
        shell = get_object_or_404(
            shells_for(self.user).select_related("platform__institution"), pk=facts["shell"]
        )
        if "course" in facts:
            made = pair_course(
                shell,
                get_object_or_404(courses_for(self.user), pk=facts["course"]),
                self.user,
                agreeing=facts["agree"],
                sharing=facts["share"],
            )
        else:
            way = next(name for name in WAYS if name in facts)
            source: Title | HomeworkCourse
            if way == "title":
                source = get_object_or_404(titles_for(self.user), pk=facts[way])
            else:
                source = get_object_or_404(courses_for(self.user), pk=facts[way])
            made = pair_new(
                shell, way, source, self.user, name=facts["name"], agreeing=facts["agree"]
            )
        return Response(self.get_serializer(made).data, status=201)

    @extend_schema(request=ChangePairingSerializer, responses=PairingSerializer)
    def partial_update(self, request: Request, pk: str) -> Response:
        """Turn the relay on or off, pause, resume, end, or take up again."""
        asked = read(ChangePairingSerializer, request)
        pairing = self.get_object()
        require_instructor(self.user, pairing.shell)
        if "state" in asked:
            pairing = change_state(pairing, asked["state"], self.user)
        if "relay_on" in asked:
            pairing = turn_relay(pairing, asked["relay_on"], self.user)
        return Response(self.get_serializer(pairing).data)

    @extend_schema(
        parameters=[
            OpenApiParameter("state", str, required=True, enum=["live", "paused", "ended"])
        ],
        responses=ConsequencesSerializer,
    )
    @action(detail=True)
    def consequences(self, request: Request, pk: str) -> Response:
        """Say what a change of state would do, and change nothing."""
        pairing, target = self.get_object(), request.query_params.get("state", "")
        if target not in {"live", "paused", "ended"}:
            raise Refused(
                "invalid",
                "Which state? It is one of live, paused, ended.",
                "Name it as ?state=ended.",
                400,
            )
        return Response({"state": target, "consequences": foresee(pairing, target)})

    @extend_schema(
        methods=["GET"],
        parameters=[OpenApiParameter("access", str, enum=["code", "fee", "free"])],
        responses=FirstStepsSerializer,
    )
    @extend_schema(
        methods=["POST"], request=ChooseFirstStepsSerializer, responses=FirstStepsSerializer
    )
    @action(detail=True, methods=["get", "post"], url_path="first-steps")
    def first_steps(self, request: Request, pk: str) -> Response:
        """See what learners are told first; choose it, and place it in the shell as a page, in the
        language of the request.
        """
        pairing, job = self.get_object(), None
        spoken = get_language() or ""
        if request.method == "POST":
            require_instructor(self.user, pairing.shell)
            asked = read(ChooseFirstStepsSerializer, request)
            access = asked["access"]
            job = choose_first_steps(pairing, access, asked["place"], self.user, spoken)
            pairing.access = access
        else:
            access = request.query_params.get("access") or pairing.access or "code"
            ChooseFirstStepsSerializer(data={"access": access}).is_valid(raise_exception=True)
        page = write_first_steps(pairing, access, spoken)
        return Response(
            FirstStepsSerializer(
                {
                    "access": access,
                    "chosen": pairing.access,
                    "title": page.title,
                    "text": page.text,
                    "html": page.html,
                    "job": job,
                }
            ).data
        )

    @extend_schema(request=SeveralSerializer, responses=SeveralRowSerializer(many=True))
    @action(detail=False, methods=["post"], pagination_class=None)
    def several(self, request: Request) -> Response:
        """With ``shells``: guess a course for each, change nothing.

        With ``pairs``: pair each; one refused keeps none back.
        """
        facts = read(SeveralSerializer, request)
        if "pairs" in facts:
            pairs = [
                (
                    self._shell(request, each["shell"]),
                    get_object_or_404(courses_for(self.user), pk=each["course"]),
                )
                for each in facts["pairs"]
            ]
            rows = [
                _outcome(course, done)
                for (_, course), done in zip(
                    pairs, pair_several(pairs, self.user, agreeing=facts["agree"]), strict=True
                )
            ]
        else:
            shells = [self._shell(request, pk) for pk in facts.get("shells", [])]
            rows = [_guess(each) for each in propose_for(self.user, shells)]
        return Response(SeveralRowSerializer(rows, many=True).data)

    def _shell(self, request: Request, pk: Any) -> Shell:
        return get_object_or_404(
            shells_for(self.user).select_related("platform__institution"), pk=pk
        )


def _guess(row: Any) -> dict[str, Any]:
    course = row.course
    return {
        "shell": row.shell.pk,
        "label": row.shell.label or row.shell.title,
        "course": course.pk if course else None,
        "course_name": _name(course),
        "reasons": row.reasons,
        "pairing": None,
        "refused": "",
    }


def _outcome(course: HomeworkCourse, done: Outcome) -> dict[str, Any]:
    refused = f"{done.refused.message} {done.refused.remedy}" if done.refused else ""
    facts = {
        "shell": done.shell.pk,
        "label": done.shell.label or done.shell.title,
        "course": course.pk,
        "course_name": _name(course),
    }
    return facts | {
        "reasons": [],
        "pairing": done.pairing.pk if done.pairing else None,
        "refused": refused,
    }


def _name(course: HomeworkCourse | None) -> str:
    return f"{course.title}, {course.code}, {course.term}" if course else ""
