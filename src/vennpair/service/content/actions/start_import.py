"""Begin an import: from the publisher, or from a package that was uploaded."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.content.models import Import, Package
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import UNFINISHED
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record


def start_import(
    pairing: Pairing, actor: User, source: str = "publisher", package: Package | None = None
) -> Import:
    """Make the import and enqueue its reading: ``publisher``, ``catalogue``, or ``upload`` with its
    package.

    Of one file, or of the publisher's own, one is read at a time: who asks meanwhile gets that one.
    Raises Refused where the upload is not complete.
    """
    require_instructor(actor, pairing.shell)
    if package is not None and not package.complete:
        raise Refused(
            "upload_incomplete",
            "Not all of the file has arrived.",
            "Send the missing parts, then start the import.",
            409,
        )
    with transaction.atomic():
        Pairing.objects.select_for_update(of=("self",), no_key=True).get(pk=pairing.pk)
        going = Import.objects.filter(pairing=pairing, source=source, job__state__in=UNFINISHED)
        same = going.filter(package__sha256=package.sha256) if package else going
        if (other := same.select_related("job").first()) is not None:
            return other
        job = start_job("import", pairing, actor)
        made = Import.objects.create(
            pairing=pairing,
            job=job,
            package=package,
            source=source,
            filename=package.filename if package else "",
        )
        record(
            "import.started",
            "An import was started from"
            f" {package.filename if package else pairing.course.publisher.name}.",
            pairing=pairing,
            actor=actor,
        )
    return made
