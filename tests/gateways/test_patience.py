"""What a slow, dripping or impatient other side can do to us: nothing but keep its own call."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from datetime import UTC, datetime, timedelta

import pytest
from tests.gateways.server import Server

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways import keysets
from vennpair.gateways.http import OutsideError, call, call_safely
from vennpair.gateways.patience import Patience
from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.keys import new_private_pem, private_key, public_jwks

KEY, OTHER = private_key(*new_private_pem()), private_key(*new_private_pem())


class Dripping:
    """Sends ``before`` at once and then one byte ten times a second, for ever."""

    def __init__(self, before: bytes) -> None:
        self._before = before
        self._socket = socket.create_server(("127.0.0.1", 0))
        self.url = f"http://127.0.0.1:{self._socket.getsockname()[1]}"
        threading.Thread(target=self._serve, daemon=True).start()

    def _serve(self) -> None:
        with suppress(OSError):
            while True:
                threading.Thread(
                    target=self._drip, args=self._socket.accept()[:1], daemon=True
                ).start()

    def _drip(self, one: socket.socket) -> None:
        with suppress(OSError), one:
            one.recv(65_536)
            one.sendall(self._before)
            while True:
                one.sendall(b"x")
                time.sleep(0.1)

    def close(self) -> None:
        """Stop."""
        self._socket.close()


@pytest.fixture(params=[b"", b"HTTP/1.1 200 OK\r\n", b"HTTP/1.1 200 OK\r\n\r\n{"])
def dripping(request: pytest.FixtureRequest) -> Iterator[Dripping]:
    made = Dripping(request.param)
    yield made
    made.close()


def test_a_call_ends_at_its_total_deadline_however_the_answer_drips(dripping: Dripping) -> None:
    with pytest.raises(OutsideError) as caught:
        call("GET", dripping.url, "The platform", seconds=0.5)
    assert caught.value.failure.code == "slow"
    assert "0.5 seconds in all" in caught.value.failure.message


def test_after_a_deadline_the_next_call_is_answered(server: Server) -> None:
    drip = Dripping(b"")
    with pytest.raises(OutsideError):
        call("GET", drip.url, "The platform", seconds=0.2)
    drip.close()
    server.answers = [(200, {}, {"fine": True})]
    for _ in range(3):
        assert call("GET", server.url, "The platform", seconds=5).json("x") == {"fine": True}


def test_known_keys_are_used_while_newer_ones_are_slow_and_few_wait_for_the_first(
    server: Server, monkeypatch: pytest.MonkeyPatch
) -> None:
    gate, url = threading.Event(), f"{server.url}/jwks"

    def slow(path: str) -> tuple[int, dict[str, str], object]:
        gate.wait(20)
        return 200, {}, public_jwks([KEY])

    server.by = slow
    token, forged = sign({"iss": "x"}, KEY), sign({"iss": "x"}, OTHER)
    with ThreadPoolExecutor(10) as threads:
        first = threads.submit(keysets.keys_for, token, url, "Slow")
        until(lambda: bool(server.asked))
        others = [threads.submit(keysets.keys_for, token, url, "Slow") for _ in range(8)]
        until(lambda: sum(each.done() for each in others) >= 8 - keysets.MOST_WAITING)
        refused = [each for each in others if each.done()]
        assert {each.exception().failure.code for each in refused} == {"keys_slow"}  # type: ignore[union-attr]
        gate.set()
        assert first.result().keys
    assert len(server.asked) == 1
    gate.clear()
    monkeypatch.setattr(keysets, "UNKNOWN_SECONDS", 0)
    with ThreadPoolExecutor(4) as threads:
        stuck = threads.submit(keysets.keys_for, forged, url, "Slow")
        until(lambda: len(server.asked) == 2)
        assert keysets.keys_for(token, url, "Slow").keys, "a known key waits for nobody"
        gate.set()
        assert stuck.result().keys
    monkeypatch.setattr(keysets, "UNKNOWN_SECONDS", 60)
    for _ in range(20):
        keysets.keys_for(forged, url, "Slow")
    assert len(server.asked) == 2, "forged ids fetch once a minute at most"


def test_old_keys_stay_good_while_their_platform_is_down(
    server: Server, monkeypatch: pytest.MonkeyPatch
) -> None:
    url, token = f"{server.url}/down", sign({"iss": "x"}, KEY)
    server.answers = [(200, {}, public_jwks([KEY])), (500, {}, {})]
    assert keysets.keys_for(token, url, "Down").keys
    monkeypatch.setattr(keysets, "FRESH_SECONDS", 0)
    assert keysets.keys_for(token, url, "Down").keys


def test_a_pause_stops_every_call_of_one_side_and_is_told_once(server: Server) -> None:
    told: list[datetime] = []
    patience = Patience("Busy", lambda until, width: told.append(until))
    other = Patience("Other")
    server.answers = [(429, {"Retry-After": "30"}, {"title": "slow down"}), (200, {}, {})]
    for _ in range(3):
        with pytest.raises(OutsideError) as caught:
            call_safely("GET", server.url, "Busy", patience=patience)
        assert caught.value.failure.code == "busy"
    assert (len(server.asked), len(told)) == (1, 1)
    assert 25 < (caught.value.failure.retry_after or 0) <= 30
    assert call("GET", server.url, "Other", patience=other).status == 200
    assert not patience.learn(datetime.now(UTC) + timedelta(seconds=5), 32), (
        "a shorter one adds nothing"
    )


def test_who_asked_for_a_pause_is_asked_with_fewer_calls_at_once_until_it_answers() -> None:
    patience, entered = Patience("Busy"), threading.Event()
    patience.note(Failure(FailureKind.LATER, "busy", "slow down", "", 0.0))
    assert patience.width == 16
    patience.learn(datetime.now(UTC), 1)

    def enter() -> None:
        with patience.turn():
            entered.set()

    with ThreadPoolExecutor(1) as threads, patience.turn():
        threads.submit(enter)
        assert not entered.wait(0.2), "one at once"
        patience.answered()
        assert entered.wait(20), "two at once, as it answers"
    for _ in range(2_000):
        patience.answered()
    assert patience.width == 32


def test_a_short_pause_is_waited_out_to_its_end(server: Server) -> None:
    server.answers = [(429, {"Retry-After": "1"}, {}), (200, {}, {"fine": True})]
    began = time.monotonic()
    answer = call_safely("GET", server.url, "Busy", patience=Patience("Busy"))
    assert (answer.status, len(server.asked), time.monotonic() - began >= 1) == (200, 2, True)


def until(met: object) -> None:
    """Wait until a condition holds."""
    for _ in range(200):
        if met():  # type: ignore[operator]
            return
        time.sleep(0.02)
    raise AssertionError("it never came")
