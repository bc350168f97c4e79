"""What is answered while the database does not: a short word, at once, with when to try again."""

from __future__ import annotations

import logging
import sys

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.service.kernel.request_id import current
from vennpair.service.kernel.web.problem import MEDIA, problem_document

log = logging.getLogger(__name__)
OUTAGE = (OperationalError, InterfaceError)
SECONDS = "2"
WORDS = "The database of Venn Pair does not answer right now."
REMEDY = (
    "Try again in a few seconds; asking again with the same Idempotency-Key does nothing twice."
)
_PLAIN = "text/plain; charset=utf-8"


def server_error(request: HttpRequest) -> HttpResponse:
    """Answer what nobody caught: 503 where the database is away, else 500 (Django's handler500)."""
    if isinstance(sys.exc_info()[1], OUTAGE):
        return database_away(request.path.startswith("/api/"))
    words = (
        "Venn Pair made a mistake of its own. Try again; if it stays, give the administrator this"
        f" number: {current()}."
    )
    return HttpResponse(words, status=500, content_type=_PLAIN)


def database_away(document: bool) -> HttpResponse:
    """Return the answer of an outage, as a problem document (RFC 9457) or as plain text."""
    log.warning("a request was answered 503: the database does not answer")
    if not document:
        answer = HttpResponse(f"{WORDS} Try again in a few seconds.", content_type=_PLAIN)
    else:
        facts = problem_document(503, "database_away", WORDS, REMEDY)
        answer = JsonResponse(facts, content_type=MEDIA)
    answer.status_code = 503
    answer["Retry-After"] = SECONDS
    return answer
