"""Finding the thing that somebody means by an id, a label or part of a title."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Sequence
from shlex import quote
from typing import Any

from vennpair.cli.exits import REFUSED, Stop
from vennpair.client import VennPair
from vennpair.core.counting import many


def choose(
    what: str, rows: Sequence[Any], wanted: str, names: Callable[[Any], Sequence[str]], command: str
) -> Any:
    """Return the row whose id or name is meant: exact first, then by its beginning, then by a part.

    Raises Stop where nothing or more than one fits, naming what does.
    """
    folded = wanted.casefold()
    fits: tuple[Callable[[str], bool], ...] = (
        lambda name: name == folded,
        lambda name: name.startswith(folded),
        lambda name: folded in name,
    )
    for fit in fits:
        found = [
            row for row in rows if any(fit(name.casefold()) for name in (row["id"], *names(row)))
        ]
        if len(found) == 1:
            return found[0]
        if found:
            listed = "; ".join(
                f"{' '.join(dict.fromkeys(names(row)[:2]))} ({row['id'][:8]})" for row in found[:6]
            )
            raise Stop(
                REFUSED,
                f"{what}_ambiguous",
                f"'{wanted}' fits {len(found)} of them: {listed}.",
                "Use more of the name, or the id.",
            )
    raise Stop(
        REFUSED,
        f"{what}_unknown",
        f"There is no {what} '{wanted}'.",
        f"List them with: vennpair {command}",
    )


def choose_by_id(
    what: str,
    code: str,
    rows: Iterable[Any],
    wanted: str,
    command: str,
    *,
    status: int = REFUSED,
) -> Any:
    """Return the row whose id begins so; the first, which is the newest, where nothing is wanted.

    Raises Stop with ``code`` and ``status`` where none begins so, or several do.
    """
    if not wanted:
        found = list(itertools.islice(rows, 1))
    else:
        found = [row for row in rows if row["id"].startswith(wanted.lower())]
    if len(found) == 1:
        return found[0]
    raise Stop(
        status,
        code,
        f"There is no {what} here for that."
        if not wanted
        else f"{many(len(found), f'{what} has', f'{what}s have') if found else f'No {what} has'}"
        f" an id that begins with '{wanted}'.",
        f"List them with: vennpair {command}",
    )


def choose_shell(venn: VennPair, wanted: str) -> Any:
    """Return the shell that is meant."""
    return choose(
        "shell", list(venn.shells()), wanted, lambda row: (row["label"], row["title"]), "shells"
    )


def choose_course(venn: VennPair, wanted: str, shell: str) -> Any:
    """Return the homework course that is meant.

    The service searches, so that hundreds need not be read.
    """
    rows = venn.courses(wanted, shell) or [
        row for row in venn.courses(shell=shell) if row["id"] == wanted
    ]
    return choose(
        "course",
        rows,
        wanted,
        lambda row: (row["code"], row["title"], f"{row['code']}, {row['term']}"),
        "courses",
    )


def choose_pairing(venn: VennPair, wanted: str) -> str:
    """Return the id of the pairing of the shell that is meant (a pairing's own id will do too)."""
    shells = list(venn.shells())
    for row in shells:
        if row["pairing"] and row["pairing"] == wanted:
            return str(row["pairing"])
    shell = choose("shell", shells, wanted, lambda row: (row["label"], row["title"]), "shells")
    if not shell["pairing"]:
        raise Stop(
            REFUSED,
            "not_paired",
            f"{shell['label'] or shell['title']} is not paired yet.",
            f"Pair it with: vennpair pair {quote(shell['label'] or shell['id'])} COURSE",
        )
    return str(shell["pairing"])


def choose_import(venn: VennPair, pairing: str, wanted: str, *, standing: bool = False) -> Any:
    """Return the newest import of an id, title or file name.

    ``standing``: of those that have brought something that is in the shell.
    """
    folded = wanted.casefold()
    for row in venn.imports(pairing):
        fits = (
            not folded
            or row["id"].startswith(folded)
            or folded in row["title"].casefold()
            or folded in row["filename"].casefold()
        )
        if fits and (row["standing"] or not standing):
            return row
    what = (
        "No such import has brought anything that is in the shell."
        if standing
        else f"There is no import '{wanted}'."
        if wanted
        else "Nothing was imported here yet."
    )
    raise Stop(
        REFUSED,
        "import_unknown",
        what,
        "List them with: vennpair cartridge imports SHELL; begin with: vennpair cartridge import"
        " SHELL [FILE]",
    )


def choose_entry(entries: Sequence[Any], wanted: str, shell: str) -> Any:
    """Return the entry that is meant."""
    return choose(
        "entry",
        entries,
        wanted,
        lambda row: (row["shown_title"], row["title"]),
        f"cartridge entries {quote(shell)}",
    )
