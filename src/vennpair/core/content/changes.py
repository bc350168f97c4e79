"""What changed in a homework course's catalogue since it was last read."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from vennpair.core.deploy.dates import same_moment

Kind = Literal["new", "renamed", "moved", "points", "date", "withdrawn", "back"]


@dataclass(frozen=True, slots=True)
class Facts:
    """What the publisher says of an item.

    ``place`` is its category or unit; ``gone`` where it was withdrawn before.
    """

    title: str
    points: Decimal | None
    due_at: str
    place: str
    gone: bool = False


@dataclass(frozen=True, slots=True)
class Change:
    """One change of one item, before and after in words."""

    key: str
    kind: Kind
    title: str
    before: str = ""
    after: str = ""


def changes(before: Mapping[str, Facts], after: Mapping[str, Facts]) -> list[Change]:
    """Return every change, in the new order, withdrawn items last."""
    found: list[Change] = []
    for key, now in after.items():
        then = before.get(key)
        if then is None:
            found.append(Change(key, "new", now.title))
            continue
        if then.gone:
            found.append(Change(key, "back", now.title))
        found.extend(_differences(key, then, now))
    found.extend(
        Change(key, "withdrawn", then.title)
        for key, then in before.items()
        if key not in after and not then.gone
    )
    return found


def in_words(found: Sequence[Change]) -> str:
    """Return how many changes of each kind there are."""
    counted: dict[str, int] = {}
    for each in found:
        counted[each.kind] = counted.get(each.kind, 0) + 1
    names = {"points": "with other points", "date": "with another date", "back": "back again"}
    return (
        ", ".join(f"{count} {names.get(kind, kind)}" for kind, count in counted.items())
        or "nothing changed"
    )


def _differences(key: str, then: Facts, now: Facts) -> list[Change]:
    found = []
    if then.title != now.title:
        found.append(Change(key, "renamed", now.title, then.title, now.title))
    if then.place != now.place:
        found.append(Change(key, "moved", now.title, then.place, now.place))
    if _plain(then.points) != _plain(now.points):
        found.append(Change(key, "points", now.title, _plain(then.points), _plain(now.points)))
    if not same_moment(then.due_at, now.due_at):
        found.append(Change(key, "date", now.title, then.due_at, now.due_at))
    return found


def _plain(points: Decimal | None) -> str:
    return "" if points is None else f"{points.normalize():f}"
