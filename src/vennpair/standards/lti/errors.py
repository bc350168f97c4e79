"""What can be wrong with an LTI message, as one exception with a stable code."""

from __future__ import annotations


class LtiError(Exception):
    """A message, token or request breaks the standard or was not made for us.

    ``code`` is stable and short (``bad_signature``, ``wrong_audience`` ...), ``message`` says what
    happened in a sentence, ``clause`` names the clause of the standard that asks for it.
    """

    def __init__(self, code: str, message: str, clause: str = "") -> None:
        super().__init__(message)
        self.code = code
        self.message = message
        self.clause = clause
