"""A report as one HTML file that needs nothing else: figures inside, light and dark, and fit to be
printed.
"""

from __future__ import annotations

from html import escape
from itertools import groupby

from vennpair.core.reconcile.report.document import Report, Row
from vennpair.core.reconcile.report.svg import MARKS, TONES, matrix, scatter, venn

_STYLE = """
:root{--paper:#faf8f4;--ink:#1d2130;--soft:#575d70;--rule:#dedad0;--left:#a34f06;--left-wash:#f7e3cc;--right:#0b6197;--right-wash:#cfe6f4;--both:#4b3a78;--both-wash:#e2dcf1;--alarm:#a8123f;--alarm-wash:#f9dbe4;color-scheme:light dark}
@media(prefers-color-scheme:dark){:root{--paper:#15171e;--ink:#ebe8e1;--soft:#a8adbd;--rule:#363a47;--left:#f2a65e;--left-wash:#4a3119;--right:#74c0ee;--right-wash:#17384d;--both:#b9a8ea;--both-wash:#322a4c;--alarm:#ff8fae;--alarm-wash:#54202f}}
body{margin:0 auto;max-width:76rem;padding:1.2rem;background:var(--paper);color:var(--ink);font:15px/1.5 system-ui,sans-serif}
h1{font-size:1.4rem;margin:0}h2{font-size:1.1rem;margin:1.6rem 0 .4rem}.soft{color:var(--soft)}
.verdict{background:var(--both-wash);border-radius:12px;padding:.6rem 1rem;font-size:1.15rem}.verdict.bad{background:var(--alarm-wash)}
.scroll{overflow-x:auto}.venn{width:100%;max-width:38rem}.a{fill:var(--left-wash);stroke:var(--left);stroke-width:2.5}.b{fill:var(--right-wash);stroke:var(--right);stroke-width:2.5;fill-opacity:.62}
svg text{fill:var(--ink);text-anchor:middle;font-size:12px}.head{font-size:16px}.count{font-size:28px;font-weight:650}.what{font-size:14px}.differ{fill:var(--alarm);font-size:12px;font-weight:650}
.scatter{width:100%;max-width:30rem}.scatter>rect{fill:none;stroke:var(--rule)}.scatter line{stroke:var(--both);stroke-width:1.5}.scatter .end{text-anchor:end}.scatter text{font-size:10px}.scatter circle{stroke-width:1.4}
.quiet circle{fill:var(--both-wash);stroke:var(--both);stroke-opacity:.4}.left circle{fill:var(--left-wash);stroke:var(--left)}.right circle{fill:var(--right-wash);stroke:var(--right)}.both circle{fill:var(--both-wash);stroke:var(--both)}.alarm circle{fill:var(--alarm-wash);stroke:var(--alarm)}
.matrix .name{text-anchor:end}.item{text-anchor:start}.quiet rect{fill:var(--both-wash)}.left rect{fill:var(--left-wash);stroke:var(--left)}.right rect{fill:var(--right-wash);stroke:var(--right)}.both rect{fill:var(--both-wash);stroke:var(--both)}.alarm rect{fill:var(--alarm-wash);stroke:var(--alarm)}
table{border-collapse:collapse;width:100%}th{text-align:left;font-size:.82rem;color:var(--soft)}th,td{padding:.3rem .5rem;border-bottom:1px solid var(--rule);vertical-align:top}.n{text-align:right;white-space:nowrap;font-variant-numeric:tabular-nums}
.key span{margin-right:1rem;white-space:nowrap}@media print{body{max-width:none}tr,figure{break-inside:avoid}}
"""


def as_page(report: Report) -> bytes:
    """Return the page in UTF-8; every text from outside is escaped."""
    cells, agree = report.counts.get("cells", 0), report.counts.get("agree", 0)
    sentence = (
        f"All {cells} scores agree."
        if cells == agree
        else f"{cells - agree} of {cells} scores do not agree."
    )
    kept = (
        f" {report.counts['kept']} findings are kept as they are."
        if report.counts.get("kept")
        else ""
    )
    groups = [
        (kind, list(rows))
        for kind, rows in groupby(
            sorted(report.rows, key=lambda row: (row.scope, row.finding)),
            key=lambda row: row.finding,
        )
    ]
    parts = [
        (
            '<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport"'
            f' content="width=device-width"><title>{escape(report.title)}</title>'
            f"<style>{_STYLE}</style></head><body>"
        ),
        (
            f"<h1>{escape(report.title)}</h1><p class='soft'>{escape(report.left)} on the left,"
            f" {escape(report.right)} on the"
            f" right{', compared ' + escape(report.compared) if report.at else ''}.</p>"
        ),
        (
            f'<p class="verdict{"" if cells == agree else " bad"}"><strong>{sentence}</strong>'
            f" {report.counts.get('learners', 0)} learners, {report.counts.get('columns', 0)}"
            f" columns.{kept}</p>"
        ),
        f"<figure style='margin:0'>{venn(report)}</figure>" if report.venn else "",
        (
            f"<h2>The class</h2><div class='scroll'>{matrix(report)}</div>{_key(report)}"
            if report.items
            else ""
        ),
        (
            "<h2>Share against share</h2><p class='soft'>On the line both sides agree; a column"
            " whose points were changed is a line of another slope, a score typed over is"
            f" alone, what one side lacks lies along an edge.</p>{dots}"
            if (dots := scatter(report))
            else ""
        ),
        *(_group(kind, rows) for kind, rows in groups),
        (
            "<h2>Where it was"
            f" read</h2><ul>{''.join(f'<li>{escape(each)}</li>' for each in report.sources)}</ul>"
            if report.sources
            else ""
        ),
        "</body></html>",
    ]
    return "".join(parts).encode()


def _key(report: Report) -> str:
    seen = sorted({kind for row in report.kinds for kind in row if kind in MARKS})
    return (
        "<p class='soft key'>"
        + "".join(f"<span><b>{MARKS[kind]}</b> {kind.replace('_', ' ')}</span>" for kind in seen)
        + "</p>"
        if seen
        else ""
    )


def _group(kind: str, rows: list[Row]) -> str:
    head = (
        "<tr><th>Learner</th><th>Item</th><th class='n'>publisher</th><th class='n'>sent</th><th"
        " class='n'>gradebook</th><th>Cause</th></tr>"
    )
    body = "".join(
        f"<tr><td>{escape(row.learner)}</td><td>{escape(row.item)}</td><td"
        f" class='n'>{_of(row.scope, row.publisher, row.publisher_points)}</td><td"
        f" class='n'>{escape(row.sent)}</td><td"
        f" class='n'>{_of(row.scope, row.gradebook, row.gradebook_points)}</td><td>"
        f"{escape(row.cause)}{' <em>Kept as it is.</em>' if row.kept else ''}</td></tr>"
        for row in rows
    )
    return (
        f"<h2>{escape(kind.replace('_', ' '))} <span class='soft'>{len(rows)}</span></h2><div"
        f" class='scroll {TONES.get(kind, 'both')}'><table>{head}{body}</table></div>"
    )


def _of(scope: str, score: str, points: str) -> str:
    """Return a score of its points; of a column alone its points.

    Nobody's score is never taken for the points.
    """
    return escape(
        f"{score} of {points}"
        if score and points
        else score or (points if scope == "column" else "–" if scope == "cell" else "")
    )
