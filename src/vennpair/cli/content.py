"""Cartridges and items."""

from __future__ import annotations

import argparse
import os
from collections import Counter
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.session import connect
from vennpair.standards.cartridge import Limits, UnusableCartridge, read_cartridge
from vennpair.standards.cartridge.report import inspection, refusal

SHOWN_OF_A_CODE = 3


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    cartridge = commands.add_parser("cartridge", help="look into a cartridge, or import one")
    below = cartridge.add_subparsers(dest="cartridge", required=True, metavar="COMMAND")
    inspect = below.add_parser("inspect", help="say exactly what is in a file; needs no service")
    inspect.add_argument("file", type=Path)
    inspect.add_argument("--known-host", action="append", default=[], metavar="HOST", help="a tool's host to take as registered; may be repeated")
    inspect.set_defaults(run=run_inspect)
    imports = below.add_parser("import", help="import a cartridge into a pairing")
    imports.add_argument("shell", help="label, title or id of the paired shell")
    imports.add_argument("file", type=Path, nargs="?", help="left out: fetched from the publisher")
    imports.add_argument("--dry-run", action="store_true", help="only read the file and say what is in it")
    imports.set_defaults(run=run_import)
    items = commands.add_parser("items", help="list the items of a pairing")
    items.add_argument("shell", help="label, title or id of the paired shell")
    items.add_argument("--kind", choices=("graded", "practice", "reading", "media", "link"))
    items.add_argument("--unit")
    items.add_argument("--search", metavar="WORDS")
    items.add_argument("--placed", choices=("yes", "no"))
    items.set_defaults(run=run_items)


def run_inspect(args: argparse.Namespace, out: Output) -> int:
    """Inspect a file."""
    try:
        limits = Limits.from_environment(os.environ)
    except ValueError as error:
        raise Stop(USAGE, "bad_limit", f"A VENNPAIR_CARTRIDGE_MAX_… setting is no whole number: {error}.", "Correct or unset it.") from error
    try:
        cartridge = read_cartridge(args.file, limits, frozenset(host.lower() for host in args.known_host))
    except OSError as error:
        raise Stop(UNREADABLE, "unreadable", f"{args.file} cannot be read: {error.strerror or error}.", "Check the name and your rights to it.") from error
    except UnusableCartridge as error:
        found = error.finding
        if out.as_json:
            out.document(refusal(found))
        raise Stop(UNREADABLE, found.code, found.message, found.remedy, where=found.where) from error
    document = inspection(cartridge)
    if out.as_json:
        out.document(document)
    else:
        _show(document, out)
    return FINDINGS if any(each.level == "error" for each in cartridge.findings) else DONE


def _show(document: dict[str, Any], out: Output) -> None:
    counts = {kind: count for kind, count in document["counts"].items() if count}
    out.line(f"{document['title'] or 'Untitled'}: Common Cartridge {document['version'] or 'of unknown version'}, {document['profile']}, {document['language'] or 'no language'}")
    out.line(", ".join(f"{count} {kind.replace('_', ' ')}" for kind, count in counts.items()) or "nothing in it")
    rows = [("  " * row["depth"] + (row["title"] or "(untitled)"), row["kind"], row["points"], row["audience"], row["url"] or row["href"]) for row in document["outline"]]
    out.table(("outline", "kind", "points", "for", "opens"), rows, empty="The outline is empty.")
    if document["loose"]:
        out.line(f"{len(document['loose'])} resources stand in no outline: {', '.join(each['href'] or each['resource'] for each in document['loose'][:8])}")
    findings = document["findings"]
    _show_findings(findings, out)


def _show_findings(findings: Sequence[dict[str, str]], out: Output) -> None:
    """Show findings; of many with one code only the first three, and how many more."""
    counted, rows = Counter[str](), []
    for each in findings:
        counted[each["code"]] += 1
        if counted[each["code"]] <= SHOWN_OF_A_CODE:
            rows.append((each["level"], each["code"], each["where"], each["message"], each["remedy"]))
    out.table(("level", "code", "where", "what", "what to do"), rows, styles=[LEVEL_STYLES[row[0]] for row in rows], empty="Nothing is wrong with it.")
    for code, count in counted.items():
        if count > SHOWN_OF_A_CODE:
            out.line(f"and {count - SHOWN_OF_A_CODE} more of {code} (all with --format json)", "dim")


def run_import(args: argparse.Namespace, out: Output) -> int:
    """Import."""
    if args.dry_run:
        if args.file is None:
            raise Stop(USAGE, "no_file", "A dry run reads a file.", "Name the file, or leave --dry-run out to fetch from the publisher.")
        args.known_host = []
        return run_inspect(args, out)
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        try:
            made = venn.start_import(pairing, args.file)
        except OSError as error:
            raise Stop(UNREADABLE, "unreadable", f"{args.file} cannot be read: {error.strerror or error}.", "Check the name and your rights to it.") from error
        with out.progress("Importing") as follow:
            venn.wait(made["job"], follow)
        made = venn.import_of(pairing, made["id"])
    if out.as_json:
        out.document(made)
    out.line(f"'{made['title']}' imported: {made['job']['message']}.")
    _show_findings(made["findings"], out)
    return DONE


def run_items(args: argparse.Namespace, out: Output) -> int:
    """List items."""
    filters = {"kind": args.kind, "unit": args.unit, "q": args.search, "placed": {"yes": "true", "no": "false"}.get(args.placed or "")}
    with connect() as venn:
        items = list(venn.items(choose_pairing(venn, args.shell), **{name: value for name, value in filters.items() if value}))
    if out.as_json:
        out.document(items)
    rows = [(row["unit"], row["shown_title"], row["kind"], row["points"], row["due_date"][:16].replace("T", " "), row["placed"], row["folder"], row["column"]) for row in items]
    out.table(("unit", "item", "kind", "points", "due", "placed", "folder", "column"), rows, empty="No items. Import them with: vennpair cartridge import SHELL")
    return DONE
