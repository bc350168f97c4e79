"""Dynamic Registration 1.0: a platform's configuration, a tool's registration, and the answer to
it; both roles.

The documents are OpenID Connect Discovery and Dynamic Client Registration (RFC 7591) with one
object of LTI's own in each.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, TypeGuard
from urllib.parse import urlsplit

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError

Json = dict[str, Any]
PLATFORM_CONFIGURATION = "https://purl.imsglobal.org/spec/lti-platform-configuration"
TOOL_CONFIGURATION = "https://purl.imsglobal.org/spec/lti-tool-configuration"
ONEROSTER_CLAIM, PROVISIONING_CLAIM = (
    "urn:vennpair:claim:oneroster",
    "urn:vennpair:claim:provisioning",
)
CLAIMS = ("iss", "sub", "name", "given_name", "family_name", "email")
_LONGEST = 2_000
_LOOPBACK = {"127.0.0.1", "localhost", "::1"}


@dataclass(frozen=True, slots=True)
class Configuration:
    """What a platform publishes of itself (Dynamic Registration 1.0, 3.4; OpenID Discovery 3)."""

    issuer: str
    authorization_url: str
    token_url: str
    jwks_url: str
    registration_url: str
    scopes: tuple[str, ...] = ()
    product: str = ""
    version: str = ""
    # whom client assertions must name, where it is not the token address (authorization_server)
    audience: str = ""
    messages: tuple[str, ...] = (v.RESOURCE_LINK_REQUEST,)
    variables: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Message:
    """A kind of message that a tool takes, where it goes and with which parameters of its own."""

    kind: str
    target: str
    custom: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Registration:
    """What a tool asks a platform to register (Dynamic Registration 1.0, 3.5), and what came back
    with it.
    """

    client_name: str
    login_url: str
    redirect_uris: tuple[str, ...]
    jwks_url: str
    target_link_uri: str
    scopes: tuple[str, ...] = ()
    custom: dict[str, str] = field(default_factory=dict)
    messages: tuple[Json, ...] = ()
    description: str = ""
    contacts: tuple[str, ...] = ()
    oneroster: dict[str, str] = field(default_factory=dict)
    provisioning: str = ""
    client_id: str = ""
    deployment_id: str = ""
    claims: tuple[str, ...] = ()


def message_of(registration: Registration, kind: str) -> Message | None:
    """Return what a tool registered for a kind of message, None where it does not take it.

    A message without an address or parameters of its own has the tool's (Dynamic Registration 1.0,
    3.5.2). Raises LtiError ``invalid_client_metadata`` for an address that is none.
    """
    for each in registration.messages:
        if each.get("type") == kind:
            code, clause = "invalid_client_metadata", "Dynamic Registration 1.0, 3.5.2"
            own = each.get("custom_parameters")
            custom = {str(key): str(value) for key, value in own.items()} if _is_dict(own) else {}
            target = (
                address(each, "target_link_uri", code, clause)
                if each.get("target_link_uri")
                else registration.target_link_uri
            )
            return Message(kind, target, custom)
    return None


def write_message(message: Message) -> Json:
    """Return a message as a registration lists it, with what is honoured of it."""
    document: Json = {"type": message.kind, "target_link_uri": message.target}
    return document | ({"custom_parameters": message.custom} if message.custom else {})


def write_configuration(configuration: Configuration) -> Json:
    """Return the platform's openid-configuration document."""
    c = configuration
    return {
        "issuer": c.issuer,
        "authorization_endpoint": c.authorization_url,
        "token_endpoint": c.token_url,
        "token_endpoint_auth_methods_supported": ["private_key_jwt"],
        "token_endpoint_auth_signing_alg_values_supported": ["RS256"],
        "jwks_uri": c.jwks_url,
        "registration_endpoint": c.registration_url,
        "scopes_supported": ["openid", *c.scopes],
        "response_types_supported": ["id_token"],
        "response_modes_supported": ["form_post"],
        "grant_types_supported": ["implicit", "client_credentials"],
        "subject_types_supported": ["public", "pairwise"],
        "id_token_signing_alg_values_supported": ["RS256"],
        "claims_supported": list(CLAIMS),
        PLATFORM_CONFIGURATION: {
            "product_family_code": c.product,
            "version": c.version,
            "messages_supported": [{"type": message} for message in c.messages],
            "variables": list(c.variables),
        },
    } | ({"authorization_server": c.audience} if c.audience else {})


