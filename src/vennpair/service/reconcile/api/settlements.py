"""Settling findings: what it would write, carrying it out, and proposals."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.reconcile.remedies import MAKE_AGAIN, PUT_BACK, WRITES_SCORE
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.web.reading import read
from vennpair.service.pair.api.jobs import JobSerializer
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.reconcile.actions.plan_settling import Wanted, plan_settling
from vennpair.service.reconcile.actions.plan_undo import is_reversible
from vennpair.service.reconcile.actions.start_settling import (
    carry_out_proposal,
    dismiss_proposal,
    start_settling,
)
from vennpair.service.reconcile.models import Settlement, SettleStep
from vennpair.service.reconcile.record_outcome import UNDO


class SettleStepSerializer(serializers.ModelSerializer[SettleStep]):
    """One finding being settled: ``before`` is what was in the gradebook, ``after`` what is there now,
    or will be.
    """

    writes = serializers.SerializerMethodField()

    class Meta:
        model = SettleStep
        fields = read_only_fields = [
            "scope",
            "kind",
            "remedy",
            "item",
            "learner",
            "publisher",
            "before",
            "after",
            "words",
            "writes",
            "state",
            "message",
            "done_at",
        ]

    @extend_schema_field({"type": "boolean"})
    def get_writes(self, step: SettleStep) -> bool:
        """Say whether something is written to the gradebook."""
        return writes(step)


class SettlementLineSerializer(serializers.ModelSerializer[Settlement]):
    """One settlement: how many findings came to what, and how many of them write to the
    gradebook.
    """

    job = serializers.SerializerMethodField()
    state = serializers.ChoiceField(["proposed", "begun", "done", "dismissed"], read_only=True)
    undoes = serializers.SerializerMethodField()
    made_by = serializers.CharField(source="made_by.username", default="")
    carried_by = serializers.CharField(source="carried_by.username", default="")
    counts = serializers.SerializerMethodField()
    undone = serializers.SerializerMethodField()

    class Meta:
        model = Settlement
        fields = read_only_fields = [
            "id",
            "state",
            "made_by",
            "made_at",
            "carried_by",
            "job",
            "undoes",
            "undone",
            "counts",
        ]

    @extend_schema_field(JobSerializer(allow_null=True))
    def get_job(self, made: Settlement) -> dict[str, Any] | None:
        """Return its job; none while it is only proposed."""
        job = made.job
        proposed = job.state in {Job.State.PROPOSED, Job.State.DISMISSED}
        return None if proposed else dict(JobSerializer(job).data)

    @extend_schema_field({"type": ["string", "null"], "format": "uuid"})
    def get_undoes(self, made: Settlement) -> str | None:
        """Return the settlement that this one takes back."""
        return str(made.job.undoes.settlement.pk) if made.job.undoes else None

    @extend_schema_field({"type": "object", "additionalProperties": {"type": "integer"}})
    def get_counts(self, made: Settlement) -> dict[str, int]:
        """Return how many steps are in which state."""
        return dict(Counter(each.state for each in made.job.reconcile_steps.all()))

    @extend_schema_field({"type": "boolean"})
    def get_undone(self, made: Settlement) -> bool:
        """Say whether all of it has been taken back."""
        states = {each.state for each in made.job.reconcile_steps.all() if is_reversible(each)}
        return SettleStep.State.UNDONE in states and SettleStep.State.DONE not in states


class SettlementSerializer(SettlementLineSerializer):
    """The same with every step."""

    steps = SettleStepSerializer(source="job.reconcile_steps", many=True, read_only=True)

    class Meta(SettlementLineSerializer.Meta):
        fields = read_only_fields = [*SettlementLineSerializer.Meta.fields, "steps"]


class SettlementPreviewSerializer(serializers.Serializer[Any]):
    """What would be written, step by step; ``writes`` counts those that change the gradebook.

    ``id`` is set once it is under way.
    """

    steps = SettleStepSerializer(many=True)
    writes = serializers.IntegerField()
    settlement = SettlementLineSerializer(allow_null=True)


class ChoiceSerializer(serializers.Serializer[Any]):
    """One finding, its remedy (empty: the default), and for a match the candidate's key."""

    finding = serializers.IntegerField()
    remedy = serializers.CharField(default="", allow_blank=True, max_length=20)
    candidate = serializers.CharField(default="", allow_blank=True, max_length=255)


class SettleSerializer(serializers.Serializer[Any]):
    """What to settle of a comparison: all safe cells, whole kinds by one remedy each, single
    findings.
    """

    comparison = serializers.UUIDField()
    safe = serializers.BooleanField(default=False)
    kinds = serializers.DictField(
        child=serializers.CharField(allow_blank=True, max_length=20), default=dict
    )
    findings = ChoiceSerializer(many=True, default=list)
    dry_run = serializers.BooleanField(default=False)


def writes(step: SettleStep) -> bool:
    """Say whether a step writes to the gradebook."""
    return (
        step.remedy in WRITES_SCORE
        or step.remedy in {PUT_BACK, MAKE_AGAIN}
        or (step.remedy == UNDO and ("given" in step.facts or "to" in step.facts))
    )


class SettlementViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, OfPairing):
    """Settlements and proposals, newest first."""

    assistants_may = frozenset({"create", "dismiss"})
    queryset = Settlement.objects.none()
    ordering = ("-made_at", "-pk")

    def get_serializer_class(self) -> type[SettlementLineSerializer]:
        """Return the short form for the list."""
        return SettlementLineSerializer if self.action == "list" else SettlementSerializer

    def in_pairing(self) -> QuerySet[Settlement]:
        """Return the pairing's settlements."""
        return (
            self.pairing()
            .settlements.select_related(
                "job__undoes__settlement",
                "made_by",
                "carried_by",
                "pairing__shell__platform__institution",
            )
            .prefetch_related("job__reconcile_steps")
        )

    @extend_schema(request=SettleSerializer, responses=SettlementPreviewSerializer)
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Show what would be written, or begin; of an assistant it becomes a proposal."""
        pairing, asked = self.pairing(), read(SettleSerializer, request)
        facts = asked
        comparison = get_object_or_404(pairing.comparisons, pk=facts["comparison"])
        wanted = Wanted(
            facts["safe"],
            facts["kinds"],
            {each["finding"]: (each["remedy"], each["candidate"]) for each in facts["findings"]},
        )
        steps = plan_settling(comparison, wanted)
        return _answer(
            steps, None if facts["dry_run"] else start_settling(comparison, steps, self.user)
        )

    @extend_schema(request=None, responses={202: SettlementSerializer})
    @action(detail=True, methods=["post"], url_path="carry-out")
    def carry_out(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Carry out a proposal."""
        return Response(
            SettlementSerializer(carry_out_proposal(self.get_object(), self.user)).data,
            status=202,
        )

    @extend_schema(request=None, responses=SettlementSerializer)
    @action(detail=True, methods=["post"])
    def dismiss(self, request: Request, pairing_pk: str, pk: str) -> Response:
        """Put a proposal aside."""
        return Response(SettlementSerializer(dismiss_proposal(self.get_object(), self.user)).data)


def _answer(steps: Sequence[SettleStep], made: Settlement | None) -> Response:
    document = {"steps": steps, "writes": sum(map(writes, steps)), "settlement": made}
    return Response(SettlementPreviewSerializer(document).data, status=200 if made is None else 202)
