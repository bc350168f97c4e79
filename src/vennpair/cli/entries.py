"""The entries of an import: listed, looked into, renamed, matched.

Undone, stopped and written as a file.
"""

from __future__ import annotations

import argparse
import re
from html import unescape
from pathlib import Path
from shlex import quote

from vennpair.cli.choose import choose, choose_entry, choose_import, choose_pairing
from vennpair.cli.clock import course_clock
from vennpair.cli.exits import DONE, REFUSED, USAGE, Stop
from vennpair.cli.imports import KINDS, add_choice, order_of, show_entries
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client.schema import Reversal


def add_all(below: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add the commands of this module below ``cartridge``."""
    listed = _command(
        below, "imports", "list what was imported into a shell", run_imports, of_import=False
    )
    listed.epilog = "The newest comes first."
    entries = _command(
        below, "entries", "list an import's entries and what became of each", run_entries
    )
    entries.add_argument("--kind", choices=("folder", *KINDS))
    entries.add_argument("--state", help="for example made, failed, left_out")
    entries.add_argument("--search", metavar="WORDS")
    entries.add_argument(
        "--attention",
        action="store_true",
        help="only those with a trouble or a name that was made up",
    )
    preview = _command(below, "preview", "look at an entry before it is imported", run_preview)
    preview.add_argument("entry", help="title or id")
    rename = _command(below, "rename", "rename one entry, or many by a pattern", run_rename)
    rename.add_argument(
        "entry", nargs="*", help="titles or ids; with --pattern left out: every entry of --kind"
    )
    rename.add_argument("--to", default="", metavar="TITLE", help="the one entry's new name")
    rename.add_argument(
        "--pattern", default="", help="for example '{unit}: {title}'; also {number} and {kind}"
    )
    rename.add_argument("--kind", choices=KINDS)
    rename.add_argument("--dry-run", action="store_true", help="only show the new names")
    match = _command(below, "match", "say which graded item a link opens", run_match)
    match.add_argument("entry", help="title or id of the link")
    match.add_argument("item", help="title or id of the graded item, or 'none'")
    undo = _command(below, "undo", "take out of the shell what the last import brought", run_undo)
    undo.add_argument(
        "--dry-run", action="store_true", help="only show what would go, and what stays and why"
    )
    _command(below, "stop", "stop an import that is under way", run_stop)
    write = _command(
        below,
        "write",
        "write a cartridge whose links point to Venn Pair, for a platform that imports files",
        run_write,
    )
    write.add_argument("target", type=Path, help="the file to write")
    write.add_argument(
        "--thin", action="store_true", help="a thin cartridge: folders and links only"
    )
    add_choice(write)


def _command(
    below: argparse._SubParsersAction[argparse.ArgumentParser],
    name: str,
    words: str,
    run: object,
    *,
    of_import: bool = True,
) -> argparse.ArgumentParser:
    command = below.add_parser(name, help=words, description=f"{words[0].upper()}{words[1:]}.")
    command.add_argument("shell", help="label, title or id of the paired shell")
    if of_import:
        command.add_argument(
            "--import",
            dest="import_id",
            default="",
            metavar="ID",
            help="which import; left out: the newest",
        )
    command.set_defaults(run=run)
    return command


def run_imports(args: argparse.Namespace, out: Output) -> int:
    """List imports."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        rows, at = list(venn.imports(pairing)), course_clock(venn, pairing)
    if out.as_json:
        out.document(rows)
    shown = [
        (
            row["id"][:8],
            row["title"] or row["filename"],
            row["source"],
            row["stage"],
            at(row["made_at"]),
            row["job"]["message"],
        )
        for row in rows
    ]
    out.table(
        ("import", "title", "from", "stage", "at", "what was found"),
        shown,
        empty="Nothing was imported yet. Begin with: vennpair cartridge import SHELL [FILE]",
    )
    return DONE


def run_entries(args: argparse.Namespace, out: Output) -> int:
    """List entries."""
    filters = {
        "kind": args.kind,
        "state": args.state,
        "q": args.search,
        "attention": "true" if args.attention else "",
    }
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id)
        at = course_clock(venn, pairing)
        rows = list(
            venn.entries(
                pairing, made["id"], **{name: value for name, value in filters.items() if value}
            )
        )
    if out.as_json:
        out.document(rows)
    out.line(f"'{made['title'] or made['filename']}', {made['stage']}: {made['job']['message']}")
    show_entries(rows, out, at)
    return DONE


