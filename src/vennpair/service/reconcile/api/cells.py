"""One cell: its story on one time line, and the notes that people left on it."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.reconcile.actions.leave_note import leave_note, take_note_away
from vennpair.service.reconcile.cell_timeline import story_of
from vennpair.service.reconcile.models import Note


class CellEventSerializer(serializers.Serializer[Any]):
    """One thing that happened: ``side`` is publisher, venn or gradebook.

    A score where it brought one.
    """

    at = serializers.DateTimeField()
    side = serializers.ChoiceField(["publisher", "venn", "gradebook"])
    what = serializers.CharField()
    score = serializers.CharField(allow_null=True)
    points = serializers.CharField(allow_null=True)
    share = serializers.FloatField(allow_null=True)
    words = serializers.CharField()


class NoteSerializer(serializers.ModelSerializer[Note]):
    """A word that somebody left on a cell."""

    author = serializers.CharField(source="author.username", default="")
    item = serializers.CharField(source="placement.title")
    learner_name = serializers.CharField(source="learner.name")

    class Meta:
        model = Note
        fields = read_only_fields = [
            "id",
            "placement",
            "learner",
            "item",
            "learner_name",
            "text",
            "author",
            "at",
        ]


class CellStorySerializer(serializers.Serializer[Any]):
    """Everything that is known of one cell, the oldest first, and what is there by the last
    comparison. ``review`` opens what the learner handed in, empty where the publisher shows it not.
    """

    item = serializers.CharField()
    learner = serializers.CharField()
    points = serializers.CharField(allow_null=True)
    kind = serializers.CharField(allow_blank=True)
    review = serializers.CharField(allow_blank=True)
    events = CellEventSerializer(many=True)
    notes = NoteSerializer(many=True)


class CellViewset(OfPairing):
    """One cell by its item's placement and its learner."""

    queryset = Note.objects.none()
    serializer_class = CellStorySerializer
    lookup_value_converter = "uuid"

    @extend_schema(responses=CellStorySerializer)
    def retrieve(self, request: Request, pairing_pk: str, placement: str, pk: str) -> Response:
        """Return the cell's story."""
        pairing = self.pairing()
        place = get_object_or_404(pairing.placements, pk=placement)
        learner = get_object_or_404(pairing.shell.learners, pk=pk)
        return Response(CellStorySerializer(story_of(pairing, place, learner)).data)


class NewNoteSerializer(serializers.Serializer[Any]):
    """A note on a cell."""

    placement = serializers.UUIDField()
    learner = serializers.UUIDField()
    text = serializers.CharField(max_length=1000)


class NoteViewset(mixins.ListModelMixin, OfPairing):
    """Notes of a pairing, the oldest first."""

    assistants_may = frozenset({"create", "destroy"})
    queryset = Note.objects.none()
    ordering = ("pk",)
    serializer_class = NoteSerializer
    lookup_value_converter = "int"

    def in_pairing(self) -> QuerySet[Note]:
        """Return the pairing's notes."""
        return self.pairing().notes.select_related("author", "placement", "learner")

    @extend_schema(request=NewNoteSerializer, responses={201: NoteSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Leave a note."""
        pairing, asked = self.pairing(), read(NewNoteSerializer, request)
        place = get_object_or_404(pairing.placements, pk=asked["placement"])
        learner = get_object_or_404(pairing.shell.learners, pk=asked["learner"])
        return Response(
            NoteSerializer(leave_note(pairing, place, learner, asked["text"], self.user)).data,
            status=201,
        )

    @extend_schema(responses={204: None})
    def destroy(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Take a note away."""
        take_note_away(self.get_object(), self.user)
        return Response(status=204)
