"""Names and Role Provisioning Services 2.0: the members of a context."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.vocabulary import expand_role

Json = dict[str, Any]
LONGEST_ID = 255


@dataclass(frozen=True, slots=True)
class Member:
    """One member of a course (NRPS 2.0, 2.4)."""

    user_id: str
    roles: tuple[str, ...]
    name: str = ""
    given_name: str = ""
    family_name: str = ""
    email: str = ""
    sourced_id: str = ""
    active: bool = True


def write_members(url: str, context: Json, members: list[Member]) -> Json:
    """Return one page of a membership container."""
    rows = []
    for member in members:
        fields = {
            "name": member.name,
            "given_name": member.given_name,
            "family_name": member.family_name,
            "email": member.email,
            "lis_person_sourcedid": member.sourced_id,
        }
        row: Json = {
            "user_id": member.user_id,
            "roles": list(member.roles),
            "status": "Active" if member.active else "Inactive",
        }
        rows.append(row | {key: value for key, value in fields.items() if value})
    return {"id": url, "context": context, "members": rows}


def read_members(document: Json) -> list[Member]:
    """Read one page of a membership container. Raises LtiError ``bad_members`` (NRPS 2.0, 2.2)."""
    rows = document.get("members") if isinstance(document, dict) else None
    if not isinstance(rows, list):
        raise LtiError("bad_members", "The answer holds no list of members.", "NRPS 2.0, 2.2")
    return [_member(row) for row in rows]


def _member(row: Json) -> Member:
    if not isinstance(row, dict) or not row.get("user_id"):
        raise LtiError("bad_members", "A member has no user_id.", "NRPS 2.0, 2.4")
    fields = {
        name: str(row.get(name) or "") for name in ("name", "given_name", "family_name", "email")
    }
    user, roles = str(row["user_id"]), row.get("roles")
    if len(user) > LONGEST_ID:
        raise LtiError("bad_members", f"A user_id has {len(user)} characters.", "NRPS 2.0, 2.4")
    return Member(
        user_id=user,
        roles=tuple(expand_role(str(role)) for role in roles) if isinstance(roles, list) else (),
        sourced_id=str(row.get("lis_person_sourcedid") or ""),
        active=row.get("status", "Active") == "Active",
        **fields,
    )
