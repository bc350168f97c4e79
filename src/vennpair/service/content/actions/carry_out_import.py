"""Carry out the reading of an import: fetch the package, read it, understand it, store items and
entries.
"""

from __future__ import annotations

from django.db import transaction

from vennpair.core.content.understand import EntryDraft, items_of, understand
from vennpair.core.counting import many
from vennpair.gateways.http import OutsideError
from vennpair.gateways.publisher import NO_CARTRIDGE
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.content.actions.course_links import store_course_links
from vennpair.service.content.actions.list_catalogue import CATALOGUE, list_catalogue
from vennpair.service.content.actions.store_items import store_items
from vennpair.service.content.matching_context import knowledge_of, known_hosts, limits, told
from vennpair.service.content.models import Entry, Import, Item, Package, Placement
from vennpair.service.content.storage import spooled, store_stream
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record
from vennpair.service.stored import CatalogueSays, ImportReport
from vennpair.standards.cartridge import (
    Cartridge,
    Finding,
    UnusableCartridge,
    open_package,
)
from vennpair.standards.cartridge.apart import read_bounded
from vennpair.standards.cartridge.report import finding

STEPS = 4  # fetched, read, matched, stored
PUBLISHER = "publisher"
LONGEST = {
    "key": 255,
    "resource": 255,
    "title": 1000,
    "shown_title": 1000,
    "unit": 500,
    "url": 2000,
    "member": 2000,
    "line_item": 255,
    "category": 255,
    "naming_reason": 500,
    "reason": 200,
}


def carry_out_import(job: Job) -> str:
    """Read and store; doing it again changes nothing that is right already.

    Raises OutsideError, Refused, Cancelled.
    """
    job.done, job.total = 0, STEPS
    return import_content(job, job.pairing, Import.objects.select_related("package").get(job=job))


def import_content(job: Job, pairing: Pairing, made: Import) -> str:
    """Do the steps of an import within a job that may have more.

    Raises OutsideError, Refused, Cancelled.
    """
    Import.objects.filter(pk=made.pk).update(stage=Import.Stage.READING)
    if made.source == CATALOGUE:
        return list_catalogue(job, pairing, made)
    try:
        package = _package(pairing, made)
    except OutsideError as error:
        if error.failure.code != NO_CARTRIDGE:
            raise
        # All that such a publisher gives, and enough to deploy.
        made.source = CATALOGUE
        made.save(update_fields=["source"])
        return (
            f"{pairing.course.publisher.name} offers no cartridge of this course, so its catalogue"
            f" was read: {list_catalogue(job, pairing, made)}"
        )
    _next(job, "fetched; reading it")
    try:
        with spooled(package) as path, open_package(path, limits()) as opened:
            cartridge = read_bounded(path, opened, limits(), known_hosts(pairing))
            _next(job, "asking the publisher for points and dates")
            store_course_links(pairing)
            knowledge = knowledge_of(pairing)
            drafts = understand(
                cartridge,
                knowledge,
                lambda member: opened.fingerprint(member) if opened.holds(member) else None,
            )
    except UnusableCartridge as error:
        _refuse(made, package, error.finding)
        raise Refused(error.finding.code, error.finding.message, error.finding.remedy) from error
    _next(job, "storing what was found")
    with transaction.atomic():
        words = _store(
            made,
            package,
            cartridge,
            drafts,
            {each.sourced_id: told(each) for each in knowledge.line_items},
        )
        step_done(job)
        record(
            "import.done",
            f"'{cartridge.title or made.filename}' was read: {words}.",
            pairing=pairing,
            actor=job.made_by,
            after=made.report,
        )
    return words


def _next(job: Job, message: str) -> None:
    step_done(job, message)
    if cancel_asked(job):
        raise Cancelled("Reading was stopped; nothing of the package was stored.")


def _package(pairing: Pairing, made: Import) -> Package:
    """Return the uploaded package, or fetch the publisher's.

    A fetch that was cut off begins again.
    """
    if made.package is not None and made.package.complete:
        return made.package
    if made.source != PUBLISHER:
        raise Refused(
            "package_gone", "The uploaded package is no longer stored.", "Upload it again.", 410
        )
    pieces = publisher_gateway(pairing.course.publisher).cartridge(pairing.course.sourced_id)
    package = made.package or Package.objects.create(
        pairing=pairing,
        made_by=made.job.made_by,
        filename=f"{pairing.course.code or 'course'}.imscc",
    )
    made.package = package
    made.save(update_fields=["package"])
    store_stream(package, pieces)
    return package


