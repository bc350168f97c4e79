"""Setting up several sections with one command: paired, read, placed, checked, relayed."""

from __future__ import annotations

import argparse
from collections.abc import Iterator, Sequence
from shlex import quote
from typing import Any

from vennpair.cli.choose import choose, choose_by_id, choose_course, choose_shell
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, REFUSED, USAGE, Stop
from vennpair.cli.output import LEVEL_STYLES, Output
from vennpair.cli.pair import NEW, source_of
from vennpair.cli.session import connect
from vennpair.cli.sheet import add_options, by_unit, read_sheet, sheet_of
from vennpair.client import VennPair
from vennpair.client.schema import Item, SectionPlan, SetUp
from vennpair.core.counting import many

WELL = frozenset({"live", "undone"})
Wanted = str | dict[str, Any] | None  # a course, or how the publisher makes one


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    command = commands.add_parser(
        "set-up",
        help="set up one section or several: from a fresh shell to scores that go",
        description=(
            "Pair each shell with the course that fits, place every graded item with its column,"
            " open each link as a learner and turn the relay on. Shows the plan first; --plan"
            " stops there."
        ),
    )
    _add_courses(command)
    _add_what(command)
    _add_doing(command)
    add_options(command, also=False)
    command.set_defaults(run=run_set_up)


def _add_courses(command: argparse.ArgumentParser) -> None:
    """Add which shells, and the homework course of each."""
    command.add_argument("shell", nargs="?", help="label, title or id of the first shell")
    command.add_argument(
        "--with",
        dest="others",
        action="append",
        default=[],
        metavar="SHELL[:DAYS]",
        help="this shell too, its dates moved by DAYS; may be repeated",
    )
    command.add_argument(
        "--course",
        action="append",
        default=[],
        metavar="SHELL=COURSE",
        help="the course for a shell, where another than the guessed one; may be repeated",
    )
    for name, _, metavar, words in NEW:
        command.add_argument(
            f"--{name}",
            action="append",
            default=[],
            metavar=f"SHELL={metavar}",
            help=f"for a shell, {words}; may be repeated",
        )
    command.add_argument(
        "--name",
        action="append",
        default=[],
        metavar="SHELL=NAME",
        help="what the publisher shall call the course that it makes for a shell",
    )
    command.add_argument(
        "--share",
        action="store_true",
        help="use courses that other shells have, where their publisher allows that",
    )


def _add_what(command: argparse.ArgumentParser) -> None:
    """Add what is placed in them, and when scores go."""
    command.add_argument(
        "--start",
        metavar="DATE",
        help="a day of the term's first week: dates move there by whole weeks",
    )
    command.add_argument(
        "--scores",
        choices=["submission", "due", "later"],
        default="submission",
        help="when scores go (default: submission)",
    )
    command.add_argument(
        "--access",
        choices=["code", "fee", "free"],
        help="how learners pay: places the first-steps page",
    )
    command.add_argument(
        "--navigation",
        action="store_true",
        help="learners find Venn Pair in the navigation, with a page of their own homework",
    )
    command.add_argument(
        "--way",
        choices=["columns", "average", "course"],
        default="columns",
        help="a column for each graded item, links with one average column, or one link to the"
        " course (default: columns)",
    )
    command.add_argument(
        "--total",
        default="",
        metavar="TITLE",
        help="a column with a total of all, kept up while the relay is on",
    )
    command.add_argument(
        "--readings",
        action="store_true",
        help="readings and videos come along, in the folders of their units",
    )
    command.add_argument(
        "--hide-columns",
        action="store_true",
        help="keep the scores of new columns from learners until you show them",
    )
    command.add_argument(
        "--review",
        choices=["keep", "hide", "leave_out"],
        default="keep",
        help="units that repeat or are optional: like others, hidden, or left out (default: keep)",
    )


def _add_doing(command: argparse.ArgumentParser) -> None:
    """Add how far it goes now, and what is done with one that was begun."""
    command.add_argument("--file", default="", metavar="SHEET", help="a sheet in TOML or JSON")
    command.add_argument(
        "--agree", action="store_true", help="agree that each shell is read and written"
    )
    command.add_argument(
        "--dry-run",
        action="store_true",
        help="change nothing: show the courses, and the plan for shells that are paired already",
    )
    command.add_argument(
        "--plan",
        action="store_true",
        help="pair and read, show the plan, and place nothing; the same command without it goes on",
    )
    command.add_argument("--list", action="store_true", help="list set-ups")
    command.add_argument("--undo", metavar="SET-UP", help="undo all that a set-up did")
    command.add_argument("--stop", metavar="SET-UP", help="stop a set-up")


