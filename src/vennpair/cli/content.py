"""Cartridges and items."""

from __future__ import annotations

import argparse
import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose_pairing
from vennpair.cli.clock import Clock, course_clock
from vennpair.cli.connect import Commands
from vennpair.cli.entries import add_all
from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.imports import add_bring, add_import, show_findings
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client.schema import Catalogue, Item
from vennpair.standards.cartridge import Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import inspection, refusal


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    cartridge = commands.add_parser("cartridge", help="look into a cartridge, or import one")
    below = cartridge.add_subparsers(dest="cartridge", required=True, metavar="COMMAND")
    inspect = below.add_parser("inspect", help="say exactly what is in a file; needs no service")
    inspect.add_argument("file", type=Path)
    inspect.add_argument(
        "--known-host",
        action="append",
        default=[],
        metavar="HOST",
        help="a tool's host to take as registered; may be repeated",
    )
    inspect.set_defaults(run=run_inspect)
    add_import(
        below.add_parser(
            "import",
            help="read a cartridge, and bring into the shell what is chosen of it",
            description=(
                "Read a cartridge; with --all, --folder, --entry, --kind or --search also bring"
                " that into the shell. Shows the plan first; --dry-run stops there."
            ),
        )
    )
    add_bring(
        below.add_parser(
            "bring",
            help="bring more of what was read before into the shell",
            description=(
                "Bring entries of an import into the shell. Shows the plan first; --dry-run stops"
                " there."
            ),
        )
    )
    add_all(below)
    items = commands.add_parser("items", help="list the items of a pairing")
    items.add_argument("shell", help="label, title or id of the paired shell")
    items.add_argument("--kind", choices=("graded", "practice", "reading", "media", "link"))
    items.add_argument("--unit")
    items.add_argument("--subject", help="what its package says it is about")
    items.add_argument("--search", metavar="WORDS")
    items.add_argument("--placed", choices=("yes", "no"))
    items.add_argument(
        "--refresh",
        action="store_true",
        help="read the publisher's catalogue first, and show what changed",
    )
    items.add_argument(
        "--changes",
        action="store_true",
        help="only show what the last readings of the catalogue found changed",
    )
    items.set_defaults(run=run_items)


def run_inspect(args: argparse.Namespace, out: Output) -> int:
    """Inspect a file."""
    try:
        limits = Limits.from_environment(os.environ)
    except ValueError as error:
        raise Stop(
            USAGE,
            "bad_limit",
            f"A VENNPAIR_CARTRIDGE_MAX_… setting is not a whole number: {error}.",
            "Correct or unset it.",
        ) from error
    try:
        cartridge = read_cartridge(
            args.file, limits, frozenset(host.lower() for host in args.known_host)
        )
    except OSError as error:
        raise Stop(
            UNREADABLE,
            "unreadable",
            f"{args.file} cannot be read: {error.strerror or error}.",
            "Check the name and your rights to it.",
        ) from error
    except UnusableCartridge as error:
        found = error.finding
        if out.as_json:
            out.document(refusal(found))
        raise Stop(
            UNREADABLE, found.code, found.message, found.remedy, where=found.where
        ) from error
    document = inspection(cartridge)
    if out.as_json:
        out.document(document)
    else:
        _show(document | {"protected": cartridge.protected}, out)
    return FINDINGS if any(each.level == "error" for each in cartridge.findings) else DONE


def _show(document: dict[str, Any], out: Output) -> None:
    counts = {kind: count for kind, count in document["counts"].items() if count}
    out.line(
        f"{document['title'] or 'Untitled'}: Common Cartridge"
        f" {document['version'] or 'of unknown version'}, {document['profile']},"
        f" {document['language'] or 'no language'}"
    )
    if needs := document["protected"]:
        out.line(
            "Its maker asks for an authorisation of"
            f" {'the whole package' if needs == 'cartridge' else 'some resources'}: parts may stay"
            " locked until you get one there.",
            "yellow",
        )
    out.line(
        ", ".join(f"{count} {kind.replace('_', ' ')}" for kind, count in counts.items())
        or "nothing in it"
    )
    rows = [
        (
            "  " * row["depth"] + (row["title"] or "(untitled)"),
            row["kind"],
            row["points"],
            row["audience"],
            row["url"] or row["href"],
        )
        for row in document["outline"]
    ]
    out.table(("outline", "kind", "points", "for", "opens"), rows, empty="The outline is empty.")
    if document["loose"]:
        out.line(
            f"{len(document['loose'])}"
            f" resource{'s are' if len(document['loose']) > 1 else ' is'} in no outline:"
            f" {', '.join(each['href'] or each['resource'] for each in document['loose'][:8])}"
        )
    findings = document["findings"]
    show_findings(findings, out)


def run_items(args: argparse.Namespace, out: Output) -> int:
    """List items, or what changed in the publisher's catalogue."""
    filters = {
        "kind": args.kind,
        "unit": args.unit,
        "subject": args.subject,
        "q": args.search,
        "placed": {"yes": "true", "no": "false"}.get(args.placed or ""),
    }
    readings: Sequence[Catalogue] = ()
    items: Sequence[Item] = ()
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        at = course_clock(venn, pairing)
        if args.refresh:
            readings = [venn.refresh_catalogue(pairing)]
        elif args.changes:
            readings = venn.catalogue(pairing)
        if not args.changes:
            wanted = {name: value for name, value in filters.items() if value}
            items = list(venn.items(pairing, **wanted))
    if out.as_json:
        both = {"catalogue": readings[0], "items": items} if args.refresh else items
        out.document(readings if args.changes else both)
    for reading in readings:
        out.line(f"Catalogue read {at(reading['at'])}: {reading['words']}.")
        out.table(
            ("item", "change", "before", "after"),
            [
                (row["title"], row["kind"], row["before"], row["after"])
                for row in reading["changes"]
            ],
        )
    if args.changes:
        if not readings:
            out.line("The catalogue was not read yet. Read it with: vennpair items SHELL --refresh")
        return DONE
    _list_items(items, at, out)
    return DONE


def _list_items(items: Sequence[Item], at: Clock, out: Output) -> None:
    rows = [
        (
            row["unit"],
            row["shown_title"],
            row["kind"],
            row["points"],
            at(row["due_at"]),
            row["placed"],
            row["folder"],
            row["column"],
        )
        for row in items
    ]
    out.table(
        ("unit", "item", "kind", "points", "due", "placed", "folder", "column"),
        rows,
        empty="No items. Import them with: vennpair cartridge import SHELL",
    )
