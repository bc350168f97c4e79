"""The gradebook service that we offer to publishers (AGS 2.0): a placement is a line item."""

from __future__ import annotations

import re
from collections.abc import Callable
from decimal import Decimal
from functools import wraps
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt

from vennpair.core.relay.decide import untakable
from vennpair.service.content.models import NOT_SCORED, Placement
from vennpair.service.lti.models import ServiceToken
from vennpair.service.lti.publisher_launch import digest
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.relay.actions.receive_score import receive_score
from vennpair.service.relay.models import Cell
from vennpair.standards.json_text import read_json
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import (
    LineItem,
    Result,
    read_score,
    write_line_item,
    write_result,
)

LARGEST_BODY = 100_000
PAGE = 200


def _problem(status: int, detail: str) -> JsonResponse:
    return JsonResponse(
        {"status": status, "detail": detail}, status=status, content_type="application/problem+json"
    )


def _service(
    method: str, *scopes: str
) -> Callable[[Callable[..., HttpResponse]], Callable[..., HttpResponse]]:
    """Guard a view: the method, a token of the pairing's publisher, one of the scopes."""

    def wrap(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
        @csrf_exempt
        @wraps(view)
        def guarded(request: HttpRequest, pairing_id: UUID, **rest: Any) -> HttpResponse:
            if request.method != method:
                return _problem(405, f"Only {method} is offered here.")
            kind, _, value = request.headers.get("Authorization", "").partition(" ")
            given = (
                ServiceToken.objects.filter(
                    digest=digest(value), expires__gt=timezone.now(), publisher__active=True
                ).first()
                if kind == "Bearer"
                else None
            )
            if given is None:
                return _problem(401, "The access token is missing, unknown or expired.")
            if not set(scopes) & set(given.scopes):
                return _problem(403, f"The access token lacks the scope {scopes[0]}.")
            found: Any
            if "placement_id" in rest:
                mine = Placement.objects.filter(
                    pk=rest["placement_id"],
                    pairing=pairing_id,
                    pairing__course__publisher=given.publisher_id,
                )
                found = mine.exclude(NOT_SCORED).select_related("pairing").first()
            else:
                found = Pairing.objects.filter(
                    pk=pairing_id, course__publisher=given.publisher_id
                ).first()
            return view(request, found) if found else _problem(404, "This line item was not found.")

        return guarded

    return wrap


def _url(placement: Placement) -> str:
    return (
        f"{settings.BASE_URL}/lti/platform/pairings/{placement.pairing_id}/lineitems/{placement.pk}"
    )


def _line_item(placement: Placement) -> dict[str, Any]:
    points = Decimal(placement.points or 0).normalize()
    return write_line_item(
        LineItem(
            placement.title,
            points,
            _url(placement),
            placement.item.line_item,
            str(placement.pk),
            "",
            "",
            placement.due_at,
        )
    )


@_service("GET", v.SCOPE_LINE_ITEM_READ)
def line_items(request: HttpRequest, pairing: Pairing) -> HttpResponse:
    """List the line items of a pairing, filtered as the publisher asks, a page at a time (AGS 2.0,
    3.2.7).
    """
    placed = (
        Placement.objects.filter(pairing=pairing, points__gt=0)
        .exclude(NOT_SCORED)
        .select_related("item")
        .order_by("item__position", "pk")
    )
    wanted = request.GET
    if "resource_id" in wanted:
        placed = placed.filter(item__line_item=wanted["resource_id"])
    rows = (
        [each for each in placed if wanted.get("resource_link_id", str(each.pk)) == str(each.pk)]
        if not wanted.get("tag")
        else []
    )  # ours carry no tag
    start, limit = (
        _count(wanted.get("start"), 0),
        max(1, min(_count(wanted.get("limit"), PAGE), PAGE)),
    )
    answer = JsonResponse(
        [_line_item(each) for each in rows[start : start + limit]],
        safe=False,
        content_type=v.MEDIA_LINE_ITEMS,
    )
    if len(rows) > start + limit:
        following = {**wanted.dict(), "limit": limit, "start": start + limit}
        answer["Link"] = f'<{settings.BASE_URL}{request.path}?{urlencode(following)}>; rel="next"'
    return answer


@_service("GET", v.SCOPE_LINE_ITEM_READ)
def line_item(request: HttpRequest, placement: Placement) -> HttpResponse:
    """Read one line item."""
    return JsonResponse(_line_item(placement), content_type=v.MEDIA_LINE_ITEM)


@_service("POST", v.SCOPE_SCORE)
def scores(request: HttpRequest, placement: Placement) -> HttpResponse:
    """Take a score into the ledger; a repeated or late one is taken too, and does no harm."""
    if (request.content_type or "").split(";")[0] != v.MEDIA_SCORE:
        return _problem(415, f"The content type must be {v.MEDIA_SCORE}.")
    if len(request.body) > LARGEST_BODY:
        return _problem(413, "The score is too large.")
    try:
        score = read_score(read_json(request.body, parse_float=Decimal))
    except ValueError:
        return _problem(400, "The body is not JSON.")
    except LtiError as error:
        return _problem(400, error.message)
    if why := untakable(score.given, score.maximum, score.timestamp, score.submitted):
        return _problem(400, why)
    learner = _learner(placement, score.user_id)
    if learner is None:
        return _problem(404, "This learner was not found in this course.")
    receive_score(placement, learner, score)
    return HttpResponse(status=204)


@_service("GET", v.SCOPE_RESULT_READ)
def results(request: HttpRequest, placement: Placement) -> HttpResponse:
    """List what the gradebook accepted from us, as the publisher sees it, a page at a time (AGS
    2.0, 3.3.6).
    """
    cells = (
        Cell.objects.filter(placement=placement)
        .exclude(sent_given=None)
        .select_related("learner")
        .order_by("pk")
    )
    if "user_id" in request.GET:
        cells = cells.filter(
            learner=_learner(placement, request.GET["user_id"])
        )  # of nobody there are none
    page = list(cells.filter(pk__gt=_count(request.GET.get("after"), 0))[: PAGE + 1])
    rows = [
        write_result(
            Result(cell.learner.sub, cell.sent_given, cell.sent_maximum or Decimal(1)),
            _url(placement),
        )
        for cell in page[:PAGE]
    ]
    answer = JsonResponse(rows, safe=False, content_type=v.MEDIA_RESULTS)
    if len(page) > PAGE:
        answer["Link"] = f'<{_url(placement)}/results?after={page[PAGE - 1].pk}>; rel="next"'
    return answer


def _count(text: str | None, otherwise: int) -> int:
    """Return a whole number of a query, or another one where it is none that a database could count
    to.
    """
    return int(text) if text and re.fullmatch("[0-9]{1,18}", text) else otherwise


def _learner(placement: Placement, user_id: str) -> Learner | None:
    return Learner.objects.filter(sub=user_id, shell_id=placement.pairing.shell_id).first()
