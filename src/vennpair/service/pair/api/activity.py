"""The audit trail of a pairing, and notices."""

from __future__ import annotations

from django.db.models import QuerySet
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.audit.models import Event, Notice
from vennpair.service.pair.api.nested import OfPairing


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
    ordering = ("-id",)

    def in_pairing(self) -> QuerySet[Event]:
        """Return the pairing's events."""
        return self.pairing().events.select_related("actor")


class NoticeSerializer(serializers.ModelSerializer[Notice]):
    """A word to the user that something is ready or needs them.

    ``link`` leads to it in the console.
    """

    class Meta:
        model = Notice
        fields = read_only_fields = ["id", "at", "sentence", "link", "read_at"]


class NoticeViewset(mixins.ListModelMixin, Viewset):
    """One's own notices, newest first."""

    serializer_class = NoticeSerializer
    queryset = Notice.objects.none()
    ordering = ("-id",)
    lookup_value_converter = "int"

    def get_queryset(self) -> QuerySet[Notice]:
        """Return one's own."""
        return Notice.objects.filter(user=self.user)

    @extend_schema(request=None, responses={204: None})
    @action(detail=False, methods=["post"])
    def read(self, request: Request) -> Response:
        """Mark all as read."""
        self.get_queryset().filter(read_at=None).update(read_at=timezone.now())
        return Response(status=204)
