"""All pairings at a glance: how far each agrees, what is open by cause, and for how long."""

from __future__ import annotations

from typing import Any

from django.db.models import Exists, OuterRef, Q, QuerySet
from django.utils import timezone
from django_filters import rest_framework as filters
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.reconcile.comparison_status import standing
from vennpair.service.connect.api.base import Viewset
from vennpair.service.pair.models import Pairing, ShellRole
from vennpair.service.reconcile.actions.compare_many import ask_for_comparisons
from vennpair.service.reconcile.queries import agreement_listed, comparable

MOST_WORDS = 8  # of a search; more say nothing new


class AgreementSerializer(serializers.Serializer[Any]):
    """One pairing: ``cells`` compared and how many ``agree``; ``open`` findings by kind, ``urgent``
    of them no mere notes, ``oldest`` since when.

    ``standing`` is waiting (for its platform to have room), comparing, failed, compared or never;
    ``trouble`` says why it failed.
    """

    pairing = serializers.UUIDField(source="pk")
    shell = serializers.SerializerMethodField()
    course = serializers.CharField(source="course.title")
    platform = serializers.CharField(source="shell.platform.name")
    publisher = serializers.CharField(source="course.publisher.name")
    state = serializers.ChoiceField(Pairing.State.choices)
    teachers = serializers.SerializerMethodField()
    standing = serializers.SerializerMethodField()
    trouble = serializers.SerializerMethodField()
    at = serializers.DateTimeField(source="compared_at", allow_null=True)
    cells = serializers.SerializerMethodField()
    agree = serializers.SerializerMethodField()
    urgent = serializers.IntegerField()
    open = serializers.SerializerMethodField()
    oldest = serializers.SerializerMethodField()

    def get_shell(self, row: Any) -> str:
        """Return the shell's label, else its title."""
        return str(row.shell.label or row.shell.title)

    def get_teachers(self, row: Any) -> list[str]:
        """Return who teaches it."""
        return [role.user.shown_name for role in row.shell.teaching]

    def get_standing(self, row: Any) -> str:
        """Return how far its comparison is."""
        return standing(
            row.last_state, asked=row.asked is not None, compared=row.compared_at is not None
        )

    def get_trouble(self, row: Any) -> str:
        """Return why the last comparison failed or waits."""
        return row.last_message if self.get_standing(row) == "failed" else ""

    def get_cells(self, row: Any) -> int:
        """Return how many cells were compared."""
        return int((row.compared or {}).get("cells", 0))

    def get_agree(self, row: Any) -> int:
        """Return how many of them agree."""
        return int((row.compared or {}).get("kinds", {}).get("agree", 0))

    def get_open(self, row: Any) -> dict[str, int]:
        """Return what is open by kind."""
        return dict((row.compared or {}).get("open", {}))

    def get_oldest(self, row: Any) -> str | None:
        """Return since when the oldest urgent finding is open."""
        return (row.compared or {}).get("oldest")


class AgreementFilter(filters.FilterSet):
    """By words of its names, by the state of the pairing, by platform, and whether anything urgent
    is open.
    """

    q = filters.CharFilter(
        method="with_words", help_text="words that the shell, its course or a teacher must hold"
    )
    platform = filters.CharFilter(field_name="shell__platform__name")
    open = filters.BooleanFilter(method="only_open")

    class Meta:
        model = Pairing
        fields = ["state"]

    def with_words(self, queryset: QuerySet[Pairing], name: str, value: str) -> QuerySet[Pairing]:
        """Keep what holds every word, whatever its case, in one of its names."""
        for word in value.split()[:MOST_WORDS]:
            named = Q(shell__label__icontains=word) | Q(shell__title__icontains=word)
            taught = Exists(
                ShellRole.objects.filter(shell=OuterRef("shell"), role="instructor").filter(
                    Q(user__first_name__icontains=word) | Q(user__last_name__icontains=word)
                )
            )
            queryset = queryset.filter(named | Q(course__title__icontains=word) | taught)
        return queryset

    def only_open(self, queryset: QuerySet[Pairing], name: str, value: bool) -> QuerySet[Pairing]:
        """Keep what has urgent findings, or what has none."""
        wanted = Q(urgent__gt=0) if value else Q(urgent=0)  # annotated in the view
        return queryset.filter(wanted)


class CompareAllSerializer(serializers.Serializer[Any]):
    """How many pairings are being compared, a few of one platform at a time."""

    asked = serializers.IntegerField()


class AgreementViewset(mixins.ListModelMixin, Viewset):
    """Every pairing that one may see, what is most urgent first."""

    compares = frozenset({"create"})
    queryset = Pairing.objects.none()
    ordering = ("-urgent", "shell__label", "pk")
    serializer_class = AgreementSerializer
    filterset_class = AgreementFilter

    def get_queryset(self) -> QuerySet[Pairing]:
        """Return what the user may see."""
        return agreement_listed(self.user)

    @extend_schema(request=None, responses={202: CompareAllSerializer})
    def create(self, request: Request) -> Response:
        """Compare every live or paused pairing that one may see."""
        return Response(
            {"asked": ask_for_comparisons(comparable(self.user), self.user, timezone.now())},
            status=202,
        )
