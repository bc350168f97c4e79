"""Why no whole answer came: what the library raised, as a code and in words that end a sentence."""

from __future__ import annotations

import socket
import ssl
from collections.abc import Iterator
from dataclasses import dataclass

import httpx
import urllib3

from vennpair.gateways.addresses import Inside

NOBODY = (
    urllib3.exceptions.NewConnectionError,
    urllib3.exceptions.ConnectTimeoutError,
    httpx.ConnectError,
    httpx.ConnectTimeout,
)
# What OpenSSL says before anything was sent; other failures of its may come in the midst of an
# answer.
NO_TLS = {
    "WRONG_VERSION_NUMBER",
    "HTTP_REQUEST",
    "UNSUPPORTED_PROTOCOL",
    "TLSV1_ALERT_PROTOCOL_VERSION",
    "SSLV3_ALERT_HANDSHAKE_FAILURE",
    "TLSV1_UNRECOGNIZED_NAME",
}
SCHEME = "Check whether the address begins with http:// or https:// and has the right port."
OWN_AUTHORITY = (
    "If the certificate is of an authority of your own, the operator names its file in"
    " SSL_CERT_FILE."
)


@dataclass(frozen=True, slots=True)
class Unreached:
    """How a call broke. Code ``unreachable``: nothing was asked; ``slow``: no answer in time;
    ``broken``: an answer was lost, and what was asked may be done. ``remedy`` where there is one of
    its own.
    """

    code: str
    words: str
    remedy: str = ""


def unreached(error: BaseException) -> Unreached:
    """Tell apart what is inside, a certificate, encryption, the operator's proxy, the name, nobody
    there, no time, and a break.
    """
    causes = list(_causes(error))
    if any(isinstance(each, Inside) for each in causes):
        return Unreached("inside", "its address leads inside the operator's own network")
    wrong = next((each for each in causes if isinstance(each, ssl.SSLError)), None)
    if isinstance(wrong, ssl.SSLCertVerificationError):
        why = wrong.verify_message.rstrip(".")
        words = f"its certificate cannot be trusted ({why})"
        return Unreached("unreachable", words, OWN_AUTHORITY)
    if wrong is not None and wrong.reason in NO_TLS:
        return Unreached("unreachable", "it does not speak TLS there, or none that we do", SCHEME)
    if isinstance(error, urllib3.exceptions.ProxyError | httpx.ProxyError):
        return Unreached("unreachable", f"the operator's proxy {_of_proxy(causes[-1])}")
    if any(isinstance(each, socket.gaierror) for each in causes):
        return Unreached("unreachable", "there is no host of that name")
    nobody = isinstance(error, NOBODY)
    if isinstance(
        error, urllib3.exceptions.TimeoutError | httpx.TimeoutException | TimeoutError
    ) and not isinstance(error, urllib3.exceptions.NewConnectionError):
        return Unreached("unreachable" if nobody else "slow", "it took too long")
    if nobody:
        return Unreached("unreachable", "nothing listens there")
    return Unreached("broken", "the connection broke")


def _of_proxy(cause: BaseException) -> str:
    said = str(cause).rpartition(": ")[2]  # the status, where it gave one
    return f"did not let it through ({said})" if said[:3].isdigit() else "does not answer"


def _causes(error: BaseException | None) -> Iterator[BaseException]:
    """Yield an error and what it came from; urllib3 hands an inner one on as an argument."""
    seen: list[BaseException] = []
    while error is not None and error not in seen:
        seen.append(error)
        yield error
        inner = next((each for each in error.args if isinstance(each, BaseException)), None)
        error = error.__cause__ or inner or error.__context__
