"""Connections to platforms and publishers, and our keys: for administrators."""

from __future__ import annotations

import argparse
import sys
import time
from typing import Any

import httpx

from vennpair.cli.choose import choose
from vennpair.cli.clock import clock_of
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, UNREACHABLE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair
from vennpair.client.transport import trusted

_PLATFORM = (
    "issuer",
    "client_id",
    "deployment_ids",
    "authorization_url",
    "token_url",
    "jwks_url",
    "token_audience",
    "name",
    "active",
)
_LISTS, _SWITCHES = {"deployment_ids", "redirect_uris"}, {"active"}
_STYLES = {"fail": "bold red", "skip": "dim", "ok": ""}
_SIDES = {"ours": "your side", "theirs": "their side", "both": "both sides", "": ""}


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    connection = commands.add_parser(
        "connection",
        help="connect platforms and publishers (administrators)",
        description=(
            "Connections to course platforms and publishers. docs/connecting.md leads through it."
        ),
    )
    actions = connection.add_subparsers(dest="action", required=True, metavar="ACTION")
    actions.add_parser("list", help="what is connected").set_defaults(run=run_list)
    card = actions.add_parser(
        "card",
        help="our values, to copy into the other side's form",
        description=(
            "Without a name: our values as a tool, for a course platform. With a publisher's name:"
            " our values as its platform."
        ),
    )
    card.add_argument("publisher", nargs="?", help="name or id")
    card.set_defaults(run=run_card)
    _add_registering(actions)
    for name, words in (("add", "register by hand"), ("set", "change a registration")):
        by_hand = actions.add_parser(
            name,
            help=words,
            description=(
                "Fields are written FIELD=VALUE; lists are separated by commas. FIELD=- reads a"
                " secret from standard input, so that it is in no command line."
            ),
        )
        if name == "add":
            by_hand.add_argument("side", choices=("platform", "publisher"))
        by_hand.add_argument("name", help="what you call it" if name == "add" else "name or id")
        by_hand.add_argument("fields", nargs="*", metavar="FIELD=VALUE")
        by_hand.add_argument(
            "--dry-run", action="store_true", help="say what would be stored, store nothing"
        )
        by_hand.set_defaults(run=run_add if name == "add" else run_set)
    check = actions.add_parser(
        "check",
        help="run each handshake for real",
        description="Says which step fails and whose side must act; ends with 1 where one fails.",
    )
    check.add_argument("name", help="name or id")
    check.set_defaults(run=run_check)
    actions.add_parser("health", help="how each platform takes scores").set_defaults(run=run_health)
    actions.add_parser("keys", help="our signing keys").set_defaults(run=run_keys)


def _add_registering(actions: Any) -> None:
    register = actions.add_parser(
        "register",
        help="register at a platform from its configuration address",
        description="The platform's administrator page gives both values.",
    )
    register.add_argument(
        "configuration", metavar="URL", help="the platform's openid_configuration address"
    )
    register.add_argument("--token", default="", help="its registration token")
    register.add_argument("--name", default="", help="what to call the platform")
    register.set_defaults(run=run_register)
    invite = actions.add_parser(
        "invite",
        help="let the other side register on its own",
        description=(
            "For a platform: prints a link to enter there. For a publisher: prints the address to"
            " open in a browser, made from its registration address."
        ),
    )
    invite.add_argument("side", choices=("platform", "publisher"))
    invite.add_argument(
        "--at", metavar="URL", default="", help="the publisher's registration address"
    )
    invite.add_argument("--name", default="", help="what to call it")
    invite.add_argument(
        "--visit",
        action="store_true",
        help="open the publisher's page from here, where no browser is needed",
    )
    invite.add_argument(
        "--wait",
        type=float,
        default=0,
        metavar="SECONDS",
        help="wait until the publisher has registered",
    )
    invite.set_defaults(run=run_invite)


def run_list(args: argparse.Namespace, out: Output) -> int:
    """List what is connected."""
    with connect() as venn:
        platforms, publishers = list(venn.platforms()), list(venn.publishers())
    if out.as_json:
        out.document({"platforms": platforms, "publishers": publishers})
    rows: list[tuple[Any, ...]] = [
        (
            "publisher",
            row["name"],
            _publisher_state(row),
            row["launch_url"],
            f"{row['courses']} courses",
        )
        for row in publishers
    ]
    rows += [
        ("platform", row["name"], _platform_state(row), row["issuer"], f"{row['shells']} shells")
        for row in platforms
    ]
    out.table(
        ("side", "name", "state", "address", "known"),
        rows,
        empty="Nothing is connected yet. Begin with: vennpair connection card",
    )
    return DONE


