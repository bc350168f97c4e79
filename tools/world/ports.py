"""Ports of loopback for servers that are about to start."""

from __future__ import annotations

import os
import random
import socket
import tempfile
import time
from pathlib import Path

HELD_SECONDS = 600  # within which whoever was given a port is listening on it
# Of one seed each, the test processes would draw the same ports: this draw has none.
_draw = random.SystemRandom()


def free_port(wanted: int = 0) -> int:
    """Return ``wanted`` where it is free on loopback, else another free port, which nobody else is
    given meanwhile.

    Others are taken below those that the kernel gives to outgoing connections, so that none of
    them sits on the port of a server that is just being started again.
    """
    if wanted and _is_free(wanted):
        return wanted
    for port in _draw.sample(range(15_000, 32_000), 200):
        if _is_free(port) and _held(port):
            return port
    raise SystemExit("no port is free on 127.0.0.1")


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


def _held(port: int) -> bool:
    """Hold a port for the one who asked; say whether nobody else does."""
    folder = Path(tempfile.gettempdir()) / f"vennpair-ports-{os.getuid()}"
    folder.mkdir(exist_ok=True)
    mark = folder / str(port)
    try:
        mark.touch(exist_ok=False)
    except FileExistsError:
        if time.time() - mark.stat().st_mtime < HELD_SECONDS:
            return False
        mark.touch()
    return True
