"""The audit trail of an institution, for its administrators."""

from __future__ import annotations

import csv
import io
from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from django_filters.rest_framework import CharFilter, FilterSet, IsoDateTimeFilter
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request

from vennpair.core.reconcile.report.disarming import disarmed
from vennpair.service.connect.api.common import ForAdministrators
from vennpair.service.kernel.audit.models import Event

COLUMNS = ("number", "at", "who", "verb", "sentence", "seal")
MOST_ROWS = 100_000


class AuditEventSerializer(serializers.ModelSerializer[Event]):
    """One thing that was done; ``number`` and ``seal`` are its place in the chain, empty for half a
    minute.
    """

    actor = serializers.SerializerMethodField()

    class Meta:
        model = Event
        fields = read_only_fields = [
            "id",
            "at",
            "actor",
            "who",
            "verb",
            "sentence",
            "pairing",
            "before",
            "after",
            "number",
            "seal",
            "request",
        ]

    def get_actor(self, event: Event) -> str:
        """Return who did it, by the name that is shown."""
        return event.actor.shown_name if event.actor else (event.who or "Venn Pair")


class AuditFilter(FilterSet):
    """By the beginning of the verb, by who did it, and by time."""

    verb = CharFilter(lookup_expr="startswith")
    who = CharFilter(lookup_expr="iexact")
    since = IsoDateTimeFilter(field_name="at", lookup_expr="gte")
    until = IsoDateTimeFilter(field_name="at", lookup_expr="lt")


class AuditViewset(mixins.ListModelMixin, ForAdministrators):
    """Everything that was done in the institution, the newest first."""

    serializer_class = AuditEventSerializer
    queryset = Event.objects.none()
    filterset_class = AuditFilter
    ordering = ("-id",)

    def get_queryset(self) -> QuerySet[Event]:
        """Return the institution's events."""
        return Event.objects.filter(institution=self.institution).select_related("actor")

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.BINARY})
    @action(detail=False, pagination_class=None)
    def export(self, request: Request) -> HttpResponse:
        """Give them as a table, the oldest first: the last 100,000 of what the filter keeps."""
        rows = self.filter_queryset(self.get_queryset()).order_by("-id")[:MOST_ROWS]
        target = io.StringIO()
        writer = csv.writer(target)
        writer.writerow(COLUMNS)
        for event in reversed(list(rows)):
            facts: dict[str, Any] = {name: getattr(event, name) for name in COLUMNS}
            facts["at"] = event.at.isoformat()
            writer.writerow(
                [disarmed("" if each is None else str(each)) for each in facts.values()]
            )
        headers = {"Content-Disposition": 'attachment; filename="audit.csv"'}
        return HttpResponse(
            "\ufeff" + target.getvalue(), content_type="text/csv; charset=utf-8", headers=headers
        )
