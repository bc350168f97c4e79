"""Plan a rollout from what the shell holds now; nothing is changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from vennpair.core.deploy.plan import Candidate, Plan, Undated, plan_rollout
from vennpair.service.api.refusals import Refused
from vennpair.service.content.models import Item
from vennpair.service.deploy.models import Placement
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.models import Pairing
from vennpair.standards.outline import Node


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan with the folder's id, empty where it will be made."""

    plan: Plan
    folder_id: str


def plan_deploy(pairing: Pairing, items: Sequence[Any], folder: str, undated: Undated = "ask") -> Planned:
    """Plan items into a folder given by title or id; an empty folder is the top of the outline.

    Raises Refused for unknown items or several folders of one title, and OutsideError.
    """
    if not pairing.shell.outline_url:
        raise Refused("no_outline", "The platform offers no Shell Outline service for this shell, so Venn Pair cannot place links in it.", "Open Venn Pair from the shell again; if it stays, ask the platform's administrator.", 409)
    chosen = {item.pk: item for item in pairing.items.filter(pk__in=items, gone=False).select_related("placement")}
    if missing := [str(each) for each in items if each not in chosen]:
        raise Refused("unknown_item", f"{len(missing)} of the chosen items are not in this pairing (any more).", "Import again and choose from the list.", 422)
    outline = shell_gateway(pairing.shell).outline(pairing.shell.outline_url)
    target = find_folder(outline, folder)
    start = sum(node.folder == (target.id if target else "") for node in outline) if target or not folder else 0
    candidates = [_candidate(chosen[each]) for each in dict.fromkeys(items)]
    plan = plan_rollout(candidates, target.title if target else folder, target is not None or not folder, start, undated)
    return Planned(plan, target.id if target else "")


def find_folder(outline: Sequence[Node], wanted: str) -> Node | None:
    """Return the folder of a title or id, None where there is none. Raises Refused where several have the title."""
    folders = [node for node in outline if node.kind == "folder" and wanted and (node.id == wanted or node.title.casefold() == wanted.casefold())]
    if len(folders) > 1:
        raise Refused("folder_ambiguous", f"The shell has {len(folders)} folders called '{wanted}'.", f"Name one by its id: {', '.join(node.id for node in folders[:5])}.", 422)
    return folders[0] if folders else None


def _candidate(item: Item) -> Candidate:
    placement = getattr(item, "placement", None)
    return Candidate(
        item=str(item.pk),
        title=item.shown_title,
        kind=item.kind,
        points=item.points,
        due_at=item.due_date,
        audience=item.audience,
        placed=placement is not None and placement.state == Placement.State.PLACED,
        launchable=item.kind in {"graded", "practice"},
    )
