"""The objects of the API as typed dictionaries; names and meanings are the schema's."""

from __future__ import annotations

from typing import TypedDict


class SignedIn(TypedDict):
    """A token and until when it is good."""

    token: str
    expires: str
    name: str


class Me(TypedDict):
    """Who is signed in."""

    username: str
    name: str
    institution: str
    administrator: bool
    designer: bool
    notices: int
    has_password: bool
    digest: str


class Shell(TypedDict):
    """A shell; ``pairing`` is None while it is unpaired."""

    id: str
    title: str
    label: str
    timezone: str
    platform: str
    pairing: str | None
    state: str
    course: str
    attention: str
    copied: bool
    ended: str | None
    opened_at: str


class Course(TypedDict):
    """A homework course; ``fit`` is 0 to 1, ``offers`` what its publisher lets one do with it."""

    id: str
    title: str
    author: str
    isbn: str
    code: str
    section: str
    term: str
    learners: int | None
    publisher: str
    paired: bool
    mine: bool
    shared: bool
    offers: list[str]
    fit: float
    reasons: list[str]


class Pairing(TypedDict):
    """A pairing with its two sides."""

    id: str
    state: str
    relay_on: bool
    access: str
    shell: dict[str, str]
    course: dict[str, str]
    made_at: str
    ended_at: str | None
    may_change: bool
    set_up: Job | None


class Check(TypedDict):
    """One readiness check: ``ok``, ``warn`` or ``fail``."""

    code: str
    state: str
    message: str
    remedy: str


class Job(TypedDict):
    """Work with progress: ``queued``, ``running``, ``waiting``, ``done``, ``failed`` or
    ``cancelled``.
    """

    id: str
    kind: str
    pairing: str
    state: str
    done: int
    total: int
    message: str
    remedy: str
    made_at: str
    ended_at: str | None


class Item(TypedDict):
    """An item; ``points`` is exact text, ``placed`` one of no, planned, placed, failed."""

    id: str
    title: str
    shown_title: str
    kind: str
    unit: str
    position: int
    audience: str
    points: str | None
    due_date: str
    category: str
    line_item: str
    reason: str
    placed: str
    folder: str
    column: bool
