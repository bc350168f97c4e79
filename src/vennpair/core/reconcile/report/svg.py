"""The figures of a report as SVG: the Venn with its counts, and the class as a matrix."""

from __future__ import annotations

from html import escape

from vennpair.core.reconcile.report.document import Report

MARKS = {"unsent": "u", "behind": "b", "cleared": "c", "held": "h", "refused": "r", "edited": "e", "gradebook_only": "g", "withdrawn": "w", "clash": "!", "differ": "d"}
TONES = {"agree": "quiet", "unsent": "left", "behind": "left", "cleared": "left", "held": "both", "edited": "right", "gradebook_only": "right", "withdrawn": "right", "refused": "alarm", "clash": "alarm", "differ": "alarm"}
_NAMES, _HEAD, _CELL = 150, 120, 20


def venn(report: Report) -> str:
    """Return the two circles: publisher left, gradebook right, what both have in the middle."""
    rows = [(name, counts) for name, counts in report.venn.items() if len(counts) == 3]
    differ = (report.venn.get("scores_differ") or [0])[0]
    parts = ['<svg class="venn" viewBox="0 0 600 400" role="img" aria-label="What stands on which side">', '<circle class="a" cx="200" cy="200" r="197"/><circle class="b" cx="400" cy="200" r="197"/>']
    for place, words in zip((110, 300, 490), (report.left, "both", report.right), strict=True):
        parts.append(f'<text class="head" x="{place}" y="70">{escape(_short(words, 22))}</text>')
    for row, (name, counts) in enumerate(rows):
        y = 140 + row * 80
        for place, count in zip((110, 300, 490), counts, strict=True):
            parts.append(f'<text class="count" x="{place}" y="{y}">{count}</text><text class="what" x="{place}" y="{y + 20}">{escape(name)}</text>')
        if name == "scores" and differ:
            parts.append(f'<text class="differ" x="300" y="{y + 38}">{differ} do not agree</text>')
    return "".join([*parts, "</svg>"])


def matrix(report: Report) -> str:
    """Return the class: learners down, columns across, agreement quiet and trouble loud, never by colour alone."""
    width, height = _NAMES + len(report.items) * _CELL + 100, _HEAD + len(report.learners) * _CELL + 6
    parts = [f'<svg class="matrix" width="{width}" height="{height}" role="img" aria-label="{len(report.learners)} learners and {len(report.items)} columns">']
    for column, item in enumerate(report.items):
        x = _NAMES + (column + 0.62) * _CELL
        parts.append(f'<text class="item" transform="translate({x:.1f},{_HEAD - 8}) rotate(-42)">{escape(_short(item, 22))}<title>{escape(item)}</title></text>')
    for row, learner in enumerate(report.learners):
        parts.append(f'<text class="name" x="{_NAMES - 8}" y="{_HEAD + row * _CELL + 14}">{escape(_short(learner, 22))}</text>')
    for row, kinds in enumerate(report.kinds):
        for column, kind in enumerate(kinds):
            if kind is None:
                continue
            x, y = _NAMES + column * _CELL, _HEAD + row * _CELL
            parts.append(
                f'<g class="{TONES.get(kind, "both")}"><title>{escape(report.learners[row])}, {escape(report.items[column])}: {kind.replace("_", " ")}</title><rect x="{x + 1}" y="{y + 1}" width="{_CELL - 2}" height="{_CELL - 2}" rx="3"/>'
            )
            parts.append(f'<text x="{x + _CELL / 2}" y="{y + 14}">{MARKS[kind]}</text></g>' if kind in MARKS else "</g>")
    return "".join([*parts, "</svg>"])


def _short(text: str, most: int) -> str:
    return text if len(text) <= most else text[: most - 1] + "…"
