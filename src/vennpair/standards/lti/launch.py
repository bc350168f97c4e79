"""The resource link launch message (LTI Core 1.3, section 4.3 and 5), both ways."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.variables import history, resolved

Json = dict[str, Any]
CONTEXT_HISTORY, LINK_HISTORY, CONTEXT_ZONE = (
    "context_id_history",
    "resource_link_id_history",
    "context_timezone",
)
LONGEST_ID = 255  # LTI Core 1.3, 5.3.3, 5.3.5, 5.4.1; OpenID Connect Core 2 (sub)
LONGEST_ADDRESS = 1_000
# What we ask every platform to send along; one that knows a variable replaces it.
ASKED_CUSTOM = {
    CONTEXT_HISTORY: "$Context.id.history",
    LINK_HISTORY: "$ResourceLink.id.history",
    CONTEXT_ZONE: "$Context.timeZone",
}


@dataclass(frozen=True, slots=True)
class Person:
    """Who launches: ``sub`` is opaque and unique at the sender; the rest may be withheld.

    ``sourced_id`` is the institution's own id (claim lis, LTI Core 1.3, 5.4.5).
    """

    sub: str
    name: str = ""
    given_name: str = ""
    family_name: str = ""
    email: str = ""
    locale: str = ""
    sourced_id: str = ""


@dataclass(frozen=True, slots=True)
class Context:
    """The course from which somebody launches."""

    id: str
    title: str = ""
    label: str = ""


@dataclass(frozen=True, slots=True)
class GradeEndpoint:
    """Claim of the Assignment and Grade Services (AGS 2.0, 3.2.4)."""

    scopes: tuple[str, ...] = ()
    lineitems: str = ""
    lineitem: str = ""


@dataclass(frozen=True, slots=True)
class OutlineEndpoint:
    """Claim of the Shell Outline protocol (docs/shell-outline.md)."""

    scopes: tuple[str, ...] = ()
    outline: str = ""


@dataclass(frozen=True, slots=True)
class Launch:
    """A resource link launch request, after its signature was checked."""

    person: Person
    deployment_id: str
    target_link_uri: str
    resource_link_id: str
    roles: tuple[str, ...] = ()
    context: Context | None = None
    resource_link_title: str = ""
    custom: dict[str, str] = field(default_factory=dict)
    grades: GradeEndpoint | None = None
    memberships_url: str = ""
    outline: OutlineEndpoint | None = None
    return_url: str = ""
    locale: str = ""  # BCP 47, of the page that launched (5.4.4), else the person's own (5.3.6)
    timezone: str = ""
    platform: dict[str, str] = field(
        default_factory=dict
    )  # claim tool_platform: guid, name, product_family_code ...

    @property
    def context_history(self) -> tuple[str, ...]:
        """Return the contexts that this one was copied from, the most recent first
        (``$Context.id.history``).
        """
        return history(self.custom, CONTEXT_HISTORY)

    @property
    def link_history(self) -> tuple[str, ...]:
        """Return the links that this one was copied from, the most recent first
        (``$ResourceLink.id.history``).
        """
        return history(self.custom, LINK_HISTORY)


def read_launch(claims: Json) -> Launch:
    """Turn verified claims into a launch.

    Raises LtiError ``bad_message`` where a claim that LTI Core 1.3 section 5.3 requires is
    missing or has another type.
    """
    if claims.get(v.MESSAGE_TYPE) != v.RESOURCE_LINK_REQUEST:
        raise LtiError(
            "bad_message", "This kind of LTI message is not supported here.", "LTI Core 1.3, 5.3.1"
        )
    if claims.get(v.VERSION) != v.LTI_VERSION:
        raise LtiError(
            "bad_message", "The LTI version of the message is not 1.3.0.", "LTI Core 1.3, 5.3.2"
        )
    link = _object(claims, v.RESOURCE_LINK, "LTI Core 1.3, 5.3.5")
    roles = claims.get(v.ROLES)
    if not isinstance(roles, list) or not all(isinstance(role, str) for role in roles):
        raise LtiError("bad_message", "The message has no list of roles.", "LTI Core 1.3, 5.3.7")
    given = claims.get(v.CUSTOM) or {}
    custom = (
        {str(key): str(value) for key, value in given.items()} if isinstance(given, dict) else {}
    )
    about = claims.get(v.TOOL_PLATFORM)
    return Launch(
        person=_person(claims),
        deployment_id=_id(claims, v.DEPLOYMENT_ID, "deployment id", "LTI Core 1.3, 5.3.3"),
        target_link_uri=_text(claims, v.TARGET_LINK_URI, "LTI Core 1.3, 5.3.4"),
        resource_link_id=_id(link, "id", "link's id", "LTI Core 1.3, 5.3.5"),
        resource_link_title=str(link.get("title") or ""),
        roles=tuple(map(v.expand_role, roles)),
        context=_context(claims),
        custom=custom,
        grades=_grades(claims),
        memberships_url=_address(
            _part(claims, v.NRPS_CLAIM, "context_memberships_url"),
            "members' address",
            "NRPS 2.0, 3",
        ),
        outline=_outline(claims),
        return_url=_address(
            _part(claims, v.LAUNCH_PRESENTATION, "return_url"),
            "address to return to",
            "LTI Core 1.3, 5.4.4",
        ),
        locale=_part(claims, v.LAUNCH_PRESENTATION, "locale") or str(claims.get("locale") or ""),
        timezone=resolved(custom, CONTEXT_ZONE),
        platform={str(key): str(value) for key, value in about.items()}
        if isinstance(about, dict)
        else {},
    )


def write_launch(launch: Launch) -> Json:
    """Return the LTI claims of a launch.

    ``iss``, ``aud``, times and nonce are the signer's to add.
    """
    person = launch.person
    claims: Json = {
        "sub": person.sub,
        v.MESSAGE_TYPE: v.RESOURCE_LINK_REQUEST,
        v.VERSION: v.LTI_VERSION,
        v.DEPLOYMENT_ID: launch.deployment_id,
        v.TARGET_LINK_URI: launch.target_link_uri,
        v.RESOURCE_LINK: {"id": launch.resource_link_id, "title": launch.resource_link_title},
        v.ROLES: list(launch.roles),
    }
    for name in ("name", "given_name", "family_name", "email", "locale"):
        if value := getattr(person, name):
            claims[name] = value
    if person.sourced_id:
        claims[v.LIS] = {"person_sourcedid": person.sourced_id}
    if launch.context:
        claims[v.CONTEXT] = {
            "id": launch.context.id,
            "title": launch.context.title,
            "label": launch.context.label,
            "type": ["http://purl.imsglobal.org/vocab/lis/v2/course#CourseSection"],
        }
    custom = dict(launch.custom, **({CONTEXT_ZONE: launch.timezone} if launch.timezone else {}))
    if launch.platform:
        claims[v.TOOL_PLATFORM] = dict(launch.platform)
    if custom:
        claims[v.CUSTOM] = custom
    if launch.grades:
        endpoint = {
            "scope": list(launch.grades.scopes),
            "lineitems": launch.grades.lineitems,
            "lineitem": launch.grades.lineitem,
        }
        claims[v.AGS_CLAIM] = {key: value for key, value in endpoint.items() if value}
    if launch.memberships_url:
        claims[v.NRPS_CLAIM] = {
            "context_memberships_url": launch.memberships_url,
            "service_versions": ["2.0"],
        }
    if launch.outline:
        claims[v.OUTLINE_CLAIM] = {
            "scope": list(launch.outline.scopes),
            "outline": launch.outline.outline,
        }
    if launch.return_url or launch.locale:
        presentation = {
            "return_url": launch.return_url,
            "locale": launch.locale,
            "document_target": "window",
        }
        claims[v.LAUNCH_PRESENTATION] = {
            name: value for name, value in presentation.items() if value
        }
    return claims


def _part(claims: Json, claim: str, name: str) -> str:
    value = claims.get(claim)
    return str(value.get(name) or "") if isinstance(value, dict) else ""


def _object(claims: Json, name: str, clause: str) -> Json:
    value = claims.get(name)
    if not isinstance(value, dict):
        raise LtiError(
            "bad_message", f"The message lacks the claim {name.rsplit('/', 1)[-1]}.", clause
        )
    return value


def _text(claims: Json, name: str, clause: str) -> str:
    value, said = claims.get(name), name.rsplit("/", 1)[-1]
    if not isinstance(value, str) or not value:
        raise LtiError("bad_message", f"The message lacks the claim {said}.", clause)
    return value


def _id(claims: Json, name: str, what: str, clause: str) -> str:
    """Return an id, which the standard limits to 255 characters."""
    value = _text(claims, name, clause)
    if len(value) > LONGEST_ID:
        raise LtiError(
            "bad_message",
            f"The {what} has {len(value)} characters; the standard allows {LONGEST_ID}.",
            clause,
        )
    return value


def _address(value: str, what: str, clause: str) -> str:
    """Return an address that may be called or led to; nothing for one of another kind.

    Raises LtiError for one that would run in a browser.
    """
    scheme = value.partition(":")[0].strip().lower()
    if scheme in {"javascript", "data", "vbscript"}:
        raise LtiError("bad_message", f"The {what} is not a web address.", clause)
    return value if scheme in {"http", "https"} and len(value) <= LONGEST_ADDRESS else ""


def _person(claims: Json) -> Person:
    fields = {
        name: str(claims.get(name) or "")
        for name in ("name", "given_name", "family_name", "email", "locale")
    }
    fields["sourced_id"] = _part(claims, v.LIS, "person_sourcedid")
    return Person(sub=_id(claims, "sub", "person's id (sub)", "LTI Core 1.3, 5.3.6"), **fields)


def _context(claims: Json) -> Context | None:
    value = claims.get(v.CONTEXT)
    if not isinstance(value, dict):
        return None
    return Context(
        _id(value, "id", "course's id", "LTI Core 1.3, 5.4.1"),
        str(value.get("title") or ""),
        str(value.get("label") or ""),
    )


def _grades(claims: Json) -> GradeEndpoint | None:
    value = claims.get(v.AGS_CLAIM)
    if not isinstance(value, dict):
        return None
    clause = "AGS 2.0, 3.6"
    return GradeEndpoint(
        _scopes(value),
        _address(str(value.get("lineitems") or ""), "columns' address", clause),
        _address(str(value.get("lineitem") or ""), "column's address", clause),
    )


def _scopes(claim: Json) -> tuple[str, ...]:
    value = claim.get("scope")
    return tuple(map(str, value[:100])) if isinstance(value, list) else ()


def _outline(claims: Json) -> OutlineEndpoint | None:
    value = claims.get(v.OUTLINE_CLAIM)
    if not isinstance(value, dict):
        return None
    outline = _address(
        str(value.get("outline") or ""), "outline's address", "docs/shell-outline.md"
    )
    return OutlineEndpoint(_scopes(value), outline)
