"""Connections, people and tokens: what administrators do, and one's own tokens."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

from vennpair.client.schema import (
    AuditEvent,
    CollegeSignIn,
    Handshake,
    MadeToken,
    Person,
    Platform,
    Publisher,
)
from vennpair.client.transport import Transport


class Connections(Transport):
    """The part of the client for administrators."""

    def platforms(self) -> Iterator[Platform]:
        """Yield the registered course platforms."""
        return self._list(Platform, "/connections/platforms")

    def publishers(self) -> Iterator[Publisher]:
        """Yield the registered publishers."""
        return self._list(Publisher, "/connections/publishers")

    def audit(self, **wanted: str) -> Iterator[AuditEvent]:
        """Yield what was done in the institution, the newest first: ``verb`` (its beginning),
        ``who``, ``since`` and ``until`` (ISO 8601 with a zone).
        """
        return self._list(AuditEvent, "/audit", wanted)

    def save_audit(self, target: Path, **wanted: str) -> None:
        """Save the same as a table, the oldest first. Raises OSError where the file cannot be
        written.
        """
        self._download(f"/audit/export?{urlencode(wanted)}", target)

    def tool_card(self) -> list[dict[str, str]]:
        """Return our values as a tool, each with its label and what it is for."""
        return self._get(list[dict[str, str]], "/connections/platforms/card")

    def register_at_platform(
        self, openid_configuration: str, registration_token: str = "", name: str = ""
    ) -> Platform:
        """Register dynamically from the platform's configuration address and registration token."""
        return self._post(
            Platform,
            "/connections/platforms/register",
            {
                "openid_configuration": openid_configuration,
                "registration_token": registration_token,
                "name": name,
            },
        )

    def invite_platform(self, name: str = "") -> dict[str, str]:
        """Make a one-time ``link`` that a platform's administrator enters there."""
        return self._post(dict[str, str], "/connections/platforms/invite", {"name": name})

    def invite_publisher(self, registration_url: str, name: str = "") -> dict[str, str]:
        """Begin a registration at a publisher's tool; ``open`` is the address to open, once."""
        return self._post(
            dict[str, str],
            "/connections/publishers/invite",
            {"registration_url": registration_url, "name": name},
        )

    def invitation(self, invitation: str) -> dict[str, Any]:
        """Say whether a registration has come in (``used_at``)."""
        return self._get(dict[str, Any], f"/connections/invitations/{invitation}")

    def add_platform(self, **fields: Any) -> Platform:
        """Register a platform by hand."""
        return self._post(Platform, "/connections/platforms", fields)

    def add_publisher(self, **fields: Any) -> Publisher:
        """Register a publisher by hand; with a ``name`` alone its ``card`` is reserved."""
        return self._post(Publisher, "/connections/publishers", fields)

    def change_platform(self, platform: str, **changes: Any) -> Platform:
        """Change a platform's registration."""
        return self._call(Platform, "PATCH", f"/connections/platforms/{platform}", json=changes)

    def change_publisher(self, publisher: str, **changes: Any) -> Publisher:
        """Change a publisher's registration."""
        return self._call(Publisher, "PATCH", f"/connections/publishers/{publisher}", json=changes)

    def check_platform(self, platform: str) -> list[Handshake]:
        """Run every handshake with a platform for real."""
        return self._post(list[Handshake], f"/connections/platforms/{platform}/check", {})

    def check_publisher(self, publisher: str) -> list[Handshake]:
        """Run every handshake with a publisher for real."""
        return self._post(list[Handshake], f"/connections/publishers/{publisher}/check", {})

    def signing_keys(self) -> list[dict[str, Any]]:
        """Return our signing keys, newest first."""
        return self._get(list[dict[str, Any]], "/connections/keys")

    def people(self) -> Iterator[Person]:
        """Yield the people of the institution."""
        return self._list(Person, "/people")

    def change_person(self, person: int, role: str) -> Person:
        """Make somebody ``administrator``, ``designer`` or ``teacher``."""
        return self._call(Person, "PATCH", f"/people/{person}", json={"role": role})

    def block_person(self, person: int, *, blocked: bool = True) -> Person:
        """Block somebody everywhere at once, or let them in again."""
        return self._call(Person, "PATCH", f"/people/{person}", json={"blocked": blocked})

    def forget_second_factor(self, person: int) -> Person:
        """Let somebody sign in without a code again, where the app is lost."""
        return self._call(Person, "PATCH", f"/people/{person}", json={"second_factor": "off"})

    def college_sign_in(self) -> CollegeSignIn:
        """Return how people sign in at the college; empty fields where they do not."""
        return self._get(CollegeSignIn, "/connections/college-sign-in")

    def set_college_sign_in(
        self, issuer: str, client_id: str, secret: str = "", *, active: bool = True
    ) -> CollegeSignIn:
        """Set it up once the provider answers; an empty secret leaves the one that is kept."""
        facts = {"issuer": issuer, "client_id": client_id, "secret": secret, "active": active}
        return self._call(CollegeSignIn, "PUT", "/connections/college-sign-in", json=facts)

    def remove_college_sign_in(self) -> None:
        """Forget it, and who came from it."""
        self._done("DELETE", "/connections/college-sign-in")

    def remove_person(self, person: int) -> None:
        """Block somebody and take their parts in all shells away."""
        self._done("DELETE", f"/people/{person}")

    def tokens(self) -> list[dict[str, Any]]:
        """Return one's own tokens."""
        return self._get(list[dict[str, Any]], "/me/tokens")

    def make_token(self, name: str, scopes: list[str], days: int = 30) -> MadeToken:
        """Make a token with ``scopes`` out of read, change, connect.

        Its value is shown this once.
        """
        return self._post(MadeToken, "/me/tokens", {"name": name, "scopes": scopes, "days": days})

    def revoke_token(self, token: str) -> None:
        """Revoke a token, by its id."""
        self._done("DELETE", f"/me/tokens/{token}")
