"""Collects rows into a Table: who is who on one side, points per item, repeated rows."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from typing import Any

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.learners import Learner, fold_email, fold_id
from vennpair.core.reconcile.numbers import KNOWN
from vennpair.core.reconcile.tables import Table, TableItem

Tidy = tuple[
    str, str, str, str, str, str, str
]  # the fields of a tidy row, in the order of its header
Entry = tuple[int, Decimal | None, str, int]  # line, score, what its 'at' says, field


class Repeated(Exception):
    """A learner has two rows for an item, and the rows were not remembered: they must be read
    again, carefully.
    """


@dataclass(slots=True)
class TableBuilder:
    """Builds one side from rows. ``file`` is the name that errors show.

    ``careful`` remembers each row, which repeated rows and places need and costs time; ``places``
    are kept with it.
    """

    file: str
    careful: bool = True
    places: bool = False
    table: Table = field(default_factory=Table)
    _positions: dict[tuple[str, str], int] = field(default_factory=dict)
    _items: dict[str, int] = field(default_factory=dict)
    _scores: list[dict[int, Decimal | None]] = field(default_factory=list)  # by item
    _blank: set[int] = field(default_factory=set)  # items of which a row has no score
    _entries: dict[tuple[int, int], list[Entry]] = field(
        default_factory=dict
    )  # by learner and item

    def rows(self, rows: Iterable[tuple[int, Tidy]], field: int = 0) -> None:
        """Add tidy rows with their lines; the score is in ``field`` of each. Raises TableError,
        and Repeated unless careful.

        A million rows are usual, so what is as it was in an earlier row costs a look and no more.
        """
        careful = self.careful
        met: dict[tuple[str, str, str], int] = {}
        items: dict[str, tuple[str, int, dict[int, Decimal | None]]] = {}
        last_number, last_email, last_name, who = "", "", "", -1
        for line, (number, email, name, title, score, points, at) in rows:
            if who < 0 or number != last_number or email != last_email or name != last_name:
                last_number, last_email, last_name = number, email, name
                who = met.get((number, email, name), -1)
                if who < 0:
                    who = met[number, email, name] = self.learner(number, email, name)
            known = items.get(title)
            if known is None or known[0] != points:
                position = self.item(title.strip(), title, points, line)
                known = items[title] = (points, position, self._scores[position])
            if careful:
                self.score(who, known[1], score, line, field, at)
                continue
            scores = known[2]
            if who in scores:
                raise Repeated
            try:
                value = scores[who] = KNOWN[score]
            except ValueError as error:
                raise self._bad(known[1], score, line, error) from error
            if value is None:
                self._blank.add(known[1])

    def learner(self, id: str, email: str, name: str) -> int:
        """Return the position of a learner, adding them at their first row.

        A row with an id is that id's learner; one without is the learner of its email, else of its
        name.
        """
        keys = [("id", fold_id(id)), ("email", fold_email(email)), ("name", name.strip())]
        key = next((each for each in keys if each[1]), ("name", ""))
        position = self._positions.get(key)
        if position is None:
            position = len(self.table.learners)
            self._positions[key] = position
            self.table.learners.append(Learner(id.strip(), email.strip(), name.strip()))
            if key[0] == "id" and keys[1][1]:
                self._positions.setdefault(keys[1], position)
        else:
            known = self.table.learners[position]
            self.table.learners[position] = Learner(
                known.id or id.strip(), known.email or email.strip(), known.name or name.strip()
            )
        return position

    def item(self, key: str, title: str, points: str, line: int | None) -> int:
        """Return the position of an item. Raises TableError ``bad_points`` or ``points_vary``."""
        stated = self._points(points, line)
        position = self._items.get(key)
        if position is None:
            position = len(self.table.items)
            self._items[key] = position
            self.table.items.append(TableItem(title.strip(), stated))
            self._scores.append({})
            return position
        known = self.table.items[position]
        if stated is not None and known.points is not None and stated != known.points:
            message = (
                f"Line {line} of {self.file} says that '{known.title}' has {points.strip()} points;"
                f" an earlier line says {known.points:f}."
            )
            raise TableError(
                "points_vary",
                self.file,
                line,
                message,
                "Give every row of one item the same points.",
            )
        known.points = known.points if stated is None else stated
        return position

    def score(
        self, learner: int, item: int, text: str, line: int, field: int = 0, at: str = ""
    ) -> None:
        """Add a score that is in a line's field, and remember where.

        Raises TableError ``bad_score``.
        """
        try:
            value = KNOWN[text]
        except ValueError as error:
            raise self._bad(item, text, line, error) from error
        self._scores[item][learner] = value
        self._entries.setdefault((learner, item), []).append((line, value, at, field))

    def finish(self) -> Table:
        """Return the table with one score per cell. Raises TableError ``repeated_row``."""
        for (learner, item), entries in self._entries.items():
            counting = entries[0] if len(entries) == 1 else self._latest(learner, item, entries)
            self._scores[item][learner] = counting[1]
            if counting[1] is None:
                self._blank.add(item)
            if self.places:
                self.table.places[learner, item] = (counting[0], counting[3])
        for position, scores in enumerate(self._scores):
            found: Any = (
                {who: score for who, score in scores.items() if score is not None}
                if position in self._blank
                else scores
            )
            self.table.items[position].scores = found
        return self.table

    def _bad(self, item: int, text: str, line: int, error: ValueError) -> TableError:
        message = (
            f"Line {line} of {self.file}: the score '{text.strip()[:60]}' for"
            f" '{self.table.items[item].title}' cannot be used: {error}."
        )
        return TableError(
            "bad_score",
            self.file,
            line,
            message,
            "Write scores like 12 or 12.5, and leave a missing score blank.",
        )

    def _latest(self, learner: int, item: int, entries: list[Entry]) -> Entry:
        times = [_moment(entry[2]) for entry in entries]
        known = [each for each in times if each is not None]
        zones = {each.tzinfo is None for each in known}
        if len(known) == len(entries) and len(zones) == 1 and len(set(known)) == len(known):
            return max(zip(known, entries, strict=True), key=lambda pair: pair[0])[1]
        who = self.table.learners[learner]
        lines = " and ".join(str(entry[0]) for entry in entries[:2])
        message = (
            f"Lines {lines} of {self.file} both give {who.name or who.email or who.id} a score for"
            f" '{self.table.items[item].title}', and nothing says which is the later."
        )
        raise TableError(
            "repeated_row",
            self.file,
            entries[1][0],
            message,
            "Fill in the column 'at' with different times, or delete the row that does not count.",
        )

    def _points(self, text: str, line: int | None) -> Decimal | None:
        try:
            value = KNOWN[text]
            if value is not None and value < 0:
                raise ValueError("points cannot be negative")
        except ValueError as error:
            message = (
                f"Line {line} of {self.file}: the points '{text.strip()[:60]}' cannot be used:"
                f" {error}."
            )
            raise TableError(
                "bad_points",
                self.file,
                line,
                message,
                "Write points like 10 or 12.5, or leave them blank.",
            ) from error
        return value


def _moment(text: str) -> datetime | None:
    try:
        return datetime.fromisoformat(text.strip())
    except ValueError:
        return None
