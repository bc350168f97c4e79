"""What bringing chosen entries into a shell will do, entry by entry: make, update, leave as it is,
or leave out.

Nothing is doubled: an entry that an earlier import brought is recognised by its identifier or its
content.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from vennpair.core.content.choose import Choice
from vennpair.core.content.entry_checks import Trouble
from vennpair.standards.outline import Node

Action = Literal["make", "update", "same", "keep", "leave_out"]


@dataclass(frozen=True, slots=True)
class Wanted:
    """An entry of the package, as far as bringing it in needs it."""

    position: int
    parent: int
    key: str
    kind: str
    title: str
    digest: str
    audience: str
    trouble: Trouble
    package: str = ""


@dataclass(frozen=True, slots=True)
class Brought:
    """What an earlier import of this shell brought: the node it made, and what was put there."""

    key: str
    kind: str
    title: str
    digest: str
    package: str
    node: str
    etag: str


@dataclass(frozen=True, slots=True)
class Planned:
    """What will be done with one entry; ``why`` says the reason where it is not simply made.

    ``hides``: it is only kept from learners, whatever somebody made of it in the shell.
    """

    position: int
    action: Action
    visible: bool = True
    why: str = ""
    remedy: str = ""
    node: str = ""
    etag: str = ""
    hides: bool = False


def plan_bringing(
    entries: Sequence[Wanted],
    choice: Choice,
    brought: Sequence[Brought],
    placed: Mapping[int, str],
    nodes: Mapping[str, Node],
) -> list[Planned]:
    """Plan the wanted entries in reading order.

    ``placed`` names, by position, the node of a tool's link whose item is in the shell already;
    ``nodes`` is the shell's outline as it is now. A folder of which nothing can be brought is
    left out with it.
    """
    known = _Known(brought, nodes)
    planned: dict[int, Planned] = {}
    for entry in entries:
        if entry.position in choice.left_out:
            planned[entry.position] = Planned(
                entry.position,
                "leave_out",
                why="review and refresher folders are left out, as you chose",
            )
        elif entry.position in choice.wanted:
            found = _one(entry, choice, known, placed, nodes)
            shown = entry.position in choice.hidden - placed.keys()
            planned[entry.position] = _hidden(found, nodes) if shown else found
    _drop_empty_folders(entries, planned)
    return [planned[position] for position in sorted(planned)]


def _one(
    entry: Wanted,
    choice: Choice,
    known: _Known,
    placed: Mapping[int, str],
    nodes: Mapping[str, Node],
) -> Planned:
    visible = entry.audience == "everyone" and entry.position not in choice.hidden
    if entry.trouble.blocks:
        trouble = entry.trouble
        return Planned(entry.position, "leave_out", visible, trouble.message, trouble.remedy)
    if (link := placed.get(entry.position)) is not None:
        etag = nodes[link].etag if link in nodes else ""
        why = "it is in the shell already"
        return Planned(entry.position, "same", visible, why, "", link, etag)
    before = known.find(entry)
    if before is None:
        return Planned(entry.position, "make", visible)
    node = nodes[before.node]
    if before.digest == entry.digest and before.title == entry.title:
        # The etag of then, not of now: what somebody changed since stays known as changed when a
        # newer package comes.
        why = "an earlier import brought it"
        return Planned(entry.position, "same", visible, why, "", node.id, before.etag)
    if node.etag != before.etag:
        why = "it was brought before and changed in the shell since, so it stays as it is"
        remedy = "Remove it in the shell first if the package's should come instead."
        return Planned(entry.position, "keep", visible, why, remedy, node.id, before.etag)
    why = "an earlier import brought it; the package has it otherwise now"
    return Planned(entry.position, "update", visible, why, "", node.id, node.etag)


def _hidden(planned: Planned, nodes: Mapping[str, Node]) -> Planned:
    """Let what an earlier import brought be hidden where learners see it.

    Nothing else of it is written, so that what somebody changed in the shell stays.
    """
    node = nodes.get(planned.node)
    if planned.action not in {"same", "keep"} or node is None or not node.visible:
        return planned
    why = "learners see it, and review and refresher folders are hidden, as you chose"
    return replace(planned, action="update", why=why, remedy="", hides=True)


class _Known:
    """Finds what an earlier import brought: the same identifier in the same package or under the
    same title, else the same content and title.
    """

    def __init__(self, brought: Sequence[Brought], nodes: Mapping[str, Node]) -> None:
        self._by_key: dict[tuple[str, str], list[Brought]] = {}
        self._by_content: dict[tuple[str, str, str], Brought] = {}
        self._taken: set[str] = set()
        for each in brought:  # oldest first, so that the newest wins
            if each.node in nodes:
                self._by_key.setdefault((each.key, each.kind), []).insert(0, each)
                self._by_content[each.digest, each.title, each.kind] = each

    def find(self, entry: Wanted) -> Brought | None:
        same = [
            each
            for each in self._by_key.get((entry.key, entry.kind), [])
            if (each.package == entry.package and entry.package) or each.title == entry.title
        ]
        if entry.kind != "folder" and (
            content := self._by_content.get((entry.digest, entry.title, entry.kind))
        ):
            same.append(content)
        found = next((each for each in same if each.node not in self._taken), None)
        if found:
            self._taken.add(found.node)
        return found


def _drop_empty_folders(entries: Sequence[Wanted], planned: dict[int, Planned]) -> None:
    """Leave out a folder that would be made for nothing.

    A folder that is empty in the package too is kept as it is.
    """
    holds, children = set(), set()
    for entry in reversed(entries):
        plan = planned.get(entry.position)
        if entry.parent >= 0:
            children.add(entry.parent)
        there = (
            plan is not None
            and plan.action != "leave_out"
            and (
                entry.kind != "folder" or entry.position in holds or entry.position not in children
            )
        )
        if there and entry.parent >= 0:
            holds.add(entry.parent)
        if (
            plan
            and entry.kind == "folder"
            and plan.action == "make"
            and entry.position in children
            and entry.position not in holds
        ):
            planned[entry.position] = Planned(
                entry.position, "leave_out", plan.visible, "nothing in it can be brought in"
            )
