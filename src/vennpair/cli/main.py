# PYTHON_ARGCOMPLETE_OK
"""The command ``vennpair``."""

from __future__ import annotations

import argparse
import os
import sys
from collections.abc import Sequence
from functools import cache

import argcomplete

from vennpair import __version__
from vennpair.cli import (
    accounts,
    audit,
    average,
    connect,
    connections,
    content,
    deploy,
    keeping,
    operations,
    pair,
    people,
    ready,
    reconcile,
    relay,
    rollouts,
    set_up,
    setting_up,
    settle,
    term,
    today,
    tokens,
)
from vennpair.cli.exits import NOT_ALLOWED, REFUSED, UNREACHABLE, USAGE, Stop
from vennpair.cli.hints import do_of
from vennpair.cli.output import Output, print_anything
from vennpair.client import NotAllowed, Refusal, Unreachable

EPILOGUE = """exit codes: 0 done; 1 done, with findings of level error; 2 wrong usage; 3 an input file
cannot be used; 4 the service cannot be reached; 5 not signed in or not allowed; 6 the service
refused"""


@cache
def parser() -> argparse.ArgumentParser:
    """Return the whole command's parser; ``--format`` may come before or after a command."""
    top = _Parser(
        prog="vennpair",
        description="Pairs a homework course with a course shell and keeps the two in step.",
        epilog=EPILOGUE,
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
    top.add_argument("--version", action="version", version=f"vennpair {__version__}")
    commands = top.add_subparsers(
        dest="command", required=True, metavar="COMMAND", parser_class=_Parser
    )
    for module in (
        connect,
        connections,
        people,
        tokens,
        pair,
        set_up,
        setting_up,
        accounts,
        content,
        deploy,
        rollouts,
        keeping,
        average,
        operations,
        term,
        relay,
        reconcile,
        settle,
        ready,
        today,
        audit,
    ):
        module.add(commands)
    _add_format(top, "text")
    return top


def main(words: Sequence[str] | None = None) -> int:
    """Run a command; return its exit code. Never raises for what a user can cause."""
    given = sys.argv[1:] if words is None else list(words)
    try:
        top = parser()
        argcomplete.autocomplete(top)
        args = top.parse_args(given)
    except Stop as stop:
        Output(_wants_json(given)).stop(stop)
        return stop.status
    out = Output(args.format == "json")
    try:
        return int(args.run(args, out))
    except Stop as stop:
        out.stop(stop)
        return stop.status
    except Unreachable as error:
        out.stop(Stop(UNREACHABLE, error.code, error.message, error.remedy))
        return UNREACHABLE
    except Refusal as error:
        status = NOT_ALLOWED if isinstance(error, NotAllowed) else REFUSED
        out.stop(Stop(status, error.code, error.message, do_of(error, args)))
        return status
    except BrokenPipeError:
        # Whoever read our output has seen enough; nothing is wrong.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except KeyboardInterrupt:
        out.stop(
            Stop(
                130,
                "interrupted",
                "Stopped by you.",
                "What was started at the service goes on there; see 'vennpair status'.",
            )
        )
        return 130


def entry() -> None:
    """Run as a console script."""
    print_anything()
    sys.exit(main())


class _Parser(argparse.ArgumentParser):
    """Reports wrong usage like every other error: one line, or JSON."""

    def error(self, message: str) -> None:  # type: ignore[override]
        raise Stop(
            USAGE, "usage", f"{message[0].upper()}{message[1:]}.", f"See: {self.prog} --help"
        )


def _add_format(command: argparse.ArgumentParser, default: str) -> None:
    command.add_argument(
        "--format",
        choices=("text", "json"),
        default=default,
        help="text for people (default) or json for scripts",
    )
    for action in command._actions:
        if isinstance(action, argparse._SubParsersAction):
            for below in set(action.choices.values()):
                _add_format(
                    below, argparse.SUPPRESS
                )  # else its default would undo a --format before the command


def _wants_json(words: Sequence[str]) -> bool:
    joined = " ".join(words)
    return "--format json" in joined or "--format=json" in joined


if __name__ == "__main__":
    entry()
