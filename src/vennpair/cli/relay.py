"""The relay of a pairing."""

from __future__ import annotations

import argparse

from vennpair.cli.choose import choose_pairing
from vennpair.cli.connect import Commands
from vennpair.cli.exits import DONE, FINDINGS
from vennpair.cli.output import Output
from vennpair.cli.session import connect
from vennpair.client import VennPair


def add(commands: Commands) -> None:
    """Add the commands of this module."""
    relay = commands.add_parser("relay", help="see, turn on or off, or repeat the sending of scores")
    below = relay.add_subparsers(dest="relay", required=True, metavar="COMMAND")
    for name, words in (("status", "how it stands"), ("on", "send scores to the gradebook"), ("off", "keep scores, send none"), ("send", "send again what was not accepted")):
        command = below.add_parser(name, help=words)
        command.add_argument("shell", help="label, title or id of the paired shell")
        command.set_defaults(run=run_relay)
        if name == "send":
            command.add_argument("--force", action="store_true", help="also what the platform has accepted already")
        if name != "status":
            command.add_argument("--dry-run", action="store_true", help="say what would happen, change nothing")


def run_relay(args: argparse.Namespace, out: Output) -> int:
    """Run one of the four."""
    with connect() as venn:
        pairing = choose_pairing(venn, args.shell)
        if args.relay == "send":
            count = venn.send_again(pairing, force=args.force, dry_run=args.dry_run)
            if out.as_json:
                out.document({"queued": count, "dry_run": args.dry_run})
            out.line(f"{count} scores {'would be' if args.dry_run else 'are'} sent again.")
            return DONE
        if args.relay != "status" and not args.dry_run:
            venn.change_pairing(pairing, relay_on=args.relay == "on")
        elif args.relay != "status":
            out.line(f"Would turn the relay {args.relay}. Nothing was changed.")
        return _status(venn, pairing, out)


def _status(venn: VennPair, pairing: str, out: Output) -> int:
    relay = venn.relay(pairing)
    if out.as_json:
        out.document(relay)
    out.line(f"The relay is {'on' if relay['on'] else 'OFF: scores are kept, none is sent'}; the pairing is {relay['state']}.")
    out.line(f"{relay['received']} reports received; " + (", ".join(f"{count} {state}" for state, count in sorted(relay["counts"].items())) or "no scores yet"))
    rows = [(cell["state"], cell["learner"], cell["item"], cell["sent"], (cell["sent_at"] or "")[:19].replace("T", " "), cell["reason"]) for cell in relay["cells"]]
    out.table(("state", "learner", "item", "sent", "at", "why"), rows)
    return FINDINGS if relay["counts"].get("refused") else DONE
