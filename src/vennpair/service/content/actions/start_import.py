"""Begin an import: from the publisher, or from a file that was uploaded."""

from __future__ import annotations

import hashlib
from io import BytesIO
from typing import Any

from django.conf import settings
from django.db import transaction

from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.content.actions.carry_out_import import known_hosts, limits
from vennpair.service.content.models import Import
from vennpair.service.ops.running import start_job
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.standards.cartridge import UnusableCartridge, read_cartridge


def start_import(pairing: Pairing, actor: Any, upload: Any = None) -> Import:
    """Make the import and enqueue it. An upload that is no usable cartridge is refused, nothing of it stored."""
    require_instructor(actor, pairing.shell)
    data, name = (upload.read(settings.LARGEST_UPLOAD + 1), upload.name) if upload else (None, "")
    if data is not None:
        _refuse_unusable(data, pairing)
    with transaction.atomic():
        job = start_job("import", pairing, actor, message="waits for a worker")
        made = Import.objects.create(pairing=pairing, job=job, source="upload" if upload else "publisher", filename=name[:300], file=data, sha256=hashlib.sha256(data).hexdigest() if data else "")
        record("import.started", f"An import was started from {name or pairing.course.publisher.name}.", pairing=pairing, actor=actor)
    return made


def _refuse_unusable(data: bytes, pairing: Pairing) -> None:
    if len(data) > settings.LARGEST_UPLOAD:
        raise Refused("too_large", f"The file is larger than {settings.LARGEST_UPLOAD:,} bytes (VENNPAIR_LARGEST_UPLOAD).", "Leave large media out of the package.", 413)
    try:
        read_cartridge(BytesIO(data), limits(), known_hosts(pairing))
    except UnusableCartridge as error:
        raise Refused(error.finding.code, error.finding.message, error.finding.remedy, 422) from error