def run_set_up(args: argparse.Namespace, out: Output) -> int:
    """Set up, or list, stop or undo a set-up."""
    with connect() as venn:
        if args.list:
            return _list(venn, out)
        if args.undo or args.stop:
            key = _begun(venn, args.undo or args.stop)
            (venn.undo_set_up if args.undo else venn.stop_set_up)(key)
            return report(followed(venn, key, out, "Undoing" if args.undo else "Stopping"), out)
        if not args.shell:
            raise Stop(
                USAGE, "no_shell", "Which shell?", "Name it; list them with: vennpair shells"
            )
        wanted, shifts = _wanted(venn, args)
        rows = _show_pairs(venn, wanted, out)
        open_ = [row for row in rows if row["new"]]
        if open_ and (args.dry_run or not args.agree):
            return _not_agreed(rows, args, out)
        found = venn.begin_set_up(wanted, agree=args.agree)
        found = followed(venn, found["id"], out, "Reading the courses")
        return _go_on(venn, found, args, shifts, out)


def _go_on(
    venn: VennPair, found: SetUp, args: argparse.Namespace, shifts: dict[str, int], out: Output
) -> int:
    """Plan what was begun, show it, and start it."""
    ready = [each for each in found["sections"] if each["stage"] == "ready"]
    if not ready:
        return report(found, out)
    wishes = _wishes(venn, str(ready[0]["pairing"]), args, shifts)
    plans = venn.plan_set_up(found["id"], **wishes)
    if not out.as_json:
        _show(plans, out)
    if args.dry_run or args.plan:
        if args.dry_run:  # nothing is left of a look; a plan is kept for the console
            venn.forget_set_up(found["id"])
        if out.as_json:
            key = None if args.dry_run else found["id"]
            out.document({"set_up": key, "sections": plans, "dry_run": args.dry_run})
        option = "--dry-run" if args.dry_run else "--plan"
        out.line(f"Nothing was placed. To place it, give the same command without {option}.")
        return DONE
    venn.start_set_up(found["id"], **wishes)
    return report(followed(venn, found["id"], out, "Setting up"), out)


def _wanted(
    venn: VennPair, args: argparse.Namespace
) -> tuple[list[tuple[str, Wanted]], dict[str, int]]:
    """Return the shells with the courses that were named, and the shifts by shell. Raises Stop."""
    courses: dict[str, Wanted] = {}
    for key, course in _by_shell(venn, "course", args.course):
        found = choose_course(venn, course, key)["id"]
        courses[key] = {"course": found, "share": True} if args.share else found
    names = dict(_by_shell(venn, "name", args.name))
    for option, way, _, _ in NEW:
        for key, wanted in _by_shell(venn, option, getattr(args, option.replace("-", "_"))):
            courses[key] = {
                way: source_of(venn, way, wanted, key)["id"],
                "name": names.get(key, ""),
            }
    shells, shifts = [choose_shell(venn, args.shell)["id"]], {}
    for each in args.others:
        label, mark, days = each.rpartition(":")
        counted = mark and days.lstrip("+-").isdigit()
        key = choose_shell(venn, label if counted else each)["id"]
        shells.append(key)
        if counted:
            shifts[key] = int(days)
    return [(key, courses.get(key)) for key in dict.fromkeys(shells)], shifts


def _by_shell(venn: VennPair, option: str, said: Sequence[str]) -> Iterator[tuple[str, str]]:
    """Yield the shell's id and what was said for it. Raises Stop."""
    for each in said:
        shell, mark, value = each.partition("=")
        if not mark or not value.strip():
            raise Stop(
                USAGE,
                "usage",
                f"'{each}' does not say which shell gets what.",
                f"Write it as: --{option} 'HYD 210-01={'HYD 210-01' if option == 'course' else '...'}'",
            )
        yield choose_shell(venn, shell.strip())["id"], value.strip()


def _course_words(course: Wanted) -> str:
    """Say which course a shell gets that was named for it."""
    if not isinstance(course, dict) or "course" in course:
        return "as named"
    made = {"title": "a new one", "copy_of": "a copy", "section_of": "a further section"}
    return next(words for way, words in made.items() if way in course)


def _show_pairs(
    venn: VennPair, wanted: Sequence[tuple[str, Wanted]], out: Output
) -> list[dict[str, Any]]:
    """Show which course each shell has or would get, and why."""
    known = {row["id"]: row for row in venn.shells()}
    new = [key for key, _ in wanted if not known[key]["pairing"]]
    guessed = {row["shell"]: row for row in (venn.guess_several(new) if new else [])}
    rows = []
    for key, course in wanted:
        shell, guess = known[key], guessed.get(key)
        rows.append(
            {
                "shell": key,
                "label": shell["label"] or shell["title"],
                "new": key in new,
                "course": shell["course"]
                or (_course_words(course) if course else (guess["course_name"] if guess else "")),
                "why": (
                    "paired already"
                    if guess is None
                    else "you named it"
                    if course
                    else ", ".join(guess["reasons"])
                ),
            }
        )
    if not out.as_json:
        out.table(
            ("shell", "homework course", "why"),
            [(row["label"], row["course"] or "none fits", row["why"]) for row in rows],
        )
    return rows


