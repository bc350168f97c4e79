"""Jobs and health."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from vennpair.service.connect.api.base import Viewset
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.pair.queries import pairings_for


class JobSerializer(serializers.ModelSerializer[Job]):
    """Work under way: ``done`` of ``total`` steps, and a message for people."""

    class Meta:
        model = Job
        fields = read_only_fields = [
            "id",
            "kind",
            "pairing",
            "state",
            "done",
            "total",
            "message",
            "remedy",
            "made_at",
            "ended_at",
        ]


class JobViewset(mixins.RetrieveModelMixin, Viewset):
    """One job."""

    serializer_class = JobSerializer
    queryset = Job.objects.none()

    def get_queryset(self) -> QuerySet[Job]:
        """Return the jobs of the pairings that the user may see."""
        return Job.objects.filter(pairing__in=pairings_for(self.user))


class HealthSerializer(serializers.Serializer[Any]):
    """Whether the service works."""

    status = serializers.CharField()
    waiting_jobs = serializers.IntegerField()


class Health(APIView):
    """Whether the service and its database work; open to all, tells nothing else."""

    permission_classes = [AllowAny]
    authentication_classes = []

    @extend_schema(responses=HealthSerializer)
    def get(self, request: Request) -> Response:
        """Answer 200 while all is well."""
        connection.ensure_connection()
        return Response(
            {
                "status": "ok",
                "waiting_jobs": Job.objects.filter(
                    state__in=[Job.State.QUEUED, Job.State.RUNNING]
                ).count(),
            }
        )
