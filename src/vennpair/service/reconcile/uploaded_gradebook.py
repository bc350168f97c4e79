"""A gradebook that somebody gave as a file, in the place of what the platform would say: any mix of
sources is one comparison.
"""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from vennpair.core.reconcile.columns import match_titles
from vennpair.core.reconcile.learners import Learner as Matched
from vennpair.core.reconcile.learners import match
from vennpair.core.reconcile.numbers import plain
from vennpair.core.reconcile.tables import Table
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner
from vennpair.service.stored import GivenColumn, GivenGradebook
from vennpair.standards.lti.grades import LineItem, Result

FILE = "file:"  # what the address of a column begins with that only the file has


def given_gradebook(table: Table, name: str) -> GivenGradebook:
    """Return a table as it is kept with the comparison that was asked for with it."""
    return GivenGradebook(
        name=name,
        learners=[[each.id, each.email, each.name] for each in table.learners],
        items=[
            GivenColumn(
                title=item.title,
                points=_text(item.points),
                scores={str(who): plain(score) for who, score in item.scores.items()},
            )
            for item in table.items
        ],
    )


def columns_of(
    given: GivenGradebook, placements: Sequence[Placement], roster: Sequence[Learner]
) -> tuple[dict[str, LineItem], dict[str, list[Result]]]:
    """Return columns by address and their values, as the platform would tell them.

    A file's column is a placement's by its title; its learners are the roster's by institutional id
    or the platform's own, then by email.
    """
    users = _users(given, roster)
    pairs = match_titles(
        [each.title for each in placements], [item["title"] for item in given["items"]]
    )
    columns, results = {}, {}
    for pair in pairs:
        if pair.column is None:
            continue
        item = given["items"][pair.column]
        url = (
            placements[pair.item].column_url if pair.item is not None else f"{FILE}{item['title']}"
        )
        points = Decimal(item["points"]) if item["points"] else Decimal(0)
        columns[url] = LineItem(item["title"], points, url)
        results[url] = [
            Result(users[who], Decimal(score), points)
            for who, score in item["scores"].items()
            if who in users
        ]
    return columns, results


def _users(given: GivenGradebook, roster: Sequence[Learner]) -> dict[str, str]:
    theirs = [Matched(*each) for each in given["learners"]]
    found: dict[str, str] = {}
    for own in ("number", "subject"):  # the file may name either of the two ids
        ours = [Matched(getattr(each, own), each.email, each.name) for each in roster]
        for left, right in match(theirs, ours).pairs:
            found.setdefault(str(left), roster[right].subject)
    return found


def _text(value: Decimal | None) -> str | None:
    return None if value is None else plain(value)
