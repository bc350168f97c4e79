"""The institution's audit trail, for administrators."""

from __future__ import annotations

import argparse
from datetime import datetime
from pathlib import Path

from vennpair.cli.clock import clock_of
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client.schema import AuditEvent

SHOWN = 50


def add(commands: Commands) -> None:
    """Add the command of this module."""
    audit = commands.add_parser(
        "audit",
        help="show who did what in the institution (administrators)",
        description=(
            "Everything that was done, the newest first: sign-ins, roles, connections, rollouts,"
            " settlements. Each event is sealed with the one before it; 'vennpair-server"
            " check-audit' on the server proves that none was changed."
        ),
    )
    audit.add_argument(
        "--verb", default="", help="what was done, or its beginning, for example person"
    )
    audit.add_argument("--who", default="", help="by the person with this user name")
    audit.add_argument("--since", default="", metavar="TIME", help="from this time on (ISO 8601)")
    audit.add_argument("--until", default="", metavar="TIME", help="before this time (ISO 8601)")
    audit.add_argument(
        "--limit", type=int, default=SHOWN, metavar="N", help=f"show N at most (default {SHOWN})"
    )
    audit.add_argument("--csv", type=Path, metavar="FILE", help="save all of it as a table instead")
    audit.set_defaults(run=run_audit)


def run_audit(args: argparse.Namespace, out: Output) -> int:
    """Show or save the trail."""
    given = {"verb": args.verb, "who": args.who}
    given |= {"since": _moment(args.since), "until": _moment(args.until)}
    wanted = {name: value for name, value in given.items() if value}
    with connect() as venn:
        if args.csv:
            venn.save_audit(args.csv, **wanted)
            if out.as_json:
                out.document({"file": str(args.csv)})
            out.line(f"Saved as {args.csv}.")
            return DONE
        rows: list[AuditEvent] = []
        for row in venn.audit(**wanted):
            if len(rows) >= args.limit:
                break
            rows.append(row)
    if out.as_json:
        out.document(rows)
    at = clock_of()
    out.table(
        ("number", "at", "who", "verb", "what"),
        [
            (row["number"], at(row["at"]), row["actor"], row["verb"], row["sentence"])
            for row in rows
        ],
        empty="Nothing was done that fits.",
    )
    return DONE


def _moment(text: str) -> str:
    """Return a time with its zone, that of this machine where it names none. Raises Stop."""
    if not text:
        return ""
    try:
        return datetime.fromisoformat(text).astimezone().isoformat()
    except ValueError as error:
        raise Stop(
            USAGE,
            "bad_time",
            f"'{text}' is not a time.",
            "Write it as 2027-03-01 or 2027-03-01T08:00.",
        ) from error
