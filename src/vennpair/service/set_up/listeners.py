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
    names = ("reading", "placing", "mending", "taking", "checking", "page", "tool")
    parts = [Q(**{f"{name}__in": own}) for name in names]
    return Section.objects.filter(Q(*parts, _connector=Q.OR)).exists()
