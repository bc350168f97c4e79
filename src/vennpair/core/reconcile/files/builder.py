"""Collects rows into a Table: who is who on one side, points per item, repeated rows."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.learners import Learner, fold_email, fold_id
from vennpair.core.reconcile.numbers import read_number
from vennpair.core.reconcile.tables import Table, TableItem


@dataclass(slots=True)
class _Entry:
    line: int
    score: Decimal | None
    at: datetime | None
    field: int


@dataclass(slots=True)
class TableBuilder:
    """Builds one side from rows. ``file`` is the name that errors show; ``places`` says to remember where each score stands."""

    file: str
    places: bool = False
    table: Table = field(default_factory=Table)
    _positions: dict[tuple[str, str], int] = field(default_factory=dict)
    _items: dict[str, int] = field(default_factory=dict)
    _entries: dict[tuple[int, int], list[_Entry]] = field(default_factory=dict)

    def learner(self, id: str, email: str, name: str) -> int:
        """Return the position of a learner, adding them at their first row.

        A row with an id is that id's learner; one without is the learner of its email, else of its name.
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
            self.table.learners[position] = Learner(known.id or id.strip(), known.email or email.strip(), known.name or name.strip())
        return position

    def item(self, key: str, title: str, points: str, line: int | None) -> int:
        """Return the position of an item. Raises TableError ``bad_points`` or ``points_vary``."""
        stated = self._points(points, line)
        position = self._items.get(key)
        if position is None:
            position = len(self.table.items)
            self._items[key] = position
            self.table.items.append(TableItem(title.strip(), stated))
            return position
        known = self.table.items[position]
        if stated is not None and known.points is not None and stated != known.points:
            message = f"Line {line} of {self.file} says that '{known.title}' has {points.strip()} points; an earlier line says {known.points:f}."
            raise TableError("points_vary", self.file, line, message, "Give every row of one item the same points.")
        known.points = known.points if stated is None else stated
        return position

    def score(self, learner: int, item: int, text: str, at: str, line: int, field: int = 0) -> None:
        """Add a score that stands in a line's field. Raises TableError ``bad_score``."""
        try:
            value = read_number(text)
        except ValueError as error:
            title = self.table.items[item].title
            message = f"Line {line} of {self.file}: the score '{text.strip()[:60]}' for '{title}' cannot be used: {error}."
            raise TableError("bad_score", self.file, line, message, "Write scores like 12 or 12.5, and leave a missing score blank.") from error
        self._entries.setdefault((learner, item), []).append(_Entry(line, value, _moment(at), field))

    def finish(self) -> Table:
        """Return the table with one score per cell. Raises TableError ``repeated_row``."""
        for (learner, item), entries in self._entries.items():
            counting = entries[0] if len(entries) == 1 else self._latest(learner, item, entries)
            if self.places:
                self.table.places[learner, item] = (counting.line, counting.field)
            if counting.score is not None:
                self.table.items[item].scores[learner] = counting.score
        return self.table

    def _latest(self, learner: int, item: int, entries: list[_Entry]) -> _Entry:
        times = [entry.at for entry in entries if entry.at is not None]
        zones = {time.tzinfo is None for time in times}
        if len(times) == len(entries) and len(zones) == 1 and len(set(times)) == len(times):
            return max(entries, key=lambda entry: entry.at or datetime.min)
        who = self.table.learners[learner]
        lines = " and ".join(str(entry.line) for entry in entries[:2])
        message = f"Lines {lines} of {self.file} both give {who.name or who.email or who.id} a score for '{self.table.items[item].title}', and nothing says which is the later."
        raise TableError("repeated_row", self.file, entries[1].line, message, "Fill in the column 'at' with different times, or delete the row that does not count.")

    def _points(self, text: str, line: int | None) -> Decimal | None:
        try:
            value = read_number(text)
            if value is not None and value < 0:
                raise ValueError("points cannot be negative")
        except ValueError as error:
            message = f"Line {line} of {self.file}: the points '{text.strip()[:60]}' cannot be used: {error}."
            raise TableError("bad_points", self.file, line, message, "Write points like 10 or 12.5, or leave them blank.") from error
        return value


def _moment(text: str) -> datetime | None:
    try:
        return datetime.fromisoformat(text.strip())
    except ValueError:
        return None
