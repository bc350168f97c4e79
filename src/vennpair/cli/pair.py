"""Shells, homework courses, and pairing them."""

from __future__ import annotations

import argparse

from vennpair.cli.choose import choose, choose_pairing, choose_shell
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    shells = commands.add_parser("shells", help="list the shells that you teach")
    shells.set_defaults(run=run_shells)
    courses = commands.add_parser("courses", help="list homework courses", description="List homework courses, best fitting a shell first where one is named.")
    courses.add_argument("words", nargs="*", help="words that title, code or term must hold")
    courses.add_argument("--shell", default="", help="rank by how well they suit this shell")
    courses.add_argument("--refresh", action="store_true", help="ask the publishers again now")
    courses.set_defaults(run=run_courses)
    pair = commands.add_parser("pair", help="pair a shell with a homework course, or change a pairing")
    pair.add_argument("shell", help="label, title or id")
    pair.add_argument("course", nargs="?", help="code, title or id")
    pair.add_argument("--dry-run", action="store_true", help="say what would be paired, change nothing")
    state = pair.add_mutually_exclusive_group()
    for name, target, words in (("pause", "paused", "keep scores waiting"), ("resume", "live", "send again"), ("end", "ended", "end the pairing; scores stay")):
        state.add_argument(f"--{name}", dest="target", action="store_const", const=target, help=words)
    pair.set_defaults(run=run_pair)


def run_shells(args: argparse.Namespace, out: Output) -> int:
    """List shells."""
    with connect() as venn:
        shells = list(venn.shells())
    if out.as_json:
        out.document(shells)
    rows = [(row["label"], row["title"], row["platform"], row["state"], row["course"], row["attention"]) for row in shells]
    out.table(("shell", "title", "platform", "state", "paired with", "needs attention"), rows, empty="You have no shells yet: open Venn Pair from a course once.")
    return DONE


def run_courses(args: argparse.Namespace, out: Output) -> int:
    """List courses."""
    with connect() as venn:
        shell = choose_shell(venn, args.shell)["id"] if args.shell else ""
        courses = venn.courses(" ".join(args.words), shell, refresh=args.refresh)
    if out.as_json:
        out.document(courses)
    rows = [(row["code"], row["title"], row["term"], row["learners"], row["paired"], f"{row['fit']:.2f}" if shell else None, ", ".join(row["reasons"])) for row in courses]
    out.table(("code", "title", "term", "learners", "paired", "fit", "why"), rows, empty="No homework course fits. Try fewer words, or --refresh.")
    return DONE


def run_pair(args: argparse.Namespace, out: Output) -> int:
    """Pair, or change a pairing's state."""
    with connect() as venn:
        if args.target:
            pairing_id = choose_pairing(venn, args.shell)
            pairing = venn.pairing(pairing_id) if args.dry_run else venn.change_pairing(pairing_id, state=args.target)
            words = f"would be {args.target}" if args.dry_run else f"is {pairing['state']} now"
        elif not args.course:
            raise Stop(USAGE, "no_course", "Which homework course?", "Name it after the shell; list them with: vennpair courses --shell SHELL")
        else:
            shell = choose_shell(venn, args.shell)
            course = choose("course", venn.courses(shell=shell["id"]), args.course, lambda row: (row["code"], row["title"], f"{row['code']}, {row['term']}"), "courses")
            if args.dry_run:
                if out.as_json:
                    out.document({"shell": shell, "course": course, "dry_run": True})
                out.line(f"Would pair {shell['label']} {shell['title']} with {course['title']}, {course['code']}, {course['term']}. Nothing was changed.")
                return DONE
            pairing = venn.pair(shell["id"], course["id"])
            words = f"is paired with {pairing['course']['title']}, {pairing['course']['code']} ({pairing['state']})"
    if out.as_json:
        out.document(pairing)
    out.line(f"{pairing['shell']['label']} {words}.")
    return DONE
