"""Setting up a shell: consent, the tool's place, a copied shell, learners, what they are told first."""

from __future__ import annotations

import argparse
from shlex import quote

from vennpair.cli.choose import choose, choose_pairing, choose_shell
from vennpair.cli.clock import clock_of
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.pair import followed, say_set_up
from vennpair.cli.session import connect
from vennpair.core.counting import many


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    _add_consent(commands)
    _add_tool(commands)
    _add_copied(commands)
    _add_learners(commands)
    _add_first_steps(commands)


def _add_consent(commands: Commands) -> None:
    consent = commands.add_parser(
        "consent", help="what of a shell is read and written; agree, or withdraw"
    )
    consent.add_argument("shell", help="label, title or id")
    choice = consent.add_mutually_exclusive_group()
    choice.add_argument("--agree", action="store_true", help="agree to it, once for the shell")
    choice.add_argument(
        "--withdraw", action="store_true", help="withdraw it; a live pairing is paused"
    )
    consent.set_defaults(run=run_consent)


def _add_tool(commands: Commands) -> None:
    tool = commands.add_parser(
        "tool", help="whether Venn Pair is turned on in a shell, where and for whom"
    )
    tool.add_argument("shell", help="label, title or id")
    switch = tool.add_mutually_exclusive_group()
    switch.add_argument("--on", action="store_const", const=True, dest="on", help="turn it on")
    switch.add_argument(
        "--off",
        action="store_const",
        const=False,
        dest="on",
        help="turn it off; homework links in the shell then go dead",
    )
    tool.add_argument("--navigation", choices=("yes", "no"), help="whether it is in the navigation")
    tool.add_argument("--position", type=int, help="where in the navigation, from 0")
    tool.add_argument("--audience", choices=("instructor", "everyone"), help="for whom")
    tool.add_argument(
        "--dry-run", action="store_true", help="say what that would break, change nothing"
    )
    tool.set_defaults(run=run_tool)


def _add_copied(commands: Commands) -> None:
    copied = commands.add_parser(
        "copied", help="what a copied shell came from; point its links at a pairing of its own"
    )
    copied.add_argument("shell", help="label, title or id")
    way = copied.add_mutually_exclusive_group()
    way.add_argument(
        "--same",
        action="store_const",
        const="same",
        dest="choice",
        help="use the same homework course",
    )
    way.add_argument(
        "--fresh",
        action="store_const",
        const="fresh",
        dest="choice",
        help="let the publisher make a copy of it",
    )
    copied.add_argument(
        "--agree", action="store_true", help="agree that the shell is read and written"
    )
    copied.add_argument(
        "--dry-run", action="store_true", help="say what each way does, go none of them"
    )
    copied.set_defaults(run=run_copied)


def _add_learners(commands: Commands) -> None:
    learners = commands.add_parser(
        "learners",
        help="accounts at the publisher whose owner only you can name",
        description=(
            "Nothing is merged unless you confirm it. STUDENT is the account's id or address at the"
            " publisher, LEARNER a name, address or id in the shell."
        ),
    )
    learners.add_argument("shell", help="label, title or id")
    learners.add_argument(
        "--confirm", nargs=2, metavar=("STUDENT", "LEARNER"), help="this account is this learner's"
    )
    learners.add_argument("--undo", type=int, metavar="ID", help="take a confirmed match back")
    learners.set_defaults(run=run_learners)


def _add_first_steps(commands: Commands) -> None:
    steps = commands.add_parser(
        "first-steps", help="what learners are told first, to hand out or to place in the shell"
    )
    steps.add_argument("shell", help="label, title or id")
    steps.add_argument("--access", choices=("code", "fee", "free"), help="how access is paid")
    told = steps.add_mutually_exclusive_group()
    told.add_argument(
        "--place", action="store_true", help="put it at the top of the shell as a page"
    )
    told.add_argument(
        "--handed-out", action="store_true", help="note that you hand it out to learners yourself"
    )
    steps.add_argument(
        "--dry-run", action="store_true", help="show what would be placed, place and note nothing"
    )
    steps.set_defaults(run=run_first_steps)


def run_consent(args: argparse.Namespace, out: Output) -> int:
    """Show, give or withdraw consent."""
    with connect() as venn:
        shell = choose_shell(venn, args.shell)
        consent = (
            venn.agree(shell["id"])
            if args.agree
            else venn.withdraw(shell["id"])
            if args.withdraw
            else venn.consent(shell["id"])
        )
    if out.as_json:
        out.document(consent)
    name = shell["label"] or shell["title"]
    rows = [("reads", row["what"], row["purpose"]) for row in consent["reads"]] + [
        ("writes", row["what"], row["purpose"]) for row in consent["writes"]
    ]
    out.table(("Venn Pair", "what", "what for"), rows)
    if consent["agreed"]:
        out.line(f"{consent['by']} agreed to this for {name} on {str(consent['at'])[:10]}.")
    else:
        out.line(
            f"Nobody has agreed to this for {name}: nothing is read or written. Agree with:"
            f" vennpair consent '{name}' --agree"
        )
    return DONE


