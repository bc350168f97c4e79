"""The relay of a pairing: how it is doing, its rules, and sending again."""

from __future__ import annotations

import argparse
import time
from typing import Any

from vennpair.cli.choose import choose_pairing
from vennpair.cli.clock import course_clock
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS, USAGE, Stop
from vennpair.cli.output import Output
from vennpair.cli.relay_steering import add_steering, placements_named
from vennpair.cli.session import connect
from vennpair.cli.several import for_several
from vennpair.client import VennPair
from vennpair.client.schema import (
    LedgerEntry,
    Passage,
    Relay,
)
from vennpair.core.counting import many

SHOWN = 30
WATCH_SECONDS = 2.0
MARKS = {"well": "", "waits": "yellow", "trouble": "bold red", "off": "bold red"}
_STATES = ("waiting", "sending", "accepted", "refused", "held", "clash", "withdrawn")


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    relay = commands.add_parser("relay", help="see, steer or repeat the sending of scores")
    below = relay.add_subparsers(dest="relay", required=True, metavar="COMMAND")

    def command(
        name: str, words: str, run: Any, *, changes: bool = False
    ) -> argparse.ArgumentParser:
        parser: argparse.ArgumentParser = below.add_parser(name, help=words)
        parser.add_argument("shell", help="label, title or id of the paired shell")
        if changes:
            parser.add_argument(
                "--dry-run", action="store_true", help="say what would happen, change nothing"
            )
        parser.set_defaults(run=run)
        return parser

    status = command("status", "whether all is well, and what became of each score", _run_status)
    status.add_argument(
        "--state",
        action="append",
        choices=_STATES,
        help="only scores in this state (may be repeated)",
    )
    status.add_argument(
        "--all", action="store_true", help=f"every score, not only the newest {SHOWN}"
    )
    watch = command("watch", "the same, followed until Ctrl-C", _run_watch)
    watch.add_argument(
        "--seconds", type=float, default=0, help="end after so long; without it, on Ctrl-C"
    )
    on = command("on", "send scores to the gradebook", _run_turn, changes=True)
    off = command("off", "keep scores, send none", _run_turn, changes=True)
    for_several(on, _run_turn)
    for_several(off, _run_turn)
    for_several(status, _run_status)
    again = command(
        "send",
        "compare with the gradebook and send what it shows otherwise",
        _run_send,
        changes=True,
    )
    again.add_argument(
        "--learner", action="append", default=[], help="name or address (may be repeated)"
    )
    again.add_argument(
        "--item", action="append", default=[], help="title of an item (may be repeated)"
    )
    again.add_argument("--category", help="all items of a category")
    again.add_argument(
        "--force",
        action="store_true",
        help="also what the gradebook shows, and over what somebody typed",
    )
    for_several(again, _run_send)
    story = command("story", "everything that was reported and done for one score", _run_story)
    story.add_argument("--learner", required=True, help="name or address")
    story.add_argument("--item", required=True, help="title of the item")
    add_steering(command)


