"""The objects of deploying as typed dictionaries; names and meanings are the schema's."""

from __future__ import annotations

from typing import Any, TypedDict

from vennpair.client.types import Job


class ShellPlan(TypedDict):
    """What a rollout will do in one shell: rows of make, change, same or leave_out, in
    their order.
    """

    pairing: str
    shell: str
    zone: str
    shift_days: int | None
    folders: list[dict[str, str]]
    rows: list[dict[str, Any]]
    make: int
    change: int
    same: int
    columns: int
    categories: list[str]
    notices: list[dict[str, str]]
    lost: list[str]
    unread: bool


class Rollout(TypedDict):
    """A rollout with its job; ``steps`` only where one was asked for."""

    id: str
    batch: str
    pairing: str
    shell: str
    purpose: str
    folder: str
    job: Job
    made_at: str
    failed: int
    undone: bool
    steps: list[dict[str, str]]


class Placement(TypedDict):
    """A link as it was deployed."""

    id: str
    item: str
    item_title: str
    unit: str
    state: str
    title: str
    folder: str
    folder_id: str
    place: int
    entry_id: str
    column: bool
    points: str | None
    due_date: str
    category: str
    visible: bool
    shown_from: str
    new_window: bool
    shift_days: int


class Drift(TypedDict):
    """One drift: what changed where, and what it breaks."""

    id: str
    placement: str
    kind: str
    side: str
    level: str
    title: str
    before: str
    after: str
    who: str
    breaks: str


class Watch(TypedDict):
    """How drift is met, when it was last looked for, and what was found."""

    way: str
    looked_at: str | None
    drifts: list[Drift]


class LearnerCheck(TypedDict):
    """Links opened as a test learner."""

    id: str
    job: Job
    made_at: str
    rows: list[dict[str, Any]]
