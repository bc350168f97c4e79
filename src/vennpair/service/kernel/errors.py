"""A use case that cannot be carried out says so by one exception, with what to do."""

from __future__ import annotations

from typing import Any


class Refused(Exception):
    """The service refuses; ``code`` is stable, ``status`` is the HTTP status it becomes, ``facts``
    are further fields of the answer.
    """

    def __init__(
        self, code: str, message: str, remedy: str, status: int = 409, **facts: Any
    ) -> None:
        super().__init__(message)
        self.facts = facts
        self.code, self.message, self.remedy, self.status = code, message, remedy, status
