"""The digest of a night: what is new and what is open in somebody's shells, in the fewest words
that say it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Literal

from vennpair.core.counting import many
from vennpair.core.finding_words import found
from vennpair.core.moments import day_words

Wish = Literal["daily", "weekly", "never"]
BEFORE_GRADES = timedelta(days=7)
MONDAY = 0


@dataclass(frozen=True, slots=True)
class ShellNews:
    """One shell after the night's comparison; ``trouble`` says why there was none.

    ``not_ready``: what keeps its grades back.
    """

    shell: str
    link: str
    cells: int = 0
    agree: int = 0
    urgent: int = 0
    new: int = 0
    causes: Mapping[str, int] = field(default_factory=dict)
    trouble: str = ""
    grades_due: date | None = None
    not_ready: Sequence[str] = ()


@dataclass(frozen=True, slots=True)
class Digest:
    """A sentence for the list of notices, and the text of the mail."""

    sentence: str
    body: str


def digest(news: Sequence[ShellNews], wish: Wish, today: date) -> Digest | None:
    """Return the digest, or None where nothing is worth a mail: daily what is new, weekly what is
    open, and both before grades are due.
    """
    if wish == "never" or (
        wish == "weekly"
        and today.weekday() != MONDAY
        and not any(_due_soon(each, today) for each in news)
    ):
        return None
    told = [
        each
        for each in news
        if each.trouble
        or _due_soon(each, today)
        or (each.urgent if wish == "weekly" else each.new and each.urgent)
    ]
    if not told:
        return None
    quiet = [each.shell for each in news if each not in told]
    parts = ["\n".join(_lines(each, today)) for each in told]
    if quiet:
        parts.append(f"Nothing {'open' if wish == 'weekly' else 'new'} in {', '.join(quiet)}.")
    return Digest("; ".join(_short(each, today) for each in told) + ".", "\n\n".join(parts))


def _due_soon(each: ShellNews, today: date) -> bool:
    return each.grades_due is not None and today <= each.grades_due <= today + BEFORE_GRADES


def _short(each: ShellNews, today: date) -> str:
    if each.trouble:
        return f"{each.shell} could not be compared"
    if _due_soon(each, today):
        return (
            f"{each.shell}: grades are due on {_day(each.grades_due)},"
            f" {'not ready yet' if each.not_ready else 'ready to submit'}"
        )
    return f"{each.shell}: {many(each.urgent, 'finding')} open, {each.new} new"


def _lines(each: ShellNews, today: date) -> list[str]:
    lines = [each.shell]
    if each.trouble:
        lines.append(f"  It could not be compared. {each.trouble}")
    else:
        lines.append(
            f"  {each.agree} of {many(each.cells, 'score')} agree;"
            f" {many(each.urgent, 'finding is', 'findings are')} open, {each.new} of them new."
        )
    lines += [f"  {found(kind, count)}" for kind, count in each.causes.items()]
    if _due_soon(each, today):
        lines.append(
            f"  Grades are due on {_day(each.grades_due)}: "
            + ("ready to submit." if not each.not_ready else "not ready yet.")
        )
        lines += [f"  - {line}" for line in each.not_ready]
    return [*lines, f"  {each.link}"]


def _day(when: date | None) -> str:
    return day_words(when) if when else ""
