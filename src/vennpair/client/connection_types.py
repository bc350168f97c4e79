"""The objects of connections, people and tokens as typed dictionaries."""

from __future__ import annotations

from typing import TypedDict


class Handshake(TypedDict):
    """One step of a connection check: ``ok``, ``fail`` or ``skip``; ``side`` is who must act."""

    step: str
    state: str
    message: str
    remedy: str
    side: str


class Platform(TypedDict):
    """A registered course platform."""

    id: str
    name: str
    issuer: str
    client_id: str
    deployment_ids: list[str]
    asked_deployments: list[str]
    authorization_url: str
    token_url: str
    jwks_url: str
    token_audience: str
    product: str
    how: str
    active: bool
    launched_at: str | None
    shells: int


class Publisher(TypedDict):
    """A registered publisher; ``card`` is what it must know of us."""

    id: str
    name: str
    speaks: str
    how: str
    active: bool
    can_launch: bool
    login_url: str
    launch_url: str
    redirect_uris: list[str]
    jwks_url: str
    custom: dict[str, str]
    key: str
    has_shared_secret: bool
    oneroster_url: str
    oneroster_token_url: str
    oneroster_client_id: str
    has_oneroster_secret: bool
    provisioning_url: str
    features: list[str]
    courses: int
    card: dict[str, str]


class Person(TypedDict):
    """Somebody of the institution."""

    id: int
    username: str
    name: str
    role: str
    last_login: str | None


class MadeToken(TypedDict):
    """A token, shown once."""

    token: str
    id: str
    expires: str
