"""The objects of the API as typed dictionaries; names and meanings are the schema's."""

from __future__ import annotations

from typing import Any, TypedDict


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
    """Work with progress: ``queued``, ``running``, ``waiting``, ``done`` or ``failed``."""

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
    reason: str
    placed: str
    folder: str
    column: bool


class Import(TypedDict):
    """An import of a cartridge."""

    id: str
    source: str
    filename: str
    title: str
    version: str
    counts: dict[str, int]
    findings: list[dict[str, str]]
    report: dict[str, int]
    job: Job


class Plan(TypedDict):
    """What a rollout will do."""

    folder: str
    new_folder: str
    links: list[dict[str, Any]]
    columns: int
    unchanged: list[str]
    notices: list[dict[str, str]]


class Rollout(TypedDict):
    """A rollout with its job and steps."""

    id: str
    folder: str
    job: Job
    steps: list[dict[str, str]]


class Relay(TypedDict):
    """How the relay stands."""

    on: bool
    state: str
    counts: dict[str, int]
    received: int
    cells: list[dict[str, Any]]


class Comparison(TypedDict):
    """A comparison; summary, venn and matrix are None until it is done."""

    id: str
    at: str | None
    job: Job
    summary: dict[str, Any] | None
    venn: dict[str, list[int]] | None
    matrix: dict[str, Any] | None


class Finding(TypedDict):
    """One difference, its cause and the remedies offered."""

    id: int
    scope: str
    kind: str
    level: str
    side: str
    item: str
    learner: str
    email: str
    publisher: str | None
    gradebook: str | None
    sent: str | None
    scaled: str | None
    cause: str
    remedies: list[str]
    candidates: list[dict[str, Any]]


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


class Consent(TypedDict):
    """What is read and written, and who agreed."""

    agreed: bool
    by: str
    at: str | None
    reads: list[dict[str, str]]
    writes: list[dict[str, str]]


class ShellTool(TypedDict):
    """The tool's place in a shell; ``by_hand`` are the steps where the platform has no service for it."""

    offered: bool
    on: bool | None
    navigation: bool | None
    position: int | None
    audience: str
    etag: str
    links: int
    by_hand: list[str]
    opened_at: str
    warning: str


class Copied(TypedDict):
    """What a shell was copied from; ``ways`` have ``choice``, ``open`` and ``why``."""

    copied: bool
    shell: str
    course: str
    publisher: str
    links: int
    ways: list[dict[str, Any]]


class Title(TypedDict):
    """An adopted title."""

    id: str
    title: str
    author: str
    isbn: str
    edition: str
    publisher: str
    can_create: bool
    why_not: str


class SeveralRow(TypedDict):
    """A shell with the course guessed for it or paired with it, or why it was refused."""

    shell: str
    label: str
    course: str | None
    course_name: str
    reasons: list[str]
    pairing: str | None
    refused: str


class FirstSteps(TypedDict):
    """What learners are told first."""

    access: str
    chosen: str
    title: str
    text: str
    html: str
    entry: str


class Matches(TypedDict):
    """Accounts that need a person's word, and those that got it."""

    open: list[dict[str, Any]]
    confirmed: list[dict[str, Any]]


class Account(TypedDict):
    """One's account at a publisher: ``none``, ``begun``, ``pending`` or ``linked``."""

    id: str | None
    publisher: str
    publisher_name: str
    state: str
    account: str
    email: str
    courses: int
    linked_at: str | None
    warning: str


class Notice(TypedDict):
    """A word that something is ready or needs one."""

    id: int
    at: str
    sentence: str
    link: str
    read_at: str | None
