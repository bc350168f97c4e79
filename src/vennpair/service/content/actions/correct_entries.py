"""What an instructor knows better than the package: names, for one or many, and which graded item a
link opens.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db import transaction

from vennpair.core.content.matching import CORRECTION, NO_ITEM
from vennpair.core.content.naming import Renamed, by_pattern
from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.content.models import Correction, Entry, Import, Item
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record


def names_by_pattern(entries: Sequence[Entry], pattern: str) -> dict[str, str]:
    """Return the new names, by entry id. Raises Refused where the pattern is wrong."""
    try:
        names = by_pattern(pattern, [Renamed(each.title, each.unit, each.kind) for each in entries])
    except ValueError as error:
        raise Refused(
            "bad_pattern",
            f"This pattern cannot be used: {error}.",
            "For example: '{unit}: {title}'.",
            422,
        ) from error
    return {str(each.pk): name for each, name in zip(entries, names, strict=True)}


def rename_entries(made: Import, names: Mapping[str, str], actor: User) -> list[Entry]:
    """Give entries new names, and keep them for later imports.

    What is in the shell already is not renamed there.
    """
    require_instructor(actor, made.pairing.shell)
    entries = list(made.entries.filter(pk__in=names.keys()).select_related("item"))
    if len(entries) != len(names):
        raise Refused(
            "unknown_entry",
            "Some of these entries are not in this import.",
            "Read the list again.",
            422,
        )
    with transaction.atomic():
        for entry in entries:
            name = " ".join(names[str(entry.pk)].split())[:255]
            if not name:
                raise Refused(
                    "no_name", f"'{entry.shown_title}' would have no name.", "Give it one.", 422
                )
            entry.shown_title, entry.naming, entry.naming_reason = (
                name,
                "renamed",
                "the instructor named it so",
            )
            Correction.objects.update_or_create(
                pairing=made.pairing, key=entry.key, defaults={"title": name}
            )
            if entry.item is not None:
                Item.objects.filter(pk=entry.item.pk).update(shown_title=name)
        Entry.objects.bulk_update(
            entries, ["shown_title", "naming", "naming_reason"], batch_size=500
        )
        record(
            "entries.renamed",
            f"{many(len(entries), 'entry', 'entries')} of '{made.title}' renamed.",
            pairing=made.pairing,
            actor=actor,
            after={"names": dict(list(names.items())[:50])},
        )
    return entries


def correct_match(entry: Entry, item: Item | None, actor: User) -> Entry:
    """Say which graded item a link opens, or none; kept for later imports. Raises Refused."""
    pairing = entry.import_of.pairing
    require_instructor(actor, pairing.shell)
    if entry.kind != "lti_link" or entry.blocked:
        raise Refused(
            "not_a_link",
            f"'{entry.shown_title}' opens nothing at the publisher.",
            "Only links of this publisher's tool open graded items.",
            422,
        )
    if item is not None and not item.line_item:
        raise Refused(
            "not_graded",
            f"'{item.shown_title}' is not a graded item at the publisher.",
            "Choose a graded item.",
            422,
        )
    with transaction.atomic():
        before = entry.line_item
        Correction.objects.update_or_create(
            pairing=pairing,
            key=entry.key,
            defaults={"line_item": item.line_item if item else NO_ITEM},
        )
        entry.line_item, entry.reason = (item.line_item if item else ""), CORRECTION
        entry.points, entry.due_at, entry.category = (
            (item.points, item.due_at, item.category) if item else (None, "", "")
        )
        if item is None and entry.item is not None and entry.item.key == entry.key:
            Item.objects.filter(pk=entry.item.pk).update(
                kind="practice",
                line_item="",
                points=None,
                due_at="",
                category="",
                reason=entry.reason,
            )
        if item is not None and (entry.url or entry.custom):
            item.url, item.custom = entry.url, entry.custom  # placed links open there, too
            item.save(update_fields=["url", "custom"])
        entry.item = item or entry.item
        entry.save(update_fields=["item", "line_item", "reason", "points", "due_at", "category"])
        record(
            "entry.corrected",
            f"'{entry.shown_title}' opens {item.shown_title if item else 'no graded item'}, said"
            " the instructor.",
            pairing=pairing,
            actor=actor,
            before={"line_item": before},
            after={"line_item": entry.line_item},
        )
    return entry
