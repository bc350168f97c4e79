"""A course platform and a publisher in memory, with the gateways' own interface.

For tests of rules and actions, and for whoever tries something against our code without a second
process. They keep what AGS, NRPS, the Shell Outline protocol and OneRoster say, record every call,
and fail where ``trouble`` says so. What they do not offer is refused as a platform without that
service refuses it.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any, NoReturn

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.patience import Patience
from vennpair.gateways.platform import PlatformGateway
from vennpair.gateways.publisher import PublisherGateway
from vennpair.gateways.tokens import TokenSource
from vennpair.standards.lti.grades import LineItem, Result, Score
from vennpair.standards.lti.members import Member
from vennpair.standards.oneroster import objects as o
from vennpair.standards.outline import Node

Trouble = Callable[[str], Failure | None]


def no_trouble(call: str) -> Failure | None:
    """Let every call succeed."""
    return None


def _nowhere(scopes: list[str]) -> NoReturn:
    raise OutsideError(
        Failure(
            FailureKind.NEVER,
            "not_offered",
            "This side is in memory and does not offer that.",
            "Ask it only for what its class names.",
        )
    )


def _no_tokens() -> TokenSource:
    return TokenSource("memory", "memory:", _nowhere, Patience("memory"))


@dataclass
class Gradebook:
    """The columns and cells of one shell: cells by column and user id."""

    columns: dict[str, LineItem] = field(default_factory=dict)
    cells: dict[tuple[str, str], Result] = field(default_factory=dict)
    stamps: dict[tuple[str, str], Any] = field(default_factory=dict)


class MemoryPlatform(PlatformGateway):
    """One shell of a course platform: members, gradebook and outline."""

    def __init__(self, name: str = "Memory Campus", trouble: Trouble = no_trouble) -> None:
        super().__init__(name, _no_tokens())
        self.roster: list[Member] = []
        self.book = Gradebook()
        self.nodes: dict[str, Node] = {}
        self.calls: list[str] = []
        self.trouble = trouble
        self._made: dict[str, Node] = {}
        self._numbers = itertools.count(1)

    def members(self, url: str) -> list[Member]:
        """Return all members (NRPS 2.0, 2.4)."""
        self._called("members")
        return list(self.roster)

    def line_items(self, url: str, **filters: str) -> list[LineItem]:
        """Return the columns that fit (AGS 2.0, 3.2.5)."""
        self._called("line_items")
        return [
            item
            for item in self.book.columns.values()
            if all(getattr(item, name) == value for name, value in filters.items())
        ]

    def make_line_item(self, url: str, item: LineItem) -> LineItem:
        """Make a column (AGS 2.0, 3.2.7)."""
        self._called(f"make_line_item {item.label}")
        made = replace(item, id=f"{url}/{next(self._numbers)}")
        self.book.columns[made.id] = made
        return made

    def line_item(self, url: str) -> LineItem:
        """Return one column (AGS 2.0, 3.2.8). Fails with ``gone``."""
        self._called("line_item")
        return self._column(url)

    def change_line_item(self, item: LineItem) -> LineItem:
        """Change a column (AGS 2.0, 3.2.9). Fails with ``gone``."""
        self._called(f"change_line_item {item.label}")
        self._column(item.id)
        self.book.columns[item.id] = item
        return item

    def remove_line_item(self, url: str) -> None:
        """Remove a column with its scores; one that is gone already is no failure."""
        self._called("remove_line_item")
        self.book.columns.pop(url, None)
        for key in [key for key in self.book.cells if key[0] == url]:
            del self.book.cells[key]

    def send_score(
        self, line_item: str, score: Score, hindered: Callable[[], Failure | None] = lambda: None
    ) -> None:
        """Take a score, scaled to the column; an older one changes nothing (AGS 2.0, 3.4.5)."""
        if failure := hindered():
            raise OutsideError(failure)
        self._called(f"send_score {score.user_id}")
        column, key = self._column(line_item), (line_item, score.user_id)
        if (last := self.book.stamps.get(key)) is not None and score.timestamp < last:
            return
        self.book.stamps[key] = score.timestamp
        given = None
        if score.given is not None and score.maximum:
            given = score.given * column.score_maximum / score.maximum
        self.book.cells[key] = Result(score.user_id, given, column.score_maximum, score.comment)

    def results(self, line_item: str, user: str = "") -> list[Result]:
        """Return the cells of a column (AGS 2.0, 3.3.6). Fails with ``gone``."""
        self._called("results")
        self._column(line_item)
        return [
            cell
            for (column, who), cell in self.book.cells.items()
            if column == line_item and (not user or who == user)
        ]

    def type_over(self, line_item: str, user: str, score: Decimal | None) -> None:
        """Be the instructor: type a score by hand, None empties the cell."""
        maximum = self._column(line_item).score_maximum
        self.book.cells[line_item, user] = Result(user, score, maximum)

    def outline_and_offers(self, url: str) -> tuple[list[Node], frozenset[str]]:
        """Return the tree in reading order, and no optional part."""
        self._called("outline")
        return self._in_order("", 0), frozenset()

    def make_folder(self, url: str, title: str, key: str, **fields: Any) -> Node:
        """Make a folder; the same ``key`` never makes a second one."""
        return self._add("folder", key, title=title, **fields)

    def make_entry(self, outline_url: str, kind: str, key: str, **fields: Any) -> Node:
        """Make an entry; the same ``key`` never makes a second one."""
        return self._add(kind, key, **fields)

    def change_node(self, outline_url: str, node: Node, key: str, **changes: Any) -> Node:
        """Change a folder or entry. Fails with ``stale`` where it was changed since."""
        self._called(f"change_node {node.title}")
        there = self.nodes.get(node.id)
        if there is None:
            raise self._gone()
        if there.etag != node.etag:
            words = "Somebody changed it in the meantime."
            raise OutsideError(Failure(FailureKind.NEVER, "stale", words, "Look again."))
        changed = replace(there, **changes, etag=f"{node.id}-{next(self._numbers)}")
        self.nodes[node.id] = changed
        return changed

    def remove_node(self, outline_url: str, node: Node) -> None:
        """Remove a folder or entry with all in it; one that is gone already is no failure."""
        self._called(f"remove_node {node.title}")
        for inner in [each for each in self.nodes.values() if each.folder == node.id]:
            self.remove_node(outline_url, inner)
        self.nodes.pop(node.id, None)

    def put_in_order(self, outline_url: str, folder: str, children: list[str]) -> None:
        """Put the children of a folder (empty: the top) into a new order."""
        self._called("put_in_order")
        for position, child in enumerate(children):
            self.nodes[child] = replace(self.nodes[child], position=position)

    def _add(self, kind: str, key: str, **fields: Any) -> Node:
        self._called(f"make {fields.get('title', '')}")
        if key not in self._made:
            number = str(next(self._numbers))
            siblings = [n for n in self.nodes.values() if n.folder == fields.get("folder", "")]
            fields.setdefault("position", len(siblings))
            link = f"link-{number}" if kind == "lti_link" else ""
            node = Node(number, kind=kind, resource_link_id=link, etag=f"{number}-0", **fields)
            self._made[key] = self.nodes[number] = node
        return self._made[key]

    def _in_order(self, folder: str, depth: int) -> list[Node]:
        children = [node for node in self.nodes.values() if node.folder == folder]
        rows: list[Node] = []
        for node in sorted(children, key=lambda each: each.position):
            rows += [replace(node, depth=depth), *self._in_order(node.id, depth + 1)]
        return rows

    def _column(self, url: str) -> LineItem:
        if url not in self.book.columns:
            raise self._gone()
        return self.book.columns[url]

    def _gone(self) -> OutsideError:
        return OutsideError(
            Failure(
                FailureKind.NEVER,
                "gone",
                f"{self.name} no longer has it.",
                "Make it again.",
                status=404,
            )
        )

    def _called(self, call: str) -> None:
        self.calls.append(call)
        if failure := self.trouble(call.split(" ")[0]):
            raise OutsideError(failure)


class MemoryPublisher(PublisherGateway):
    """A publisher's homework courses: classes, learners, graded items and results by class id."""

    def __init__(self, name: str = "Memory Press", trouble: Trouble = no_trouble) -> None:
        super().__init__(name, "memory:", _no_tokens())
        self.courses: dict[str, o.Class] = {}
        self.learners: dict[str, list[o.User]] = {}
        self.items: dict[str, list[o.LineItem]] = {}
        self.scores: dict[str, list[o.Result]] = {}
        self.groups: dict[str, list[o.Category]] = {}
        self.calls: list[str] = []
        self.trouble = trouble

    def classes(self) -> list[o.Class]:
        """Return all homework courses."""
        self._called("classes")
        return list(self.courses.values())

    def course(self, class_id: str) -> o.Class:
        """Return one homework course. Fails with ``gone``."""
        self._called("course")
        if class_id not in self.courses:
            words = f"{self.name} has no such course."
            raise OutsideError(
                Failure(FailureKind.NEVER, "gone", words, "Choose another.", status=404)
            )
        return self.courses[class_id]

    def students(self, class_id: str) -> list[o.User]:
        """Return the learners of a course."""
        self._called("students")
        return list(self.learners.get(class_id, ()))

    def line_items(self, class_id: str) -> list[o.LineItem]:
        """Return the graded items of a course."""
        self._called("line_items")
        return list(self.items.get(class_id, ()))

    def results(self, class_id: str) -> list[o.Result]:
        """Return all scores of a course, deleted ones left out."""
        self._called("results")
        return [each for each in self.scores.get(class_id, ()) if not each.deleted]

    def changed_results(self, class_id: str, since: str) -> list[o.Result]:
        """Return the scores that changed at or after ``since``, deleted ones included."""
        self._called("changed_results")
        found = [each for each in self.scores.get(class_id, ()) if each.changed >= since]
        return sorted(found, key=lambda each: each.changed)

    def categories(self, class_id: str) -> list[o.Category]:
        """Return the categories of a course."""
        self._called("categories")
        return list(self.groups.get(class_id, ()))

    def _called(self, call: str) -> None:
        self.calls.append(call)
        if failure := self.trouble(call):
            raise OutsideError(failure)
