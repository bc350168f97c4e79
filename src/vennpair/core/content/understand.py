"""From a cartridge's outline and a publisher's line items to entries that can be chosen, and items
that can be placed.
"""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any

from vennpair.core.content.entry_checks import NO_TROUBLE, Trouble, trouble_of
from vennpair.core.content.groups import BESIDE, beside_the_outline, group_of
from vennpair.core.content.matching import NOT_ITS_OWN, Knowledge, LineItemIndex
from vennpair.core.content.naming import Named, proposed, tell_apart
from vennpair.standards.cartridge import Cartridge, OutlineRow
from vennpair.standards.cartridge.model import Descriptor, Resource

# The kinds of items (DESIGN 2) by the cartridge's kinds; the rest are content, no items.
ITEM_KINDS = {"page": "reading", "file": "media", "web_link": "link", "lti_link": "practice"}
Fingerprint = Callable[[str], str | None]


@dataclass(frozen=True, slots=True)
class EntryDraft:
    """A row of the outline, understood.

    ``key`` is stable across imports of the same course; ``title`` is the source's, ``shown_title``
    the one that tells it apart; ``item_kind`` is empty for what is no item; ``reason`` says by what
    its line item was recognised; ``digest`` stands for all that would be put in the shell, but the
    title; ``placement`` is there where we wrote the link.
    """

    key: str
    resource: str
    kind: str
    title: str
    shown_title: str
    position: int
    parent: int
    depth: int
    unit: str = ""
    item_kind: str = ""
    naming: str = ""
    naming_reason: str = ""
    audience: str = "everyone"
    url: str = ""
    new_window: bool = False
    custom: dict[str, str] = field(default_factory=dict)
    member: str = ""
    files: tuple[str, ...] = ()
    line_item: str = ""
    points: Decimal | None = None
    due_at: str = ""
    category: str = ""
    reason: str = ""
    group: str = ""
    trouble: Trouble = NO_TROUBLE
    digest: str = ""
    placement: str = ""
    questions: dict[str, int] = field(default_factory=dict)
    subjects: list[str] = field(default_factory=list)


def understand(
    cartridge: Cartridge, knowledge: Knowledge, fingerprint: Fingerprint
) -> list[EntryDraft]:
    """Return every entry of a cartridge in reading order, with what the publisher and the
    instructor know of it.

    ``fingerprint`` returns what tells a member's bytes from others, or None where the package lacks
    it.
    """
    index = LineItemIndex(knowledge)
    by_id = {each.id: each for each in cartridge.resources}
    turns: Counter[tuple[str, str]] = Counter()
    drafts: list[EntryDraft] = []
    branch: list[int] = []
    for position, row in enumerate([*cartridge.outline, *beside_the_outline(cartridge)]):
        del branch[row.depth :]
        top = drafts[branch[0]] if branch else None
        unit = top.title if top and top.kind == "folder" else ""
        draft = _draft(row, position, branch[-1] if branch else -1, unit)
        turns[unit, row.kind] += 1
        named = (
            Named(row.title)
            if row.title
            else proposed(_descriptor(row).title, row.kind, unit, turns[unit, row.kind])
        )
        beside = position >= len(cartridge.outline)
        group = (
            BESIDE
            if beside
            else group_of(named.name, row.kind) or (drafts[branch[-1]].group if branch else "")
        )
        trouble = trouble_of(row, knowledge, fingerprint)
        draft = replace(
            draft,
            title=named.name,
            shown_title=named.name,
            naming=named.how,
            naming_reason=named.why,
            group=group,
            trouble=trouble,
            files=_files(draft, row, by_id),
        )
        draft = _as_graded(draft, row, index, knowledge)
        drafts.append(replace(draft, digest=_digest(draft, row, fingerprint)))
        branch.append(position)
    return _named(drafts, knowledge.titles)


def _files(draft: EntryDraft, row: OutlineRow, by_id: Mapping[str, Resource]) -> tuple[str, ...]:
    """Return an entry's own files, and those of the resources that it depends on, each once."""
    depended = row.resource.dependencies if row.resource else ()
    others = (path for name in depended if name in by_id for path in by_id[name].files)
    return tuple(dict.fromkeys([*draft.files, *others]))


