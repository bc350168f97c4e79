"""LTI 1.1 launches, for publishers that only have a key and a shared secret (OAuth 1.0a,
HMAC-SHA1).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any
from urllib.parse import parse_qsl, urlencode, urlsplit

from oauthlib.common import Request
from oauthlib.oauth1 import SIGNATURE_TYPE_BODY, Client
from oauthlib.oauth1.rfc5849 import signature

from vennpair.standards.lti.errors import LtiError

SKEW_SECONDS = 300
_CLAUSE = "LTI 1.1.1, 4.3"


def sign_launch(url: str, fields: Mapping[str, str], key: str, secret: str) -> dict[str, str]:
    """Return the fields of a launch form with their OAuth signature (LTI 1.1.1, 4.3)."""
    client = Client(key, client_secret=secret, signature_type=SIGNATURE_TYPE_BODY)
    _, _, body = client.sign(
        url, "POST", urlencode(dict(fields)), {"Content-Type": "application/x-www-form-urlencoded"}
    )
    return dict(parse_qsl(body, keep_blank_values=True))


def short_roles(roles: Iterable[str]) -> str:
    """Return roles as LTI 1.1 writes them (1.1.1, A.2): context roles by their short names, a
    sub-role of it as the URN of its own role.
    """
    names = []
    for role in roles:
        where, _, name = role.rpartition("#")
        if where.endswith("/membership"):
            names.append(name)
        elif "/membership/" in where:
            names.append(f"urn:lti:role:ims/lis/{name}")
    return ",".join(names)


def launch_fields(
    facts: Mapping[str, str], roles: str, custom: Mapping[str, str]
) -> dict[str, str]:
    """Return the fields of a basic launch (LTI 1.1.1, 3); empty ones are left out.

    ``facts`` uses the standard's names (``resource_link_id``, ``user_id`` ...); ``roles``
    are those of ``short_roles``.
    """
    fixed = {
        "lti_message_type": "basic-lti-launch-request",
        "lti_version": "LTI-1p0",
        "roles": roles,
        "oauth_callback": "about:blank",
    }
    mapped = {
        f"custom_{''.join(c if c.isalnum() and c.isascii() else '_' for c in name.lower())}": value
        for name, value in custom.items()
    }
    return {name: value for name, value in {**fixed, **facts, **mapped}.items() if value}


def verify_launch(url: str, fields: list[tuple[str, str]], secret: str, now: int) -> dict[str, str]:
    """Check a launch form's signature and age; return its fields.

    Raises LtiError ``bad_signature``, ``expired`` or ``bad_message``. Its nonce is the caller's to
    use once.
    """
    values = dict(fields)
    if len(values) != len(fields):
        raise LtiError("bad_message", "A parameter of the launch is there twice.", _CLAUSE)
    check_age(values, now)
    request = Request(
        url, "POST", urlencode(fields), {"Content-Type": "application/x-www-form-urlencoded"}
    )
    _verify(
        request,
        url,
        [(name, value) for name, value in fields if name != "oauth_signature"],
        values.get("oauth_signature", ""),
        secret,
    )
    return values


def verify_header(url: str, header: Mapping[str, str], secret: str, now: int) -> None:
    """Check the OAuth parameters of an Authorization header on a POST.

    Raises LtiError ``bad_signature``, ``expired``.
    """
    check_age(header, now)
    request = Request(url, "POST")
    _verify(
        request,
        url,
        [
            (name, value)
            for name, value in header.items()
            if name not in {"oauth_signature", "realm"}
        ],
        header.get("oauth_signature", ""),
        secret,
    )


def check_age(values: Mapping[str, str], now: int) -> None:
    """Check method, version and timestamp. Raises LtiError."""
    if (
        values.get("oauth_signature_method") != "HMAC-SHA1"
        or values.get("oauth_version", "1.0") != "1.0"
    ):
        raise LtiError(
            "bad_signature", "The message is not signed with HMAC-SHA1 of OAuth 1.0.", _CLAUSE
        )
    stamp = values.get("oauth_timestamp", "")
    if not stamp.isdigit() or not values.get("oauth_nonce"):
        raise LtiError("bad_message", "The message lacks its timestamp or nonce.", "RFC 5849, 3.3")
    if abs(now - int(stamp)) > SKEW_SECONDS:
        raise LtiError(
            "expired",
            "The message is older than five minutes, or from a clock that is wrong.",
            "RFC 5849, 3.3",
        )


def _verify(request: Any, url: str, params: list[tuple[str, str]], given: str, secret: str) -> None:
    # The address's own query is signed too (RFC 5849, 3.4.1.3).
    request.params, request.signature, request.uri = (
        [*parse_qsl(urlsplit(url).query, keep_blank_values=True), *params],
        given,
        url,
    )
    if not given or not signature.verify_hmac_sha1(
        request, client_secret=secret, resource_owner_secret=""
    ):
        raise LtiError(
            "bad_signature",
            "The signature of the message is not right; key or secret differ on the two sides.",
            _CLAUSE,
        )
