"""Where outside calls may go: to the world, and not inside the operator's own network.

Every name that a person or another system gives is resolved once, each address is checked, and the
checked address is the one that is connected to, so that no second answer of a name server leads
elsewhere.
"""

from __future__ import annotations

import ipaddress
import socket
import ssl
from collections.abc import Iterable
from contextlib import suppress
from functools import cache

import httpcore
import httpx
import urllib3

Address = ipaddress.IPv4Address | ipaddress.IPv6Address
LOOPBACK = ("127.0.0.0/8", "::1/128")
_allowed = [ipaddress.ip_network(each) for each in LOOPBACK]


class Inside(urllib3.exceptions.HTTPError):
    """A name leads to an address inside, which nobody allowed."""


def allow_only(ranges: Iterable[str]) -> None:
    """Let calls go to addresses of the world and of these ranges.

    Raises ValueError for one that is none.
    """
    _allowed[:] = [ipaddress.ip_network(each) for each in ranges]


@cache
def trusted() -> ssl.SSLContext:
    """Return whom we trust: the system's authorities, and beside them those of
    ``SSL_CERT_FILE``, or else the usual ones.

    Loading them takes longer than a call: once for each process.
    """
    made = httpx.create_ssl_context()
    made.load_default_certs()
    return made


def addresses_of(host: str, port: int) -> list[str]:
    """Return the addresses of a name, all of them allowed.

    Raises Inside where one is not, and OSError where there is none.
    """
    try:
        rows = socket.getaddrinfo(host.strip("[]"), port, type=socket.SOCK_STREAM)
    except UnicodeError as error:  # no host can have such a name: a label is empty, or too long
        raise socket.gaierror(socket.EAI_NONAME, str(error)) from error
    found = [str(row[4][0]) for row in rows]
    for each in found:
        if not _may(ipaddress.ip_address(each.partition("%")[0])):
            raise Inside(f"{host} leads to {each}")
    return list(dict.fromkeys(found))


def _may(address: Address) -> bool:
    mapped = getattr(address, "ipv4_mapped", None) or getattr(address, "sixtofour", None)
    if mapped is not None:
        return _may(mapped)
    return not is_inside(address) or any(
        address.version == each.version and address in each for each in _allowed
    )


def is_inside(address: Address) -> bool:
    """Say whether an address is none of the world's: private, loopback, link-local and the like."""
    return not address.is_global or address.is_multicast


class _Guarded(httpcore.SyncBackend):
    """Connects httpx to checked addresses only."""

    def connect_tcp(
        self,
        host: str,
        port: int,
        timeout: float | None = None,
        local_address: str | None = None,
        socket_options: Iterable[httpcore.SOCKET_OPTION] | None = None,
    ) -> httpcore.NetworkStream:
        """Resolve, check, connect."""
        try:
            *others, last = addresses_of(host, port)
        except (Inside, OSError) as error:
            raise httpcore.ConnectError(str(error)) from error
        for each in others:
            with suppress(httpcore.ConnectError, httpcore.ConnectTimeout):
                return super().connect_tcp(each, port, timeout, local_address, socket_options)
        return super().connect_tcp(last, port, timeout, local_address, socket_options)


def guarded_transport(proxy: str = "") -> httpx.HTTPTransport:
    """Return a transport for httpx that goes nowhere inside, but to the operator's proxy."""
    made = httpx.HTTPTransport(verify=trusted(), proxy=proxy or None)
    if not proxy:
        made._pool._network_backend = _Guarded()
    return made
