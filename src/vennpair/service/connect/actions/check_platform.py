"""Run every handshake with a platform for real: its keys, its tokens for each service, its launch
address.
"""

from __future__ import annotations

import time
import uuid
from functools import partial

from vennpair.core.failures import FailureKind
from vennpair.core.moments import moment_words
from vennpair.gateways.http import OutsideError, call
from vennpair.gateways.tokens import signed_client
from vennpair.service.connect.checks import Handshake, as_failure, handshake, skipped
from vennpair.service.connect.keys import signing_key
from vennpair.service.connect.models import Platform
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.keys import read_jwks
from vennpair.standards.lti.oidc import AuthenticationRequest, authentication_url

_SERVICES = (
    ("columns", "gradebook columns", (v.SCOPE_LINE_ITEM,)),
    ("results", "gradebook values", (v.SCOPE_RESULT_READ,)),
    ("scores", "scores", (v.SCOPE_SCORE,)),
    ("roster", "the list of learners", (v.SCOPE_MEMBERSHIP,)),
    ("outline", "the shell's outline", (v.SCOPE_OUTLINE,)),
)


def check_platform(platform: Platform, our_launch_url: str) -> list[Handshake]:
    """Return all steps in the order in which they depend on one another. Changes nothing."""
    keys = handshake(
        "keys",
        lambda: _keys(platform),
        theirs="Ask the platform's administrator for its key set address.",
    )
    launch = handshake(
        "launch address",
        lambda: _authorization(platform, our_launch_url),
        theirs=(
            "Ask the platform's administrator for its authorisation address, and whether our launch"
            " address is registered there."
        ),
    )
    tokens = [
        handshake(f"service: {name}", partial(_token, platform, words, list(scopes)))
        if _is_offered(platform, scopes)
        else skipped(
            f"service: {name}",
            f"{platform.name} does not offer Venn Pair {words}.",
            _WITHOUT.get(name, ""),
        )
        for name, words, scopes in _SERVICES
    ]
    return [keys, launch, *tokens, _launched(platform)]


# What is done without a service that a platform need not have.
_WITHOUT = {
    "outline": "Nothing is wrong: add links with the platform's own page for content from a tool.",
}


def _is_offered(platform: Platform, scopes: tuple[str, ...]) -> bool:
    """Say whether a platform lets us have scopes, as far as it said: when it registered us, or in
    its launches. A scope that it never named is not asked for.
    """
    if platform.granted:
        return set(scopes) <= set(platform.granted)
    if v.SCOPE_OUTLINE not in scopes:
        return True
    return platform.shells.exclude(outline_url="").exists()


def _keys(platform: Platform) -> str:
    return keys_found(platform.jwks_url, platform.name)


def keys_found(url: str, who: str) -> str:
    """Say how many usable keys somebody publishes. Raises OutsideError."""
    number = keys_at(url, who)
    return f"{who} publishes {number} usable key{'' if number == 1 else 's'}."


def keys_at(url: str, who: str) -> int:
    """Return how many usable keys a key set holds. Raises OutsideError."""
    try:
        return len(read_jwks(call("GET", url, who).json(who)).keys)
    except ValueError as error:
        raise as_failure(
            f"{who} publishes no usable keys at {url}: {error}.",
            "Check the key set address.",
            "no_keys",
        ) from error


def _authorization(platform: Platform, our_launch_url: str) -> str:
    """Ask as a launch would, for nobody: any answer but 'there is no such page' means the address
    is right.
    """
    asked = AuthenticationRequest(
        platform.client_id, our_launch_url, "connection-check", uuid.uuid4().hex, uuid.uuid4().hex
    )
    try:
        call("GET", authentication_url(platform.authorization_url, asked), platform.name)
    except OutsideError as error:
        if error.failure.kind is FailureKind.LATER or error.failure.code == "gone":
            raise
    return (
        "The launch address answers; whether it launches is seen when somebody opens Venn Pair from"
        " a shell."
    )


def _token(platform: Platform, words: str, scopes: list[str]) -> str:
    source = signed_client(
        platform.name,
        platform.client_id,
        platform.token_url,
        signing_key(),
        platform.token_audience,
    )
    began = time.monotonic()
    source.token(scopes)
    return (
        f"{platform.name} lets Venn Pair use {words} ({(time.monotonic() - began) * 1000:.0f} ms)."
    )


def _launched(platform: Platform) -> Handshake:
    if platform.launched_at is None:
        return skipped(
            "launch",
            "Nobody has opened Venn Pair from this platform yet.",
            "Open Venn Pair from any shell once.",
            "theirs",
        )
    if platform.asked_deployments:
        asked = ", ".join(platform.asked_deployments[:3])
        return Handshake(
            "launch",
            "fail",
            f"Launches come from a deployment that is not accepted: {asked}.",
            "Accept the deployment if it is yours.",
            "ours",
        )
    zone = platform.institution.timezone
    last = moment_words(platform.launched_at, zone)
    return Handshake("launch", "ok", f"Last opened {last} ({zone}).")
