"""Calls go into the world, and inside only where the operator allowed it."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from typing import Any

import pytest
from tests.gateways.server import Server

from vennpair.gateways.addresses import LOOPBACK, Inside, addresses_of, allow_only
from vennpair.gateways.http import OutsideError, call, visit
from vennpair.gateways.launch_client import walk


@pytest.fixture
def strict() -> Iterator[None]:
    allow_only(())
    yield
    allow_only(LOOPBACK)


@pytest.mark.usefixtures("strict")
@pytest.mark.parametrize(
    "host",
    [
        "127.0.0.1",
        "localhost",
        "10.1.2.3",
        "172.16.0.1",
        "192.168.1.1",
        "169.254.169.254",
        "100.64.0.1",
        "0.0.0.0",  # noqa: S104 - as an address that is asked for
        "224.0.0.1",
        "::1",
        "[::1]",
        "fe80::1",
        "fd00::1",
        "::ffff:10.0.0.1",
        "2130706433",
        "0x7f.1",
    ],
)
def test_nothing_inside_is_reached_however_it_is_written(host: str) -> None:
    with pytest.raises((Inside, OSError)):
        addresses_of(host, 80)


@pytest.mark.usefixtures("strict")
def test_the_world_is_reached() -> None:
    assert addresses_of("93.184.215.14", 443) == ["93.184.215.14"]
    assert addresses_of("2606:2800:21f:cb07:6820:80da:af6b:8b2c", 443)


@pytest.mark.usefixtures("strict")
def test_calls_visits_and_walks_are_all_refused_before_anything_is_sent(server: Server) -> None:
    server.answers = [(200, {}, {})]
    with pytest.raises(OutsideError) as caught:
        call("GET", server.url, "The platform")
    assert caught.value.failure.code == "inside"
    assert "VENNPAIR_ALLOWED_RANGES" in caught.value.failure.remedy
    with pytest.raises(OutsideError):
        visit(server.url, "The platform")
    assert walk(server.url).broken
    assert server.asked == []
    allow_only(["127.0.0.0/8"])
    assert call("GET", server.url, "The platform").status == 200


@pytest.mark.usefixtures("strict")
def test_a_name_of_which_one_address_is_inside_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    def two(*_: Any, **__: Any) -> list[Any]:
        kind = socket.AF_INET, socket.SOCK_STREAM, 6, ""
        return [(*kind, ("93.184.215.14", 80)), (*kind, ("10.0.0.1", 80))]

    monkeypatch.setattr(socket, "getaddrinfo", two)
    with pytest.raises(Inside):
        addresses_of("both.example", 80)
