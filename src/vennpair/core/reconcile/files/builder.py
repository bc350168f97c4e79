"""Collects rows into a Table: who is who on one side, points per item, repeated rows."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal

from vennpair.core.reconcile.files.errors import TableError
from vennpair.core.reconcile.learners import Learner, fold_email, fold_id
from vennpair.core.reconcile.numbers import read_number
from vennpair.core.reconcile.tables import Table, TableItem

Entry = tuple[int, Decimal | None, str, int]  # line, score, what its 'at' says, field


@dataclass(slots=True)
class TableBuilder:
    """Builds one side from rows. ``file`` is the name that errors show; ``places`` says to remember where each score stands.

    Learners, items and numbers come again and again as the very same text, so each text is understood once.
    """

    file: str
    places: bool = False
    table: Table = field(default_factory=Table)
    _positions: dict[tuple[str, str], int] = field(default_factory=dict)
    _items: dict[str, int] = field(default_factory=dict)
    _written: dict[tuple[str, str, str], int] = field(default_factory=dict)
    _stated: dict[tuple[str, str], int] = field(default_factory=dict)
    _numbers: dict[str, Decimal | None] = field(default_factory=dict)
    _entries: list[dict[int, Entry]] = field(default_factory=list)  # by item, then by learner
    _repeats: dict[tuple[int, int], list[Entry]] = field(default_factory=dict)

    def learner(self, id: str, email: str, name: str) -> int:
        """Return the position of a learner, adding them at their first row.

        A row with an id is that id's learner; one without is the learner of its email, else of its name.
        """
        known = self._written.get((id, email, name))
        if known is None:
            known = self._written[id, email, name] = self._learner(id, email, name)
        return known

    def _learner(self, id: str, email: str, name: str) -> int:
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
        known = self._stated.get((key, points))
        if known is None:
            known = self._stated[key, points] = self._item(key, title, points, line)
        return known

    def _item(self, key: str, title: str, points: str, line: int | None) -> int:
        stated = self._points(points, line)
        position = self._items.get(key)
        if position is None:
            position = len(self.table.items)
            self._items[key] = position
            self.table.items.append(TableItem(title.strip(), stated))
            self._entries.append({})
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
            value = self._numbers[text]
        except KeyError:
            value = self._numbers[text] = self._number(item, text, line)
        entry, entries = (line, value, at, field), self._entries[item]
        first = entries.setdefault(learner, entry)
        if first is not entry:
            self._repeats.setdefault((learner, item), [first]).append(entry)

    def finish(self) -> Table:
        """Return the table with one score per cell. Raises TableError ``repeated_row``."""
        for (learner, item), repeated in sorted(self._repeats.items(), key=lambda each: each[1][0][0]):
            self._entries[item][learner] = self._latest(learner, item, repeated)
        for item, entries in enumerate(self._entries):
            self.table.items[item].scores = {learner: entry[1] for learner, entry in entries.items() if entry[1] is not None}
            if self.places:
                self.table.places.update({(learner, item): (entry[0], entry[3]) for learner, entry in entries.items()})
        return self.table

    def _number(self, item: int, text: str, line: int) -> Decimal | None:
        try:
            return read_number(text)
        except ValueError as error:
            title = self.table.items[item].title
            message = f"Line {line} of {self.file}: the score '{text.strip()[:60]}' for '{title}' cannot be used: {error}."
            raise TableError("bad_score", self.file, line, message, "Write scores like 12 or 12.5, and leave a missing score blank.") from error

    def _latest(self, learner: int, item: int, entries: list[Entry]) -> Entry:
        times = [_moment(entry[2]) for entry in entries]
        known = [each for each in times if each is not None]
        zones = {each.tzinfo is None for each in known}
        if len(known) == len(entries) and len(zones) == 1 and len(set(known)) == len(known):
            return max(zip(known, entries, strict=True), key=lambda pair: pair[0])[1]
        who = self.table.learners[learner]
        lines = " and ".join(str(entry[0]) for entry in entries[:2])
        message = f"Lines {lines} of {self.file} both give {who.name or who.email or who.id} a score for '{self.table.items[item].title}', and nothing says which is the later."
        raise TableError("repeated_row", self.file, entries[1][0], message, "Fill in the column 'at' with different times, or delete the row that does not count.")

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
