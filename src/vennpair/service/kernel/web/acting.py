"""Noting, in the transaction that does it, that what a request with a key asked for is done."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from vennpair.service.kernel.web.models import KeptAnswer

_current = threading.local()


@contextmanager
def answering(kept: KeptAnswer) -> Iterator[None]:
    """Let what this thread does meanwhile be what a request with a key asked for."""
    _current.kept = kept.pk
    try:
        yield
    finally:
        _current.kept = None


def note_acted() -> None:
    """Note that something was done, in the caller's transaction: whoever audits or enqueues does."""
    if (kept := getattr(_current, "kept", None)) is not None:
        KeptAnswer.objects.filter(pk=kept).update(acted=True)
