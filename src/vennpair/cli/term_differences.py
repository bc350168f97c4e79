"""What differs between a term sheet and what is, row by row, each with its cause."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from vennpair.cli.output import Output
from vennpair.client.schema import SectionPlan
from vennpair.core.counting import many

HEAD = ("shell", "what", "item", "before", "after", "why")
SAYS = "the sheet says so"
Row = dict[str, str]
_Difference = tuple[str, str, str, str, str]  # what, item, before, after, why


def rows_of(plan: SectionPlan) -> Iterator[Row]:
    """Yield what differs in a section."""
    unready = ("not ready", "", "", "", plan["sentence"])
    for each in _placed(plan) if plan["plan"] else (unready,):
        yield dict(zip(HEAD, (plan["name"], *each), strict=True))


def _placed(plan: SectionPlan) -> Iterator[_Difference]:
    """Yield what differs of links and columns, then what is beside them."""
    shown = plan["plan"]
    if shown is None:
        return
    for each in shown["rows"]:
        title = each["target"]["title"]
        if each["action"] == "make":
            where = each["folder_title"] or "the top of the outline"
            yield "create", title, "", f"in {where}", "the sheet names it"
        for change in each["differences"] if each["action"] == "change" else ():
            why = "the publisher changed it" if change["cause"] == "publisher" else SAYS
            yield f"change {change['field']}", title, change["before"], change["after"], why
    for notice in shown["notices"]:
        if notice["level"] == "error":
            yield "left out", notice["title"], "", "", notice["message"]
    yield from _beside(plan)


def _beside(plan: SectionPlan) -> Iterator[_Difference]:
    for removal in plan["removals"]:
        yield "remove", removal["title"], "placed", "", removal["why"]
    for drift in plan["drifts"]:
        what = f"fix: {drift['kind'].replace('_', ' ')}"
        yield what, drift["title"], drift["after"], drift["before"], drift["who"]
    if plan["brings"]:
        count = many(plan["brings"], "reading or video", "readings and videos")
        yield "bring in", count, "", "in the folders of their units", SAYS
    if plan["total"]:
        yield "create column", plan["total"], "", "a total", "the sheet names it"
    for setting in plan["settings"]:
        yield f"set {setting['what']}", "", setting["before"], setting["after"], SAYS


def show(rows: Sequence[Row], plans: Sequence[SectionPlan], out: Output) -> None:
    """Show what differs as a table, below a sentence for each section."""
    if out.as_json:
        return
    for plan in plans:
        out.line(plan["sentence"], "bold")
    out.table(
        HEAD,
        [tuple(row[name] for name in HEAD) for row in rows],
        empty="Nothing differs: both sides are as the sheet says.",
    )
