"""``vennpair-server``: what an operator runs of the service, from the installed package alone.

The settings come from the environment (docs/settings.md) and are checked before anything else.
"""

from __future__ import annotations

import argparse
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path
from types import FrameType

from vennpair import __version__
from vennpair.service import settings_check

DONE, NOT_WELL, WRONG_SETTINGS = 0, 1, 2
WEB = "vennpair.service.wsgi:application"
# Launch hints and signed requests travel in addresses: as long a request line as there can be.
REQUEST_LINE, REQUEST_SECONDS, ENDING_SECONDS = 8190, 120, 30
LOOK_SECONDS = 0.5
# Commands of the framework that are run as they are, and what each does.
MANAGED = {
    "migrate": "bring the database to this version; safe to repeat, and while the service runs",
    "install": "make the first institution, administrator and signing key; safe to repeat",
    "hold": "keep all outgoing calls back, let them go again, or say which it is",
    "backup": "copy the whole database into one file",
    "restore": "fill an empty database from such a file, and keep its calls back",
    "move_cartridges": "move the bytes of cartridges to where the setting says",
    "reencrypt": "encrypt all stored secrets with the first key",
    "learner": "find a learner, export all that is kept of them, or erase it",
    "person": "list who signs in, deactivate somebody, or activate them again",
    "service_account": "make an account for a program, and a token that may do what it is for",
    "purge": "delete what is kept no longer, and say how much of what went",
    "set_password": "give a person a new password",
    "rotate_keys": "make a new signing key, which signs once others have had time to read it",
    "check_audit": "say whether the record of what was done is unbroken",
}
# With these in place of missing ones, a command that is only asked for its help can load.
ANY_SETTINGS = {
    "VENNPAIR_URL": "http://127.0.0.1",
    "VENNPAIR_SECRET_KEY": "none",
    "VENNPAIR_SECRETS_KEYS": "0" * 43 + "=",
    "VENNPAIR_DATABASE_URL": "postgres://127.0.0.1/none",
    "VENNPAIR_DATABASE_POOL": "false",
}


def parser() -> argparse.ArgumentParser:
    """Return the command's parser."""
    top = argparse.ArgumentParser(
        prog="vennpair-server",
        description="Run the service. Its settings are environment variables, checked first.",
    )
    top.add_argument("--version", action="version", version=f"vennpair-server {__version__}")
    commands = top.add_subparsers(dest="command", required=True, metavar="COMMAND")
    web = commands.add_parser("web", help="serve the console, the API and the launches")
    _add_web(web)
    work = commands.add_parser("work", help="run a worker; any number, on any number of machines")
    _add_work(work)
    both = commands.add_parser("all", help="web and one worker together, for a small college")
    _add_web(both)
    _add_work(both)
    commands.add_parser("check", help="check settings, database, keys, console, workers and queue")
    for name, words in MANAGED.items():
        command = commands.add_parser(name.replace("_", "-"), help=words, add_help=False)
        command.set_defaults(managed=name)
    return top


def _add_web(command: argparse.ArgumentParser) -> None:
    command.add_argument("--bind", default="127.0.0.1:8000", help="address and port, or unix:PATH")
    command.add_argument("--processes", type=int, default=2, help="default: 2")
    command.add_argument("--threads", type=int, default=8, help="in each process; default: 8")


def _add_work(command: argparse.ArgumentParser) -> None:
    command.add_argument("--concurrency", type=int, default=4, help="jobs at once; default: 4")
    command.add_argument(
        "--metrics",
        default="",
        metavar="ADDRESS:PORT",
        help="where this worker tells its own counts, such as 127.0.0.1:9187; default: nowhere",
    )


