"""Where in a shell something goes: folders found by id or title, headings, pages, and a folder for
each unit.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from vennpair.core.deploy.sheet import Sheet
from vennpair.standards.outline import Node

TOP, START = "", "start"


class NoPlace(Exception):
    """A place that was named is not there, or there are several."""

    def __init__(self, code: str, message: str, remedy: str) -> None:
        super().__init__(message)
        self.code, self.message, self.remedy = code, message, remedy


@dataclass(frozen=True, slots=True)
class NewFolder:
    """A folder to make; ``parent`` is a node's id, another new folder's key, or empty for
    the top.
    """

    key: str
    title: str
    parent: str


@dataclass(slots=True)
class Places:
    """Finds the place of each unit in one shell, and notes which folders have to be made for it."""

    outline: Sequence[Node]
    sheet: Sheet
    new: list[NewFolder] = field(default_factory=list)
    after: str = ""
    page: Node | None = None
    level: int = 0
    _base: str | None = None

    def of(self, unit: str, named: str = "") -> str:
        """Return the id of the folder for an item of ``unit``, or of the one that is named for it,
        or the key of a new one.

        Raises NoPlace.
        """
        base = self._ground()
        if named:
            there = find(self.outline, named, "folder")
            return there.id if there else self._make(named, base)
        if self.sheet.into != "unit" or not unit:
            return base
        wanted = self.sheet.folders.get(unit) or unit
        inside = find(
            self.outline, wanted, "folder", [node for node in self.outline if node.folder == base]
        )
        found = inside or (find(self.outline, wanted, "folder") if not self.sheet.folder else None)
        return found.id if found else self._make(wanted, base)

    def title(self, place: str) -> str:
        """Return the title of a folder or new folder, empty for the top."""
        made = next((each.title for each in self.new if each.key == place), "")
        return made or next((node.title for node in self.outline if node.id == place), "")

    def _ground(self) -> str:
        if self._base is None:
            self._base = self._begin()
        return self._base

    def _begin(self) -> str:
        sheet = self.sheet
        self.after = sheet.after
        if (
            sheet.after
            and sheet.after != START
            and all(node.id != sheet.after for node in self.outline)
        ):
            raise NoPlace(
                "entry_unknown",
                "The entry that the items should follow is not in the shell.",
                "Choose another one, or leave it out: then they go to their own place in the"
                " order.",
            )
        if sheet.into in {"heading", "page"}:
            return self._beside(sheet.into)
        if not sheet.folder:
            return TOP
        found = find(self.outline, sheet.folder, "folder")
        return found.id if found else self._make(sheet.folder, TOP)

    def _beside(self, kind: str) -> str:
        found = find(self.outline, self.sheet.folder, kind)
        if found is None:
            raise NoPlace(
                f"{kind}_unknown",
                f"The shell has no {kind} '{self.sheet.folder}'.",
                "Choose one of the outline, or a folder.",
            )
        if kind == "page":
            self.page = found
            self.after = self.after or found.id
        else:
            self.after = self.after or last_under(self.outline, found)
            self.level = found.level + 1
        return found.folder

    def _make(self, title: str, parent: str) -> str:
        known = next(
            (
                each
                for each in self.new
                if each.parent == parent and each.title.casefold() == title.casefold()
            ),
            None,
        )
        if known is None:
            known = NewFolder(f"new-{len(self.new) + 1}", title, parent)
            self.new.append(known)
        return known.key


def find(
    outline: Sequence[Node], wanted: str, kind: str = "folder", among: Sequence[Node] | None = None
) -> Node | None:
    """Return the node of an id or title, None where there is none.

    Raises NoPlace where several have the title.
    """
    rows = outline if among is None else among
    by_id = next(
        (node for node in rows if wanted and node.kind == kind and node.id == wanted), None
    )
    if by_id is not None:
        return by_id
    found = [
        node
        for node in rows
        if node.kind == kind and wanted and node.title.casefold() == wanted.casefold()
    ]
    if len(found) > 1:
        raise NoPlace(
            f"{kind}_ambiguous",
            f"The shell has {len(found)} {kind}s called '{wanted}'.",
            f"Name one by its id: {', '.join(node.id for node in found[:5])}.",
        )
    return found[0] if found else None


def last_under(outline: Sequence[Node], heading: Node) -> str:
    """Return the id of the last entry under a heading: before the next one of its folder that is
    not set in below it.
    """
    row = [node for node in outline if node.folder == heading.folder]
    last = heading.id
    for node in row[row.index(heading) + 1 :]:
        if node.kind == "heading" and node.level <= heading.level:
            break
        last = node.id
    return last


def hidden_around(outline: Sequence[Node], place: str) -> Node | None:
    """Return the nearest folder around a place that learners do not see, None where all are
    shown.
    """
    nodes = {node.id: node for node in outline}
    at = nodes.get(place)
    while at is not None:
        if not at.visible or at.audience != "everyone":
            return at
        at = nodes.get(at.folder)
    return None
