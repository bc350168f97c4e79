"""The figures of a report as SVG: the Venn with its counts, and the class as a matrix."""

from __future__ import annotations

from collections import Counter
from html import escape
from math import log2

from vennpair.core.counting import many
from vennpair.core.reconcile.report.document import Report

MARKS = {
    "unsent": "u",
    "behind": "b",
    "cleared": "c",
    "held": "h",
    "refused": "r",
    "edited": "e",
    "gradebook_only": "g",
    "withdrawn": "w",
    "unread": "?",
    "clash": "!",
    "differ": "d",
}
TONES = {
    "agree": "quiet",
    "unsent": "left",
    "behind": "left",
    "cleared": "left",
    "held": "both",
    "edited": "right",
    "gradebook_only": "right",
    "withdrawn": "right",
    "unread": "both",
    "refused": "alarm",
    "clash": "alarm",
    "differ": "alarm",
}
_NAMES, _HEAD, _CELL = 150, 120, 20
_SIZE, _NONE, _MOST = (
    420,
    -0.08,
    1.3,
)  # of the scatter: its side, where no score is drawn, and the largest share


def venn(report: Report) -> str:
    """Return the two circles: publisher left, gradebook right, what both have in the middle."""
    rows = [(name, counts) for name, counts in report.venn.items() if len(counts) == 3]
    differ = (report.venn.get("scores_differ") or [0])[0]
    parts = [
        ('<svg class="venn" viewBox="0 0 600 400" role="img" aria-label="What is on which side">'),
        (
            '<circle class="a" cx="200" cy="200" r="197"/><circle class="b" cx="400" cy="200"'
            ' r="197"/>'
        ),
    ]
    for place, words in zip((134, 300, 466), (report.left, "both", report.right), strict=True):
        parts.append(f'<text class="head" x="{place}" y="86">{escape(_short(words, 18))}</text>')
    for row, (name, counts) in enumerate(rows):
        y = 142 + row * 70
        for place, count in zip((110, 300, 490), counts, strict=True):
            parts.append(
                f'<text class="count" x="{place}" y="{y}">{count}</text><text class="what"'
                f' x="{place}"'
                f' y="{y + 20}">{escape(name.removesuffix("s") if count == 1 else name)}</text>'
            )
        if name == "scores" and differ:
            parts.append(
                '<text class="differ" x="300"'
                f' y="{y + 40}">{many(differ, "does not agree", "do not agree")}</text>'
            )
    return "".join([*parts, "</svg>"])


def matrix(report: Report) -> str:
    """Return the class: learners down, columns across, agreement quiet and trouble loud, never by
    colour alone.
    """
    width, height = (
        _NAMES + len(report.items) * _CELL + 100,
        _HEAD + len(report.learners) * _CELL + 6,
    )
    parts = [
        f'<svg class="matrix" width="{width}" height="{height}" role="img"'
        f' aria-label="{len(report.learners)} learners and {len(report.items)} columns">'
    ]
    for column, item in enumerate(report.items):
        x = _NAMES + (column + 0.62) * _CELL
        parts.append(
            f'<text class="item" transform="translate({x:.1f},{_HEAD - 8})'
            f' rotate(-42)">{escape(_short(item, 22))}<title>{escape(item)}</title></text>'
        )
    for row, learner in enumerate(report.learners):
        parts.append(
            f'<text class="name" x="{_NAMES - 8}"'
            f' y="{_HEAD + row * _CELL + 14}">{escape(_short(learner, 22))}</text>'
        )
    for row, kinds in enumerate(report.kinds):
        for column, kind in enumerate(kinds):
            if kind is None:
                continue
            x, y = _NAMES + column * _CELL, _HEAD + row * _CELL
            parts.append(
                f'<g class="{TONES.get(kind, "both")}"><title>{escape(report.learners[row])},'
                f" {escape(report.items[column])}: {kind.replace('_', ' ')}</title><rect"
                f' x="{x + 1}" y="{y + 1}" width="{_CELL - 2}" height="{_CELL - 2}" rx="3"/>'
            )
            parts.append(
                f'<text x="{x + _CELL / 2}" y="{y + 14}">{MARKS[kind]}</text></g>'
                if kind in MARKS
                else "</g>"
            )
    return "".join([*parts, "</svg>"])


def scatter(report: Report) -> str:
    """Return each score by its share of the points, publisher's to the right, gradebook's upwards:
    on the diagonal both agree.

    What only one side has lies along an edge; equal ones are one larger dot, and what agrees lies
    below the rest.
    """
    counted = Counter(
        (_at(shares[column][0]), _at(shares[column][1]), kind)
        for shares, kinds in zip(report.shares, report.kinds, strict=True)
        for column, kind in enumerate(kinds)
        if kind is not None and any(each is not None for each in shares[column])
    )
    if not counted:
        return ""
    parts = [
        f'<svg class="scatter" viewBox="0 0 {_SIZE} {_SIZE}" role="img" aria-label="Each score by'
        ' its share of the points on both sides">'
    ]
    parts.append(
        f'<rect x="{_x(0)}" y="{_y(1)}" width="{_x(1) - _x(0)}" height="{_x(1) - _x(0)}"/><line'
        f' x1="{_x(0)}" y1="{_y(0)}" x2="{_x(_MOST)}" y2="{_y(_MOST)}"/>'
    )
    parts.append(
        f'<text x="{_SIZE - 4}" y="{_SIZE - 4}" text-anchor="end"'
        f' class="end">{escape(_short(report.left, 24))} →</text><text x="{_x(0)}" y="12"'
        f' class="item">↑ {escape(_short(report.right, 24))}</text>'
    )
    for (x, y, kind), count in sorted(
        counted.items(), key=lambda each: (each[0][2] != "agree", each[0])
    ):
        said = f"{count} × {kind.replace('_', ' ')}"
        parts.append(
            f'<g class="{TONES.get(kind, "both")}"><title>{said}</title><circle cx="{_x(x):.1f}"'
            f' cy="{_y(y):.1f}" r="{min(9.0, 4 + log2(count)):.1f}"/>'
        )
        parts.append(
            f'<text x="{_x(x):.1f}" y="{_y(y) + 3.5:.1f}">{MARKS[kind]}</text></g>'
            if kind in MARKS
            else "</g>"
        )
    return "".join([*parts, "</svg>"])


def _at(share: float | None) -> float:
    return _NONE if share is None else round(min(_MOST, max(_NONE, share)), 3)


def _x(share: float) -> float:
    return 20 + (share - _NONE) / (_MOST - _NONE) * (_SIZE - 34)


def _y(share: float) -> float:
    return _SIZE - _x(share)


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else text[: most - 1] + "…"
