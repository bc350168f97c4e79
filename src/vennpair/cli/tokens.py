"""Tokens for scripts, and notices."""

from __future__ import annotations

import argparse

from vennpair.cli.clock import clock_of
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE
from vennpair.cli.output import Output
from vennpair.cli.session import connect


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    token = commands.add_parser("token", help="tokens for scripts, with scopes and an end")
    actions = token.add_subparsers(dest="action", required=True, metavar="ACTION")
    actions.add_parser("list", help="your tokens").set_defaults(run=run_list)
    new = actions.add_parser("new", help="make one; its value is shown this once")
    new.add_argument("name", help="what it is for")
    new.add_argument(
        "--scope",
        action="append",
        choices=("read", "compare", "change", "connect"),
        dest="scopes",
        help="what it may do (default: read); may be repeated",
    )
    new.add_argument(
        "--days", type=int, default=30, help="for how many days (default 30, at most 366)"
    )
    new.set_defaults(run=run_new)
    revoke = actions.add_parser("revoke", help="revoke a token")
    revoke.add_argument("id", help="its id in the list")
    revoke.set_defaults(run=run_revoke)
    notices = commands.add_parser("notices", help="what is ready or needs you")
    notices.add_argument("--read", action="store_true", help="mark all as read")
    notices.set_defaults(run=run_notices)


def run_list(args: argparse.Namespace, out: Output) -> int:
    """List tokens."""
    with connect() as venn:
        rows = venn.tokens()
    if out.as_json:
        out.document(rows)
    out.table(
        ("id", "for", "may", "until"),
        [
            (row["id"], row["name"], ", ".join(row["scopes"]), (row["expires"] or "")[:10])
            for row in rows
        ],
    )
    return DONE


def run_new(args: argparse.Namespace, out: Output) -> int:
    """Make a token."""
    with connect() as venn:
        made = venn.make_token(args.name, args.scopes or ["read"], args.days)
    if out.as_json:
        out.document(made)
    out.line(made["token"])
    out.line(
        f"Use it as VENNPAIR_TOKEN until {made['expires'][:10]}; it is not shown again.", "dim"
    )
    return DONE


def run_revoke(args: argparse.Namespace, out: Output) -> int:
    """Revoke a token."""
    with connect() as venn:
        venn.revoke_token(args.id)
    if out.as_json:
        out.document({"revoked": args.id})
    out.line("The token is revoked.")
    return DONE


def run_notices(args: argparse.Namespace, out: Output) -> int:
    """List notices."""
    with connect() as venn:
        rows = list(venn.notices())
        if args.read:
            venn.read_notices()
    if out.as_json:
        out.document(rows)
    at = clock_of()
    out.table(
        ("when", "what", "new"),
        [(at(row["at"]), row["sentence"], not row["read_at"]) for row in rows],
        empty="Nothing waits for you.",
    )
    return DONE