def _run_status(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        relay, filters = venn.relay(pairing), {"state": ",".join(args.state)} if args.state else {}
        scores = (
            list(venn.scores(pairing, **filters))
            if args.all
            else _first(venn.scores(pairing, **filters))
        )
        if out.as_json:
            out.document(dict(relay) | {"scores": scores})
            return FINDINGS if relay["verdict"]["level"] == "trouble" else DONE
        _tell(relay, out)
        at = course_clock(venn, pairing, seconds=True)
        rows = [
            (
                each["state"],
                each["learner"],
                each["item"],
                _of(each),
                each["sent"],
                at(each["sent_at"]),
                each["reason"],
            )
            for each in scores
        ]
        out.table(("state", "learner", "item", "reported", "sent", "at", "why"), rows)
        if len(scores) == SHOWN and not args.all:
            out.line(f"The newest {SHOWN}; see all with --all.")
        return FINDINGS if relay["verdict"]["level"] == "trouble" else DONE


def _run_watch(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        seen: dict[int, str] = {}
        at = course_clock(venn, pairing, seconds=True)
        said, ends = "", time.monotonic() + args.seconds if args.seconds else None
        while True:
            relay = venn.relay(pairing)
            if relay["verdict"]["sentence"] != said and not out.as_json:
                said = relay["verdict"]["sentence"]
                _tell(relay, out)
            for each in reversed(_first(venn.scores(pairing), 200)):
                mark = f"{each['state']} {each['changed_at']}"
                if seen.get(each["id"]) != mark and (seen or out.as_json):
                    line = {
                        name: each[name]
                        for name in (
                            "changed_at",
                            "state",
                            "learner",
                            "item",
                            "reported",
                            "sent",
                            "reason",
                        )
                    }
                    (
                        out.event(line)
                        if out.as_json
                        else out.line(
                            f"{at(each['changed_at'])}  {each['state']:<9}  {each['learner']},"
                            f" {each['item']}:"
                            f" {_of(each)}{'  ' + each['reason'] if each['reason'] else ''}"
                        )
                    )
                seen[each["id"]] = mark
            if ends is not None and time.monotonic() >= ends:
                return DONE
            time.sleep(WATCH_SECONDS)


def _run_turn(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        if args.dry_run:
            kept = sum(venn.relay(pairing)["held"].values())
            looked = f"; {kept} held scores would be looked at" if args.relay == "on" else ""
            out.line(f"Would turn the relay {args.relay}{looked}. Nothing was changed.")
        else:
            venn.change_pairing(pairing, relay_on=args.relay == "on")
        relay = venn.relay(pairing)
        out.document(relay) if out.as_json else _tell(relay, out)
        return DONE


def _run_send(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        learners = [_learner(venn, pairing, each) for each in args.learner]
        with out.progress("comparing with the gradebook"):
            queued = venn.send_again(
                pairing,
                force=args.force,
                dry_run=args.dry_run,
                learners=learners,
                placements=placements_named(venn, pairing, args.item),
                category=args.category,
            )
        if out.as_json:
            out.document(dict(queued) | {"dry_run": args.dry_run})
            return FINDINGS if queued["publisher_trouble"] else DONE
        if queued["publisher_trouble"]:
            out.line(
                f"The publisher could not be asked: {queued['publisher_trouble']} So only what it"
                " reported is compared.",
                "yellow",
            )
        if queued["newer"]:
            held, verb = many(queued["newer"], "newer score"), "would be" if args.dry_run else "was"
            if not args.dry_run and queued["newer"] != 1:
                verb = "were"
            out.line(f"{held} of the publisher's, which it had not reported, {verb} taken.")
        same = "1 score is" if queued["same"] == 1 else f"{queued['same']} scores are"
        they = "it" if queued["same"] == 1 else "they"
        unread = f", {queued['unread']} could not be read" if queued["unread"] else ""
        out.line(f"{same} in the gradebook as {they} should be, {queued['differ']} not{unread}.")
        out.line(f"{queued['queued']} {'would be' if args.dry_run else 'are'} sent again.")
        return FINDINGS if queued["publisher_trouble"] else DONE


def _run_story(args: argparse.Namespace, out: Output) -> int:
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        placement = placements_named(venn, pairing, [args.item])[0]
        found = [
            each
            for each in venn.scores(pairing, placement=placement)
            if args.learner.casefold() in {each["learner"].casefold(), each["email"].casefold()}
        ]
        if not found:
            raise Stop(
                USAGE,
                "unknown_score",
                f"Nothing was ever reported for {args.learner} in '{args.item}'.",
                "Check the name with: vennpair relay status SHELL --all",
            )
        story = venn.score(pairing, found[0]["id"])
        if out.as_json:
            out.document(story)
            return DONE
        at = course_clock(venn, pairing, seconds=True)
        reports: list[tuple[str, str, str, str]] = [
            (
                each["received_at"],
                "reported",
                _given(each),
                (
                    "publisher's time"
                    f" {at(each['timestamp'])}{', ' + each['comment'] if each['comment'] else ''}"
                ),
            )
            for each in story["ledger"]
        ]
        reports += [
            (each["at"], each["what"], _given(each), each["words"]) for each in story["passages"]
        ]
        out.line(
            f"{story['learner']}, {story['item']}:"
            f" {story['state']}{'. ' + story['reason'] if story['reason'] else ''}"
        )
        out.table(
            ("at", "what", "score", "words"),
            [(at(when), *facts) for when, *facts in sorted(reports)],
        )
        return DONE


def _tell(relay: Relay, out: Output) -> None:
    verdict = relay["verdict"]
    out.line(
        f"{verdict['sentence']}{' ' + verdict['remedy'] if verdict['level'] != 'well' else ''}",
        MARKS.get(verdict["level"], ""),
    )
    counts = (
        ", ".join(f"{count} {state}" for state, count in sorted(relay["counts"].items()))
        or "no scores yet"
    )
    lag = relay["lag"]["median_ms"]
    out.line(
        f"{many(relay['received'], 'report')} received; {counts}"
        + (
            f"; half were in the gradebook within {lag / 1000:.1f} s today"
            if lag is not None
            else ""
        )
    )


def _first(scores: Any, most: int = SHOWN) -> list[Any]:
    return [each for each, _ in zip(scores, range(most), strict=False)]


def _learner(venn: VennPair, pairing: str, words: str) -> str:
    found = {
        each["learner_id"]: each["learner"]
        for each in venn.scores(pairing)
        if words.casefold() in {each["learner"].casefold(), each["email"].casefold()}
    }
    if len(found) != 1:
        raise Stop(
            USAGE,
            "which_learner",
            f"{len(found) or 'No'} learners with a score are called '{words}'.",
            "Name the address instead.",
        )
    return next(iter(found))


def _of(each: Any) -> str:
    return "" if each["reported"] is None else f"{each['reported']} of {each['points']}"


def _given(each: LedgerEntry | Passage) -> str:
    return "" if each["given"] is None else f"{each['given']} of {each['maximum']}"
