"""Chosen items as a thin cartridge to upload, for a platform in which nothing can be placed from
here.
"""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction
from django.utils import timezone

from vennpair.core.counting import many
from vennpair.core.deploy.plan import Row, ShellSnapshot, plan_rollout
from vennpair.core.deploy.sheet import Sheet
from vennpair.service.connect.models import User
from vennpair.service.content.models import Item, Placement
from vennpair.service.deploy.mapping import candidate, custom_of, launch_url, placed_fields, seen_of
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.cartridge.writer import Entry, write_cartridge


def write_links(
    pairing: Pairing, chosen: Sequence[Any], sheet: Sheet, actor: User
) -> tuple[str, bytes]:
    """Return the file's name and bytes; links and columns are claimed when they are first opened.

    Raises Refused.
    """
    require_instructor(actor, pairing.shell)
    items = {
        str(each.pk): each
        for each in pairing.items.filter(pk__in=chosen, gone=False).select_related(
            "placement", "decision"
        )
    }
    plan = plan_rollout(
        [candidate(each, pairing.course.publisher) for each in items.values()],
        sheet,
        ShellSnapshot((), pairing.shell.zone, timezone.now(), frozenset({"shown_from"})),
    )
    made = plan.of("make")
    if not made:
        words = plan.notices[0].message if plan.notices else "All chosen items are placed already."
        raise Refused(
            "nothing_to_do",
            words,
            plan.notices[0].remedy if plan.notices else "Choose others.",
            409,
        )
    with transaction.atomic():
        lines = _lines(pairing, items, made, sheet)
        record(
            "cartridge.written",
            f"A thin cartridge with {many(len(made), 'link')} was written.",
            pairing=pairing,
            actor=actor,
        )
    target_file = io.BytesIO()
    write_cartridge(
        target_file, f"vennpair-links-{pairing.pk}", pairing.course.title, "und", lines, "thin"
    )
    code = (pairing.course.code or "course").replace(" ", "-").replace("/", "-")
    return f"{code}-links.imscc", target_file.getvalue()


def _lines(
    pairing: Pairing, items: Mapping[str, Item], made: Sequence[Row], sheet: Sheet
) -> list[Entry]:
    """Note each link as written; return the cartridge's entries, folder by folder."""
    folders = list(dict.fromkeys(row.folder_title for row in made))
    lines: list[Entry] = []
    folder = ""
    for number, row in enumerate(sorted(made, key=lambda row: folders.index(row.folder_title))):
        item, target = items[row.item], row.target
        if row.folder_title != folder:
            folder = row.folder_title
            if folder:
                lines.append(Entry(f"f{number}", folder, "folder", depth=0))
        fields = placed_fields(target, seen_of(item), sheet.shift_days or 0) | {
            "points": target.points
        }
        placement, _ = Placement.objects.update_or_create(
            item=item,
            defaults={
                "pairing": pairing,
                "state": Placement.State.WRITTEN,
                "entry_id": "",
                "resource_link_id": "",
                "folder": folder,
            }
            | fields,
        )
        lines.append(
            Entry(
                f"i{number}",
                target.title,
                "lti_link",
                depth=int(bool(folder)),
                url=launch_url(),
                custom=custom_of(placement),
            )
        )
    return lines
