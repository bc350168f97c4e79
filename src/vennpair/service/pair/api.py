"""Shells, homework courses and pairings."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.pair.attention import attention
from vennpair.core.pair.guess import CourseFacts, likeness
from vennpair.service.api.views import Viewset
from vennpair.service.pair.actions.change_pairing import change_state, turn_relay
from vennpair.service.pair.actions.check_readiness import check_readiness
from vennpair.service.pair.actions.pair_course import pair_course
from vennpair.service.pair.actions.refresh_courses import refresh_courses
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell
from vennpair.service.pair.queries import courses_for, may_change, pairings_for, require_instructor, shells_for, shells_listed


class CourseSerializer(serializers.ModelSerializer[HomeworkCourse]):
    """A homework course. ``fit`` (0 to 1) and ``reasons`` say how well it suits the shell asked for."""

    publisher = serializers.CharField(source="publisher.name", read_only=True)
    paired = serializers.BooleanField(read_only=True, default=False)
    fit = serializers.FloatField(read_only=True, default=0.0)
    reasons = serializers.ListField(child=serializers.CharField(), read_only=True, default=list)

    class Meta:
        model = HomeworkCourse
        fields = read_only_fields = ["id", "title", "code", "term", "learners", "publisher", "paired", "fit", "reasons"]


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


class ShellSerializer(serializers.ModelSerializer[Shell]):
    """A shell that the user teaches, with its current pairing's id and state where there is one."""

    platform = serializers.CharField(source="platform.name", read_only=True)
    pairing = serializers.SerializerMethodField()
    state = serializers.SerializerMethodField()
    course = serializers.SerializerMethodField()
    attention = serializers.SerializerMethodField()

    class Meta:
        model = Shell
        fields = read_only_fields = ["id", "title", "label", "timezone", "platform", "pairing", "state", "course", "attention"]

    def _current(self, shell: Shell) -> Pairing | None:
        return next(iter(shell.current), None)  # type: ignore[attr-defined]

    def get_pairing(self, shell: Shell) -> str | None:
        """Return the current pairing's id."""
        pairing = self._current(shell)
        return str(pairing.pk) if pairing else None

    def get_state(self, shell: Shell) -> str:
        """Return the current pairing's state, or ``unpaired``."""
        pairing = self._current(shell)
        return pairing.state if pairing else "unpaired"

    def get_course(self, shell: Shell) -> str:
        """Return the paired course's title and code."""
        pairing = self._current(shell)
        return f"{pairing.course.title}, {pairing.course.code}" if pairing else ""

    def get_attention(self, shell: Shell) -> str:
        """Return in a few words what needs attention, or nothing."""
        pairing = self._current(shell)
        summary = (pairing.compared if pairing else None) or {}  # type: ignore[attr-defined]
        apart = summary.get("cells", 0) - summary.get("kinds", {}).get("agree", 0)
        return attention(pairing.state if pairing else None, pairing.relay_on if pairing else False, apart)


class PairingSerializer(serializers.ModelSerializer[Pairing]):
    """One shell joined to one homework course."""

    shell = PairedShellSerializer(read_only=True)
    course = PairedCourseSerializer(read_only=True)
    may_change = serializers.SerializerMethodField()

    class Meta:
        model = Pairing
        fields = read_only_fields = ["id", "state", "relay_on", "shell", "course", "made_at", "may_change"]

    def get_may_change(self, pairing: Pairing) -> bool:
        """Say whether the user may change things."""
        return may_change(self.context["request"].user, pairing.shell)


class NewPairingSerializer(serializers.Serializer[Any]):
    """Which shell with which course."""

    shell = serializers.UUIDField()
    course = serializers.UUIDField()


class ChangePairingSerializer(serializers.Serializer[Any]):
    """What to change; what is left out stays."""

    state = serializers.ChoiceField(["live", "paused", "ended"], required=False)
    relay_on = serializers.BooleanField(required=False)


class CheckSerializer(serializers.Serializer[Any]):
    """One readiness check."""

    code = serializers.CharField()
    state = serializers.ChoiceField(["ok", "warn", "fail"])
    message = serializers.CharField()
    remedy = serializers.CharField()


class ShellViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, Viewset):
    """Every shell that the user teaches or assists in."""

    serializer_class = ShellSerializer
    queryset = Shell.objects.none()

    def get_queryset(self) -> QuerySet[Shell]:
        """Return what the user may see."""
        return shells_listed(self.request.user)


class CourseViewset(mixins.ListModelMixin, Viewset):
    """The institution's homework courses, read from its publishers."""

    serializer_class = CourseSerializer
    queryset = HomeworkCourse.objects.none()
    pagination_class = None
    MOST = 500

    @extend_schema(
        parameters=[
            OpenApiParameter("q", str, description="words that title, code or term must hold"),
            OpenApiParameter("shell", str, description="rank by how well they suit this shell"),
            OpenApiParameter("refresh", bool, description="ask the publishers again now"),
        ],
        responses=CourseSerializer(many=True),
    )
    def list(self, request: Request) -> Response:
        """List at most 500 courses; with ``shell`` the best fitting first."""
        refresh_courses(request.user.institution, force=request.query_params.get("refresh") == "true")
        found = list(courses_for(request.user, request.query_params.get("q", "")).order_by("title", "term", "code", "pk")[: self.MOST])
        if request.query_params.get("shell"):
            shell = get_object_or_404(shells_for(request.user), pk=request.query_params["shell"])
            _rank(found, shell)
            found.sort(key=lambda course: -course.fit)  # type: ignore[attr-defined]
        return Response(CourseSerializer(found, many=True).data)


class PairingViewset(mixins.RetrieveModelMixin, Viewset):
    """Pairings: make, look, change, check."""

    serializer_class = PairingSerializer
    queryset = Pairing.objects.none()

    def get_queryset(self) -> QuerySet[Pairing]:
        """Return what the user may see."""
        return pairings_for(self.request.user)

    @extend_schema(request=NewPairingSerializer, responses={201: PairingSerializer})
    def create(self, request: Request) -> Response:
        """Pair a shell with a course."""
        asked = NewPairingSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        shell = get_object_or_404(shells_for(request.user).select_related("platform__institution"), pk=asked.validated_data["shell"])
        course = get_object_or_404(courses_for(request.user), pk=asked.validated_data["course"])
        return Response(self.get_serializer(pair_course(shell, course, request.user)).data, status=201)

    @extend_schema(request=ChangePairingSerializer, responses=PairingSerializer)
    def partial_update(self, request: Request, pk: str) -> Response:
        """Turn the relay on or off, pause, resume or end."""
        asked = ChangePairingSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        pairing = self.get_object()
        require_instructor(request.user, pairing.shell)
        if "state" in asked.validated_data:
            pairing = change_state(pairing, asked.validated_data["state"], request.user)
        if "relay_on" in asked.validated_data:
            pairing = turn_relay(pairing, asked.validated_data["relay_on"], request.user)
        return Response(self.get_serializer(pairing).data)

    @extend_schema(responses=CheckSerializer(many=True))
    @action(detail=True, pagination_class=None)
    def readiness(self, request: Request, pk: str) -> Response:
        """Check what the pairing needs, now."""
        return Response(CheckSerializer(check_readiness(self.get_object()), many=True).data)


def _rank(courses: list[HomeworkCourse], shell: Shell) -> None:
    facts = CourseFacts(shell.title, shell.label)
    for course in courses:
        like = likeness(facts, CourseFacts(course.title, course.code, course.term))
        course.fit, course.reasons = like.score, list(like.reasons)  # type: ignore[attr-defined]
