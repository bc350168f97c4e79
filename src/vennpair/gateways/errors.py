"""The one exception of all outside calls."""

from __future__ import annotations

from vennpair.core.failures import Failure


class OutsideError(Exception):
    """A call to an outside system failed; ``failure`` says of which kind and what to do."""

    def __init__(self, failure: Failure) -> None:
        super().__init__(failure.message)
        self.failure = failure
