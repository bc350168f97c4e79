"""What comparing and settling answer."""

from __future__ import annotations

from typing import Any, NotRequired, TypedDict

from vennpair.client.types import Job


class Comparison(TypedDict):
    """A comparison; summary, venn and matrix are None until it is done. ``sources`` says where each
    side was read, and when.

    ``file`` is the gradebook that was given for it, empty where the platform was asked.
    """

    id: str
    file: str
    at: str | None
    job: Job
    summary: dict[str, Any] | None
    venn: dict[str, list[int]] | None
    sources: list[dict[str, str]]
    matrix: NotRequired[dict[str, Any] | None]
    shares: NotRequired[list[list[list[float | None]]]]


class Finding(TypedDict):
    """One difference, its cause and the remedies offered.

    ``default`` is empty where a person must choose.
    """

    id: int
    scope: str
    kind: str
    level: str
    side: str
    placement: str | None
    person: str | None
    item: str
    learner: str
    email: str
    publisher: str | None
    publisher_points: str | None
    publisher_at: str
    source: str
    gradebook: str | None
    gradebook_points: str | None
    sent: str | None
    scaled: str | None
    cause: str
    because: str
    remedies: list[str]
    default: str
    candidates: list[dict[str, Any]]
    since: str | None
    new: bool
    kept: str | None


class Choice(TypedDict, total=False):
    """A finding to be settled, its remedy (none: the default), and for a match the
    candidate's key.
    """

    finding: int
    remedy: str
    candidate: str


class Step(TypedDict):
    """One finding being settled: ``planned``, ``done``, ``moved`` (something else stood there),
    ``failed`` or ``undone``.
    """

    scope: str
    kind: str
    remedy: str
    item: str
    learner: str
    publisher: str | None
    before: str | None
    after: str | None
    words: str
    writes: bool
    state: str
    message: str
    done_at: str | None


class Settlement(TypedDict):
    """Findings settled together: ``proposed``, ``begun``, ``done`` or ``dismissed``."""

    id: str
    state: str
    made_by: str
    made_at: str
    carried_by: str
    job: Job | None
    undoes: str | None
    undone: bool
    counts: dict[str, int]
    steps: NotRequired[list[Step]]


class Preview(TypedDict):
    """What would be written; ``settlement`` is None where it was only shown."""

    steps: list[Step]
    writes: int
    settlement: Settlement | None


class Note(TypedDict):
    """A word left on a cell."""

    id: int
    placement: str
    learner: str
    item: str
    learner_name: str
    text: str
    author: str
    at: str


class CellStory(TypedDict):
    """Everything known of a cell, the oldest first."""

    item: str
    learner: str
    points: str | None
    kind: str
    events: list[dict[str, Any]]
    notes: list[Note]


class Agreement(TypedDict):
    """How far one pairing agrees; ``standing``: waiting, comparing, failed, compared or never."""

    pairing: str
    shell: str
    course: str
    platform: str
    publisher: str
    state: str
    teachers: list[str]
    standing: str
    trouble: str
    at: str | None
    cells: int
    agree: int
    urgent: int
    open: dict[str, int]
    oldest: str | None


class Schedule(TypedDict):
    """Whether a pairing is compared every night, and until when its grades are to be submitted."""

    nightly: bool
    grades_due: str | None


class Statement(TypedDict):
    """Whether grades are ready; each line has ``level`` (open, look, well), ``what``, ``sentence``,
    ``remedy`` and ``page``.
    """

    ready: bool
    sentence: str
    lines: list[dict[str, str]]
    schedule: Schedule
