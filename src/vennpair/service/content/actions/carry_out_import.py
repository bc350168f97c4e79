"""Carry out an import: read the cartridge, ask the publisher for points and dates, store the items."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Sequence
from dataclasses import fields
from decimal import Decimal
from io import BytesIO
from typing import Any
from urllib.parse import urlsplit

from django.db import transaction

from vennpair.core.content.understand import ItemDraft, understand
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.content.models import Import, Item
from vennpair.service.ops.models import Job
from vennpair.service.ops.running import step_done
from vennpair.service.pair.models import Pairing
from vennpair.standards.cartridge import Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import finding

STEPS = 4  # fetched, read, matched, stored
_STORED = [each.name for each in fields(ItemDraft) if each.name not in {"key", "new_window", "member"}]


def limits() -> Limits:
    """Return the limits for cartridges from the environment."""
    return Limits.from_environment(os.environ)


def known_hosts(pairing: Pairing) -> frozenset[str]:
    """Return the hosts of the institution's registered publishers."""
    publishers = pairing.shell.platform.institution.publishers.all()
    return frozenset(host for each in publishers if (host := urlsplit(each.launch_url).hostname))


def carry_out_import(job: Job) -> str:
    """Read and store; doing it again changes nothing that is right already. Raises OutsideError, Refused."""
    job.done, job.total = 0, STEPS
    return import_content(job, job.pairing, Import.objects.get(job=job))


def import_content(job: Job, pairing: Pairing, made: Import) -> str:
    """Do the four steps of an import within a job that may have more. Raises OutsideError, Refused."""
    gateway = publisher_gateway(pairing.course.publisher)
    step_done(job, "fetching the cartridge")
    data = bytes(made.file) if made.file else gateway.cartridge(pairing.course.sourced_id)
    step_done(job, "reading it")
    try:
        cartridge = read_cartridge(BytesIO(data), limits(), known_hosts(pairing))
    except UnusableCartridge as error:
        raise Refused(error.finding.code, error.finding.message, error.finding.remedy) from error
    step_done(job, "asking for points and dates")
    drafts = understand(cartridge, gateway.line_items(pairing.course.sourced_id))
    with transaction.atomic():
        report = _store(pairing, drafts)
        made.title, made.version, made.counts = cartridge.title, cartridge.version or "", cartridge.counts()
        made.findings, made.report = [finding(each) for each in cartridge.findings], report
        made.sha256, made.file = hashlib.sha256(data).hexdigest(), None
        made.save()
        step_done(job)
        words = f"{report['new']} new, {report['changed']} changed, {report['same']} unchanged, {report['gone']} gone"
        record("import.done", f"'{cartridge.title}' was imported: {words}.", pairing=pairing, actor=job.made_by, after=report)
    return f"{len(drafts)} items: {words}"


def _store(pairing: Pairing, drafts: Sequence[ItemDraft]) -> dict[str, int]:
    """Bring the stored items in line with the drafts; what is no longer there is marked, never deleted."""
    known = {item.key: item for item in Item.objects.select_for_update().filter(pairing=pairing)}
    report = {"new": 0, "changed": 0, "same": 0, "gone": 0}
    for draft in drafts:
        item = known.pop(draft.key, None)
        values: dict[str, Any] = {name: getattr(draft, name) for name in _STORED}
        if item is None:
            Item.objects.create(pairing=pairing, key=draft.key, **values)
            report["new"] += 1
        elif item.gone or any(_differs(getattr(item, name), value) for name, value in values.items()):
            for name, value in values.items():
                setattr(item, name, value)
            item.gone = False
            item.save()
            report["changed"] += 1
        else:
            report["same"] += 1
    for item in known.values():
        report["gone"] += not item.gone
        item.gone = True
        item.save(update_fields=["gone"])
    return report


def _differs(stored: Any, value: Any) -> bool:
    if isinstance(stored, Decimal) and isinstance(value, Decimal):
        return stored.compare(value) != 0
    return bool(stored != value)
