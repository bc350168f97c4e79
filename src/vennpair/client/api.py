"""One method for each endpoint; lists are walked to their end, writes carry an idempotency key."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from functools import partial

from vennpair.client.connect import Connections
from vennpair.client.content import Content
from vennpair.client.deploy import Deploying
from vennpair.client.errors import Refusal
from vennpair.client.operations import Operating
from vennpair.client.pair import SettingUp
from vennpair.client.reconcile import Reconciling
from vennpair.client.relay import Relaying
from vennpair.client.schema import (
    Job,
    Me,
    Shell,
    Token,
)
from vennpair.client.set_up import SetUps

_ENDED = {"done", "failed", "cancelled"}


class VennPair(
    Connections, SettingUp, Content, Deploying, Relaying, Reconciling, Operating, SetUps
):
    """A client of one service.

    ``transport`` can be replaced for tests. Every method raises Unreachable, NotAllowed or Refusal.
    A write that breaks off is repeated with the same idempotency key, so it is done once.
    """

    def sign_in(self, username: str, password: str, code: str = "") -> Token:
        """Get a token for a name and password, and a code where the account has a second factor.

        Raises NotAllowed ``code_needed`` where it has one and none was given.
        """
        facts = {"username": username, "password": password, "code": code}
        return self._post(Token, "/sign-in", facts)

    def sign_out(self, *, everywhere: bool = False) -> None:
        """Revoke the token; ``everywhere``, all tokens and sessions of who asks."""
        self._done("POST", "/sign-out", json={"everywhere": everywhere})

    def me(self) -> Me:
        """Say who is signed in."""
        return self._get(Me, "/me")

    def shells(self) -> Iterator[Shell]:
        """Yield every shell that one teaches or assists in."""
        return self._list(Shell, "/shells")

    def job(self, job: str) -> Job:
        """Return one job."""
        return self._get(Job, f"/jobs/{job}")

    def wait(
        self, job: Job, progress: Callable[[Job], None] = lambda job: None, seconds: float = 600
    ) -> Job:
        """Wait until a job has ended; ``progress`` is called whenever it was looked at. The job
        goes on while the service cannot be reached, and so does the waiting, for two minutes.

        Raises Refusal ``job_failed`` where it failed, ``job_cancelled`` where somebody stopped it,
        ``job_slow`` after ``seconds``.
        """
        deadline, pause = time.monotonic() + seconds, 0.1
        while job["state"] not in _ENDED:
            if time.monotonic() > deadline:
                raise Refusal(
                    504,
                    "job_slow",
                    f"It is not done after {seconds:.0f} seconds: {job['message']}",
                    "It continues; look again with 'vennpair status'.",
                )
            time.sleep(pause)
            pause = min(pause * 1.3, 0.5)
            job = self._look(partial(self.job, job["id"]))
            progress(job)
        if job["state"] == "failed":
            raise Refusal(422, "job_failed", job["message"], job["remedy"])
        if job["state"] == "cancelled":
            raise Refusal(409, "job_cancelled", job["message"], job["remedy"])
        return job
