"""Shells, homework courses, and pairing them."""

from __future__ import annotations

import argparse
from typing import Any

from vennpair.cli.choose import choose, choose_course, choose_pairing, choose_shell
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair

_STATES = (
    ("pause", "paused", "keep scores waiting"),
    ("resume", "live", "send again"),
    ("end", "ended", "end the pairing; scores stay, and it can be undone for 30 days"),
    ("undo-end", "paused", "take an ended pairing up again"),
)
NEW = (
    ("new-from", "title", "TITLE", "let the publisher make a course of an adopted title"),
    ("copy-of", "copy_of", "COURSE", "let it copy a course"),
    ("section-of", "section_of", "COURSE", "let it add a section to a course"),
)


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    shells = commands.add_parser("shells", help="list the shells that you teach")
    shells.set_defaults(run=run_shells)
    courses = commands.add_parser(
        "courses",
        help="search homework courses",
        description="Search homework courses, best fitting a shell first where one is named.",
    )
    courses.add_argument(
        "words", nargs="*", help="words that title, author, ISBN, code, section or term must hold"
    )
    courses.add_argument("--shell", default="", help="rank by how well they suit this shell")
    courses.add_argument(
        "--mine", action="store_true", help="only those that you teach, by your linked account"
    )
    courses.add_argument("--refresh", action="store_true", help="ask the publishers again now")
    courses.set_defaults(run=run_courses)
    titles = commands.add_parser(
        "titles", help="search the adopted titles that a course can be made of"
    )
    titles.add_argument("words", nargs="*", help="words that title, author or ISBN must hold")
    titles.set_defaults(run=run_titles)
    _add_pair(commands)
    several = commands.add_parser(
        "pair-several",
        help="pair several shells with several sections in one go",
        description=(
            "Guesses by section number, title and term; shows the table, and pairs only with"
            " --agree."
        ),
    )
    several.add_argument(
        "shells", nargs="*", help="labels, titles or ids (default: every shell that is not paired)"
    )
    several.add_argument(
        "--agree",
        action="store_true",
        help="pair them as shown, and agree that each shell is read and written",
    )
    several.add_argument("--dry-run", action="store_true", help="only show the table")
    several.set_defaults(run=run_several)


def _add_pair(commands: Commands) -> None:
    pair = commands.add_parser(
        "pair", help="pair a shell with a homework course, or change a pairing"
    )
    pair.add_argument("shell", help="label, title or id")
    pair.add_argument("course", nargs="?", help="code, title or id")
    pair.add_argument(
        "--agree",
        action="store_true",
        help="agree to what 'vennpair consent SHELL' lists, if nobody has yet",
    )
    pair.add_argument(
        "--share",
        action="store_true",
        help="use a course that another shell has, where its publisher allows that",
    )
    pair.add_argument(
        "--dry-run", action="store_true", help="say what would happen, change nothing"
    )
    pair.add_argument(
        "--name", default="", help="what the publisher shall call a course that it makes"
    )
    which = pair.add_mutually_exclusive_group()
    for name, target, words in _STATES:
        which.add_argument(
            f"--{name}", dest="change", action="store_const", const=(name, target), help=words
        )
    for name, way, metavar, words in NEW:
        which.add_argument(f"--{name}", dest=way, metavar=metavar, help=words)
    pair.set_defaults(run=run_pair)


def run_shells(args: argparse.Namespace, out: Output) -> int:
    """List shells."""
    with connect() as venn:
        shells = list(venn.shells())
    if out.as_json:
        out.document(shells)
    rows = [
        (row["label"], row["title"], row["platform"], row["state"], row["course"], row["attention"])
        for row in shells
    ]
    out.table(
        ("shell", "title", "platform", "state", "paired with", "needs attention"),
        rows,
        empty="You have no shells yet: open Venn Pair from a course once.",
    )
    return DONE


def run_courses(args: argparse.Namespace, out: Output) -> int:
    """List courses."""
    with connect() as venn:
        shell = choose_shell(venn, args.shell)["id"] if args.shell else ""
        unread = venn.read_courses_again() if args.refresh else []
        courses = venn.courses(" ".join(args.words), shell, mine=args.mine)
    if out.as_json:
        out.document(courses)
    rows = [
        (
            row["code"],
            row["title"],
            row["author"],
            row["term"],
            row["learners"],
            row["paired"],
            row["mine"],
            f"{row['fit']:.2f}" if shell else None,
            ", ".join(row["reasons"]),
        )
        for row in courses
    ]
    out.table(
        ("code", "title", "author", "term", "learners", "paired", "yours", "fit", "why"),
        rows,
        empty="No homework course fits. Try fewer words, or --refresh.",
    )
    for each in unread:
        out.line(
            f"{each['publisher']} could not be read; what is shown of it is older."
            f" {each['message']} {each['remedy']}",
            "yellow",
        )
    return DONE


def run_titles(args: argparse.Namespace, out: Output) -> int:
    """List titles."""
    with connect() as venn:
        titles = list(venn.titles(" ".join(args.words)))
    if out.as_json:
        out.document(titles)
    rows = [
        (
            row["title"],
            row["author"],
            row["isbn"],
            row["publisher"],
            "yes" if row["can_create"] else row["why_not"],
        )
        for row in titles
    ]
    out.table(
        ("title", "author", "ISBN", "publisher", "a course can be made here"),
        rows,
        empty=(
            "No publisher tells which titles are adopted. Choose a course that is there: vennpair"
            " courses"
        ),
    )
    return DONE


