"""Processes that outlive the command that started them: known by number and start time, so none
else is ever ended.
"""

from __future__ import annotations

import os
import signal
import subprocess
import time
from contextlib import suppress
from pathlib import Path
from typing import TypeGuard


def begin(command: list[str], environment: dict[str, str], log: Path) -> dict[str, int]:
    """Start a process of its own session; return what identifies it."""
    with log.open("ab") as out:
        process = subprocess.Popen(
            command,
            env=os.environ | environment,
            stdout=out,
            stderr=out,
            stdin=subprocess.DEVNULL,
            start_new_session=True,
        )
    return mark_of(process.pid)


def mark_of(pid: int) -> dict[str, int]:
    """Return what identifies a process that was just started."""
    return {"pid": pid, "started": _started(pid) or 0}


def alive(mark: dict[str, int] | None) -> TypeGuard[dict[str, int]]:
    """Say whether the very process still runs."""
    return (
        mark is not None and _started(mark["pid"]) == mark["started"] and _state(mark["pid"]) != "Z"
    )


def end(
    mark: dict[str, int] | None, how: signal.Signals = signal.SIGTERM, patience: float = 8
) -> None:
    """End a process with its whole group, and wait; after ``patience`` seconds it is killed."""
    if not alive(mark):
        return
    _signal(mark["pid"], how)
    deadline = time.monotonic() + patience
    while alive(mark) and time.monotonic() < deadline:
        _reap(mark["pid"])
        time.sleep(0.05)
    if alive(mark):
        _signal(mark["pid"], signal.SIGKILL)
        _reap(mark["pid"])


def _signal(pid: int, how: signal.Signals) -> None:
    with suppress(ProcessLookupError):  # it may end in this very moment
        os.killpg(pid, how)


def _reap(pid: int) -> None:
    try:
        os.waitpid(pid, os.WNOHANG)
    except ChildProcessError:
        return


def _stat(pid: int) -> list[str]:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    except (OSError, IndexError):
        return []


def _started(pid: int) -> int | None:
    fields = _stat(pid)
    return int(fields[19]) if fields else None


def _state(pid: int) -> str:
    fields = _stat(pid)
    return fields[0] if fields else "Z"
