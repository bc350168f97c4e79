"""The audit trail of a pairing."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from rest_framework import mixins, serializers

from vennpair.service.activity.models import Event
from vennpair.service.api.nested import OfPairing


class EventSerializer(serializers.ModelSerializer[Event]):
    """One thing that was done."""

    actor = serializers.SerializerMethodField()

    class Meta:
        model = Event
        fields = read_only_fields = ["id", "at", "actor", "verb", "sentence", "before", "after"]

    def get_actor(self, event: Event) -> str:
        """Return who did it."""
        return event.actor.shown_name if event.actor else "Venn Pair"


class EventViewset(mixins.ListModelMixin, OfPairing):
    """What was done, newest first."""

    serializer_class = EventSerializer
    queryset = Event.objects.none()

    def get_queryset(self) -> QuerySet[Event]:
        """Return the pairing's events."""
        return self.pairing().events.select_related("actor") if "pairing_pk" in self.kwargs else self.queryset

    def paginate_queryset(self, queryset: QuerySet[Event]) -> Any:
        """Page by time."""
        self.paginator.ordering = ("-id",)  # type: ignore[union-attr]
        return super().paginate_queryset(queryset)
