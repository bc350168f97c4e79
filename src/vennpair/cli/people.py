"""People of the institution, and how they sign in: for administrators."""

from __future__ import annotations

import argparse
import sys
from typing import Any

from vennpair.cli.choose import choose
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    people = commands.add_parser(
        "people", help="people of the institution and their roles (administrators)"
    )
    people.add_argument("person", nargs="?", help="name or address")
    people.add_argument(
        "--role", choices=("administrator", "designer", "teacher"), help="make them this"
    )
    access = people.add_mutually_exclusive_group()
    access.add_argument(
        "--block",
        action="store_true",
        help="end their sessions, tokens, invitations and account links, and let them in no more",
    )
    access.add_argument("--let-in", action="store_true", help="let somebody in again")
    access.add_argument(
        "--remove",
        action="store_true",
        help="block them and take their parts in all shells away; the record keeps their name",
    )
    people.add_argument(
        "--no-second-factor",
        action="store_true",
        help="let them sign in without a code again, where the app and the recovery codes are lost",
    )
    people.set_defaults(run=run_people)
    college = commands.add_parser(
        "college-sign-in",
        help="sign-in at the college's own OpenID provider (administrators)",
        description=(
            "Without options: how it is set up, and the address that the provider must know of us."
            " The secret is read from standard input."
        ),
    )
    college.add_argument("--issuer", metavar="URL", help="the provider's issuer")
    college.add_argument("--client-id", metavar="ID", help="what the provider calls us")
    college.add_argument(
        "--secret-stdin", action="store_true", help="read the client secret from standard input"
    )
    college.add_argument("--off", action="store_true", help="keep it, but offer it no more")
    college.add_argument("--remove", action="store_true", help="forget it, and who came from it")
    college.set_defaults(run=run_college)


def run_people(args: argparse.Namespace, out: Output) -> int:
    """List people, change a role, block somebody or let them in."""
    asked = (args.role, args.block, args.let_in, args.remove, args.no_second_factor)
    if not args.person and any(asked):
        raise Stop(USAGE, "no_person", "Say who.", "Name a person: vennpair people NAME …")
    with connect() as venn:
        people: list[Any] = list(venn.people())
        if args.person:
            rows = [dict(row, id=str(row["id"])) for row in people]
            found = choose(
                "person", rows, args.person, lambda row: (row["name"], row["username"]), "people"
            )
            people = _changed(venn, args, found)
    if out.as_json:
        out.document(people)
    out.table(
        ("name", "signs in as", "role", "code", "last seen"),
        [
            (
                row["name"],
                row["username"],
                "blocked" if row["blocked"] else row["role"],
                "yes" if row["second_factor"] else "",
                (row["last_login"] or "")[:10],
            )
            for row in people
        ],
    )
    return DONE


def _changed(venn: VennPair, args: argparse.Namespace, found: Any) -> list[Any]:
    """Do to a person what is asked for; return the person as they are then."""
    key = int(found["id"])
    if args.remove:
        venn.remove_person(key)
        return [found | {"blocked": True}]
    if args.role:
        found = venn.change_person(key, args.role)
    if args.no_second_factor:
        found = venn.forget_second_factor(key)
    if args.block or args.let_in:
        found = venn.block_person(key, blocked=args.block)
    return [found]


def run_college(args: argparse.Namespace, out: Output) -> int:
    """Show, set up, turn off or remove the college's own sign-in."""
    with connect() as venn:
        if args.remove:
            venn.remove_college_sign_in()
        known = venn.college_sign_in()
        if args.issuer or args.client_id or args.secret_stdin or args.off:
            issuer, client_id = args.issuer or known["issuer"], args.client_id or known["client_id"]
            if not issuer or not client_id:
                raise Stop(
                    USAGE,
                    "no_issuer",
                    "The provider is not known yet.",
                    "Give --issuer URL, --client-id ID and --secret-stdin.",
                )
            secret = sys.stdin.readline().rstrip("\n") if args.secret_stdin else ""
            known = venn.set_college_sign_in(issuer, client_id, secret, active=not args.off)
    if out.as_json:
        out.document(known)
    out.table(
        ("value", ""),
        [
            ("the provider", known["issuer"] or "none"),
            ("we are its client", known["client_id"]),
            ("offered", "yes" if known["active"] else "no"),
            ("it sends browsers back to", known["redirect_uri"]),
        ],
    )
    return DONE
