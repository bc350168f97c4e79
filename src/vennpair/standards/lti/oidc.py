"""The third-party initiated login of OpenID Connect, as LTI uses it (Security Framework 5.1.1)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from urllib.parse import urlencode, urlsplit, urlunsplit

from vennpair.standards.lti.errors import LtiError

LONGEST_VALUE = 4_000


@dataclass(frozen=True, slots=True)
class LoginRequest:
    """What a platform sends to a tool's login address to begin a launch."""

    iss: str
    login_hint: str
    target_link_uri: str
    client_id: str = ""
    lti_message_hint: str = ""
    lti_deployment_id: str = ""


@dataclass(frozen=True, slots=True)
class AuthenticationRequest:
    """What a tool sends to a platform's authorisation address to get the signed message."""

    client_id: str
    redirect_uri: str
    login_hint: str
    state: str
    nonce: str
    lti_message_hint: str = ""


def read_login(params: Mapping[str, str]) -> LoginRequest:
    """Read a login request. Raises LtiError ``bad_login`` naming the parameter that is missing."""
    names = (
        "iss",
        "login_hint",
        "target_link_uri",
        "client_id",
        "lti_message_hint",
        "lti_deployment_id",
    )
    values = {name: _value(params, name, "bad_login", needed=name in names[:3]) for name in names}
    return LoginRequest(**values)


def read_authentication(params: Mapping[str, str]) -> AuthenticationRequest:
    """Read an authentication request.

    Raises LtiError ``bad_request`` where a fixed value is not as required.
    """
    fixed = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
    }
    for name, wanted in fixed.items():
        if params.get(name) != wanted:
            raise LtiError(
                "bad_request",
                f"The parameter {name} must be '{wanted}'.",
                "Security Framework 5.1.1.2",
            )
    names = ("client_id", "redirect_uri", "login_hint", "state", "nonce", "lti_message_hint")
    values = {
        name: _value(params, name, "bad_request", needed=name != "lti_message_hint")
        for name in names
    }
    return AuthenticationRequest(**values)


def authentication_url(endpoint: str, request: AuthenticationRequest) -> str:
    """Return the address that the browser is sent to, keeping a query that the endpoint has."""
    fields = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
        "client_id": request.client_id,
        "redirect_uri": request.redirect_uri,
        "login_hint": request.login_hint,
        "state": request.state,
        "nonce": request.nonce,
    }
    if request.lti_message_hint:
        fields["lti_message_hint"] = request.lti_message_hint
    return with_query(endpoint, fields)


def login_url(endpoint: str, request: LoginRequest) -> str:
    """Return the address that begins a launch at a tool."""
    fields = {
        "iss": request.iss,
        "login_hint": request.login_hint,
        "target_link_uri": request.target_link_uri,
    }
    for name in ("client_id", "lti_message_hint", "lti_deployment_id"):
        if value := getattr(request, name):
            fields[name] = value
    return with_query(endpoint, fields)


def with_query(url: str, fields: Mapping[str, str]) -> str:
    """Add fields to a URL's query."""
    parts = urlsplit(url)
    query = "&".join(filter(None, (parts.query, urlencode(fields))))
    return urlunsplit(parts._replace(query=query))


def _value(params: Mapping[str, str], name: str, code: str, *, needed: bool) -> str:
    value = params.get(name, "")
    if needed and not value:
        raise LtiError(code, f"The parameter {name} is missing.", "Security Framework 5.1.1")
    if len(value) > LONGEST_VALUE:
        raise LtiError(
            code,
            f"The parameter {name} is longer than {LONGEST_VALUE} characters.",
            "Security Framework 5.1.1",
        )
    return value
