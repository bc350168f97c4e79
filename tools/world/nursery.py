"""Starts processes of one Django project quickly: the project is loaded once, and each process is
a fork of that.

A killed worker or site is then back in a blink instead of three seconds. What is forked is a
process like any other, in a session of its own; only loading is saved.
"""

from __future__ import annotations

import gc
import importlib
import os
import pickle
import signal
import subprocess
import sys
import threading
from pathlib import Path
from typing import IO, Any

GUNICORN, MANAGE = "gunicorn", "manage"


class Nursery:
    """The process that forks the others, started when it is first asked."""

    def __init__(self, settings: str, wsgi: str, environment: dict[str, str], log: Path) -> None:
        self._words, self._environment = [settings, wsgi], environment
        self._log = log
        self._process: subprocess.Popen[bytes] | None = None
        self._lock = threading.Lock()

    def begin(self, what: str, words: list[str], log: Path) -> int:
        """Start a process; return its number."""
        with self._lock:
            process = self._running()
            assert process.stdin is not None
            assert process.stdout is not None
            pickle.dump((what, words, str(log)), process.stdin)
            process.stdin.flush()
            return int(pickle.load(process.stdout))  # noqa: S301 - our own process

    def stop(self) -> None:
        """End the nursery; what it started goes on."""
        with self._lock:
            if self._process is not None:
                assert self._process.stdin is not None
                self._process.stdin.close()
                self._process.wait(10)
                self._process = None

    def _running(self) -> subprocess.Popen[bytes]:
        if self._process is None or self._process.poll() is not None:
            with self._log.open("ab") as log:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", "tools.world.nursery", *self._words],
                    env=os.environ | self._environment,
                    stdin=subprocess.PIPE,
                    stdout=subprocess.PIPE,
                    stderr=log,
                )
        return self._process


def _fork(what: str, words: list[str], log: str) -> int:
    """Fork a process and return its number; the fork itself never returns."""
    number = os.fork()
    if number:
        return number
    try:
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        os.setsid()
        with open(os.devnull, "rb") as nothing, open(log, "ab") as out:
            os.dup2(nothing.fileno(), 0)
            os.dup2(out.fileno(), 1)
            os.dup2(out.fileno(), 2)
        _run(what, words)
    except SystemExit as ended:
        os._exit(ended.code if isinstance(ended.code, int) else 1)
    except BaseException:
        sys.excepthook(*sys.exc_info())
        os._exit(1)
    os._exit(0)


def _run(what: str, words: list[str]) -> None:
    """Be what was asked for, as if it had been started by its own command."""
    sys.argv = [what, *words]
    if what == GUNICORN:
        sys.orig_argv = [sys.executable, "-m", "gunicorn", *words]
        importlib.import_module("gunicorn.app.wsgiapp").run()
        return
    module = os.environ["DJANGO_SETTINGS_MODULE"]
    sys.orig_argv = [sys.executable, "-m", "django", *words, f"--settings={module}"]
    importlib.import_module("django.core.management").execute_from_command_line(sys.argv)


def _serve(questions: IO[bytes], answers: IO[bytes]) -> None:
    while True:
        try:
            asked: Any = pickle.load(questions)  # noqa: S301 - our own parent
        except EOFError:
            return
        pickle.dump(_fork(*asked), answers)
        answers.flush()


def main() -> None:
    """Load the project, then fork on demand until nobody asks any more."""
    questions, answers = os.fdopen(os.dup(0), "rb"), os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)
    os.set_inheritable(questions.fileno(), False)
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # who ends is forgotten at once
    os.environ["DJANGO_SETTINGS_MODULE"] = sys.argv[1]
    importlib.import_module("django").setup()
    importlib.import_module(sys.argv[2])
    importlib.import_module(importlib.import_module("django.conf").settings.ROOT_URLCONF)
    gc.freeze()  # what is loaded stays, so no fork needs to look through it again and again
    _serve(questions, answers)


if __name__ == "__main__":
    main()
