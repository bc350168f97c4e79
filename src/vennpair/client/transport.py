"""One connection to a service: tokens, repeats with idempotency keys, lists walked to their end,
errors.
"""

from __future__ import annotations

import ssl
import time
import uuid
from collections.abc import Callable, Iterator
from functools import cache
from pathlib import Path
from typing import Any, Generic, Self, TypedDict, TypeVar, cast

import httpx

from vennpair.client.errors import NotAllowed, Refusal, Unreachable
from vennpair.client.reaching import unreachable

TIMEOUT = httpx.Timeout(60, connect=5)
TRIES = 3
MOST_ROWS = "1000"  # of one page
MOST_SECONDS = 10  # that a service may ask to wait for before it is asked again
AWAY_SECONDS, LOOK_SECONDS = 120.0, 1.0
AWAY = {"unreachable", "slow", "behind_proxy"}  # a machine that is started again, say
Answer = TypeVar("Answer")


@cache
def trusted() -> ssl.SSLContext:
    """Return whom this computer trusts: the system's authorities, and beside them those of
    ``SSL_CERT_FILE``, or else the usual ones.

    Loading them takes longer than a call: once for each process.
    """
    made = httpx.create_ssl_context()
    made.load_default_certs()
    return made


class _Page(TypedDict, Generic[Answer]):
    results: list[Answer]
    next: str | None


class Transport:
    """What every part of the client calls through. ``transport`` can be replaced for tests."""

    def __init__(
        self, url: str, token: str = "", *, transport: httpx.BaseTransport | None = None
    ) -> None:
        headers = {"Accept": "application/json"} | (
            {"Authorization": f"Bearer {token}"} if token else {}
        )
        self._http = httpx.Client(
            base_url=f"{url.rstrip('/')}/api/v1",
            headers=headers,
            timeout=TIMEOUT,
            transport=transport,
            verify=trusted(),
        )
        self._url = url

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *details: object) -> None:
        self.close()

    def close(self) -> None:
        """Close the connections."""
        self._http.close()

    def _get(self, kind: type[Answer], path: str, params: dict[str, str] | None = None) -> Answer:
        """Return what is at a path, which the schema says is of that kind."""
        # An empty mapping would take the query out of a path that brings its own.
        return self._call(kind, "GET", path, params=params or None)

    def _post(self, kind: type[Answer], path: str, document: dict[str, Any]) -> Answer:
        return self._call(kind, "POST", path, json=document)

    def _done(self, method: str, path: str, **rest: Any) -> None:
        """Do what is answered with nothing."""
        self._call(type(None), method, path, **rest)

    def _list(
        self, kind: type[Answer], path: str, params: dict[str, str] | None = None
    ) -> Iterator[Answer]:
        """Yield the rows of all pages."""
        page = self._get(_Page[kind], path, {"limit": MOST_ROWS} | (params or {}))  # type: ignore[valid-type]
        while True:
            yield from page["results"]
            if not page["next"]:
                return
            following = httpx.URL(page["next"]).raw_path.decode().removeprefix("/api/v1")
            page = self._get(_Page[kind], following)  # type: ignore[valid-type]

    def _call(
        self,
        kind: type[Answer],
        method: str,
        path: str,
        *,
        tries: int = TRIES,
        extra: dict[str, str] | None = None,
        **rest: Any,
    ) -> Answer:
        """Ask, again where no answer came or the service asked to wait a little, and return what
        did: JSON of that kind.
        """
        headers = ({"Idempotency-Key": uuid.uuid4().hex} if method == "POST" else {}) | (
            extra or {}
        )
        for turn in range(1, tries + 1):
            try:
                response = self._http.request(method, path, headers=headers, **rest)
            except (httpx.TransportError, httpx.InvalidURL) as error:
                failure = unreachable(self._url, error)
                if turn == tries or failure.code in {"no_address", "bad_certificate"}:
                    raise failure from error
                time.sleep(0.2 * 2**turn)
                continue
            pause = _lost_on_the_way(response, turn) or _asked_to_wait(response)
            if pause is None or turn == tries:
                return cast("Answer", _read(response))
            time.sleep(pause)
        raise AssertionError("unreachable code: the loop returns or raises")

    def _look(self, ask: Callable[[], Answer]) -> Answer:
        """Ask how something goes that goes on without us: where the service is away, again for up
        to AWAY_SECONDS. Raises what was said last.
        """
        deadline = time.monotonic() + AWAY_SECONDS
        while True:
            try:
                return ask()
            except (Unreachable, Refusal) as error:
                away = error.code in AWAY or (isinstance(error, Refusal) and error.status == 503)
                if not away or time.monotonic() > deadline:
                    raise
                time.sleep(LOOK_SECONDS)

    def _download(self, path: str, target: Path, document: dict[str, Any] | None = None) -> None:
        """Save the bytes that answer a GET, or a POST of ``document``, under another name first, so
        that no half file is taken for a whole one.
        """
        waiting = target.with_name(f"{target.name}.part")
        try:
            with self._http.stream(
                "GET" if document is None else "POST", path, json=document
            ) as response:
                if not response.is_success:
                    response.read()
                    _read(response)
                with waiting.open("wb") as sink:
                    for piece in response.iter_bytes():
                        sink.write(piece)
        except (httpx.TransportError, httpx.InvalidURL) as error:
            waiting.unlink(missing_ok=True)
            raise unreachable(self._url, error) from error
        waiting.replace(target)


def _lost_on_the_way(response: httpx.Response, turn: int) -> float | None:
    """Return for how many seconds to wait where a proxy says that the machine behind it went away
    or was slow (RFC 9110, 15.6.3 and 15.6.5): what was asked may be done, and asking again with
    the same key does nothing twice. None for every other answer, and for those of the service.
    """
    own = response.headers.get("Content-Type", "").startswith("application/problem+json")
    return 0.2 * 2**turn if response.status_code in {502, 504} and not own else None


def _asked_to_wait(response: httpx.Response) -> float | None:
    """Return for how many seconds to wait before asking again, None where that makes no sense: the
    answer is final, or what it waits for takes long (RFC 9110 10.2.3, RFC 6585 4).
    """
    seconds = response.headers.get("Retry-After", "")
    if response.status_code not in {429, 503} or not seconds.isdecimal():
        return None
    return float(seconds) if len(seconds) < 4 and int(seconds) <= MOST_SECONDS else None


def _read(response: httpx.Response) -> Any:
    if response.status_code == 204:
        return None
    try:
        document = response.json()
    except ValueError as error:
        if response.status_code in {502, 503, 504}:
            raise Unreachable(
                "behind_proxy",
                f"What is in front of the service at {response.url.host} answers, and the"
                f" service behind it does not (HTTP {response.status_code}).",
                "Try again in a minute; if it lasts, tell whoever runs the service.",
            ) from error
        raise Unreachable(
            "not_a_service",
            f"What answers at {response.url.host} is not a Venn Pair service (HTTP"
            f" {response.status_code}).",
            "Check the address.",
        ) from error
    if response.is_success:
        return document
    kind = NotAllowed if response.status_code in {401, 403} else Refusal
    facts = document if isinstance(document, dict) else {}
    raise kind(
        response.status_code,
        str(facts.get("code", "refused")),
        str(facts.get("detail", "The service refused.")),
        str(facts.get("remedy", "")),
    )
