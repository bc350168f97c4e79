"""What setting up says where a lower app asks."""

from __future__ import annotations

from django.db.models import Q

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.telling import parts_are
from vennpair.service.set_up.models import Section


def listen() -> None:
    """Let the end of a section's parts be told by the set-up alone."""
    parts_are(_is_part)


def _is_part(job: Job) -> bool:
    own = [each for each in (job.pk, job.undoes_id) if each]
    parts = Q(reading__in=own) | Q(placing__in=own) | Q(checking__in=own) | Q(page__in=own)
    return Section.objects.filter(parts).exists()
