"""One shared pool of connections: timeouts on every call, answers as JSON, failures as one
exception.

urllib3 with threads keeps 16 calls in flight at over 90 % of what the latency allows (LIMITS C);
a single httpx pool does not.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import nullcontext
from dataclasses import dataclass, replace
from functools import cache
from typing import IO, Any

import urllib3
from tenacity import (
    RetryCallState,
    Retrying,
    retry_if_exception,
    stop_after_attempt,
    wait_exponential_jitter,
)

from vennpair.core.failures import Failure, FailureKind, failure_of_status
from vennpair.gateways.addresses import Inside
from vennpair.gateways.counted import count_call
from vennpair.gateways.deadlines import Deadline, pool_manager, within
from vennpair.gateways.errors import OutsideError
from vennpair.gateways.hold import require_free
from vennpair.gateways.patience import Patience
from vennpair.gateways.proxy import proxy_for
from vennpair.gateways.unreached import Unreached, unreached
from vennpair.standards.json_text import read_json

__all__ = ["Answer", "OutsideError", "call", "call_safely", "download", "visit"]

TIMEOUT = urllib3.Timeout(connect=5, read=20)
LARGEST_ANSWER = 20_000_000
PIECE = 1_000_000
# For a whole call: connecting, what is sent, headers and answer. A file takes longer.
TOTAL_SECONDS, FILE_SECONDS = 60.0, 900.0


@dataclass(frozen=True, slots=True)
class Answer:
    """A successful answer: status, headers in lower case, body."""

    status: int
    headers: dict[str, str]
    body: bytes

    def json(self, who: str) -> Any:
        """Return the body as JSON. Raises OutsideError where it is none."""
        try:
            return read_json(self.body)
        except ValueError as error:
            message = (
                f"{who} answered with something other than JSON; perhaps it shows a sign-in or"
                " maintenance page."
            )
            raise OutsideError(
                Failure(
                    FailureKind.LATER,
                    "not_json",
                    message,
                    "Try again later; if it lasts, check the address of the connection.",
                )
            ) from error


def call(
    method: str,
    url: str,
    who: str,
    *,
    headers: dict[str, str] | None = None,
    body: bytes | IO[bytes] | None = None,
    fields: dict[str, str] | None = None,
    patience: Patience | None = None,
    seconds: float = 0.0,
    recognizes: bool = False,
) -> Answer:
    """Make one call. ``who`` names the other side in messages; a stream as ``body`` is sent piece
    by piece. ``seconds`` is the time for all of it, the usual one where 0. ``recognizes``: it only
    serves to know who it is that calls us, so it is made on hold too.

    Raises OutsideError for anything but 2xx, and, before anything is sent, while ``patience`` waits
    for the end of a pause, or the operator keeps calls back.
    """
    if not recognizes:
        require_free(who)
    with patience.turn() if patience is not None else nullcontext():
        begun = time.monotonic()
        try:
            answer, failure = _answered(method, url, who, headers, body, fields, seconds)
        except OutsideError as error:
            count_call(who, error.failure, time.monotonic() - begun)
            raise
        count_call(who, failure, time.monotonic() - begun)
    if failure is not None:
        if patience is not None:
            patience.note(failure)
        raise OutsideError(failure)
    if patience is not None:
        patience.answered()
    return answer


def _answered(
    method: str,
    url: str,
    who: str,
    headers: dict[str, str] | None,
    body: bytes | IO[bytes] | None,
    fields: dict[str, str] | None,
    seconds: float,
) -> tuple[Answer, Failure | None]:
    """Return the answer, and what is wrong with anything but 2xx. Raises OutsideError where no
    whole answer came.
    """
    form = {"fields": fields, "encode_multipart": False} if fields is not None else {"body": body}
    usual = FILE_SECONDS if hasattr(body, "read") else TOTAL_SECONDS
    with within(seconds or usual) as deadline:
        try:
            response = _request(method, url, headers=headers, **form)
            data = response.read(LARGEST_ANSWER + 1)
            response.release_conn()
        except (urllib3.exceptions.HTTPError, OSError) as error:
            raise _unanswered(who, url, error, deadline) from error
    if deadline.over:
        raise _unanswered(who, url, None, deadline)
    if len(data) > LARGEST_ANSWER:
        raise OutsideError(
            Failure(
                FailureKind.NEVER,
                "too_much",
                f"{who} answered with more than {LARGEST_ANSWER:,} bytes.",
                "Tell the administrator; this is not a normal answer.",
            )
        )
    lower = {key.lower(): value for key, value in response.headers.items()}
    answer, failure = Answer(response.status, lower, data), None
    if not 200 <= response.status < 300:
        wait = _retry_after(lower.get("retry-after"))
        failure = failure_of_status(response.status, who, _words(data), wait)
    return answer, failure


def _request(method: str, url: str, **how: Any) -> urllib3.BaseHTTPResponse:
    return _pool(proxy_for(url)).request(method, url, preload_content=False, **how)


@cache
def _pool(proxy: str) -> urllib3.PoolManager:
    return pool_manager(proxy, num_pools=32, maxsize=32, timeout=TIMEOUT, retries=False)


def _unanswered(
    who: str, url: str, error: BaseException | None, deadline: Deadline
) -> OutsideError:
    """Return that no whole answer came, and why."""
    if isinstance(error, Inside):
        return OutsideError(
            Failure(
                FailureKind.SETTING,
                "inside",
                f"{who} is not asked: its address leads inside the operator's own network.",
                "Correct the address, or let the operator allow it (VENNPAIR_ALLOWED_RANGES).",
            )
        )
    known = unreached(error) if error is not None else Unreached("broken", "")
    if deadline.over:
        known = Unreached("slow", f"it took longer than {deadline.seconds:g} seconds in all")
    waits = "Nothing is lost; it is tried again."
    return OutsideError(
        Failure(
            FailureKind.LATER,
            known.code,
            f"{who} did not answer at {url.split('?')[0]}: {known.words}.",
            f"{waits} {known.remedy or 'If it lasts, check the connection.'}",
        )
    )


def download(url: str, who: str, headers: dict[str, str]) -> Iterator[bytes]:
    """Yield a large answer piece by piece.

    Raises OutsideError, midway too where the connection breaks.
    """
    require_free(who)
    with within(FILE_SECONDS):
        try:
            response = _request("GET", url, headers=headers)
            if not 200 <= response.status < 300:
                data = response.read(LARGEST_ANSWER)
                response.release_conn()
                raise OutsideError(
                    failure_of_status(
                        response.status,
                        who,
                        _words(data),
                        _retry_after(response.headers.get("Retry-After")),
                    )
                )
            yield from response.stream(PIECE, decode_content=True)
            response.release_conn()
        except urllib3.exceptions.HTTPError as error:
            how = unreached(error)
            message = f"{who} broke off while it sent {url.split('?')[0]}: {how.words}."
            raise OutsideError(
                Failure(FailureKind.LATER, how.code, message, "Nothing is lost; it is tried again.")
            ) from error


def visit(url: str, who: str) -> tuple[int, str, str]:
    """Open an address as a browser would, without following it; return status, Location and the
    beginning of the body.

    Raises OutsideError where nothing answers, or calls are kept back.
    """
    require_free(who)
    with within(TOTAL_SECONDS) as deadline:
        try:
            response = _request("GET", url, headers={"Accept": "text/html"})
            body = response.read(100_000)
            response.close()  # whatever is left of it is not read
        except (urllib3.exceptions.HTTPError, OSError) as error:
            failure = _unanswered(who, url, error, deadline).failure
            remedy = unreached(error).remedy or "Check the address of the connection."
            raise OutsideError(replace(failure, code="unreachable", remedy=remedy)) from error
    return response.status, response.headers.get("Location", ""), body.decode("utf-8", "replace")


def _again(error: BaseException) -> bool:
    """Say whether trying at once may help: not where the other side took all its time already, or
    asks for more of it.
    """
    return (
        isinstance(error, OutsideError)
        and error.failure.kind is FailureKind.LATER
        and error.failure.code != "slow"
        and (error.failure.retry_after or 0) <= 5
    )


_SPREAD = wait_exponential_jitter(multiplier=0.3, max=3)


def _pause(state: RetryCallState) -> float:
    """Wait a moment before the next try, and never less than the other side asked for."""
    error = state.outcome.exception() if state.outcome else None
    asked = error.failure.retry_after if isinstance(error, OutsideError) else None
    return max(_SPREAD(state) if not asked else 0.05, asked or 0.0)


_TRIES = Retrying(
    retry=retry_if_exception(_again),
    stop=stop_after_attempt(3),
    wait=_pause,
    reraise=True,
)


def call_safely(
    method: str,
    url: str,
    who: str,
    *,
    headers: dict[str, str] | None = None,
    body: bytes | IO[bytes] | None = None,
    fields: dict[str, str] | None = None,
    patience: Patience | None = None,
) -> Answer:
    """Call up to three times within a few seconds; for what changes nothing, or carries an
    idempotency key.

    What still fails after them goes back to the job, which waits longer. Raises as ``call``.
    """
    # A copy for each call: what one object, or the decorator, counts is shared by all threads, and
    # one that begins takes the count from another that goes on.
    return _TRIES.copy()(
        call, method, url, who, headers=headers, body=body, fields=fields, patience=patience
    )


def _words(data: bytes) -> str:
    """Return the reason that an error answer gives, at most a sentence or two of it."""
    try:
        document = read_json(data)
    except ValueError:
        return ""
    return _said(document)[:300]


def _said(document: object, depth: int = 3) -> str:
    """Return what a person can read of an error document, whichever way it is written: a problem
    (RFC 9457), an OAuth error, or a list of errors.
    """
    if isinstance(document, str):
        return document
    if isinstance(document, list):
        return " ".join(filter(None, (_said(each, depth - 1) for each in document[:3])))
    if not isinstance(document, dict) or not depth:
        return ""
    for name in _WORDS:
        if said := _said(document.get(name), depth - 1):
            return said
    return ""


_WORDS = (
    *("detail", "error_description", "message", "title", "description", "reason"),
    *("errors", "error", "imsx_description"),
)


def _retry_after(text: str | None) -> float | None:
    """Return the seconds that a ``Retry-After`` asks for, as a number or as a date (RFC 9110,
    10.2.3); None where there is none, or nothing that can be read.
    """
    if not text:
        return None
    try:
        return urllib3.util.Retry().parse_retry_after(text)
    except (urllib3.exceptions.InvalidHeader, OverflowError):
        return None