def run_preview(args: argparse.Namespace, out: Output) -> int:
    """Show one entry."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id)
        entry = choose_entry(list(venn.entries(pairing, made["id"])), args.entry, args.shell)
        seen = venn.preview(pairing, made["id"], entry["id"])
    if out.as_json:
        out.document(seen)
    out.line(f"{seen['title']} ({seen['kind'].replace('_', ' ')})", "bold")
    if seen["url"]:
        out.line(f"opens {seen['url']}{' in a new window' if seen['new_window'] else ''}")
    if seen["vendor"]:
        out.line(f"made by {seen['vendor']}")
    for name, value in seen["custom"].items():
        out.line(f"  {name} = {value}")
    out.line(_plain(seen["html"]))
    for number, question in enumerate(seen["questions"], start=1):
        points = f", {question['points']} points" if question["points"] else ""
        kind = question["kind"].replace("_", " ")
        out.line(f"{number}. {_plain(question['prompt'])} ({kind}{points})")
        for choice in question["choices"]:
            out.line(f"   - {_plain(choice)}")
    if seen["files"]:
        out.line(f"comes with: {', '.join(seen['files'])}", "dim")
    return DONE


def run_rename(args: argparse.Namespace, out: Output) -> int:
    """Rename."""
    if bool(args.to) == bool(args.pattern) or (args.to and len(args.entry) != 1):
        raise Stop(
            USAGE,
            "no_name",
            "Give one entry and --to, or --pattern.",
            "For example: vennpair cartridge rename SHELL --kind page --pattern '{unit}: {title}'",
        )
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id)
        entries = list(
            venn.entries(pairing, made["id"], **({"kind": args.kind} if args.kind else {}))
        )
        chosen = [choose_entry(entries, wanted, args.shell)["id"] for wanted in args.entry] or [
            row["id"] for row in entries if row["kind"] != "folder"
        ]
        names = {chosen[0]: args.to} if args.to else None
        rows = venn.rename_entries(
            pairing,
            made["id"],
            names=names,
            entries=[] if names else chosen,
            pattern=args.pattern,
            dry_run=args.dry_run,
        )
    if out.as_json:
        out.document(rows)
    out.table(
        ("name", "becomes" if args.dry_run else "is now"),
        [(row["before"], row["after"]) for row in rows],
        empty="No entry fits.",
    )
    out.line(
        "Nothing was changed." if args.dry_run else "Later imports of this course keep these names."
    )
    return DONE


def run_match(args: argparse.Namespace, out: Output) -> int:
    """Correct a match."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id)
        entry = choose_entry(
            list(venn.entries(pairing, made["id"], kind="lti_link")), args.entry, args.shell
        )
        item = None
        if args.item != "none":
            item = choose(
                "item",
                list(venn.items(pairing, kind="graded")),
                args.item,
                lambda row: (row["shown_title"], row["title"]),
                f"items {quote(args.shell)}",
            )["id"]
        after = venn.match_entry(pairing, made["id"], entry["id"], item)
    if out.as_json:
        out.document(after)
    points = f", {after['points']} points" if after["points"] else ""
    out.line(
        f"'{after['shown_title']}' opens"
        f" {'no graded item' if item is None else after['line_item'] + points}; later imports keep"
        " that."
    )
    return DONE


def run_undo(args: argparse.Namespace, out: Output) -> int:
    """Undo the last delivery."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id, standing=True)
        last = venn.last_delivery(pairing, made["id"])
        if last is None:
            raise Stop(
                REFUSED,
                "nothing_to_do",
                "Nothing that this import brought in is in the shell.",
                "Nothing needs to be done.",
            )
        rows = venn.plan_operation_undo(last["job"]["id"])
        going = [row for row in rows if not row["why"]]
        if not out.as_json:
            out.table(
                ("entry", "will be"),
                [(row["title"], _will_be(row)) for row in rows],
                styles=["yellow" if row["why"] else "" for row in rows],
            )
        if args.dry_run or not going:
            if out.as_json:
                out.document({"entries": rows, "operation": None})
            out.line("Nothing was changed." if args.dry_run else "There is nothing to take out.")
            return DONE
        undoing = venn.undo_operation(last["job"]["id"])["id"]
        with out.progress("Taking out") as follow:
            job = venn.wait(venn.job(undoing), follow, seconds=3600)
        operation = venn.operation(undoing)
    if out.as_json:
        out.document({"entries": rows, "operation": operation})
    out.line(f"Done: {job['message']}.")
    return DONE


def _will_be(row: Reversal) -> str:
    if row["why"]:
        return f"kept: {row['why']}"
    return "shown to learners again" if row["shows"] else "taken out"


def run_stop(args: argparse.Namespace, out: Output) -> int:
    """Stop an import."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        job = venn.stop_import(pairing, choose_import(venn, pairing, args.import_id)["id"])
    if out.as_json:
        out.document(job)
    out.line("It stops after what is in flight; what was brought in until then stays.")
    return DONE


def run_write(args: argparse.Namespace, out: Output) -> int:
    """Write a cartridge."""
    if not (args.entry or args.folder or args.kind or args.search):
        args.all = True
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        made = choose_import(venn, pairing, args.import_id)
        started = venn.write_cartridge(
            pairing,
            made["id"],
            "thin" if args.thin else "full",
            **order_of(venn, pairing, made, args),
        )
        with out.progress("Writing") as follow:
            job = venn.wait(started["job"], follow, seconds=3600)
        written = next(
            each for each in venn.written(pairing, made["id"]) if each["id"] == started["id"]
        )
        try:
            venn.fetch_package(pairing, str(written["package"]), args.target)
        except OSError as error:
            raise Stop(
                USAGE,
                "unwritable",
                f"{args.target} cannot be written: {error.strerror or error}.",
                "Choose another place.",
            ) from error
    if out.as_json:
        out.document(written)
    out.line(
        f"{args.target}: {job['message']}. Upload it in the platform; each link is known to Venn"
        " Pair once somebody opens it."
    )
    return DONE


def _plain(html: str) -> str:
    """Return HTML as text for a terminal; it was made harmless by the service."""
    broken = re.sub(r"</(p|li|h[1-6]|div|tr)>|<br */?>", "\n", html)
    text = unescape(re.sub(r"<[^>]+>", "", broken))
    return "\n".join(
        line for line in (" ".join(each.split()) for each in text.splitlines()) if line
    )