def read_configuration(document: object, url: str) -> Configuration:
    """Read a configuration fetched from ``url``.

    Raises LtiError ``bad_configuration`` naming the field that is missing, of another type, no safe
    address, or an issuer on another host than the document (Dynamic Registration 1.0, 3.4).
    """
    if not isinstance(document, dict):
        raise LtiError(
            "bad_configuration",
            "The platform's configuration is not a JSON object.",
            "OpenID Discovery 4.2",
        )
    code, clause = "bad_configuration", "OpenID Discovery 3"
    issuer = address(document, "issuer", code, clause)
    if _host(issuer) != _host(url):
        raise LtiError(
            code,
            f"The configuration was read from {_host(url)} but names an issuer at {_host(issuer)}.",
            "Dynamic Registration 1.0, 3.4",
        )
    for name, wanted in (
        ("id_token_signing_alg_values_supported", "RS256"),
        ("response_types_supported", "id_token"),
        ("token_endpoint_auth_methods_supported", "private_key_jwt"),
    ):
        offered = document.get(name)
        if offered is not None and wanted not in _texts(offered):
            raise LtiError(
                code,
                f"The platform does not offer {wanted} ({name}).",
                "Dynamic Registration 1.0, 3.4",
            )
    about = document.get(PLATFORM_CONFIGURATION)
    if not isinstance(about, dict):
        raise LtiError(
            code,
            "The configuration lacks LTI's own part (lti-platform-configuration).",
            "Dynamic Registration 1.0, 3.4.1",
        )
    return Configuration(
        issuer,
        address(document, "authorization_endpoint", code, clause),
        address(document, "token_endpoint", code, clause),
        address(document, "jwks_uri", code, clause),
        address(document, "registration_endpoint", code, clause),
        _texts(document.get("scopes_supported")),
        str(about.get("product_family_code") or "")[:100],
        str(about.get("version") or "")[:100],
        str(document.get("authorization_server") or "")[:_LONGEST],
        tuple(str(each.get("type")) for each in _objects(about.get("messages_supported"))),
        _texts(about.get("variables")),
    )


def write_registration(registration: Registration) -> Json:
    """Return the JSON of a registration: a request, or with a client id the answer to one."""
    r = registration
    messages = list(r.messages) or [
        {
            "type": v.RESOURCE_LINK_REQUEST,
            "target_link_uri": r.target_link_uri,
            "label": r.client_name,
        }
    ]
    claims = [each for each in CLAIMS if not r.claims or each in r.claims]
    tool: Json = {
        "domain": urlsplit(r.target_link_uri).netloc,
        "description": r.description,
        "target_link_uri": r.target_link_uri,
        "custom_parameters": dict(r.custom),
        "claims": claims,
        "messages": messages,
    }
    tool |= {"deployment_id": r.deployment_id} if r.deployment_id else {}
    tool |= {ONEROSTER_CLAIM: r.oneroster} if r.oneroster else {}
    tool |= {PROVISIONING_CLAIM: {"url": r.provisioning}} if r.provisioning else {}
    document: Json = {
        "application_type": "web",
        "response_types": ["id_token"],
        "grant_types": ["implicit", "client_credentials"],
        "initiate_login_uri": r.login_url,
        "redirect_uris": list(r.redirect_uris),
        "client_name": r.client_name,
        "jwks_uri": r.jwks_url,
        "token_endpoint_auth_method": "private_key_jwt",
        "scope": " ".join(r.scopes),
        TOOL_CONFIGURATION: {name: value for name, value in tool.items() if value not in ("", {})},
    }
    document |= {"contacts": list(r.contacts)} if r.contacts else {}
    return document | ({"client_id": r.client_id} if r.client_id else {})


def read_registration(document: object, *, answered: bool = False) -> Registration:
    """Read a registration; with ``answered``, the platform's answer to ours, which must bring a
    client id.

    Raises LtiError ``invalid_redirect_uri`` or ``invalid_client_metadata`` (RFC 7591, 3.2.2).
    """
    code, clause = "invalid_client_metadata", "Dynamic Registration 1.0, 3.5"
    if not isinstance(document, dict):
        raise LtiError(code, "The registration is not a JSON object.", clause)
    tool = document.get(TOOL_CONFIGURATION)
    if answered:
        return _answer(document, tool)
    if not isinstance(tool, dict):
        raise LtiError(
            code,
            "The registration lacks LTI's own part (lti-tool-configuration).",
            "Dynamic Registration 1.0, 3.5.1",
        )
    _fixed(document)
    login = address(document, "initiate_login_uri", code, clause)
    redirects = _redirects(document)
    name = document.get("client_name")
    if not isinstance(name, str) or not name.strip() or len(name) > 200 or not name.isprintable():
        raise LtiError(code, "client_name must be a text of 1 to 200 characters.", clause)
    target = tool.get("target_link_uri")
    domain = tool.get("domain")
    if not isinstance(domain, str) or not domain:
        raise LtiError(
            code,
            "The registration names no domain (lti-tool-configuration).",
            "Dynamic Registration 1.0, 3.5.1",
        )
    custom = tool.get("custom_parameters") or {}
    oneroster, provisioning = tool.get(ONEROSTER_CLAIM) or {}, tool.get(PROVISIONING_CLAIM) or {}
    messages = _objects(tool.get("messages"))
    return Registration(
        name.strip(),
        login,
        redirects,
        address(document, "jwks_uri", code, clause),
        address(tool, "target_link_uri", code, clause)
        if target
        else _launch_target(messages, redirects),
        tuple(str(document.get("scope") or "").split()),
        {str(key): str(value) for key, value in custom.items()} if isinstance(custom, dict) else {},
        tuple(messages),
        str(tool.get("description") or "")[:_LONGEST],
        _texts(document.get("contacts")),
        {
            name: address(oneroster, name, code, "docs/course-provisioning.md")
            for name in ("url", "token_url")
        }
        if isinstance(oneroster, dict) and oneroster
        else {},
        address(provisioning, "url", code, "docs/course-provisioning.md")
        if isinstance(provisioning, dict) and provisioning
        else "",
        claims=_texts(tool.get("claims")),
    )


