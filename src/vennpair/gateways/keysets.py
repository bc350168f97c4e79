"""The other side's public keys: kept for a while, fetched by one thread while all others go on with
what is known.

Nothing is held across a fetch but the key set's own row, so a platform that answers slowly delays
nobody's launch but its own.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field

from joserfc.jwk import KeySet

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError, call
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import unverified
from vennpair.standards.lti.keys import read_jwks

FRESH_SECONDS = 600
UNKNOWN_SECONDS = 60  # a forged key id makes us fetch at most so often
FAILED_SECONDS = 5  # after a fetch that failed, nobody fetches again before
FETCH_SECONDS = 10  # for the whole answer
WAIT_SECONDS = 3  # how long another launch waits for the first fetch
MOST_WAITING = 2


@dataclass(slots=True)
class _Row:
    """What is known of one key set; ``lock`` is held to look, never while fetching."""

    lock: threading.Lock = field(default_factory=threading.Lock)
    keys: KeySet | None = None
    fetched: float = 0.0
    tried: float = 0.0  # when a fetch last began
    failure: OutsideError | None = None
    fetching: threading.Event | None = None
    waiting: int = 0

    def knows(self, kid: object) -> bool:
        return self.keys is not None and any(key.kid == kid for key in self.keys.keys)


_rows: dict[str, _Row] = {}
_lock = threading.Lock()


def keys_for(
    token: str, jwks_url: str, who: str, enter: Callable[[], None] = lambda: None
) -> KeySet:
    """Return the key set to verify a token with; ``enter`` is called before anything is asked or
    waited for, and may raise.

    Known keys are used while newer ones are fetched, old ones too where the fetch fails. Raises
    OutsideError, or LtiError ``bad_token``.
    """
    kid = unverified(token)[0].get("kid")
    with _lock:
        row = _rows.setdefault(jwks_url, _Row())
    with row.lock:
        ours = _begun(row, kid)
        if row.keys is not None and row.knows(kid) and not ours:
            return row.keys
        others = None if ours else row.fetching
    if ours or others is not None:
        _entered(row, enter, ours=ours)
    if ours:
        _fetch(row, jwks_url, who)
    elif others is not None:
        _wait(row, others, who)
    with row.lock:
        if row.keys is not None:
            return row.keys
        raise row.failure or _busy(who)


def _begun(row: _Row, kid: object) -> bool:
    """Say whether this thread is to fetch now, and note that it does. The caller holds the row."""
    now = time.monotonic()
    if row.fetching is not None or (row.failure is not None and now - row.tried < FAILED_SECONDS):
        return False
    age = now - row.fetched
    if row.keys is not None and row.knows(kid) and age < FRESH_SECONDS:
        return False
    if row.keys is not None and not row.knows(kid) and now - row.tried < UNKNOWN_SECONDS:
        return False
    row.fetching, row.tried = threading.Event(), now
    return True


def _entered(row: _Row, enter: Callable[[], None], *, ours: bool) -> None:
    """Call ``enter``; where it raises, the fetch that was begun is another's again."""
    try:
        enter()
    except OutsideError:
        if ours:
            with row.lock:
                done, row.fetching, row.tried = row.fetching, None, 0.0
            if done is not None:
                done.set()
        raise


def _fetch(row: _Row, jwks_url: str, who: str) -> None:
    keys, failure = None, None
    try:
        keys = _asked(jwks_url, who)
    except OutsideError as error:
        failure = error
    finally:
        with row.lock:
            done, row.fetching = row.fetching, None
            row.failure = failure
            if keys is not None:
                row.keys, row.fetched = keys, time.monotonic()
        if done is not None:
            done.set()


def _wait(row: _Row, others: threading.Event, who: str) -> None:
    """Wait for another thread's fetch, a few at most and not for long."""
    with row.lock:
        if row.keys is None and row.waiting >= MOST_WAITING:
            raise _busy(who)
        row.waiting += 1
    try:
        others.wait(WAIT_SECONDS)
    finally:
        with row.lock:
            row.waiting -= 1


def _busy(who: str) -> OutsideError:
    return OutsideError(
        Failure(
            FailureKind.LATER,
            "keys_slow",
            f"{who} takes long to tell its public keys, so this launch cannot be checked yet.",
            "Open the link again in a moment.",
            WAIT_SECONDS,
        )
    )


def _asked(jwks_url: str, who: str) -> KeySet:
    try:
        return read_jwks(
            call("GET", jwks_url, who, seconds=FETCH_SECONDS, recognizes=True).json(who)
        )
    except (ValueError, LtiError) as error:
        message = f"{who} publishes no usable keys at {jwks_url}: {error}."
        raise OutsideError(
            Failure(
                FailureKind.SETTING,
                "no_keys",
                message,
                "Ask an administrator to check the key set address of the connection.",
            )
        ) from error
