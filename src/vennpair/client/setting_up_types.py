"""The objects of setting up as typed dictionaries."""

from __future__ import annotations

from typing import Any, TypedDict


class Consent(TypedDict):
    """What is read and written, and who agreed."""

    agreed: bool
    by: str
    at: str | None
    reads: list[dict[str, str]]
    writes: list[dict[str, str]]


class ShellTool(TypedDict):
    """The tool's place in a shell; ``by_hand`` are the steps where the platform has no service for
    it.
    """

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