def _answer(document: Json, tool: object) -> Registration:
    """Read a platform's answer (Dynamic Registration 1.0, 3.6)."""
    client_id = document.get("client_id")
    if not isinstance(client_id, str) or not client_id or len(client_id) > 200:
        raise LtiError(
            "invalid_client_metadata",
            "The answer to the registration brings no client_id.",
            "Dynamic Registration 1.0, 3.6",
        )
    deployment = str(tool.get("deployment_id") or "") if isinstance(tool, dict) else ""
    return Registration(
        str(document.get("client_name") or ""),
        "",
        (),
        "",
        "",
        tuple(str(document.get("scope") or "").split()),
        client_id=client_id,
        deployment_id=deployment[:255],
    )


def _redirects(document: Json) -> tuple[str, ...]:
    code, clause = "invalid_redirect_uri", "RFC 7591, 2"
    found = document.get("redirect_uris")
    if not isinstance(found, list) or not 0 < len(found) <= 50:
        raise LtiError(code, "redirect_uris must list at least one address, at most 50.", clause)
    return tuple(address({"redirect_uris": each}, "redirect_uris", code, clause) for each in found)


def address(document: Json, name: str, code: str, clause: str) -> str:
    """Return an absolute http(s) address of a document; plain http only on loopback.

    Raises LtiError ``code``.
    """
    value = document.get(name)
    if (
        not isinstance(value, str)
        or not value
        or len(value) > _LONGEST
        or not value.isprintable()
        or " " in value
    ):
        raise LtiError(code, f"{name} is missing or not an address.", clause)
    try:
        parts = urlsplit(value)
        _ = parts.port
    except ValueError:
        raise LtiError(
            code, f"{name} is not an absolute web address: {value[:200]}", clause
        ) from None
    if (
        parts.scheme not in {"https", "http"}
        or not parts.hostname
        or parts.fragment
        or parts.username
    ):
        raise LtiError(code, f"{name} is not an absolute web address: {value[:200]}", clause)
    if parts.scheme == "http" and parts.hostname not in _LOOPBACK:
        raise LtiError(
            code, f"{name} must begin with https: {value[:200]}", "Security Framework 3.1"
        )
    return value


def _fixed(document: Json) -> None:
    """Check the values that LTI fixes for every tool."""
    code, clause = "invalid_client_metadata", "Dynamic Registration 1.0, 3.5"
    if document.get("application_type", "web") != "web":
        raise LtiError(code, "application_type must be 'web'.", clause)
    if document.get("token_endpoint_auth_method") != "private_key_jwt":
        raise LtiError(code, "token_endpoint_auth_method must be 'private_key_jwt'.", clause)
    for name, needed in (
        ("response_types", {"id_token"}),
        ("grant_types", {"implicit", "client_credentials"}),
    ):
        given = document.get(name)
        if not isinstance(given, list) or not needed <= set(map(str, given)):
            raise LtiError(code, f"{name} must hold {' and '.join(sorted(needed))}.", clause)


def _launch_target(messages: list[Json], redirects: tuple[str, ...]) -> str:
    """Return where launches go when the tool names no address of its own: its message's, else its
    first redirect.
    """
    for message in messages:
        if message.get("type") == v.RESOURCE_LINK_REQUEST and message.get("target_link_uri"):
            return address(
                message,
                "target_link_uri",
                "invalid_client_metadata",
                "Dynamic Registration 1.0, 3.5.2",
            )
    return redirects[0]


def _is_dict(value: object) -> TypeGuard[Json]:
    return isinstance(value, dict)


def _host(url: str) -> str:
    return urlsplit(url).netloc.casefold()


def _objects(value: object) -> list[Json]:
    return (
        [each for each in value[:100] if isinstance(each, dict)] if isinstance(value, list) else []
    )


def _texts(value: object) -> tuple[str, ...]:
    return tuple(str(each)[:_LONGEST] for each in value[:100]) if isinstance(value, list) else ()