def run_pair(args: argparse.Namespace, out: Output) -> int:
    """Pair, or change a pairing's state."""
    with connect() as venn:
        if args.change:
            return _change(venn, args, out)
        way = next((way for _, way, _, _ in NEW if getattr(args, way)), "")
        if not args.course and not way:
            raise Stop(
                USAGE,
                "no_course",
                "Which homework course?",
                "Name it after the shell; list them with: vennpair courses --shell SHELL",
            )
        shell = choose_shell(venn, args.shell)
        if way:
            source = source_of(venn, way, getattr(args, way), shell["id"])
        else:
            source = choose_course(venn, args.course, shell["id"])
        if args.dry_run:
            return _would(venn, shell, source, way, out)
        made = (
            venn.pair_new(shell["id"], way, source["id"], name=args.name, agree=args.agree)
            if way
            else venn.pair(shell["id"], source["id"], agree=args.agree, share=args.share)
        )
        pairing = followed(venn, made, out)
    if out.as_json:
        out.document(pairing)
    say_set_up(pairing, out)
    return DONE


def source_of(venn: VennPair, way: str, wanted: str, shell: str) -> Any:
    """Return the title or course that a new course comes from. Raises Stop."""
    if way != "title":
        return choose_course(venn, wanted, shell)
    titles = list(venn.titles())
    return choose("title", titles, wanted, lambda row: (row["title"], row["isbn"]), "titles")


def run_several(args: argparse.Namespace, out: Output) -> int:
    """Show the guessed table, and pair it where agreed."""
    with connect() as venn:
        shells = [choose_shell(venn, wanted) for wanted in args.shells] or [
            row for row in venn.shells() if not row["pairing"] and not row["copied"]
        ]
        rows = venn.guess_several([shell["id"] for shell in shells]) if shells else []
        pairs = [(row["shell"], row["course"]) for row in rows if row["course"]]
        if args.agree and not args.dry_run and pairs:
            done = {
                row["shell"]: row
                for row in venn.pair_several(
                    [(shell, str(course)) for shell, course in pairs], agree=True
                )
            }
            rows = [done.get(row["shell"], row) for row in rows]
    if out.as_json:
        out.document(rows)
    out.table(
        ("shell", "homework course", "why", "outcome"),
        [
            (
                row["label"],
                row["course_name"] or "none fits: pair it alone",
                ", ".join(row["reasons"]),
                _outcome(row),
            )
            for row in rows
        ],
        empty="Every shell is paired already.",
    )
    if pairs and (args.dry_run or not args.agree):
        out.line(
            "Nothing was paired. Pair them as shown, and agree that each shell is read and written,"
            " with --agree."
        )
    return FINDINGS if any(row["refused"] for row in rows) else DONE


def followed(venn: VennPair, pairing: Any, out: Output) -> Any:
    """Wait for a set-up, where there is one, and return the pairing as it is then."""
    if not pairing["set_up"]:
        return pairing
    with out.progress("Setting up") as follow:
        venn.wait(pairing["set_up"], follow)
    return venn.pairing(pairing["id"])


def say_set_up(pairing: Any, out: Output) -> None:
    """Say what a pairing is now."""
    out.line(
        f"{pairing['shell']['label']} is paired with {pairing['course']['title']},"
        f" {pairing['course']['code']} ({pairing['state']})."
    )
    if pairing["set_up"]:
        out.line(f"{pairing['set_up']['message']}.")


def _change(venn: VennPair, args: argparse.Namespace, out: Output) -> int:
    name, target = args.change
    shell = choose_shell(venn, args.shell)
    pairing_id = shell["ended"] if name == "undo-end" else choose_pairing(venn, args.shell)
    if not pairing_id:
        raise Stop(
            USAGE,
            "nothing_ended",
            f"{shell['label'] or shell['title']} has no pairing that was ended within 30 days.",
            "Pair it again.",
        )
    if args.dry_run:
        sentences = venn.consequences(pairing_id, target)
        if out.as_json:
            out.document(
                {"pairing": pairing_id, "state": target, "consequences": sentences, "dry_run": True}
            )
        for sentence in sentences or ["The pairing is restored, paused; resume it to send scores."]:
            out.line(f"- {sentence}")
        out.line("Nothing was changed.")
        return DONE
    pairing = venn.change_pairing(pairing_id, state=target)
    if out.as_json:
        out.document(pairing)
    out.line(f"{pairing['shell']['label']} is {pairing['state']} now.")
    return DONE


def _would(venn: VennPair, shell: Any, source: Any, way: str, out: Output) -> int:
    consent = venn.consent(shell["id"])
    if out.as_json:
        out.document(
            {
                "shell": shell,
                "way": way or "course",
                "course": source,
                "consent_needed": not consent["agreed"],
                "dry_run": True,
            }
        )
    what = {
        "": "",
        "title": "a new course of ",
        "copy_of": "a copy of ",
        "section_of": "a new section of ",
    }[way]
    out.line(
        f"Would pair {shell['label']} {shell['title']} with"
        f" {what}{', '.join(filter(None, (source['title'], source.get('code'), source.get('term'))))}."
        " Nothing was changed."
    )
    if not consent["agreed"]:
        out.line(
            "It needs your agreement that the shell is read and written: add --agree, after reading"
            " 'vennpair consent'."
        )
    return DONE


def _outcome(row: Any) -> str:
    return "paired" if row["pairing"] else str(row["refused"])