def items_of(drafts: Sequence[EntryDraft]) -> list[EntryDraft]:
    """Return the drafts that are items: LTI links where they lead to the pairing's publisher, the
    rest where the outline has it.
    """
    return [
        draft
        for draft in drafts
        if draft.item_kind
        and (not draft.trouble.blocks if draft.kind == "lti_link" else draft.group != BESIDE)
    ]


def _draft(row: OutlineRow, position: int, parent: int, unit: str) -> EntryDraft:
    resource, descriptor = row.resource, _descriptor(row)
    return EntryDraft(
        key=row.id or row.reference or f"row-{position}",
        resource=row.reference,
        kind=row.kind,
        title=row.title,
        shown_title=row.title,
        position=position,
        parent=parent,
        depth=row.depth,
        unit=unit,
        item_kind=ITEM_KINDS.get(row.kind, ""),
        audience=row.audience,
        url=descriptor.url,
        new_window=descriptor.new_window,
        custom=dict(descriptor.custom),
        member=resource.href if resource else "",
        files=resource.files if resource and row.kind in {"page", "file"} else (),
        points=descriptor.points,
        questions=dict(descriptor.questions),
        subjects=list(row.subjects),
    )


def _as_graded(
    draft: EntryDraft, row: OutlineRow, index: LineItemIndex, knowledge: Knowledge
) -> EntryDraft:
    """Give a tool's link what the publisher knows of it.

    A correction that the instructor made comes before all.
    """
    if row.kind != "lti_link" or draft.trouble.blocks:
        return draft
    if knowledge.is_own(draft.url):
        return replace(
            draft,
            item_kind="",
            placement=draft.custom.get("placement", ""),
            reason="Venn Pair wrote this link",
        )
    line_item, reason = index.find(row, draft.key)
    if line_item is None:
        return replace(draft, reason=reason)
    known: dict[str, Any] = {
        "line_item": line_item.sourced_id,
        "points": line_item.maximum,
        "due_at": line_item.due_at,
        "category": line_item.category,
    }
    if (
        reason in NOT_ITS_OWN and line_item.launch_url
    ):  # the link's own address may open another course's item
        known |= {"url": line_item.launch_url, "custom": dict(line_item.launch_custom)}
    return replace(draft, item_kind="graded", reason=reason, **known)


def _named(drafts: Sequence[EntryDraft], kept: Mapping[str, str]) -> list[EntryDraft]:
    """Tell equal names apart: entries in the whole cartridge, folders among their neighbours.

    Names that were given stay.
    """
    plain = [draft for draft in drafts if draft.kind != "folder"]
    told = tell_apart(
        [Named(draft.title, draft.naming, draft.naming_reason) for draft in plain],
        [draft.unit for draft in plain],
    )
    names = {draft.position: name for draft, name in zip(plain, told, strict=True)}
    below: dict[int, list[EntryDraft]] = {}
    for draft in drafts:
        if draft.kind == "folder":
            below.setdefault(draft.parent, []).append(draft)
    for folders in below.values():
        names |= {
            draft.position: name
            for draft, name in zip(
                folders,
                tell_apart(
                    [Named(each.title, each.naming, each.naming_reason) for each in folders],
                    [""] * len(folders),
                ),
                strict=True,
            )
        }
    named = []
    for draft in drafts:
        name = names[draft.position]
        if given := kept.get(draft.key):
            name = Named(given, "renamed", "the instructor named it so")
        named.append(replace(draft, shown_title=name.name, naming=name.how, naming_reason=name.why))
    return named


def _digest(draft: EntryDraft, row: OutlineRow, fingerprint: Fingerprint) -> str:
    parts = [
        draft.kind,
        draft.url,
        str(draft.new_window),
        *(f"{name}={value}" for name, value in sorted(draft.custom.items())),
        _descriptor(row).text,
    ]
    parts += [
        f"{path}:{fingerprint(path)}"
        for path in dict.fromkeys(filter(None, (draft.member, *draft.files)))
    ]
    return hashlib.sha256("\0".join(parts).encode("utf-8", "surrogatepass")).hexdigest()


def _descriptor(row: OutlineRow) -> Descriptor:
    return row.resource.descriptor if row.resource else Descriptor()
