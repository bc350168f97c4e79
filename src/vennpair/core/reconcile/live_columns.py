"""What is wrong with the columns of a pairing: gone, doubled, unclaimed, or saying something else
than the publisher.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from vennpair.core.deploy.dates import same_moment, shown
from vennpair.core.reconcile.columns import fold_title
from vennpair.core.reconcile.facts import LooseColumn, PlacedItem
from vennpair.core.reconcile.numbers import shortest
from vennpair.core.reconcile.remedies import CLAIM, LEAVE, TIE, remedies_of


@dataclass(frozen=True, slots=True)
class ColumnFinding:
    """A finding about a column; ``publisher`` and ``gradebook`` are what the two sides say, ``url``
    is of an unclaimed column.

    ``heir`` is an unclaimed column that may be the missing one made again, ``why`` what speaks for
    it.
    """

    kind: str
    subject: str
    cause: str
    remedies: tuple[str, ...]
    item: PlacedItem | None = None
    publisher: str = ""
    gradebook: str = ""
    url: str = ""
    heir: LooseColumn | None = None
    why: str = ""


def column_findings(item: PlacedItem, zone: str) -> list[ColumnFinding]:
    """Return what is wrong with a placed item's column, the worst first.

    Times are told in the course's ``zone``.
    """
    return [
        ColumnFinding(
            kind,
            item.title,
            _sentence(kind, item, left, right, zone),
            _remedies(kind, item),
            item,
            left,
            right,
        )
        for kind, left, right in _differences(item)
    ]


def with_heirs(
    findings: Sequence[ColumnFinding], loose: Sequence[LooseColumn]
) -> list[ColumnFinding]:
    """Name for each missing column the unclaimed one that carries its mark, belongs to its link, or
    alone is called the same.

    A column is the heir of one only, and a weaker reason never takes it from a stronger one.
    """
    free = {column.url: column for column in loose}
    found = list(findings)
    for why, fits in _HEIR_BY:
        for place, each in enumerate(found):
            if (
                each.kind != "column_missing"
                or each.heir is not None
                or each.item is None
                or each.item.in_file
            ):
                continue
            item = each.item
            heirs = [column for column in free.values() if fits(item, column)]
            if len(heirs) == 1:
                cause = (
                    f"The column of '{item.title}' is gone from where it was made, but"
                    f" '{heirs[0].title}' {why} and no placement claims it: it may have been made"
                    " again there."
                )
                found[place] = replace(
                    each,
                    heir=free.pop(heirs[0].url),
                    why=why,
                    cause=cause,
                    remedies=(CLAIM, *each.remedies),
                )
    return found


_HEIR_BY: tuple[tuple[str, Callable[[PlacedItem, LooseColumn], bool]], ...] = (
    ("carries its mark", lambda item, column: column.resource == item.placement),
    (
        "belongs to the same link",
        lambda item, column: bool(column.link) and column.link == item.resource_link,
    ),
    ("has the same title", lambda item, column: fold_title(column.title) == fold_title(item.title)),
)


def loose_findings(
    items: Sequence[PlacedItem], loose: Sequence[LooseColumn]
) -> list[ColumnFinding]:
    """Return the columns that no placement claims.

    One that is called like a placed item's cannot be told apart by its title.
    """
    ours: dict[str, list[PlacedItem]] = defaultdict(list)
    for item in items:
        if item.column_title is not None:
            ours[fold_title(item.column_title)].append(item)
    found = []
    for column in loose:
        rivals = ours.get(fold_title(column.title), [])
        if rivals:
            cause = (
                f"The gradebook has a second column '{column.title}' beside the one that gets the"
                " scores; learners cannot tell the two apart. Look which one is used, and rename"
                " or delete the other there."
            )
        else:
            cause = (
                f"The gradebook has a column '{column.title}' that no placement claims; Venn Pair"
                " leaves it alone."
            )
        kind = "title_ambiguous" if rivals else "column_extra"
        found.append(
            ColumnFinding(
                kind,
                column.title,
                cause,
                remedies_of(kind),
                rivals[0] if rivals else None,
                url=column.url,
            )
        )
    return found


def _remedies(kind: str, item: PlacedItem) -> tuple[str, ...]:
    if kind == "unread" and item.likely:
        return (TIE, LEAVE)
    nothing_to_write = item.in_file or (kind == "points_missing" and not item.points)
    return (LEAVE,) if nothing_to_write else remedies_of(kind)


def _differences(item: PlacedItem) -> list[tuple[str, str, str]]:
    found: list[tuple[str, str, str]] = []
    ours, theirs = (
        "" if each is None else shortest(each) for each in (item.points, item.column_points)
    )
    if not item.at_publisher:
        found.append(("item_gone", "", ""))
    elif item.told_by == "nobody":
        found.append(("unread", "", ""))
    if item.has_column and not item.opened:
        found.append(("never_opened", "", ""))
    elif item.has_column and item.column_title is None:
        found.append(("column_missing", "", ""))
    if item.column_title is None:
        return found
    if not item.points or not item.column_points:
        found.append(("points_missing", ours, theirs))
    elif item.points != item.column_points:
        found.append(("points_differ", ours, theirs))
    if item.due_at and item.column_due and not same_moment(item.due_at, item.column_due):
        found.append(("due_differs", item.due_at, item.column_due))
    if item.category and item.column_category is not None and item.category != item.column_category:
        found.append(("category_differs", item.category, item.column_category))
    if item.title != item.column_title:
        found.append(("title_differs", item.title, item.column_title))
    return found


def _sentence(kind: str, item: PlacedItem, left: str, right: str, zone: str) -> str:
    title = item.title
    sentences = {
        "column_missing": (
            f"The file has no column '{title}', so its scores were not compared."
            if item.in_file
            else (
                f"The column of '{title}' is gone from the gradebook, so its scores have nowhere"
                " to go."
            )
        ),
        "never_opened": (
            f"The link of '{title}' is in a file that was uploaded, and nobody has opened it"
            " yet; its column is known, and gets scores, once somebody does. Open it once."
        ),
        "points_differ": (
            f"'{title}' has {left} points at the publisher and {right} in the gradebook: somebody"
            " changed one of them, and scores are scaled until it is fixed."
        ),
        "points_missing": (
            f"'{title}' states no points"
            f" {'at the publisher' if not item.points else 'in the gradebook'}, so its scores are"
            " compared as they are."
        ),
        "due_differs": (
            f"'{title}' is due at another time in the gradebook ({shown(right, zone)}) than at the"
            f" publisher ({shown(left, zone)})."
        ),
        "category_differs": (
            f"'{title}' was put into the category '{left}' and is in"
            f" {repr(right) if right else 'none'} now, so it may weigh differently."
        ),
        "title_differs": f"'{title}' is called '{right}' in the gradebook.",
        "item_gone": (
            f"The publisher no longer has '{title}'; its column will get no more scores, and those"
            " that are there were not compared."
        ),
        "unread": (
            f"The scores of '{title}' were not read: no graded item of the publisher's catalogue is"
            " known to be this link. Say which one it is; until then its column is left alone."
        ),
    }
    return sentences[kind]
