"""Why a service could not be reached, told apart so that each says what to do."""

from __future__ import annotations

import socket
import ssl

import httpx

from vennpair.client.errors import Unreachable


def unreachable(url: str, error: httpx.TransportError | httpx.InvalidURL) -> Unreachable:
    """Return what to say of a call that got no answer."""
    causes = list(_causes(error))
    if isinstance(error, httpx.UnsupportedProtocol | httpx.InvalidURL):
        return Unreachable(
            "no_address",
            f"'{url}' is not the address of a service.",
            "Write it with its beginning, like https://pair.college.example",
        )
    wrong = next((each for each in causes if isinstance(each, ssl.SSLError)), None)
    if isinstance(wrong, ssl.SSLCertVerificationError):
        return Unreachable(
            "bad_certificate",
            f"The certificate of {url} cannot be trusted: {wrong.verify_message or wrong}.",
            "Check the address and this computer's clock. If your college signs its own"
            " certificates, name its file in SSL_CERT_FILE.",
        )
    if wrong is not None:
        return Unreachable(
            "no_tls",
            f"No encrypted connection to {url} came about: {wrong.reason or wrong}.",
            "Check whether the address begins with http:// or https:// and has the right port.",
        )
    if any(isinstance(each, socket.gaierror) for each in causes):
        return Unreachable(
            "no_host",
            f"There is no host of the name in {url}, or this computer is offline.",
            "Check how the address is written, and the network.",
        )
    if isinstance(error, httpx.TimeoutException):
        return Unreachable(
            "slow",
            f"The service at {url} did not answer in time.",
            "Try again; if it lasts, look whether what you asked for was done.",
        )
    return Unreachable(
        "unreachable",
        f"The service at {url} cannot be reached.",
        "Check the address and that the service runs, then try again.",
    )


def _causes(error: BaseException | None) -> list[BaseException]:
    found: list[BaseException] = []
    while error is not None and error not in found:
        found.append(error)
        error = error.__cause__ or error.__context__
    return found
