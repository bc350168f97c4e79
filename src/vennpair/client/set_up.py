"""Setting up several sections together."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial
from typing import Any

from vennpair.client.errors import Refusal
from vennpair.client.schema import SectionPlan, SetUp, SetUpPlan, SetUpRow
from vennpair.client.transport import Transport

BUSY = frozenset({"reading", "running", "waiting", "undoing"})


class SetUps(Transport):
    """The part of the client that sets up sections.

    ``wishes`` are the fields of ``SetUpWishesSerializer`` in the schema.
    """

    def begin_set_up(
        self,
        sections: Sequence[tuple[str, str | Mapping[str, Any] | None]],
        *,
        agree: bool = False,
    ) -> SetUp:
        """Pair each shell with its course, the one that fits where None is given, and begin to read
        the courses. Writes nothing to a shell.

        In place of a course's id: ``{"title": id}``, ``{"copy_of": id}`` or ``{"section_of": id}``,
        with ``name`` where the publisher shall call it so, lets the publisher make one;
        ``{"course": id, "share": True}`` shares one that another shell has.
        """
        rows = [
            {"shell": shell} | (dict(course) if isinstance(course, Mapping) else {"course": course})
            for shell, course in sections
        ]
        return self._post(SetUp, "/set-ups", {"sections": rows, "agree": agree})

    def set_up(self, key: str) -> SetUp:
        """Return a set-up with how far each section is."""
        return self._get(SetUp, f"/set-ups/{key}")

    def set_ups(self) -> Iterator[SetUpRow]:
        """Yield one's set-ups, the newest first."""
        return self._list(SetUpRow, "/set-ups")

    def plan_set_up(self, key: str, **wishes: Any) -> list[SectionPlan]:
        """Say what would happen, section by section. Changes nothing."""
        return self._post(SetUpPlan, f"/set-ups/{key}/plan", wishes)["sections"]

    def start_set_up(self, key: str, **wishes: Any) -> SetUp:
        """Begin with every section that is ready."""
        return self._post(SetUp, f"/set-ups/{key}/start", wishes)

    def forget_set_up(self, key: str) -> None:
        """Forget a set-up that was never started."""
        self._done("DELETE", f"/set-ups/{key}")

    def stop_set_up(self, key: str) -> SetUp:
        """Ask it to stop."""
        return self._post(SetUp, f"/set-ups/{key}/stop", {})

    def undo_set_up(self, key: str) -> SetUp:
        """Begin taking back all that it did."""
        return self._post(SetUp, f"/set-ups/{key}/undo", {})

    def wait_for_set_up(
        self,
        key: str,
        progress: Callable[[SetUp], None] = lambda found: None,
        seconds: float = 1800,
    ) -> SetUp:
        """Wait until no section is under way; ``progress`` is called whenever it was looked at.

        Raises Refusal ``job_slow`` after ``seconds``.
        """
        deadline, pause = time.monotonic() + seconds, 0.1
        while True:
            found = self._look(partial(self.set_up, key))
            progress(found)
            if all(each["stage"] not in BUSY for each in found["sections"]):
                return found
            if time.monotonic() > deadline:
                raise Refusal(
                    504,
                    "job_slow",
                    f"It is not done after {seconds:.0f} seconds.",
                    "It goes on without you; look again later.",
                )
            time.sleep(pause)
            pause = min(pause * 1.3, 0.5)
