"""One command for several shells, one after the other: what one of them refuses keeps no other
back.
"""

from __future__ import annotations

import argparse
from collections.abc import Callable
from typing import Any

from vennpair.cli.exits import DONE, FINDINGS, NOT_ALLOWED, REFUSED, Stop
from vennpair.cli.hints import do
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import NotAllowed, Refusal
from vennpair.core.counting import many

Run = Callable[[argparse.Namespace, Output], int]


class _Kept(Output):
    """Keeps the JSON document that one shell's run would print."""

    def __init__(self, as_json: bool) -> None:
        super().__init__(as_json)
        self.kept: Any = None

    def document(self, value: Any) -> None:
        """Keep it."""
        self.kept = value


def for_several(command: argparse.ArgumentParser, run: Run, *, every: bool = True) -> None:
    """Let a command that names a shell be given for further ones; ``every`` adds an option for all
    live ones.
    """
    command.add_argument(
        "--also",
        action="append",
        default=[],
        metavar="SHELL",
        help="for this shell too; may be repeated",
    )
    if every:
        command.add_argument(
            "--all-live", action="store_true", help="for every live pairing that you may see, too"
        )
    command.set_defaults(run=lambda args, out: _run(run, args, out))


def _run(run: Run, args: argparse.Namespace, out: Output) -> int:
    labels = [args.shell, *args.also]
    if getattr(args, "all_live", False):
        with connect() as venn:
            labels += [row["id"] for row in venn.shells() if row["state"] == "live"]
    if len(labels) == 1 or not args.shell:
        return run(args, out)
    codes, rows = [], []
    for shell, label in _named(labels):
        out.line(label, "bold")
        row: dict[str, Any] = {"shell": label}
        kept = _Kept(out.as_json)
        try:
            code = run(argparse.Namespace(**vars(args) | {"shell": shell}), kept)
            row |= {"exit": code, "result": kept.kept}
        except (Stop, Refusal) as error:
            code = error.status if isinstance(error, Stop) else _status(error)
            stop = Stop(code, error.code, error.message, do(error.code, error.remedy, label))
            row |= {"exit": code, "error": {"code": stop.code, "message": stop.message}}
            if not out.as_json:
                out.stop(stop)
        codes.append(code)
        rows.append(row)
    if out.as_json:
        out.document({"shells": rows})
    bad = [code for code in codes if code not in {DONE, FINDINGS}]
    if bad:
        out.line(f"{many(len(bad), 'shell')} of {len(codes)} could not be done.", "bold red")
    return bad[0] if bad else max(codes)


def _named(labels: list[str]) -> list[tuple[str, str]]:
    """Return each shell once, as it is asked for and as people call it."""
    with connect() as venn:
        rows = list(venn.shells())
    found: dict[str, tuple[str, str]] = {}
    for wanted in labels:
        fits = [row for row in rows if wanted in {row["id"], row["label"], row["title"]}]
        row = fits[0] if len(fits) == 1 else None
        key = row["id"] if row else wanted
        found.setdefault(key, (key, (row["label"] or row["title"]) if row else wanted))
    return list(found.values())


def _status(error: Refusal) -> int:
    return NOT_ALLOWED if isinstance(error, NotAllowed) else REFUSED
