"""Steering a relay: its rules, letting go what is held, showing columns, and feeding it by hand."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path
from typing import Any

from vennpair.cli.choose import choose_pairing
from vennpair.cli.exits import DONE, FINDINGS, UNREADABLE, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.cli.several import for_several
from vennpair.client import VennPair
from vennpair.core.counting import many

_RULE = {
    "when": ("submission", "due", "daily", "hand"),
    "late": ("at_once", "hand"),
    "counts": ("publisher", "last", "best", "first", "mean"),
    "points": ("given", "column"),
}


def add_steering(command: Callable[..., argparse.ArgumentParser]) -> None:
    """Add the commands of this module below ``relay``."""
    _add_rule(command)
    _add_release_and_show(command)
    _add_sources(command)
    _add_setting(command)


def _add_rule(command: Callable[..., argparse.ArgumentParser]) -> None:
    rule = command(
        "rule", "see or change what goes, in which numbers and when", _run_rule, changes=True
    )
    rule.add_argument("--category", help="for a category only")
    rule.add_argument("--item", help="for an item only")
    for name, choices in _RULE.items():
        rule.add_argument(f"--{name}", choices=choices)
    rule.add_argument(
        "--at", metavar="HH:MM", help="time of day in the course's zone, for --when daily"
    )
    rule.add_argument(
        "--places", type=int, help="round to this many decimals, with --points column"
    )
    for name, words in (
        ("relays", "send these scores at all"),
        ("comments", "send comments"),
        ("statuses", "send progress before there is a score"),
        ("look-first", "keep columns from learners until released"),
    ):
        rule.add_argument(f"--{name}", action=argparse.BooleanOptionalAction, help=words)
    rule.add_argument("--reset", action="store_true", help="remove what was set here before")
    for_several(rule, _run_rule)


def _add_release_and_show(command: Callable[..., argparse.ArgumentParser]) -> None:
    release = command("release", "let go what is held", _run_release, changes=True)
    release.add_argument(
        "--item",
        action="append",
        default=[],
        help="title of an item (may be repeated); all without it",
    )
    release.add_argument(
        "--early", action="store_true", help="also what is held for a due date or a time of day"
    )
    show = command(
        "show", "show learners the columns, or keep them from view", _run_show, changes=True
    )
    show.add_argument("--hide", action="store_true", help="keep them from view")
    show.add_argument(
        "--item",
        action="append",
        default=[],
        help="title of an item (may be repeated); all without it",
    )


def _add_sources(command: Callable[..., argparse.ArgumentParser]) -> None:
    pull = command(
        "pull", "read the publisher's results that changed since the last time", _run_pull
    )
    for_several(pull, _run_pull)
    upload = command(
        "upload", "take scores from a file that the publisher gave", _run_upload, changes=True
    )
    upload.add_argument("file", type=Path)
    upload.add_argument(
        "--layout", type=Path, metavar="FILE", help="how to read a wide table (docs/layouts.md)"
    )
    upload.add_argument(
        "--class", dest="class_id", default="", metavar="ID", help="which class of a OneRoster set"
    )


def _add_setting(command: Callable[..., argparse.ArgumentParser]) -> None:
    setting = command(
        "setting",
        "when a waiting score raises the alarm, and how often results are read",
        _run_setting,
    )
    setting.add_argument("--alarm-minutes", type=int)
    setting.add_argument("--pull-minutes", type=int, help="0: the publisher reports each score")
    for_several(setting, _run_setting)


def _run_rule(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        if args.item and args.category:
            raise Stop(
                USAGE,
                "one_scope",
                "A rule is for an item or for a category.",
                "Name one of --item and --category.",
            )
        rules = venn.relay_rules(pairing)
        scope, key, own = _scope(args, rules)
        asked = {
            name: getattr(args, name)
            for name in (*_RULE, "at", "places", "relays", "comments", "statuses", "look_first")
            if getattr(args, name) is not None
        }
        if asked or args.reset:
            done = venn.change_rule(
                pairing, scope, key, {} if args.reset else own | asked, dry_run=args.dry_run
            )
            if out.as_json:
                out.document(dict(done) | {"dry_run": args.dry_run})
                return DONE
            out.line(
                f"{done['words']} {many(done['cells'], 'score')}"
                f" {'would be' if args.dry_run else 'is' if done['cells'] == 1 else 'are'} decided"
                " again."
            )
            return DONE
        if out.as_json:
            out.document(rules)
            return DONE
        out.line(f"For all: {rules['words']}")
        out.table(
            ("item", "category", "rule", "held", "publisher counts"),
            [
                (
                    each["title"],
                    each["category"],
                    each["words"],
                    each["held"] or "",
                    each["publisher_counts"],
                )
                for each in rules["items"]
            ],
        )
        return DONE


def _scope(args: argparse.Namespace, rules: dict[str, Any]) -> tuple[str, str, dict[str, Any]]:
    if args.item:
        found = [
            each for each in rules["items"] if each["title"].casefold() == args.item.casefold()
        ]
        if len(found) != 1:
            raise Stop(
                USAGE,
                "which_item",
                f"{len(found) or 'No'} items with a column are called '{args.item}'.",
                "Look at them with: vennpair relay rule SHELL",
            )
        return "item", found[0]["item"], found[0]["own"]
    if args.category is not None:
        return "category", args.category, rules["categories"].get(args.category, {})
    return "all", "", rules["changes"]


def _run_release(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        count = venn.release(
            pairing,
            placements_named(venn, pairing, args.item),
            early=args.early,
            dry_run=args.dry_run,
        )
        if out.as_json:
            out.document({"released": count, "dry_run": args.dry_run})
        out.line(f"{count} held scores {'would be' if args.dry_run else 'are'} let go.")
        return DONE


def _run_show(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        chosen = placements_named(venn, pairing, args.item)
        if args.dry_run:
            count = len(chosen) or len(venn.relay_rules(pairing)["items"])
            out.line(
                f"Would {'keep from' if args.hide else 'show'} learners {many(count, 'column')}."
                " Nothing was changed."
            )
            if out.as_json:
                out.document({"columns": count, "dry_run": True})
            return DONE
        rows = venn.show_columns(pairing, not args.hide, chosen)
        if out.as_json:
            out.document(rows)
        out.table(
            ("column", "came of it", "why"),
            [
                (
                    each["title"],
                    each["result"],
                    each["reason"]
                    or ("the platform cannot do this" if each["result"] == "unknown" else ""),
                )
                for each in rows
            ],
        )
        return FINDINGS if any(each["result"] == "failed" for each in rows) else DONE


def _run_pull(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        with out.progress("reading the publisher's results") as tell:
            job = venn.wait(venn.pull_results(pairing), tell)
        if out.as_json:
            out.document(job)
        out.line(f"Read {job['message']}.")
        return DONE


def _run_upload(args: argparse.Namespace, out: Output) -> int:
    try:
        layout = args.layout.read_text() if args.layout else ""
        args.file.read_bytes()
    except (OSError, UnicodeDecodeError) as error:
        raise Stop(
            UNREADABLE,
            "unreadable",
            f"A file cannot be read: {error}.",
            "Check the name and that you may read it.",
        ) from error
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        with out.progress("reading the file"):
            taken = venn.take_scores(
                pairing, args.file, layout=layout, class_id=args.class_id, dry_run=args.dry_run
            )
        if out.as_json:
            out.document(taken | {"dry_run": args.dry_run})
        out.line(
            f"{many(taken['scores'], 'score')} of {many(taken['learners'], 'learner')}"
            f" ({taken['matched']} matched) in {many(taken['items'], 'item')}; {taken['words']}"
        )
        return DONE


def _run_setting(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        asked = {
            name: value
            for name in ("alarm_minutes", "pull_minutes")
            if (value := getattr(args, name)) is not None
        }
        setting = (
            venn.change_relay_setting(pairing, **asked) if asked else venn.relay(pairing)["setting"]
        )
        if out.as_json:
            out.document(setting)
        pulled = (
            f"results are read every {many(setting['pull_minutes'], 'minute')}"
            if setting["pull_minutes"]
            else "the publisher reports each score"
        )
        out.line(
            f"A score that waits {many(setting['alarm_minutes'], 'minute')} raises the alarm;"
            f" {pulled}."
        )
        return DONE


def placements_named(venn: VennPair, pairing: str, titles: list[str]) -> list[str]:
    """Return the placements of items with these titles. Raises Stop where there is none."""
    items = venn.relay_rules(pairing)["items"] if titles else []
    found = []
    for title in titles:
        named = [
            each["placement"] for each in items if each["title"].casefold() == title.casefold()
        ]
        if not named:
            raise Stop(
                USAGE,
                "unknown_item",
                f"No item with a column is called '{title}'.",
                "Look at them with: vennpair relay rule SHELL",
            )
        found += named
    return found
