"""Which graded item of the publisher's catalogue is the one that somebody picked there.

A picker answers with links and their columns (Deep Linking 2.0, 3.2), the catalogue lists graded
items (OneRoster 1.2 gradebook, 4.4); no standard says how the two name each other.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from difflib import SequenceMatcher
from urllib.parse import urlsplit

from vennpair.core.reconcile.columns import fold_title
from vennpair.core.reconcile.numbers import shortest
from vennpair.standards.oneroster.objects import LineItem

BY_RESOURCE, BY_PARAMETER, BY_ADDRESS = (
    "its resource id",
    "the custom parameter {name}",
    "the address",
)
MOST_LIKELY = 20
BY_TITLE, BY_TAG = "its title and points", "its title, points and tag"


@dataclass(frozen=True, slots=True)
class Picked:
    """A link that a picker answered with. ``key`` is ours; ``resource`` and ``tag`` are its
    column's ``resourceId`` and ``tag``, ``points`` None where it has no column.
    """

    key: str
    title: str
    points: Decimal | None = None
    resource: str = ""
    tag: str = ""
    url: str = ""
    custom: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Tie:
    """A graded item's ``sourcedId``, by what it was recognised, and whether that is an id of it
    rather than a likeness.
    """

    line_item: str
    why: str
    certain: bool


@dataclass(frozen=True, slots=True)
class Likely:
    """A graded item that a link may be: its ``sourcedId`` and title, its points in words, and how
    alike the titles are, 0 to 1.
    """

    key: str
    title: str
    points: str
    likeness: float
    same_points: bool = False


def tie(picked: Sequence[Picked], listed: Sequence[LineItem]) -> dict[str, Tie]:
    """Return the graded item of every picked link that has exactly one, by the link's key.

    An id goes before title with points. What is alike with two, on either side, is tied by its tag
    where that names the graded item or its category, else not at all: a wrong one would compare
    other scores.
    """
    by_id = {each.sourced_id: each for each in listed}
    by_resource: dict[str, list[LineItem]] = defaultdict(list)
    for each in listed:
        if each.resource:
            by_resource[each.resource].append(each)
    found: dict[str, Tie] = {}
    for link in picked:
        if named := _named(link, by_id, by_resource):
            found[link.key] = named
    taken = {each.line_item for each in found.values()}
    left = [each for each in listed if each.sourced_id not in taken]
    return found | _alike([each for each in picked if each.key not in found], left)


def likely(title: str, points: Decimal | None, listed: Sequence[LineItem]) -> list[Likely]:
    """Return the graded items that a link may be, the likeliest first, for a person to choose."""
    found = []
    for each in listed:
        like = SequenceMatcher(None, fold_title(title), fold_title(each.title), autojunk=False)
        same = points is not None and each.maximum == points
        points_said = "no points" if each.maximum is None else f"{shortest(each.maximum)} points"
        found.append(Likely(each.sourced_id, each.title, points_said, round(like.ratio(), 2), same))
    found.sort(key=lambda each: (-each.likeness, not each.same_points, each.title, each.key))
    return found[:MOST_LIKELY]


def _named(
    link: Picked, by_id: Mapping[str, LineItem], by_resource: Mapping[str, Sequence[LineItem]]
) -> Tie | None:
    """Return the graded item whose id the link carries."""
    if link.resource in by_id:
        return Tie(link.resource, BY_RESOURCE, True)
    if len(same := by_resource.get(link.resource, ())) == 1:
        return Tie(same[0].sourced_id, BY_RESOURCE, True)
    for name, value in link.custom.items():
        if value in by_id:
            return Tie(value, BY_PARAMETER.format(name=name), True)
    last = _last_part(link.url)
    return Tie(last, BY_ADDRESS, True) if last in by_id else None


def _alike(links: Sequence[Picked], listed: Sequence[LineItem]) -> dict[str, Tie]:
    """Tie by title and points where that leaves one on each side, else by the tag too."""
    ours: dict[tuple[str, Decimal], list[Picked]] = defaultdict(list)
    theirs: dict[tuple[str, Decimal], list[LineItem]] = defaultdict(list)
    for link in links:
        if link.points is not None:
            ours[fold_title(link.title), link.points].append(link)
    for each in listed:
        if each.maximum is not None:
            theirs[fold_title(each.title), each.maximum].append(each)
    found: dict[str, Tie] = {}
    for alike, rivals in ours.items():
        there = theirs.get(alike, [])
        if len(rivals) == 1 and len(there) == 1:
            found[rivals[0].key] = Tie(there[0].sourced_id, BY_TITLE, False)
            continue
        for link in rivals:
            tagged = [each for each in there if link.tag in {each.sourced_id, each.category}]
            same_tag = sum(each.tag == link.tag for each in rivals)
            if link.tag and len(tagged) == 1 and same_tag == 1:
                found[link.key] = Tie(tagged[0].sourced_id, BY_TAG, False)
    return found


def _last_part(url: str) -> str:
    try:
        return urlsplit(url).path.rstrip("/").rsplit("/", 1)[-1]
    except ValueError:
        return ""
