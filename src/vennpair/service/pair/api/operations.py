"""Operations of all kinds: what ran, what waits and for whom, what failed and why."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django_filters.rest_framework import ChoiceFilter, FilterSet, UUIDFilter
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.jobs.models import UNFINISHED, Job
from vennpair.service.kernel.web.reading import read
from vennpair.service.operations.kinds import count_steps, kind_of, names
from vennpair.service.operations.steps import StepState
from vennpair.service.pair.actions.change_operation import (
    retry_operation,
    stop_operation,
    undo_operation,
)
from vennpair.service.pair.queries import pairings_for, require_instructor

STATES = ("proposed", "queued", "running", "waiting", "done", "failed", "stopped", "dismissed")
_OF_JOB = {"stopped": Job.State.CANCELLED}


class OperationSerializer(serializers.ModelSerializer[Job]):
    """What was, is or will be written outside, as one thing: ``done`` of ``total`` steps, how many
    steps are in which state, and what may be done with it. ``subject`` is the id of its rollout,
    delivery or settlement, ``link`` where the console shows that.
    """

    says = serializers.SerializerMethodField()
    shell = serializers.SerializerMethodField()
    state = serializers.SerializerMethodField()
    made_by = serializers.SerializerMethodField()
    undone = serializers.SerializerMethodField()
    counts = serializers.SerializerMethodField()
    may = serializers.SerializerMethodField()
    subject = serializers.SerializerMethodField()
    link = serializers.SerializerMethodField()

    class Meta:
        model = Job
        fields = read_only_fields = [
            "id",
            "kind",
            "says",
            "pairing",
            "shell",
            "state",
            "done",
            "total",
            "message",
            "remedy",
            "made_by",
            "made_at",
            "ended_at",
            "batch",
            "undoes",
            "undone",
            "counts",
            "may",
            "subject",
            "link",
        ]

    def get_says(self, job: Job) -> str:
        """Return what it does, as a title."""
        return kind_of(job).says(job)

    def get_shell(self, job: Job) -> str:
        """Return the shell's label, or its title."""
        return job.pairing.shell.label or job.pairing.shell.title

    @extend_schema_field({"type": "string", "enum": list(STATES)})
    def get_state(self, job: Job) -> str:
        """Return how far it is."""
        return "stopped" if job.state == Job.State.CANCELLED else str(job.state)

    def get_made_by(self, job: Job) -> str:
        """Return who asked for it; Venn Pair where a rule did."""
        return job.made_by.shown_name if job.made_by else "Venn Pair"

    def get_undone(self, job: Job) -> bool:
        """Say whether another operation has taken it back."""
        return any(each.state == Job.State.DONE for each in job.undone_by.all())

    @extend_schema_field({"type": "object", "additionalProperties": {"type": "integer"}})
    def get_counts(self, job: Job) -> Mapping[str, int]:
        """Return how many steps are in which state."""
        counted: Mapping[UUID, Mapping[str, int]] | None = self.context.get("counts")
        if counted is None:
            counted = count_steps([job])
        return dict(counted.get(job.pk, {}))

    @extend_schema_field(
        {"type": "array", "items": {"type": "string", "enum": ["stop", "retry", "undo"]}}
    )
    def get_may(self, job: Job) -> list[str]:
        """Return what it makes sense to ask for; whether something is left to do, asking tells."""
        if job.unfinished:
            return ["stop"]
        if job.state in {Job.State.PROPOSED, Job.State.DISMISSED}:
            return []
        counts = self.get_counts(job)
        again = job.state == Job.State.FAILED or counts.get("failed") or counts.get("stopped")
        back = counts.get(StepState.DONE) and job.undoes_id is None and not self.get_undone(job)
        return [name for name, may in (("retry", again), ("undo", back)) if may]

    def get_subject(self, job: Job) -> str:
        """Return the id of what it carries out."""
        return kind_of(job).subject(job)

    def get_link(self, job: Job) -> str:
        """Return where the console shows it."""
        return kind_of(job).link(job)


