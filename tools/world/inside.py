"""Questions to a site, and changes of it, past its network interface: as somebody who works there
would ask and change.

A function that is marked ``@inside("campus")`` runs in a process of the campus, with its models
and database, and not in the caller. One such process a site is started when it is first asked and
answers until the world stops; a question takes some milliseconds. Arguments and results are plain
values.
"""

from __future__ import annotations

import importlib
import io
import os
import pickle
import subprocess
import sys
import threading
import traceback
from collections.abc import Callable
from typing import IO, TYPE_CHECKING, Any, Concatenate, ParamSpec, TypeVar, cast

if TYPE_CHECKING:
    from tools.world.world import World

P = ParamSpec("P")
R = TypeVar("R")
COMMAND = "call_command"


def inside(site: str) -> Callable[[Callable[P, R]], Callable[Concatenate[World, P], R]]:
    """Mark a function that is to run inside ``site``; callers name the world first."""

    def mark(function: Callable[P, R]) -> Callable[Concatenate[World, P], R]:
        def ask(world: World, *args: P.args, **named: P.kwargs) -> R:
            where = f"{function.__module__}:{function.__name__}"
            answer: R = world.insider(site).ask(where, args, named)
            return answer

        ask.__doc__, ask.__wrapped__ = function.__doc__, function  # type: ignore[attr-defined]
        return cast("Callable[Concatenate[World, P], R]", ask)

    return mark


class Insider:
    """The process that answers for one site, started when it is first asked."""

    def __init__(self, site: str, settings: str, environment: dict[str, str], log: str) -> None:
        self._site, self._settings, self._environment = site, settings, environment
        self._log = log
        self._process: subprocess.Popen[bytes] | None = None
        self._lock = threading.Lock()

    def ask(self, where: str, args: tuple[Any, ...], named: dict[str, Any]) -> Any:
        """Run a function there. Raises RuntimeError with what went wrong there."""
        with self._lock:
            process = self._running()
            assert process.stdin is not None
            assert process.stdout is not None
            pickle.dump((where, args, named), process.stdin)
            process.stdin.flush()
            good, answer = pickle.load(process.stdout)  # noqa: S301 - our own process
        if not good:
            raise RuntimeError(f"inside {self._site}, {where}:\n{answer}")
        return answer

    def stop(self) -> None:
        """End the process."""
        with self._lock:
            if self._process is not None:
                assert self._process.stdin is not None
                self._process.stdin.close()
                self._process.wait(10)
                self._process = None

    def _running(self) -> subprocess.Popen[bytes]:
        if self._process is None or self._process.poll() is not None:
            with open(self._log, "ab") as log:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", "tools.world.inside", self._settings],
                    env=os.environ | self._environment,
                    stdin=subprocess.PIPE,
                    stdout=subprocess.PIPE,
                    stderr=log,
                )
        return self._process


def _answer_all(questions: IO[bytes], answers: IO[bytes]) -> None:
    """Answer until nobody asks any more."""
    from django.db import close_old_connections

    while True:
        try:
            where, args, named = pickle.load(questions)  # noqa: S301 - our own parent
        except EOFError:
            return
        close_old_connections()  # the database may have been restarted since
        try:
            answer = True, _run(where, args, named)
        except BaseException:
            answer = False, traceback.format_exc()
        pickle.dump(answer, answers)
        answers.flush()


def _run(where: str, args: tuple[Any, ...], named: dict[str, Any]) -> Any:
    if where == COMMAND:
        return _command(*args)
    module, _, name = where.partition(":")
    return getattr(importlib.import_module(module), name).__wrapped__(*args, **named)


def _command(name: str, *words: str) -> str:
    """Run a management command; return what it prints."""
    from django.core.management import call_command

    out = io.StringIO()
    call_command(name, *words, stdout=out)
    return out.getvalue()


def main() -> None:
    """Answer on the pipes that the asking process holds; what is printed goes to the log."""
    questions, answers = os.fdopen(os.dup(0), "rb"), os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)
    os.environ["DJANGO_SETTINGS_MODULE"] = sys.argv[1]
    import django

    django.setup()
    _answer_all(questions, answers)


if __name__ == "__main__":
    main()
