"""Dynamic registration with a platform: read its configuration, send our registration."""

from __future__ import annotations

import json

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError, call
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import (
    Configuration,
    Registration,
    address,
    read_configuration,
    read_registration,
    write_registration,
)

_REMEDY = (
    "Ask the platform's administrator for a new registration link; if it stays, register by hand."
)


def fetch_configuration(url: str, who: str) -> Configuration:
    """Return what a platform publishes at its configuration address. Raises OutsideError."""
    try:
        address(
            {"openid_configuration": url},
            "openid_configuration",
            "bad_configuration",
            "Dynamic Registration 1.0, 3.3",
        )
        return read_configuration(
            call("GET", url, who, headers={"Accept": "application/json"}).json(who), url
        )
    except LtiError as error:
        raise _refused(error) from error


def send_registration(
    configuration: Configuration, registration: Registration, token: str, who: str
) -> Registration:
    """Register once; return the platform's answer. Raises OutsideError."""
    headers = {"Content-Type": "application/json", "Accept": "application/json"} | (
        {"Authorization": f"Bearer {token}"} if token else {}
    )
    body = json.dumps(write_registration(registration)).encode()
    try:
        return read_registration(
            call("POST", configuration.registration_url, who, headers=headers, body=body).json(who),
            answered=True,
        )
    except LtiError as error:
        raise _refused(error) from error


def _refused(error: LtiError) -> OutsideError:
    return OutsideError(
        Failure(FailureKind.NEVER, error.code, f"{error.message} ({error.clause})", _REMEDY)
    )
