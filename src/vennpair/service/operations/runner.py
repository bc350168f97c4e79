"""Runs the steps of an operation: call, record, go on; from wherever it was left.

Threads make the outside calls; the database is touched by the worker's own thread alone.
"""

from __future__ import annotations

import time
from abc import ABC, abstractmethod
from collections.abc import Callable, Hashable, Iterable, Mapping
from itertools import pairwise
from typing import Generic, TypeVar

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.concurrency import (
    IN_FLIGHT,
    Outcome,
    WorkQueue,
    run_concurrently,
)
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import Cancelled, cancel_asked, step_done
from vennpair.service.kernel.metrics import STEPS
from vennpair.service.operations.steps import Step, StepState, stop_rest

AnyStep = TypeVar("AnyStep", bound=Step)
Record = Callable[[], None]
LOOK_SECONDS = 0.3


class StepRunner(ABC, Generic[AnyStep]):
    """One run over the steps of an operation."""

    def __init__(self, job: Job, steps: QuerySet[AnyStep]) -> None:
        self.job, self.steps = job, steps
        self._looked, self._stopped = 0.0, False

    @abstractmethod
    def call(self, step: AnyStep) -> Record:
        """Make a step's outside call, in a thread and without the database; return how to record
        its answer. The step is done then, unless the recording says otherwise. Raises OutsideError.
        """

    @abstractmethod
    def does(self, step: AnyStep) -> str:
        """Return what a step does, as shown while the operation runs."""

    def failed(self, step: AnyStep, message: str) -> None:
        """Record that a step will not work, and what cannot be done without it."""
        step.state, step.message = StepState.FAILED, message[:500]
        step.save()
        STEPS.labels(step.kind, "failed").inc()

    def planned(self) -> QuerySet[AnyStep]:
        """Return the steps that are still to be done, in their order."""
        return self.steps.filter(state=StepState.PLANNED).order_by("position")

    def goes_on(self) -> bool:
        """Say whether nobody has asked to stop, as of the last third of a second: every answer
        costs time. Raises LockLost.
        """
        if not self._stopped and time.monotonic() - self._looked > LOOK_SECONDS:
            self._looked, self._stopped = time.monotonic(), cancel_asked(self.job)
        return not self._stopped

    def run(self, steps: Iterable[AnyStep], width: int = IN_FLIGHT) -> None:
        """Run steps, ``width`` at once.

        Raises the OutsideError with which the other side asked for patience.
        """
        self._run(WorkQueue(steps), {}, width)

    def run_chains(self, chains: Mapping[Hashable, list[AnyStep]]) -> None:
        """Run chains side by side: the steps of one in their order, each once the one before
        it is done. Raises as ``run``.
        """
        self._run(
            WorkQueue([chain[0] for chain in chains.values()]),
            {one.pk: after for chain in chains.values() for one, after in pairwise(chain)},
            IN_FLIGHT,
        )

    def run_only(self, trouble: tuple[str, str]) -> AnyStep:
        """Run an operation of one step; return it done.

        Raises as ``run``, Cancelled where somebody stopped it, and Refused with the code and words
        of ``trouble`` where it will not work.
        """
        self.run(self.planned())
        if cancel_asked(self.job):
            stop_rest(self.steps)
            raise Cancelled("Stopped before anything was changed.")
        step = self.steps.get()
        if step.state == StepState.FAILED:
            raise Refused(*trouble, step.message)
        return step

    def _run(
        self, queue: WorkQueue[AnyStep], following: Mapping[Hashable, AnyStep], width: int
    ) -> None:
        def settle(outcomes: list[Outcome[AnyStep, Record]]) -> None:
            with transaction.atomic():
                ended = [step for step, result in outcomes if self._record(step, result)]
                if ended:
                    step_done(self.job, self.does(ended[-1]), len(ended))
            for step in ended:
                if step.state == StepState.DONE and step.pk in following:
                    queue.add(following[step.pk])

        run_concurrently(queue, self.call, settle, self.goes_on, width)

    def _record(self, step: AnyStep, result: Record | OutsideError) -> bool:
        """Record what came of a call; say whether the step has ended."""
        step.attempts += 1
        if not isinstance(result, OutsideError):
            step.state, step.message, step.done_at = StepState.DONE, "", timezone.now()
            result()
            step.save()
            STEPS.labels(step.kind, "done").inc()
            return True
        if result.failure.kind is FailureKind.LATER:
            step.message = result.failure.message[:500]
            step.save(update_fields=["message", "attempts"])
            return False
        self.failed(step, f"{result.failure.message} {result.failure.remedy}")
        return True