class OperationStepSerializer(serializers.Serializer[Any]):
    """One write: what it does to what, what was there before and what is there afterwards where
    that is a value, and what came of it. ``left``: nothing was written on purpose.
    """

    does = serializers.CharField()
    title = serializers.CharField()
    state = serializers.ChoiceField(StepState.choices)
    message = serializers.CharField()
    before = serializers.CharField(allow_null=True)
    after = serializers.CharField(allow_null=True)


class ReversalSerializer(serializers.Serializer[Any]):
    """What undoing would do with one thing; ``why`` says why it stays. ``shows``: it is in the
    shell already, and learners see it again.
    """

    title = serializers.CharField()
    does = serializers.CharField()
    why = serializers.CharField()
    shows = serializers.BooleanField()


class UndoOperationSerializer(serializers.Serializer[Any]):
    """Whether only to say what undoing would do."""

    dry_run = serializers.BooleanField(default=False)


class OperationFilter(FilterSet):
    """By pairing, state and kind; ``going``: what is not ended yet."""

    pairing = UUIDFilter()
    state = ChoiceFilter(choices=[(each, each) for each in (*STATES, "going")], method="in_state")
    kind = ChoiceFilter(choices=lambda: [(each, each) for each in names()])

    def in_state(self, rows: QuerySet[Job], name: str, value: str) -> QuerySet[Job]:
        """Keep those of a state."""
        if value == "going":
            return rows.filter(state__in=UNFINISHED)
        return rows.filter(state=_OF_JOB.get(value, value))


class OperationViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, Viewset):
    """Operations of the pairings that one may see, the newest first."""

    serializer_class = OperationSerializer
    queryset = Job.objects.none()
    filterset_class = OperationFilter
    ordering = ("-made_at", "pk")

    def get_queryset(self) -> QuerySet[Job]:
        """Return the jobs that write outside."""
        of = (
            "rollout",
            "delivery",
            "settlement",
            "made_by",
            "pairing__shell__platform__institution",
        )
        return (
            Job.objects.filter(kind__in=names(), pairing__in=pairings_for(self.user))
            .select_related(*of)
            .prefetch_related("undone_by")
        )

    def list(self, request: Request, *args: Any, **kwargs: Any) -> Response:
        """List them; the steps of a page are counted at once."""
        rows = self.paginate_queryset(self.filter_queryset(self.get_queryset())) or []
        context = {**self.get_serializer_context(), "counts": count_steps(rows)}
        shown = OperationSerializer(rows, many=True, context=context)
        return self.get_paginated_response(shown.data)

    @extend_schema(responses=OperationStepSerializer(many=True), filters=False)
    @action(detail=True, ordering=("position", "pk"))
    def steps(self, request: Request, pk: str) -> Response:
        """List its steps in their order, a page at a time."""
        job = self.get_object()
        kind = kind_of(job)
        rows = [kind.row(each) for each in self.paginate_queryset(kind.steps(job)) or []]
        return self.get_paginated_response(OperationStepSerializer(rows, many=True).data)

    @extend_schema(request=None, responses={202: OperationSerializer})
    @action(detail=True, methods=["post"])
    def stop(self, request: Request, pk: str) -> Response:
        """Stop; what is in flight is finished first."""
        return self._shown(stop_operation(self.get_object(), self.user))

    @extend_schema(request=None, responses={202: OperationSerializer})
    @action(detail=True, methods=["post"])
    def retry(self, request: Request, pk: str) -> Response:
        """Do again just what could not be done or was not begun."""
        return self._shown(retry_operation(self.get_object(), self.user))

    @extend_schema(
        request=UndoOperationSerializer,
        responses={200: ReversalSerializer(many=True), 202: OperationSerializer},
    )
    @action(detail=True, methods=["post"], pagination_class=None)
    def undo(self, request: Request, pk: str) -> Response:
        """Undo what is safe to undo; with ``dry_run`` say what that would do, and why the rest
        stays.
        """
        job = self.get_object()
        require_instructor(self.user, job.pairing.shell)
        if read(UndoOperationSerializer, request)["dry_run"]:
            return Response(ReversalSerializer(kind_of(job).plan_undo(job), many=True).data)
        return self._shown(undo_operation(job, self.user))

    def _shown(self, job: Job) -> Response:
        shown = self.get_queryset().get(pk=job.pk)
        return Response(OperationSerializer(shown, context=self.get_serializer_context()).data, 202)
