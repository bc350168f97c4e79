"""Every error of the API leaves through this one table, as application/problem+json (RFC 9457)."""

from __future__ import annotations

import logging
from typing import Any

from django.core.exceptions import PermissionDenied
from django.http import Http404
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import set_rollback

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.service.api.outages import OUTAGE, REMEDY, SECONDS, WORDS
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.request_id import current
from vennpair.service.kernel.web.problem import MEDIA, problem_document

log = logging.getLogger(__name__)
_PLAIN = {
    exceptions.NotAuthenticated: (
        "not_signed_in",
        "You are not signed in.",
        "Sign in, or open Venn Pair from your shell.",
    ),
    exceptions.AuthenticationFailed: (
        "not_signed_in",
        "The token is unknown or has expired.",
        "Sign in again.",
    ),
    exceptions.PermissionDenied: (
        "not_allowed",
        "Your role does not allow this.",
        "Ask the shell's instructor or an administrator.",
    ),
    exceptions.NotFound: (
        "not_found",
        "Not found, or you do not have access.",
        "Check the address or list what you can see.",
    ),
    exceptions.MethodNotAllowed: (
        "not_offered",
        "This address does not offer that method.",
        "See the schema at /api/v1/schema.",
    ),
    exceptions.Throttled: (
        "too_often",
        "That was tried too often in a short time.",
        "Wait a minute and try again.",
    ),
    exceptions.ParseError: (
        "bad_request",
        "The request could not be read.",
        "Send JSON, or a form with a file.",
    ),
    exceptions.UnsupportedMediaType: (
        "bad_request",
        "This content type cannot be read here.",
        "Send JSON, or a form with a file.",
    ),
}


def problem(status: int, code: str, detail: str, remedy: str, **extra: Any) -> Response:
    """Return a problem document."""
    body = problem_document(status, code, detail, remedy, **extra)
    return Response(body, status=status, content_type=MEDIA)


def handle(error: Exception, context: dict[str, Any]) -> Response:
    """Turn an exception into a problem; what is not known here is a server error and is logged."""
    set_rollback()
    if isinstance(error, Refused):
        return problem(error.status, error.code, error.message, error.remedy, **error.facts)
    if isinstance(error, OutsideError):
        failure = error.failure
        status = 503 if failure.kind is FailureKind.LATER else 502
        response = problem(status, f"outside_{failure.code}", failure.message, failure.remedy)
        if failure.retry_after:
            response["Retry-After"] = str(int(failure.retry_after) + 1)
        return response
    if isinstance(error, OUTAGE):
        log.warning("a request was answered 503: %s", str(error).strip())
        response = problem(503, "database_away", WORDS, REMEDY)
        response["Retry-After"] = SECONDS
        return response
    if isinstance(error, exceptions.ValidationError):
        return problem(
            400,
            "invalid",
            _sentence(error.detail),
            "Correct the fields named and send it again.",
            fields=error.detail,
        )
    if isinstance(error, Http404):
        error = exceptions.NotFound()
    if isinstance(error, RecursionError):  # JSON nested as no request of ours is
        error = exceptions.ParseError()
    if isinstance(error, PermissionDenied):
        error = exceptions.PermissionDenied()
    if isinstance(error, exceptions.APIException):
        code, detail, remedy = _PLAIN.get(
            type(error), ("refused", str(error.detail), "Read the message and try again.")
        )
        response = problem(error.status_code, code, detail, remedy)
        if isinstance(error, exceptions.Throttled) and (wait := getattr(error, "wait", None)):
            response["Retry-After"] = str(int(wait) + 1)
        return response
    log.error("a request ended by an error of ours", exc_info=error)
    return problem(
        500,
        "mistake",
        "Venn Pair made a mistake of its own; what you asked for was not done.",
        f"Try again; if it stays, give the administrator this number: {current()}.",
    )


def _sentence(detail: Any) -> str:
    if isinstance(detail, dict):
        return " ".join(f"{name}: {_sentence(value)}" for name, value in detail.items())
    if isinstance(detail, list):
        return " ".join(_sentence(value) for value in detail)
    return str(detail)
