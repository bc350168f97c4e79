"""Homework courses and adopted titles, searched as one types."""

from __future__ import annotations

from typing import Any, cast

from django.db.models import QuerySet
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import mixins, serializers
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.pair.guess import CourseFacts, likeness
from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.web.paging import ByKey
from vennpair.service.pair.actions.refresh_courses import refresh_courses
from vennpair.service.pair.models import HomeworkCourse, Shell, Title
from vennpair.service.pair.queries import courses_listed, shells_for, titles_for


class CourseSerializer(serializers.ModelSerializer[HomeworkCourse]):
    """A homework course.

    ``fit`` (0 to 1) and ``reasons`` say how well it suits the shell asked for; ``mine`` that one
    teaches it.
    """

    publisher = serializers.CharField(source="publisher.name", read_only=True)
    paired = serializers.BooleanField(read_only=True, default=False)
    mine = serializers.BooleanField(read_only=True, default=False)
    offers = serializers.ListField(
        source="publisher.features", child=serializers.CharField(), read_only=True
    )
    fit = serializers.FloatField(read_only=True, default=0.0)
    reasons = serializers.ListField(child=serializers.CharField(), read_only=True, default=list)

    class Meta:
        model = HomeworkCourse
        fields = read_only_fields = [
            "id",
            "title",
            "author",
            "isbn",
            "code",
            "section",
            "term",
            "learners",
            "publisher",
            "paired",
            "mine",
            "shared",
            "offers",
            "fit",
            "reasons",
        ]


class TitleSerializer(serializers.ModelSerializer[Title]):
    """An adopted title; ``can_create`` says whether its publisher makes a course of it here,
    ``why_not`` why it does not.
    """

    publisher = serializers.CharField(source="publisher.name", read_only=True)
    can_create = serializers.SerializerMethodField()
    why_not = serializers.SerializerMethodField()

    class Meta:
        model = Title
        fields = read_only_fields = [
            "id",
            "title",
            "author",
            "isbn",
            "edition",
            "publisher",
            "can_create",
            "why_not",
        ]

    def get_can_create(self, title: Title) -> bool:
        """Say whether a course can be made of it here."""
        return "create" in title.publisher.features

    def get_why_not(self, title: Title) -> str:
        """Return why not, or nothing."""
        return (
            ""
            if self.get_can_create(title)
            else (
                f"{title.publisher.name} does not let Venn Pair make courses; make it there, then"
                " choose it here."
            )
        )


class BestFirst(ByKey):
    """Best fitting first; many courses may fit equally well, so ties go further than usual."""

    ordering: str | tuple[str, ...] = ("-fit", "title", "code", "pk")
    offset_cutoff = 20_000
    unread: list[tuple[Any, Any]] = []

    def get_paginated_response(self, data: Any) -> Response:
        """Add which publishers could not be read just now."""
        response = super().get_paginated_response(data)
        response.data["unread"] = [
            {"publisher": publisher.name, "message": failure.message, "remedy": failure.remedy}
            for publisher, failure in self.unread
        ]
        return response

    def get_paginated_response_schema(self, schema: Any) -> Any:
        """Describe it."""
        described = super().get_paginated_response_schema(schema)
        text = {"type": "string"}
        row = {
            "type": "object",
            "required": ["publisher", "message", "remedy"],
            "properties": {"publisher": text, "message": text, "remedy": text},
        }
        described["properties"]["unread"] = {
            "type": "array",
            "items": row,
            "description": "publishers that could not be read just now",
        }
        described["required"].append("unread")
        return described


class CourseViewset(mixins.ListModelMixin, Viewset):
    """The institution's homework courses, read from its publishers."""

    serializer_class = CourseSerializer
    queryset = HomeworkCourse.objects.none()
    pagination_class = BestFirst

    @extend_schema(
        parameters=[
            OpenApiParameter(
                "q",
                str,
                description="words that title, author, ISBN, code, section or term must hold",
            ),
            OpenApiParameter("shell", str, description="rank by how well they suit this shell"),
            OpenApiParameter(
                "mine", bool, description="only those that one teaches, by one's linked account"
            ),
            OpenApiParameter("refresh", bool, description="ask the publishers again now"),
        ],
        responses=CourseSerializer(many=True),
    )
    def list(self, request: Request) -> Response:
        """List courses; with ``shell`` the best fitting first."""
        asked = request.query_params
        if not asked.get("cursor"):
            pages = cast("BestFirst", self.paginator)
            pages.unread = refresh_courses(self.institution, force=asked.get("refresh") == "true")
        shell = (
            get_object_or_404(shells_for(self.user), pk=asked["shell"])
            if asked.get("shell")
            else None
        )
        found = courses_listed(self.user, asked.get("q", ""), shell)
        page = self.paginate_queryset(
            found.filter(mine=True) if asked.get("mine") == "true" else found
        )
        return self.get_paginated_response([_row(row, shell) for row in page or []])


class TitleViewset(mixins.ListModelMixin, Viewset):
    """The titles that the institution has adopted."""

    serializer_class = TitleSerializer
    queryset = Title.objects.none()
    pagination_class = ByKey

    @extend_schema(
        parameters=[
            OpenApiParameter("q", str, description="words that title, author or ISBN must hold")
        ],
        responses=TitleSerializer(many=True),
    )
    def list(self, request: Request) -> Response:
        """List titles."""
        return super().list(request)

    def get_queryset(self) -> QuerySet[Title]:
        """Return the institution's."""
        return titles_for(self.user, self.request.query_params.get("q", ""))


def _row(row: dict[str, Any], shell: Shell | None) -> dict[str, Any]:
    """Write one row as CourseSerializer describes it.

    Its own machinery would take longer than the search.
    """
    like = (
        likeness(
            CourseFacts(shell.title, shell.label),
            CourseFacts(row["title"], row["code"], row["term"]),
        )
        if shell
        else None
    )
    named = {"publisher": row.pop("publisher__name"), "offers": row.pop("publisher__features")}
    return (
        row
        | named
        | {
            "fit": like.score if like else 0.0,
            "reasons": list(like.reasons) if like else [],
        }
    )
