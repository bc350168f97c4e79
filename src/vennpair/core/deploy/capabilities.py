"""What travels between the two sides of a pairing, from what both really offer, and what to do by
hand for the rest.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vennpair.standards.lti import vocabulary as v

Route = Literal["outline", "deep_linking", "cartridge"]


@dataclass(frozen=True, slots=True)
class Offers:
    """What both sides offer: the platform's scopes and parts of the outline protocol, and what the
    publisher tells of its items.
    """

    scopes: frozenset[str] = frozenset()
    outline: frozenset[str] | None = None
    dates: bool = False
    points: bool = False
    categories: bool = False


@dataclass(frozen=True, slots=True)
class Travel:
    """One thing: whether it travels (``yes``, ``once``: only when it is placed, ``no``), how, and
    what is left to do by hand.
    """

    what: str
    travels: Literal["yes", "once", "no"]
    how: str
    by_hand: str = ""


def route_of(offers: Offers) -> tuple[Route, str]:
    """Return the route that a rollout takes, and why."""
    if offers.outline is not None and v.SCOPE_OUTLINE in offers.scopes:
        return (
            "outline",
            (
                "The platform offers the Shell Outline service: everything is placed, ordered and"
                " watched from here."
            ),
        )
    if v.SCOPE_LINE_ITEM in offers.scopes:
        return (
            "deep_linking",
            (
                "The platform offers no outline service: begin in the shell with its own way to add"
                " content from a tool, and pick there; or upload a written cartridge."
            ),
        )
    return (
        "cartridge",
        (
            "The platform lets tools neither place links nor make columns: upload a written"
            " cartridge; its links are claimed at their first launch."
        ),
    )


def what_travels(offers: Offers) -> list[Travel]:
    """Return the table, in the order in which people ask."""
    outline, parts = (
        offers.outline is not None and v.SCOPE_OUTLINE in offers.scopes,
        offers.outline or frozenset[str](),
    )
    columns = v.SCOPE_LINE_ITEM in offers.scopes
    rows = [_points(offers, columns), _dates(offers, columns, outline and "due_at" in parts)]
    rows.append(
        Travel(
            "calendar",
            "yes",
            "The due date is at the link, where the platform's calendar reads it.",
        )
        if outline and "due_at" in parts and offers.dates
        else Travel(
            "calendar",
            "no",
            "The platform takes no due date at a link.",
            "Enter due dates in the calendar by hand, if learners use it.",
        )
    )
    rows.append(_categories(offers, "gradebook" in parts and outline))
    rows.append(_order(outline, "gradebook" in parts))
    rows.append(_visibility(outline, "shown_from" in parts))
    rows.append(
        Travel(
            "attempts",
            "no",
            "No standard tells how many attempts an item allows or which one counts; the"
            " publisher's rule holds.",
            "Set attempts at the publisher only; a rule in the shell has no effect.",
        )
    )
    rows.append(
        Travel(
            "weights and drop rules",
            "no",
            "They stay the platform's: Venn Pair puts columns into categories and leaves weighing"
            " and dropping to the gradebook.",
            "Set them once in the gradebook.",
        )
    )
    return rows


def _points(offers: Offers, columns: bool) -> Travel:
    if not offers.points:
        return Travel(
            "points",
            "no",
            "The publisher tells no points.",
            "Say for each item how many it is worth.",
        )
    return (
        Travel("points", "yes", "The publisher's points become the column's, and are watched.")
        if columns
        else Travel(
            "points",
            "once",
            "They go along when a link is picked or uploaded.",
            "Check them in the gradebook: columns cannot be changed from here.",
        )
    )


def _dates(offers: Offers, columns: bool, at_link: bool) -> Travel:
    if not offers.dates:
        return Travel(
            "due dates",
            "no",
            "The publisher tells no due dates.",
            "Enter them in the shell, or let the items come without a column.",
        )
    if columns or at_link:
        return Travel(
            "due dates",
            "yes",
            "They go to the link and the column, with their zone, and are watched."
            if columns and at_link
            else "They go to the column, with their zone, and are watched."
            if columns
            else "They go to the link, with their zone, and are watched.",
        )
    return Travel(
        "due dates",
        "once",
        "They go along when a link is picked or uploaded.",
        "Change them in the shell by hand when the publisher's change.",
    )


def _categories(offers: Offers, gradebook: bool) -> Travel:
    if gradebook:
        return Travel(
            "category",
            "yes",
            "Columns go into the publisher's category or one of the shell's; missing ones are"
            " made.",
            (
                ""
                if offers.categories
                else "The publisher tells no categories: choose one of the shell's."
            ),
        )
    return Travel(
        "category",
        "no",
        "The platform does not let tools put columns into categories.",
        "Move the columns into their categories in the gradebook.",
    )


def _order(outline: bool, gradebook: bool) -> Travel:
    if outline and gradebook:
        return Travel(
            "order",
            "yes",
            "Links and columns are in the order of the rollout, and can be put in another from"
            " here.",
        )
    if outline:
        return Travel(
            "order",
            "once",
            "Links are ordered from here; columns come in the order in which they are made.",
            "Order the columns in the gradebook by hand.",
        )
    return Travel(
        "order",
        "no",
        "The platform orders what it is given.",
        "Drag links and columns into place in the shell.",
    )


def _visibility(outline: bool, shown_from: bool) -> Travel:
    if not outline:
        return Travel(
            "visibility",
            "no",
            "The platform decides what learners see.",
            "Show or hide the links in the shell.",
        )
    return (
        Travel("visibility", "yes", "Links are shown, hidden or shown from a date.")
        if shown_from
        else Travel(
            "visibility",
            "once",
            "Links are shown or hidden; the platform knows no date from which they show.",
            "Show them by hand when the time comes.",
        )
    )
