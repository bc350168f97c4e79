"""An import without a cartridge: the homework course's items as the publisher's catalogue tells of
them, by unit.
"""

from __future__ import annotations

from django.db import transaction

from vennpair.core.counting import many
from vennpair.service.content.actions.refresh_catalogue import refresh_catalogue
from vennpair.service.content.models import Entry, Import, Item
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import step_done
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.trail import record
from vennpair.service.stored import ImportReport

CATALOGUE = "catalogue"


def list_catalogue(job: Job, pairing: Pairing, made: Import) -> str:
    """Read the catalogue and lay its links out as entries, to be chosen from like a cartridge's.

    Raises OutsideError.
    """
    refresh_catalogue(pairing, job.made_by)
    step_done(job, "storing what was found")
    items = list(
        pairing.items.filter(gone=False, kind__in=["graded", "practice"]).order_by("position", "id")
    )
    with transaction.atomic():
        Entry.objects.filter(import_of=made).delete()
        entries = _entries(made, items)
        Entry.objects.bulk_create(entries, batch_size=1_000)
        made.title, made.identifier, made.stage = (
            pairing.course.title[:500],
            f"catalogue-{pairing.pk}",
            Import.Stage.CHECKED,
        )
        made.counts = {"folder": len(entries) - len(items), "lti_link": len(items)}
        made.report = ImportReport(entries=len(entries), blocked=0)
        made.save()
        step_done(job)
        record(
            "import.done",
            f"The catalogue of '{made.title}' was read: {many(len(items), 'item')}.",
            pairing=pairing,
            actor=job.made_by,
        )
    return f"{many(len(items), 'item')} of the catalogue"


def _entries(made: Import, items: list[Item]) -> list[Entry]:
    """Return a folder for each unit, in the order in which units first come, and its items
    in it.
    """
    units: dict[str, list[Item]] = {}
    for item in items:
        units.setdefault(item.unit, []).append(item)
    entries: list[Entry] = []
    for unit, members in units.items():
        parent = -1
        if unit:
            parent = len(entries)
            entries.append(
                Entry(
                    import_of=made,
                    position=parent,
                    key=f"unit-{unit}"[:255],
                    kind="folder",
                    title=unit,
                    shown_title=unit,
                    digest="unit",
                )
            )
        entries += [
            _link(made, item, len(entries) + place, parent) for place, item in enumerate(members)
        ]
    return entries


def _link(made: Import, item: Item, position: int, parent: int) -> Entry:
    facts = {
        name: getattr(item, name)
        for name in (
            "title",
            "shown_title",
            "unit",
            "audience",
            "url",
            "custom",
            "line_item",
            "points",
            "due_at",
            "category",
            "reason",
        )
    }
    return Entry(
        import_of=made,
        item=item,
        position=position,
        parent=parent,
        depth=int(parent >= 0),
        key=item.key,
        kind="lti_link",
        visible=item.audience == "everyone",
        digest=f"item-{item.pk}",
        **facts,
    )