def _refuse(made: Import, package: Package, found: Finding) -> None:
    """Keep the finding and nothing of the package."""
    with transaction.atomic():
        made.findings, made.package = [finding(found)], None
        made.save(update_fields=["findings", "package"])
        package.delete()


def _store(
    made: Import,
    package: Package,
    cartridge: Cartridge,
    drafts: list[EntryDraft],
    listed: dict[str, CatalogueSays],
) -> str:
    """Store items and entries and what the import says of itself; return it in words."""
    items = items_of(drafts)
    ours = made.source == PUBLISHER or any(draft.kind == "lti_link" for draft in items)
    source = (
        PUBLISHER if made.source == PUBLISHER else (cartridge.identifier or package.sha256)[:300]
    )
    counts, stored = store_items(made.pairing, source, items if ours else [], listed)
    stored |= _written_before(made.pairing, drafts)
    Entry.objects.filter(import_of=made).delete()
    Entry.objects.bulk_create([_entry(made, draft, stored) for draft in drafts], batch_size=1_000)
    blocked = sum(draft.trouble.blocks for draft in drafts)
    made.title, made.version, made.profile, made.counts = (
        cartridge.title[:500],
        cartridge.version or "",
        cartridge.profile,
        cartridge.counts(),
    )
    made.language = cartridge.language[:40]
    made.identifier, made.sha256, made.stage = (
        cartridge.identifier[:300],
        package.sha256,
        Import.Stage.CHECKED,
    )
    made.findings = [finding(each) for each in cartridge.findings]
    made.report = ImportReport(
        new=counts["new"],
        changed=counts["changed"],
        same=counts["same"],
        gone=counts["gone"],
        entries=len(drafts),
        blocked=blocked,
        loose=len(cartridge.loose),
    )
    made.save()
    return _words(made.report, len(items) if ours else None)


def _words(report: ImportReport, items: int | None) -> str:
    """Say what was read; of a cartridge that is not the homework course's, nothing of items."""
    loose = f", {report['loose']} beside the outline" if report["loose"] else ""
    blocked = report["blocked"]
    entries = f"{many(report['entries'], 'entry', 'entries')}{loose}" + (
        f", {blocked} of them cannot be brought in" if blocked else ""
    )
    if items is None:
        return entries
    changed = f", {report['changed']} changed" if report["changed"] else ""
    same = f", {report['same']} unchanged" if report["same"] else ""
    gone = f", {report['gone']} gone" if report["gone"] else ""
    return f"{entries}; {many(items, 'item')}: {report['new']} new{changed}{same}{gone}"


def _written_before(pairing: Pairing, drafts: list[EntryDraft]) -> dict[str, Item]:
    """Return the items of links that we wrote ourselves, by the drafts' keys."""
    wanted = {draft.placement: draft.key for draft in drafts if draft.placement}
    return {
        wanted[str(each.pk)]: each.item
        for each in Placement.objects.filter(pairing=pairing, pk__in=wanted).select_related("item")
    }


def _entry(made: Import, draft: EntryDraft, stored: dict[str, Item]) -> Entry:
    names = (
        "key",
        "resource",
        "kind",
        "title",
        "shown_title",
        "position",
        "parent",
        "depth",
        "unit",
        "naming",
        "naming_reason",
        "audience",
        "url",
        "new_window",
        "custom",
        "member",
        "line_item",
        "points",
        "due_at",
        "category",
        "reason",
        "group",
        "digest",
        "questions",
    )
    values = {name: getattr(draft, name) for name in names}
    for name, most in LONGEST.items():
        values[name] = values[name][:most]
    item, trouble = stored.get(draft.key), draft.trouble
    if draft.placement and item is not None:
        values |= {
            "line_item": item.line_item,
            "points": item.points,
            "due_at": item.due_at,
            "category": item.category,
        }
    return Entry(
        import_of=made,
        item=item,
        files=list(draft.files),
        trouble=trouble.code,
        trouble_message=trouble.message[:500],
        trouble_remedy=trouble.remedy[:500],
        blocked=trouble.blocks,
        visible=draft.audience == "everyone",
        **values,
    )
