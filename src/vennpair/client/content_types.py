"""The objects of content as typed dictionaries."""

from __future__ import annotations

from typing import Any, TypedDict

from vennpair.client.types import Job


class Package(TypedDict):
    """A cartridge on its way in: ``received`` are the numbers of the parts that arrived."""

    id: str
    filename: str
    size: int
    complete: bool
    part_bytes: int
    received: list[int]


class Import(TypedDict):
    """An import of a cartridge; ``stage`` is queued, reading, checked, importing or done."""

    id: str
    source: str
    stage: str
    filename: str
    title: str
    version: str
    profile: str
    counts: dict[str, int]
    findings: list[dict[str, str]]
    report: dict[str, int]
    made_at: str
    kept: bool
    standing: bool
    job: Job


class Entry(TypedDict):
    """A row of an import's outline; ``parent`` is the position of its folder, -1 at the top."""

    id: str
    position: int
    parent: int
    depth: int
    kind: str
    title: str
    shown_title: str
    naming: str
    naming_reason: str
    unit: str
    audience: str
    url: str
    new_window: bool
    custom: dict[str, str]
    questions: dict[str, int]
    line_item: str
    points: str | None
    due_date: str
    category: str
    reason: str
    group: str
    trouble: str
    trouble_message: str
    trouble_remedy: str
    blocked: bool
    state: str
    message: str
    node: str


class DeliveryPlan(TypedDict):
    """What bringing entries in will do, entry by entry."""

    folder: str
    new_folder: str
    counts: dict[str, int]
    columns: int
    entries: list[dict[str, Any]]


class Delivery(TypedDict):
    """Entries on their way into the shell, or out of it again."""

    id: str
    folder: str
    undoes: str | None
    made_at: str
    words: str
    job: Job


class Written(TypedDict):
    """A cartridge that was written; ``package`` is None until it is done."""

    id: str
    profile: str
    package: str | None
    filename: str
    size: int
    job: Job


class Catalogue(TypedDict):
    """One reading of the publisher's catalogue, and what had changed."""

    at: str
    items: int
    changes: list[dict[str, str]]
    words: str
