"""What a kind of operation is; each app registers its own."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db.models import Count, QuerySet

from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.steps import AGAIN, Step, StepState


@dataclass(frozen=True, slots=True)
class StepRow:
    """One write of an operation: what it does to what, what was there before and what is there
    afterwards where that is a value (None: nothing), and what came of it.

    ``state`` is a ``StepState``; ``left`` means that nothing was written on purpose, and
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
    """What undoing would do with one thing; ``why`` is empty, or says why it stays; ``shows``: it
    stays in the shell, and learners see it again.
    """

    title: str
    does: str
    why: str = ""
    shows: bool = False


class Kind(ABC):
    """One kind of operation."""

    name: str  # of its jobs
    alone: str = ""  # of these a pairing has one at a time; empty where there is no harm in two
    busy: tuple[str, str, str]  # code, words and remedy of the refusal of a second one
    step: type[Step]  # its steps' table

    @abstractmethod
    def says(self, job: Job) -> str:
        """Return what it does, as a title."""

    @abstractmethod
    def subject(self, job: Job) -> str:
        """Return the id of what it carries out: of the rollout, the delivery, the settlement."""

    @abstractmethod
    def link(self, job: Job) -> str:
        """Return where the console shows it."""

    @abstractmethod
    def row(self, step: Any) -> StepRow:
        """Return a step in the shape that all have."""

    @abstractmethod
    def plan_undo(self, job: Job) -> list[Reversal]:
        """Return what undoing would do. Raises Refused, OutsideError."""

    @abstractmethod
    def undo(self, job: Job, actor: Any) -> Job:
        """Begin the undoing. Raises Refused, OutsideError."""

    def steps(self, job: Job) -> QuerySet[Step]:
        """Return its steps in order."""
        return self.step._default_manager.filter(job=job).order_by("position")

    def prepare_again(self, job: Job) -> int:
        """Let what failed or was not begun be done again, in the caller's transaction; return how
        many steps that are. 0 where nothing can be.
        """
        left = self.steps(job).filter(state__in=AGAIN)
        return left.update(state=StepState.PLANNED, message="", done_at=None)


def count_steps(jobs: Iterable[Job]) -> Mapping[UUID, Mapping[str, int]]:
    """Return how many steps of each job are in which state, with one query for each table."""
    tables: dict[type[Step], list[UUID]] = defaultdict(list)
    for each in jobs:
        tables[kind_of(each).step].append(each.pk)
    found: dict[UUID, dict[str, int]] = defaultdict(dict)
    for table, keys in tables.items():
        rows = table._default_manager.filter(job__in=keys).order_by()
        for key, state, count in rows.values_list("job", "state").annotate(Count("pk")):
            found[key][state] = count
    return found


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
