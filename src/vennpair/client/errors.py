"""What can go wrong with a call.

ServiceError
├── Unreachable      the service could not be reached, or its answer broke off
└── Refusal          the service answered with a problem (RFC 9457)
    └── NotAllowed   not signed in, or the role does not allow it
"""

from __future__ import annotations


class ServiceError(Exception):
    """The base of all; ``code`` is stable, ``remedy`` says what to do."""

    def __init__(self, code: str, message: str, remedy: str) -> None:
        super().__init__(message)
        self.code, self.message, self.remedy = code, message, remedy


class Unreachable(ServiceError):
    """The service could not be reached.

    Nothing is known of the call's effect, and it may be repeated.
    """


class Refusal(ServiceError):
    """The service refused; ``status`` is the HTTP status."""

    def __init__(self, status: int, code: str, message: str, remedy: str) -> None:
        super().__init__(code, message, remedy)
        self.status = status


class NotAllowed(Refusal):
    """Not signed in (401) or not allowed (403)."""