def run_card(args: argparse.Namespace, out: Output) -> int:
    """Print our values."""
    with connect() as venn:
        if not args.publisher:
            rows = venn.tool_card()
            if out.as_json:
                out.document({row["name"]: row["value"] for row in rows})
            out.table(
                ("field", "value", "what for"),
                [(row["label"], row["value"].replace("\n", ", "), row["help"]) for row in rows],
            )
            return DONE
        found = choose(
            "publisher",
            list(venn.publishers()),
            args.publisher,
            lambda row: (row["name"],),
            "connection list",
        )
    if out.as_json:
        out.document(found["card"])
    out.table(("field", "value"), list(found["card"].items()))
    return DONE


def run_register(args: argparse.Namespace, out: Output) -> int:
    """Register at a platform dynamically."""
    with connect() as venn:
        made = venn.register_at_platform(args.configuration, args.token, args.name)
    if out.as_json:
        out.document(made)
    out.line(
        f"{made['name']} is registered: client id {made['client_id']}, deployment"
        f" {', '.join(made['deployment_ids']) or 'taken from the first launch'}."
    )
    out.line(f"Next: vennpair connection check '{made['name']}'")
    return DONE


def run_invite(args: argparse.Namespace, out: Output) -> int:
    """Make a registration link."""
    if args.side == "publisher" and not args.at:
        raise Stop(
            USAGE,
            "no_address",
            "Where does the publisher's tool register?",
            "Name its registration address with --at URL.",
        )
    with connect() as venn:
        if args.side == "platform":
            link = venn.invite_platform(args.name)
            if out.as_json:
                out.document(link)
            out.line(
                "Enter this at the platform where it registers a tool by an address. It is good"
                " once, for a week:"
            )
            out.line(link["link"])
            return DONE
        begun = venn.invite_publisher(args.at, args.name)
        if args.visit:
            _visit(begun["open"])
        else:
            out.line("Open this in a browser. It is good once, for a week:")
            out.line(begun["open"])
        taken = _wait(venn, begun["invitation"], 10 if args.visit and not args.wait else args.wait)
    if out.as_json:
        out.document({**begun, "registered": taken})
    if taken:
        out.line(
            "The publisher has registered. Enter its OneRoster access with 'vennpair connection"
            " set', then check the connection."
        )
    elif args.wait or args.visit:
        raise Stop(
            REFUSED,
            "not_registered",
            "The publisher has not registered yet.",
            f"Open the address in a browser and see what it says: {begun['open']}",
        )
    return DONE


def run_add(args: argparse.Namespace, out: Output) -> int:
    """Register by hand."""
    fields = {"name": args.name} | _fields(args.fields)
    if args.dry_run:
        return _shown(fields, out)
    with connect() as venn:
        made: Any = (
            venn.add_platform(**fields) if args.side == "platform" else venn.add_publisher(**fields)
        )
    if out.as_json:
        out.document(made)
    out.line(f"{made['name']} is registered. Next: vennpair connection check '{made['name']}'")
    if args.side == "publisher":
        out.table(("give it", "our value"), list(made["card"].items()))
    return DONE


def run_set(args: argparse.Namespace, out: Output) -> int:
    """Change a registration."""
    fields = _fields(args.fields)
    if not fields:
        raise Stop(
            USAGE,
            "no_fields",
            "What shall be changed?",
            "Name it as FIELD=VALUE, for example oneroster_secret=-",
        )
    if args.dry_run:
        return _shown(fields, out)
    with connect() as venn:
        side, found = _find(venn, args.name)
        changed: Any = (
            venn.change_platform(found["id"], **fields)
            if side == "platform"
            else venn.change_publisher(found["id"], **fields)
        )
    if out.as_json:
        out.document(changed)
    out.line(f"{changed['name']} was changed: {', '.join(fields)}.")
    return DONE