def _not_agreed(rows: list[dict[str, Any]], args: argparse.Namespace, out: Output) -> int:
    """Say what would be paired. Raises Stop where it was asked for in earnest."""
    what = "Nothing was paired or read."
    todo = (
        "The plan can be shown once you agree that each shell is read and written: add --agree,"
        " and --plan to place nothing yet."
    )
    if not args.dry_run:
        raise Stop(REFUSED, "not_agreed", what, todo, pairs=rows)
    if out.as_json:
        out.document({"set_up": None, "pairs": rows, "dry_run": True})
    out.line(f"{what} {todo}")
    return DONE


def _wishes(
    venn: VennPair, pairing: str, args: argparse.Namespace, shifts: dict[str, int]
) -> dict[str, Any]:
    """Return what is wanted, by the options and the file. Raises Stop."""
    file = read_sheet(args.file)
    items: list[Item] = list(venn.items(pairing))
    outline = venn.outline(pairing) if args.after and args.after != "start" else []
    sheet = sheet_of(args, file, items, outline)
    if "folders" in sheet:
        sheet["folders"] = by_unit(sheet["folders"], items)
    named = [
        choose(
            "item", items, each, lambda row: (row["shown_title"],), f"items {quote(args.shell)}"
        )["id"]
        for each in file.get("items", [])
    ]
    return sheet | {
        "items": named,
        "shifts": shifts,
        "start": args.start,
        "scores": args.scores,
        "access": args.access or "",
        "navigation": args.navigation,
        "way": args.way,
        "total": args.total,
        "review": args.review,
        "readings": args.readings,
        "columns_shown": not args.hide_columns,
    }


def _show(plans: Sequence[SectionPlan], out: Output) -> None:
    for each in plans:
        out.line(each["sentence"], "bold")
        if each["remedy"]:
            out.line(each["remedy"], "yellow")
    first = next((each for each in plans if each["plan"]), None)
    if first and first["folders"]:
        out.table(
            ("unit", "folder", "why"),
            [(row["unit"], row["folder"], row["why"]) for row in first["folders"]],
        )
    if first and first["plan"] and first["shift"] and not first["plan"]["shift_days"]:
        out.line(
            f"The first due date is past. To move all dates: --shift-days {first['shift']}",
            "yellow",
        )
    notices = [
        (each["name"], notice)
        for each in plans
        if each["plan"]
        for notice in each["plan"]["notices"]
    ]
    if notices:
        out.table(
            ("shell", "notice", "what to do"),
            [(name, notice["message"], notice["remedy"]) for name, notice in notices],
            styles=[LEVEL_STYLES.get(notice["level"], "") for _, notice in notices],
        )


def followed(venn: VennPair, key: str, out: Output, doing: str) -> SetUp:
    """Wait until no section is under way, showing progress."""
    with out.progress(doing) as follow:

        def show(found: SetUp) -> None:
            jobs = [each["job"] for each in found["sections"] if each["job"]]
            busy = next((job for job in jobs if job["state"] in {"running", "waiting"}), None)
            follow(
                {
                    "done": sum(job["done"] for job in jobs),
                    "total": sum(job["total"] for job in jobs),
                    "message": busy["message"] if busy else "",
                }
            )

        return venn.wait_for_set_up(key, show)


def report(found: SetUp, out: Output) -> int:
    """Say how each section ended; return the exit code."""
    if out.as_json:
        out.document(found)
    rows = []
    for each in found["sections"]:
        job = each["job"]
        came = each["message"] or (job["message"] if job else "")
        rows.append((each["name"], each["stage"].replace("_", " "), came))
    out.table(
        ("shell", "stage", "what came of it"),
        rows,
        styles=["" if each["stage"] in WELL else "bold red" for each in found["sections"]],
    )
    well = sum(each["stage"] in WELL for each in found["sections"])
    if well == len(rows) and found["sections"][0]["stage"] == "live":
        out.line(
            f"{many(well, 'section is', 'sections are')} live. Left to do by hand: weights and drop"
            f" rules. Take all of it back with: vennpair set-up --undo {found['id'][:8]}"
        )
    troubles = sum(each["troubles"] for each in found["sections"] if each["stage"] == "live")
    if troubles:
        out.line(
            f"{many(troubles, 'trouble was', 'troubles were')} met. Look with: vennpair operations"
            " list, vennpair learner-view SHELL",
            "yellow",
        )
    return DONE if well == len(rows) and not troubles else FINDINGS


def _list(venn: VennPair, out: Output) -> int:
    rows = list(venn.set_ups())
    if out.as_json:
        out.document(rows)
    out.table(
        ("set-up", "begun", "started", "shells"),
        [
            (
                row["id"][:8],
                row["made_at"][:16].replace("T", " "),
                "yes" if row["started_at"] else "no",
                ", ".join(row["shells"]),
            )
            for row in rows
        ],
        empty="No set-up was begun yet. Begin with: vennpair set-up SHELL",
    )
    return DONE


def _begun(venn: VennPair, wanted: str) -> str:
    """Return the id of the set-up whose id begins so. Raises Stop."""
    found = choose_by_id(
        "set-up", "set_up_unknown", venn.set_ups(), wanted, "set-up --list", status=USAGE
    )
    return str(found["id"])