def main(words: Sequence[str] | None = None) -> int:
    """Run a command; return its exit code."""
    top = parser()
    args, rest = top.parse_known_args(sys.argv[1:] if words is None else list(words))
    if rest and "managed" not in args:
        top.error(f"unrecognized arguments: {' '.join(rest)}")
    if {"-h", "--help"} & set(rest):
        os.environ |= ANY_SETTINGS
    for odd in settings_check.warnings(os.environ):
        print(f"vennpair-server: {odd}", file=sys.stderr)
    try:
        settings_check.require(os.environ)
    except settings_check.WrongSettings as wrong:
        print(wrong, file=sys.stderr)
        return WRONG_SETTINGS
    os.environ["DJANGO_SETTINGS_MODULE"] = "vennpair.service.settings"
    if args.command == "web":
        _become(_web(args), _environment(args, web=True))
    if args.command == "work":
        _become(_work(args), _environment(args))
    if args.command == "all":
        return _both(args)
    if args.command == "check":
        return _check()
    _manage(args, [top.prog, args.command, *rest])
    return DONE


MANAGE = [sys.executable, "-m", "vennpair.service.manage"]


def _web(args: argparse.Namespace) -> list[str]:
    return [
        sys.executable,
        "-m",
        "gunicorn",
        WEB,
        *("--bind", args.bind),
        *("--workers", str(args.processes)),
        *("--worker-class", "gthread", "--threads", str(args.threads)),
        *("--timeout", str(REQUEST_SECONDS), "--graceful-timeout", str(ENDING_SECONDS)),
        *("--limit-request-line", str(REQUEST_LINE)),
        "--no-control-socket",
    ]


def _work(args: argparse.Namespace) -> list[str]:
    told = ("--metrics", args.metrics) if args.metrics else ()
    return [*MANAGE, "work", "--concurrency", str(args.concurrency), *told]


def _environment(args: argparse.Namespace, *, web: bool = False) -> dict[str, str]:
    """Return what a command is started with; the web processes of a machine count together."""
    if not web:
        return dict(os.environ)
    # Somebody waits: while the database is away, they are told so soon.
    found = {"VENNPAIR_DATABASE_SECONDS": "1"} | os.environ
    found |= {"VENNPAIR_WEB_THREADS": str(args.threads)}
    if os.environ.get("VENNPAIR_METRICS", "off") != "off":
        place = re.sub(r"\W+", "-", args.bind)
        counts = Path(tempfile.gettempdir()) / f"vennpair-counts-{os.getuid()}{place}"
        shutil.rmtree(counts, ignore_errors=True)
        counts.mkdir(mode=0o700)
        found |= {"PROMETHEUS_MULTIPROC_DIR": str(counts)}
    return found


def _manage(args: argparse.Namespace, words: list[str]) -> None:
    """Run a command of the framework, which calls itself by the name that it was asked by."""
    import django
    from django.core.management import ManagementUtility

    django.setup()
    ManagementUtility().fetch_command(args.managed).run_from_argv(words)


def _become(command: list[str], environment: dict[str, str]) -> None:
    """Go on as another command, so that what supervises this process supervises that one."""
    os.execve(command[0], command, environment)  # noqa: S606 - our own commands


def _both(args: argparse.Namespace) -> int:
    """Run web and one worker; where one ends, the other is ended too."""
    running = [
        subprocess.Popen(_web(args), env=_environment(args, web=True)),
        subprocess.Popen(_work(args), env=_environment(args)),
    ]

    def end(number: int, frame: FrameType | None) -> None:
        for each in running:
            if each.poll() is None:
                each.terminate()

    signal.signal(signal.SIGTERM, end)
    signal.signal(signal.SIGINT, end)
    while all(each.poll() is None for each in running):
        time.sleep(LOOK_SECONDS)
    end(signal.SIGTERM, None)
    ended = [each.wait() for each in running]
    # By a signal that was asked for both end well; otherwise a supervisor must start them again.
    return next((code for code in ended if code not in {0, -signal.SIGTERM}), DONE)


def _check() -> int:
    """Say how each part is; 1 where one is not well."""
    import django

    django.setup()
    from vennpair.service.api.health import look

    parts = look()
    for each in parts:
        print(f"{'ok ' if each.ok else 'NOT'}  {each.name}: {each.words}")
    return DONE if all(each.ok for each in parts) else NOT_WELL


def entry() -> None:
    """Run as a console script."""
    sys.exit(main())


if __name__ == "__main__":
    entry()
