"""A platform launched: note when, and from which deployment."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from vennpair.service.connect.models import Platform
from vennpair.service.kernel.audit.trail import record
from vennpair.standards.lti.errors import LtiError

OFTEN_ENOUGH = timedelta(minutes=1)
MOST_ASKED = 20


def note_launch(platform: Platform, deployment: str) -> None:
    """Let pass a launch from a known deployment; the first of a registration that names none is
    taken as its own.

    The message's signature was checked before. Raises LtiError ``bad_deployment``; the deployment
    is noted, so that an administrator can accept it (LTI Core 1.3, 3.1.3).
    """
    if deployment not in platform.deployment_ids:
        _ask(platform, deployment)
    now = timezone.now()
    if platform.launched_at is None or platform.launched_at < now - OFTEN_ENOUGH:
        Platform.objects.filter(pk=platform.pk).update(launched_at=now)


def _ask(platform: Platform, deployment: str) -> None:
    with transaction.atomic():
        locked = (
            Platform.objects.select_for_update(of=("self",))
            .select_related("institution")
            .get(pk=platform.pk)
        )
        taken = not locked.deployment_ids
        if taken:
            locked.deployment_ids = [deployment]
            record(
                "platform.deployment",
                f"{locked.name} launched first from deployment {deployment}; it was taken as its"
                " own.",
                institution=locked.institution,
                after={"deployment_id": deployment},
            )
        elif deployment not in locked.deployment_ids:
            locked.asked_deployments = list(dict.fromkeys([*locked.asked_deployments, deployment]))[
                :MOST_ASKED
            ]
        locked.save()
    if not taken and deployment not in locked.deployment_ids:
        raise LtiError(
            "bad_deployment",
            "The message comes from a deployment that is not registered.",
            "LTI Core 1.3, 3.1.3",
        )
