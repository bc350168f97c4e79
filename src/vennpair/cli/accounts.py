"""One's accounts at the publishers: listed, linked, confirmed and undone."""

from __future__ import annotations

import argparse
import time
from typing import Any

from vennpair.cli.choose import choose
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.core.counting import many


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    account = commands.add_parser("account", help="which accounts at the publishers are yours")
    actions = account.add_subparsers(dest="action", required=True, metavar="ACTION")
    actions.add_parser("list", help="every publisher with your account there").set_defaults(
        run=run_accounts
    )
    for name, words, run in (
        ("link", "show the publisher who you are", run_link),
        ("look", "ask the publisher which account opened it", run_look),
        ("confirm", "say that an account that looks like somebody else's is yours", run_confirm),
        ("undo", "forget the link; pairings stay", run_undo),
    ):
        one = actions.add_parser(name, help=words)
        one.add_argument("publisher", help="name or id")
        if name == "link":
            one.add_argument(
                "--wait",
                type=float,
                default=0,
                metavar="SECONDS",
                help="wait until you have signed in there",
            )
        one.set_defaults(run=run)


def run_accounts(args: argparse.Namespace, out: Output) -> int:
    """List accounts."""
    with connect() as venn:
        rows = venn.accounts()
    if out.as_json:
        out.document(rows)
    out.table(
        ("publisher", "state", "account", "address", "courses"),
        [
            (row["publisher_name"], row["state"], row["account"], row["email"], row["courses"])
            for row in rows
        ],
        empty="No publisher is connected yet; tell your administrator.",
    )
    for row in rows:
        if row["warning"]:
            out.line(row["warning"], "yellow")
    return DONE


def run_link(args: argparse.Namespace, out: Output) -> int:
    """Begin a link, and wait for it where asked."""
    with connect() as venn:
        begun = venn.link_account(_account(venn, args.publisher)["publisher"])
        out.line(
            "Open this in the browser in which you are signed in to Venn Pair, and sign in at the"
            " publisher:"
        )
        out.line(begun["open"])
        account: Any = begun["account"]
        deadline = time.monotonic() + args.wait
        while args.wait and account["state"] in {"begun", "none"} and time.monotonic() < deadline:
            time.sleep(1)
            account = _account(venn, args.publisher)
    if out.as_json:
        out.document({**begun, "account": account})
    return _say_account(account, out, waited=bool(args.wait))


def run_look(args: argparse.Namespace, out: Output) -> int:
    """Ask the publisher which account it is."""
    with connect() as venn:
        account = venn.look_for_account(_begun(venn, args.publisher))
    if out.as_json:
        out.document(account)
    return _say_account(account, out)


def run_confirm(args: argparse.Namespace, out: Output) -> int:
    """Confirm an account."""
    with connect() as venn:
        account = venn.confirm_account(_begun(venn, args.publisher))
    if out.as_json:
        out.document(account)
    return _say_account(account, out)


def run_undo(args: argparse.Namespace, out: Output) -> int:
    """Undo a link."""
    with connect() as venn:
        venn.undo_account(_begun(venn, args.publisher))
        account = _account(venn, args.publisher)
    if out.as_json:
        out.document(account)
    out.line(
        f"Your account at {account['publisher_name']} is no longer linked; pairings stay as they"
        " are."
    )
    return DONE


def _account(venn: VennPair, wanted: str) -> Any:
    rows = [dict(row, id=row["publisher"], link=row["id"]) for row in venn.accounts()]
    return choose("publisher", rows, wanted, lambda row: (row["publisher_name"],), "account list")


def _begun(venn: VennPair, wanted: str) -> str:
    account = _account(venn, wanted)
    if not account["link"]:
        raise Stop(
            REFUSED,
            "not_begun",
            f"No account at {account['publisher_name']} is linked.",
            f"Begin with: vennpair account link '{account['publisher_name']}'",
        )
    return str(account["link"])


def _say_account(account: Any, out: Output, *, waited: bool = True) -> int:
    if account["state"] == "linked":
        out.line(
            f"Your account at {account['publisher_name']} is {account['account']}"
            f" ({account['email']}), with {many(account['courses'], 'course')}."
        )
    elif account["warning"]:
        out.line(account["warning"], "yellow")
        return FINDINGS
    elif waited:
        out.line("The publisher has not said yet which account is yours.", "yellow")
        return FINDINGS
    return DONE
