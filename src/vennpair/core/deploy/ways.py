"""What a set-up places of a homework course, and which total is beside it.

``columns``: every graded item, a column each. ``average``: every graded item as a link, and one
column with their average. ``course``: one link to the homework course, and nothing else.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Literal, Protocol, TypeVar

from vennpair.core.content.groups import REVIEW, Treatment, group_of
from vennpair.core.deploy.sheet import Sheet, Wish
from vennpair.core.relay.totals import Weighting

Way = Literal["columns", "average", "course"]
COURSE_HOME = "course-home"
AVERAGE_TITLE = "Homework average"


class Offered(Protocol):
    """An item of a homework course, as far as choosing needs it."""

    @property
    def key(self) -> str: ...
    @property
    def kind(self) -> str: ...
    @property
    def unit(self) -> str: ...


Item = TypeVar("Item", bound=Offered)


def chosen_by(items: Iterable[Item], way: Way, review: Treatment) -> list[Item]:
    """Return the items that a way places, in their order; empty where the course has none."""
    if way == "course":
        return [each for each in items if each.key == COURSE_HOME]
    graded = [each for each in items if each.kind == "graded"]
    return [each for each in graded if review != "leave_out" or not is_review(each)]


def is_review(item: Offered) -> bool:
    """Say whether an item's unit repeats or is optional, by its title."""
    return group_of(item.unit, "folder") == REVIEW


def sheet_by(sheet: Sheet, way: Way, hidden: Iterable[str]) -> Sheet:
    """Return a sheet as a way wants it, with the ``hidden`` items (ids) not shown to learners
    unless somebody said otherwise of one.
    """
    wishes = dict(sheet.wishes)
    for item in hidden:
        said = wishes.get(item, Wish())
        wishes[item] = said if said.visible is not None else replace(said, visible=False)
    graded = "link" if way == "average" else sheet.graded
    return replace(sheet, graded=graded, wishes=wishes)


def total_title(way: Way, title: str) -> str:
    """Return the title of the column with a total, empty where none is wanted."""
    return title or (AVERAGE_TITLE if way == "average" else "")


def weighting_of(way: Way) -> Weighting:
    """Return how a total's items weigh: all the same in an average, else by their points."""
    return Weighting.EQUAL if way == "average" else Weighting.POINTS
