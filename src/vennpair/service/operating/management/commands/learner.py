"""Find, hand out or erase what is kept of one learner."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from django.core.management.base import CommandError, CommandParser

from vennpair.core.counting import many
from vennpair.service.kernel.operator import OperatorCommand
from vennpair.service.operating.learner_data import Known, erase, export, find, undelivered


class Command(OperatorCommand):
    """Of one learner at a time, at one platform."""

    help = "Find a learner; export everything that is kept of them, or erase it."

    def add_arguments(self, parser: CommandParser) -> None:
        """Declare the options."""
        parser.add_argument("way", choices=("find", "export", "erase"))
        parser.add_argument(
            "who", help="email address, student number, id at either side, or the exact name"
        )
        parser.add_argument("--platform", default="", help="its name, where they are at several")
        parser.add_argument(
            "--to", type=Path, help="with export: the file; left out: standard output"
        )
        parser.add_argument(
            "--yes", action="store_true", help="with erase: do it, rather than say what would go"
        )
        parser.add_argument(
            "--drop-undelivered",
            action="store_true",
            help="with erase: also where scores have not reached the gradebook yet",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Run."""
        found = find(options["who"].strip())
        if options["platform"]:
            found = [each for each in found if each.platform.name == options["platform"]]
        if not found:
            raise CommandError(
                f"Nobody has the address, number, id or name '{options['who']}'. Not found does not"
                " mean not there: try what the platform calls them."
            )
        if options["way"] == "find":
            self.say(_line(each) for each in found)
            return
        if len(found) > 1:
            rows = "\n".join(f"  {_line(each)}" for each in found)
            raise CommandError(
                f"{len(found)} learners fit '{options['who']}':\n{rows}\nName one by its address or"
                " id, and its platform with --platform."
            )
        if options["way"] == "export":
            self._export(found[0], options["to"])
        else:
            self._erase(found[0], options)

    def _export(self, known: Known, file: Path | None) -> None:
        document = json.dumps(export(known), indent=2, ensure_ascii=False)
        if file is None:
            self.say(document)
            return
        try:
            file.write_text(document + "\n")
        except OSError as error:
            raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
        self.say(f"{file}: everything that is kept of {known.name}.")

    def _erase(self, known: Known, options: dict[str, Any]) -> None:
        left = undelivered(known)
        if left and options["yes"] and not options["drop_undelivered"]:
            raise CommandError(
                f"{many(left, 'score')} of {known.name} did not reach the gradebook yet. Deliver or"
                " settle them first, or give --drop-undelivered. Nothing was erased."
            )
        pseudonym, counts = erase(known, keep=not options["yes"])
        told = ", ".join(
            f"{count} {kind.replace('_', ' ')}" for kind, count in counts.items() if count
        )
        if not options["yes"]:
            self.say(f"{_line(known)}\nWould go or be rewritten: {told}.")
            if left:
                self.say(f"{many(left, 'score')} did not reach the gradebook yet.")
            self.say("Nothing was changed. Give --yes to do it; it cannot be undone.")
            return
        self.say(f"Erased: {told}. The record of what was done calls them '{pseudonym}' now.")
        sys.stderr.write(
            "What the gradebook, the publisher and older backups hold is not changed. Where the"
            " course still lists them, they are read again with its next roster.\n"
        )


def _line(known: Known) -> str:
    mail = next((each.email for each in known.rows if each.email), "no address")
    return (
        f"{known.name} <{mail}>, id {known.rows[0].subject} at {known.platform.name}:"
        f" {', '.join(known.shells)}"
    )