def run_check(args: argparse.Namespace, out: Output) -> int:
    """Run each handshake."""
    with connect() as venn:
        side, found = _find(venn, args.name)
        steps = (
            venn.check_platform(found["id"])
            if side == "platform"
            else venn.check_publisher(found["id"])
        )
    failed = [step for step in steps if step["state"] == "fail"]
    if out.as_json:
        out.document({"name": found["name"], "side": side, "works": not failed, "steps": steps})
    out.table(
        ("step", "state", "what", "who must act", "what to do"),
        [
            (step["step"], step["state"], step["message"], _SIDES[step["side"]], step["remedy"])
            for step in steps
        ],
        styles=[_STYLES.get(step["state"], "") for step in steps],
    )
    out.line(
        f"{found['name']}: {len(failed)} of {len(steps)} steps fail."
        if failed
        else f"{found['name']}: every step that could be tried works."
    )
    return FINDINGS if failed else DONE


def run_health(args: argparse.Namespace, out: Output) -> int:
    """Say of each platform whether it is open, what waits, and how the last day went."""
    with connect() as venn:
        rows = venn.platforms_health()
    if out.as_json:
        out.document(rows)
    lag = [(row["lag"]["most_ms"] or 0) / 1000 for row in rows]
    shown = [
        (
            row["name"],
            "open" if row["open"] else row["pause"],
            row["at_once"],
            row["waiting"],
            row["accepted"],
            row["refused"],
            row["failed"],
            f"{most:.1f} s",
        )
        for row, most in zip(rows, lag, strict=True)
    ]
    out.table(
        (
            "platform",
            "state",
            "at once",
            "waiting",
            "accepted today",
            "refused",
            "failed",
            "95 % within",
        ),
        shown,
    )
    return FINDINGS if any(not row["open"] for row in rows) else DONE


def run_keys(args: argparse.Namespace, out: Output) -> int:
    """List our keys."""
    with connect() as venn:
        keys = venn.signing_keys()
    if out.as_json:
        out.document(keys)
    at = clock_of()
    out.table(
        ("key id", "signs from", "published until", "in use"),
        [(key["kid"], at(key["signs_from"]), at(key["ends_at"]), key["signs"]) for key in keys],
    )
    return DONE


def _find(venn: VennPair, wanted: str) -> tuple[str, Any]:
    rows = [dict(row, side="platform") for row in venn.platforms()] + [
        dict(row, side="publisher") for row in venn.publishers()
    ]
    found = choose("connection", rows, wanted, lambda row: (row["name"],), "connection list")
    return found["side"], found


def _fields(words: list[str]) -> dict[str, Any]:
    fields: dict[str, Any] = {}
    for word in words:
        name, mark, value = word.partition("=")
        if not mark or not name:
            raise Stop(
                USAGE,
                "bad_field",
                f"'{word}' is not FIELD=VALUE.",
                "Write it like launch_url=https://publisher.example/launch",
            )
        if value == "-":
            value = sys.stdin.readline().rstrip("\n")
        fields[name] = (
            [part.strip() for part in value.split(",") if part.strip()]
            if name in _LISTS
            else value.lower() in {"yes", "true", "on", "1"}
            if name in _SWITCHES
            else value
        )
    return fields


def _shown(fields: dict[str, Any], out: Output) -> int:
    """Say what would be stored; a secret stays one."""
    safe = {name: "(a secret)" if "secret" in name else value for name, value in fields.items()}
    if out.as_json:
        out.document({"fields": safe, "dry_run": True})
    out.table(("field", "value"), list(safe.items()))
    out.line("Nothing was stored.")
    return DONE


def _visit(url: str) -> None:
    try:
        answer = httpx.get(url, timeout=30, follow_redirects=True, verify=trusted())
    except httpx.HTTPError as error:
        raise Stop(
            UNREACHABLE,
            "publisher_unreachable",
            f"The publisher's registration page cannot be reached: {error}.",
            "Check the address given with --at.",
        ) from error
    if answer.is_error:
        raise Stop(
            REFUSED,
            "publisher_refused",
            f"The publisher's registration page answered with HTTP {answer.status_code}.",
            f"Open it in a browser and read what it says: {url}",
        )


def _wait(venn: VennPair, invitation: str, seconds: float) -> bool:
    deadline = time.monotonic() + seconds
    while True:
        if venn.invitation(invitation)["used_at"]:
            return True
        if time.monotonic() >= deadline:
            return False
        time.sleep(0.5)


def _publisher_state(row: Any) -> str:
    if not row["active"]:
        return "out of use"
    if not row["can_launch"]:
        return "waits for its values"
    return "connected" if row["has_oneroster_secret"] else "launches; OneRoster access is missing"


def _platform_state(row: Any) -> str:
    if not row["active"]:
        return "out of use"
    if row["asked_deployments"]:
        return "a deployment asks to be accepted"
    return "connected" if row["launched_at"] else "registered, never launched"