def run_tool(args: argparse.Namespace, out: Output) -> int:
    """Show or change the tool's place in a shell."""
    changes = {
        name: value
        for name, value in (
            ("on", args.on),
            ("position", args.position),
            ("audience", args.audience),
        )
        if value is not None
    }
    changes |= {"navigation": args.navigation == "yes"} if args.navigation else {}
    with connect() as venn:
        shell = choose_shell(venn, args.shell)
        tool = (
            venn.change_shell_tool(shell["id"], **changes, dry_run=args.dry_run)
            if changes
            else venn.shell_tool(shell["id"])
        )
        if tool["job"]:
            with out.progress("Changing the tool's place") as follow:
                job = venn.wait(tool["job"], follow)
            said, tool = tool["warning"], venn.shell_tool(shell["id"])
            tool["warning"], tool["job"] = said, job
    if out.as_json:
        out.document(tool)
    if not tool["offered"]:
        out.line("The platform has no service for this; it is done by hand there:")
        for number, step in enumerate(tool["by_hand"], start=1):
            out.line(f"{number}. {step}")
        out.line(f"Last opened from the shell: {clock_of(shell['timezone'])(tool['opened_at'])}")
        return DONE
    where = (
        f"in the navigation at {tool['position']}"
        if tool["navigation"]
        else "not in the navigation"
    )
    out.line(
        f"Venn Pair is {'on' if tool['on'] else 'OFF'} in {shell['label'] or shell['title']},"
        f" {where}, for {'everyone' if tool['audience'] == 'everyone' else 'instructors only'};"
        f" {tool['links']} homework links need it."
    )
    if tool["warning"]:
        out.line(("Would: " if args.dry_run else "") + tool["warning"], "yellow")
    if args.dry_run:
        out.line("Nothing was changed.")
    return DONE


def run_copied(args: argparse.Namespace, out: Output) -> int:
    """Show what a shell was copied from, or go on with it."""
    with connect() as venn:
        shell = choose_shell(venn, args.shell)
        found = venn.copied(shell["id"])
        if args.choice and not args.dry_run:
            pairing = followed(venn, venn.go_on(shell["id"], args.choice, agree=args.agree), out)
            if out.as_json:
                out.document(pairing)
            say_set_up(pairing, out)
            label = quote(shell["label"] or shell["title"])
            out.line(
                f"The dates of last term are still there. See what would change with: vennpair"
                f" set-up {label} --update --plan"
            )
            return DONE
    if out.as_json:
        out.document(found)
    name = shell["label"] or shell["title"]
    if not found["copied"]:
        out.line(f"{name} was not copied from a shell that is paired.")
        return DONE
    out.line(
        f"{name} was copied from {found['shell']}, which is paired with {found['course']} at"
        f" {found['publisher']}. Venn Pair placed {many(found['links'], 'link')} there; those that"
        " came along do not open yet."
    )
    out.table(
        ("way", "open", "what it does"),
        [(f"--{way['choice']}", way["open"], way["why"]) for way in found["ways"]],
    )
    return DONE


def run_learners(args: argparse.Namespace, out: Output) -> int:
    """List, confirm or undo matches of accounts and learners."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        if args.confirm:
            rows = [dict(row, id=row["student"]) for row in venn.matches(pairing)["open"]]
            student = choose(
                "account",
                rows,
                args.confirm[0],
                lambda row: (row["name"], row["email"]),
                "learners SHELL",
            )
            learner = choose(
                "learner",
                [each["learner"] for each in student["candidates"]],
                args.confirm[1],
                lambda row: (row["name"], row["email"]),
                "learners SHELL",
            )
            venn.confirm_match(pairing, student["student"], learner["id"])
        elif args.undo is not None:
            venn.undo_match(pairing, args.undo)
        found = venn.matches(pairing)
    if out.as_json:
        out.document(found)
    shown = [
        (
            row["name"],
            row["email"],
            "; ".join(f"{each['learner']['name']} ({each['why']})" for each in row["candidates"]),
        )
        for row in found["open"]
    ]
    out.table(
        ("account at the publisher", "address there", "may be"),
        shown,
        empty="Every account at the publisher has its learner in the shell.",
    )
    out.table(
        ("id", "account", "address there", "is"),
        [
            (row["id"], row["name"], row["email"], row["learner"]["name"])
            for row in found["confirmed"]
        ],
    )
    return DONE


def run_first_steps(args: argparse.Namespace, out: Output) -> int:
    """Show what learners are told first; with a word to that, place it or note that it is handed
    out.
    """
    if (args.place or args.handed_out) and not args.access:
        raise Stop(USAGE, "no_access", "How is access paid?", "Say --access code, fee or free.")
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        page = (
            venn.choose_first_steps(pairing, args.access, place=args.place)
            if (args.place or args.handed_out) and not args.dry_run
            else venn.first_steps(pairing, args.access or "")
        )
        if page["job"]:
            with out.progress("Placing the page") as follow:
                page["job"] = venn.wait(page["job"], follow)
    if out.as_json:
        out.document(page)
    out.line(page["text"])
    if page["job"]:
        out.line(f"{page['job']['message']}.")
    elif args.dry_run:
        out.line("Nothing was changed.")
    elif args.handed_out:
        out.line("Noted that you hand it out yourself.")
    return DONE
