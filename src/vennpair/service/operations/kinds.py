"""What a kind of operation is; each app registers its own."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, Protocol
from uuid import UUID

from django.db.models import QuerySet

from vennpair.service.kernel.jobs.models import Job

# What a step may have come to, for all kinds.
PLANNED, RUNNING, DONE, FAILED = "planned", "running", "done", "failed"
STOPPED, LEFT, UNDONE = "stopped", "left", "undone"
STEP_STATES = (PLANNED, RUNNING, DONE, FAILED, STOPPED, LEFT, UNDONE)


@dataclass(frozen=True, slots=True)
class StepRow:
    """One write of an operation: what it does to what, what stood there before and what is there
    afterwards where that is a value (None: nothing), and what came of it.

    ``state`` is one of ``STEP_STATES``; ``left`` means that nothing was written on purpose, and
    ``message`` says why.
    """

    does: str
    title: str
    state: str
    message: str = ""
    before: str | None = None
    after: str | None = None


@dataclass(frozen=True, slots=True)
class Reversal:
    """What undoing would do with one thing; ``why`` is empty, or says why it stays."""

    title: str
    does: str
    why: str = ""


class Kind(Protocol):
    """One kind of operation."""

    name: str  # of its jobs
    alone: str  # of these a pairing has one at a time; empty where there is no harm in two
    busy: tuple[str, str, str]  # code, words and remedy of the refusal of a second one

    def says(self, job: Job) -> str:
        """Return what it does, as a title."""

    def subject(self, job: Job) -> str:
        """Return the id of what it carries out: of the rollout, the delivery, the settlement."""

    def link(self, job: Job) -> str:
        """Return where the console shows it."""

    def steps(self, job: Job) -> QuerySet[Any]:
        """Return its steps in order; the order ends in ``position``, which is unique."""

    def row(self, job: Job, step: Any) -> StepRow:
        """Return a step in the shape that all have."""

    def counts(self, jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
        """Return how many steps of each job are in which state, with one query for all."""

    def prepare_again(self, job: Job) -> int:
        """Let what failed or was not begun be done again, in the caller's transaction; return how
        many steps that are. 0 where nothing can be.
        """

    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do. Raises Refused, OutsideError."""

    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""


_kinds: dict[str, Kind] = {}


def register(*kinds: Kind) -> None:
    """Register kinds; called once by each app when all are there."""
    _kinds.update({each.name: each for each in kinds})


def kind_of(job: Job) -> Kind:
    """Return a job's kind. Raises KeyError for one that writes nothing outside."""
    return _kinds[job.kind]


def kind_named(name: str) -> Kind:
    """Return a kind by the name of its jobs. Raises KeyError."""
    return _kinds[name]


def names() -> list[str]:
    """Return the kinds of jobs that are operations."""
    return list(_kinds)
