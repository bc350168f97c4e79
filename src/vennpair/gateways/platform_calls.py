"""Calls to a platform's services: tokens that are renewed, pages that follow each other, answers
that are read strictly.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from decimal import Decimal
from typing import Any, TypeVar

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import Answer, OutsideError, call, call_safely
from vennpair.gateways.tokens import TokenSource
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import next_page, number

MOST_PAGES = 500
MOST_TOKENS = 3
UNAUTHORISED = 401

Read = TypeVar("Read")


class PlatformCalls:
    """What every service of a platform needs. Every method raises OutsideError."""

    def __init__(self, name: str, tokens: TokenSource) -> None:
        self.name = name
        self._tokens = tokens

    def _pages(self, url: str, scopes: list[str], media: str) -> Iterator[Any]:
        for _ in range(MOST_PAGES):
            answer = self._get(url, scopes, media)
            yield answer.json(self.name)
            url = next_page(answer.headers.get("link", ""))
            if not url:
                return
        raise OutsideError(
            Failure(
                FailureKind.NEVER,
                "endless",
                f"{self.name} hands out more than {MOST_PAGES} pages.",
                "Tell the administrator; its paging does not end.",
            )
        )

    def _rows(self, page: Any) -> list[Any]:
        if not isinstance(page, list):
            raise self._bad_answer(
                "a container of the score services is a list (AGS 2.0, 3.2.7, 3.3.6)"
            )
        return page

    def _get(self, url: str, scopes: list[str], media: str) -> Answer:
        return self._with_token(
            scopes,
            lambda token: call_safely(
                "GET",
                url,
                self.name,
                headers={"Authorization": f"Bearer {token}", "Accept": media},
                patience=self._tokens.patience,
            ),
        )

    def _send(
        self,
        method: str,
        url: str,
        scopes: list[str],
        document: Any,
        media: str,
        extra: dict[str, str] | None = None,
        *,
        safely: bool = True,
    ) -> Answer:
        body = json.dumps(document, default=json_number).encode() if document is not None else None
        send = call_safely if safely else call

        def attempt(token: str) -> Answer:
            return send(
                method,
                url,
                self.name,
                headers={
                    "Authorization": f"Bearer {token}",
                    "Content-Type": media,
                    "Accept": media,
                    **(extra or {}),
                },
                body=body,
                patience=self._tokens.patience,
            )

        return self._with_token(scopes, attempt)

    def _with_token(self, scopes: list[str], attempt: Any) -> Answer:
        """Call with a token; one that expired early is renewed, and renewed again where the new one
        is not known either.
        """
        for tries in range(MOST_TOKENS):
            token = self._tokens.token(scopes)
            try:
                answer: Answer = attempt(token)
                return answer
            except OutsideError as error:
                if (
                    error.failure.code != "not_allowed"
                    or (tries and error.failure.status != UNAUTHORISED)
                    or tries + 1 == MOST_TOKENS
                ):
                    raise
            self._tokens.refused(token)
        raise AssertionError("unreachable code: the loop returns or raises")

    def _read(self, reader: Callable[[Any], Read], document: Any) -> Read:
        try:
            return reader(document)
        except (LtiError, ValueError, AttributeError, TypeError) as error:
            raise self._bad_answer(str(error)) from error

    def _bad_answer(self, what: str) -> OutsideError:
        return OutsideError(
            Failure(
                FailureKind.NEVER,
                "bad_answer",
                f"{self.name} answered with something that the standard does not allow: {what}",
                "Tell the platform's administrator.",
            )
        )


def json_number(value: Any) -> int | float:
    """Return a decimal as JSON has it. Raises TypeError for anything else."""
    if isinstance(value, Decimal):
        return number(value)
    raise TypeError(f"{type(value).__name__} has no JSON form here")
