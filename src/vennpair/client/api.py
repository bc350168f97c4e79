"""One method for each endpoint; lists are walked to their end, writes carry an idempotency key."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any, cast

import httpx

from vennpair.client.errors import NotAllowed, Refusal, Unreachable
from vennpair.client.types import Check, Comparison, Course, Finding, Import, Item, Job, Me, Pairing, Plan, Relay, Rollout, Shell, SignedIn

TIMEOUT = httpx.Timeout(60, connect=5)
TRIES = 3
_ENDED = {"done", "failed"}


class VennPair:
    """A client of one service.

    ``transport`` can be replaced for tests. Every method raises Unreachable, NotAllowed or Refusal.
    A write that breaks off is repeated with the same idempotency key, so it is done once.
    """

    def __init__(self, url: str, token: str = "", *, transport: httpx.BaseTransport | None = None) -> None:
        headers = {"Accept": "application/json"} | ({"Authorization": f"Bearer {token}"} if token else {})
        self._http = httpx.Client(base_url=f"{url.rstrip('/')}/api/v1", headers=headers, timeout=TIMEOUT, transport=transport)
        self._url = url

    def __enter__(self) -> VennPair:
        return self

    def __exit__(self, *details: object) -> None:
        self.close()

    def close(self) -> None:
        """Close the connections."""
        self._http.close()

    def sign_in(self, username: str, password: str) -> SignedIn:
        """Get a token for a name and password."""
        return cast(SignedIn, self._post("/sign-in", {"username": username, "password": password}))

    def sign_out(self) -> None:
        """Make the token worthless."""
        self._post("/sign-out", {})

    def me(self) -> Me:
        """Say who is signed in."""
        return cast(Me, self._get("/me"))

    def shells(self) -> Iterator[Shell]:
        """Yield every shell that one teaches or assists in."""
        return cast(Iterator[Shell], self._list("/shells"))

    def courses(self, words: str = "", shell: str = "", *, refresh: bool = False) -> list[Course]:
        """Return homework courses that hold every word, best fitting the shell first."""
        params = {"q": words, "shell": shell, "refresh": "true" if refresh else ""}
        return cast(list[Course], self._get("/courses", {name: value for name, value in params.items() if value}))

    def pair(self, shell: str, course: str) -> Pairing:
        """Pair a shell with a homework course, by their ids."""
        return cast(Pairing, self._post("/pairings", {"shell": shell, "course": course}))

    def pairing(self, pairing: str) -> Pairing:
        """Return one pairing."""
        return cast(Pairing, self._get(f"/pairings/{pairing}"))

    def change_pairing(self, pairing: str, **changes: Any) -> Pairing:
        """Change ``state`` (live, paused, ended) or ``relay_on``."""
        return cast(Pairing, self._call("PATCH", f"/pairings/{pairing}", json=changes))

    def readiness(self, pairing: str) -> list[Check]:
        """Check what the pairing needs, now."""
        return cast(list[Check], self._get(f"/pairings/{pairing}/readiness"))

    def items(self, pairing: str, **filters: str) -> Iterator[Item]:
        """Yield the items, filtered by ``kind``, ``unit``, ``q`` or ``placed``."""
        return cast(Iterator[Item], self._list(f"/pairings/{pairing}/items", filters))

    def start_import(self, pairing: str, file: Path | None = None) -> Import:
        """Import from the publisher, or a file. Raises OSError where the file cannot be read."""
        path = f"/pairings/{pairing}/imports"
        if file is None:
            return cast(Import, self._post(path, {"source": "publisher"}))
        with file.open("rb") as handle:
            # A broken upload is not repeated by itself: the stream is spent.
            return cast(Import, self._call("POST", path, data={"source": "upload"}, files={"file": (file.name, handle)}, tries=1))

    def import_of(self, pairing: str, import_id: str) -> Import:
        """Return one import with its report."""
        return cast(Import, self._get(f"/pairings/{pairing}/imports/{import_id}"))

    def plan(self, pairing: str, items: Sequence[str], folder: str = "", undated: str = "ask") -> Plan:
        """Say what deploying would do; changes nothing."""
        return cast(Plan, self._post(f"/pairings/{pairing}/rollouts", {"items": list(items), "folder": folder, "undated": undated, "dry_run": True}))

    def deploy(self, pairing: str, items: Sequence[str], folder: str = "", undated: str = "ask") -> Rollout:
        """Start a rollout."""
        return cast(Rollout, self._post(f"/pairings/{pairing}/rollouts", {"items": list(items), "folder": folder, "undated": undated}))

    def rollout(self, pairing: str, rollout: str) -> Rollout:
        """Return one rollout with its steps."""
        return cast(Rollout, self._get(f"/pairings/{pairing}/rollouts/{rollout}"))

    def relay(self, pairing: str) -> Relay:
        """Say how the relay stands."""
        return cast(Relay, self._get(f"/pairings/{pairing}/relay"))

    def send_again(self, pairing: str, *, force: bool = False, dry_run: bool = False) -> int:
        """Queue what was not accepted (or all, with ``force``); return how many."""
        return int(self._post(f"/pairings/{pairing}/relay", {"force": force, "dry_run": dry_run})["queued"])

    def compare(self, pairing: str) -> Comparison:
        """Start a comparison, or join the one under way."""
        return cast(Comparison, self._post(f"/pairings/{pairing}/comparisons", {}))

    def comparison(self, pairing: str, comparison: str) -> Comparison:
        """Return one comparison."""
        return cast(Comparison, self._get(f"/pairings/{pairing}/comparisons/{comparison}"))

    def comparisons(self, pairing: str) -> Iterator[Comparison]:
        """Yield comparisons, newest first."""
        return cast(Iterator[Comparison], self._list(f"/pairings/{pairing}/comparisons"))

    def findings(self, pairing: str, comparison: str, **filters: str) -> Iterator[Finding]:
        """Yield the findings of a comparison, errors first."""
        return cast(Iterator[Finding], self._list(f"/pairings/{pairing}/comparisons/{comparison}/findings", filters))

    def job(self, job: str) -> Job:
        """Return one job."""
        return cast(Job, self._get(f"/jobs/{job}"))

    def wait(self, job: Job, progress: Callable[[Job], None] = lambda job: None, seconds: float = 600) -> Job:
        """Wait until a job has ended; ``progress`` is called whenever it was looked at.

        Raises Refusal ``job_failed`` where it failed, ``job_slow`` after ``seconds``.
        """
        deadline, pause = time.monotonic() + seconds, 0.1
        while job["state"] not in _ENDED:
            if time.monotonic() > deadline:
                raise Refusal(504, "job_slow", f"It is not done after {seconds:.0f} seconds: {job['message']}", "It goes on by itself; look again with 'vennpair status'.")
            time.sleep(pause)
            pause = min(pause * 1.3, 1.0)
            job = self.job(job["id"])
            progress(job)
        if job["state"] == "failed":
            raise Refusal(422, "job_failed", job["message"], job["remedy"])
        return job

    def _get(self, path: str, params: dict[str, str] | None = None) -> Any:
        # An empty mapping would take the query out of a path that brings its own.
        return self._call("GET", path, params=params or None)

    def _post(self, path: str, document: dict[str, Any]) -> Any:
        return self._call("POST", path, json=document)

    def _list(self, path: str, params: dict[str, str] | None = None) -> Iterator[Any]:
        page = self._get(path, {"limit": "200"} | (params or {}))
        while True:
            yield from page["results"]
            if not page["next"]:
                return
            page = self._get(httpx.URL(page["next"]).raw_path.decode().removeprefix("/api/v1"))

    def _call(self, method: str, path: str, *, tries: int = TRIES, **rest: Any) -> Any:
        headers = {"Idempotency-Key": uuid.uuid4().hex} if method == "POST" else {}
        for turn in range(1, tries + 1):
            try:
                response = self._http.request(method, path, headers=headers, **rest)
            except (httpx.TransportError, httpx.InvalidURL) as error:
                if turn == tries or isinstance(error, httpx.UnsupportedProtocol | httpx.InvalidURL):
                    raise Unreachable("unreachable", f"The service at {self._url} cannot be reached.", "Check the address and that the service runs, then try again.") from error
                time.sleep(0.2 * 2**turn)
                continue
            return _read(response)
        raise AssertionError("unreachable code: the loop returns or raises")


def _read(response: httpx.Response) -> Any:
    if response.status_code == 204:
        return None
    try:
        document = response.json()
    except ValueError as error:
        raise Unreachable("not_a_service", f"What answers at {response.url.host} is not a Venn Pair service (HTTP {response.status_code}).", "Check the address.") from error
    if response.is_success:
        return document
    kind = NotAllowed if response.status_code in {401, 403} else Refusal
    facts = document if isinstance(document, dict) else {}
    raise kind(response.status_code, str(facts.get("code", "refused")), str(facts.get("detail", "The service refused.")), str(facts.get("remedy", "")))
