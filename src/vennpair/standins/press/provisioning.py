"""The course provisioning protocol (docs/course-provisioning.md): titles, accounts, making and
copying courses.
"""

from __future__ import annotations

import json
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.csrf import csrf_exempt

from vennpair.standards import provisioning as p
from vennpair.standins import tarnfield
from vennpair.standins.press.models import (
    Account,
    Course,
    Enrolment,
    Identity,
    Item,
    Repeatable,
    Title,
    Unit,
    new_id,
)
from vennpair.standins.press.oneroster import guarded_by, status_info
from vennpair.standins.press.sample import fill

_ITEM = ("title", "kind", "category", "points", "due", "questions", "text", "url", "position")


@guarded_by(p.SCOPE)
def features(request: HttpRequest) -> HttpResponse:
    """Say what is offered."""
    return JsonResponse({"features": list(p.FEATURES)})


@guarded_by(p.SCOPE)
def titles(request: HttpRequest) -> HttpResponse:
    """List the adopted titles."""
    rows = [
        {
            "id": each.sourced_id,
            "title": each.title,
            "author": each.author,
            "isbn": each.isbn,
            "edition": each.edition,
        }
        for each in Title.objects.order_by("title")
    ]
    return JsonResponse({"titles": rows})


@guarded_by(p.SCOPE)
def accounts(request: HttpRequest) -> HttpResponse:
    """Say which account launches under a subject."""
    known = (
        Identity.objects.filter(sub=request.GET.get("subject", "-"))
        .select_related("account")
        .first()
    )
    if known is None:
        return status_info(404, "unknownobject", "Nobody has launched under this subject.")
    return JsonResponse(
        {"id": known.account.sourced_id, "name": known.account.name, "email": known.account.email}
    )


@csrf_exempt
@guarded_by(p.SCOPE, "POST")
def courses(request: HttpRequest) -> HttpResponse:
    """Make a course: of a title, as a copy, or as one more section.

    Once for each Idempotency-Key.
    """
    key = request.headers.get("Idempotency-Key", "")
    try:
        asked = json.loads(request.body)
    except ValueError:
        return status_info(400, "invaliddata", "The body is not JSON.")
    known = Repeatable.objects.filter(key=key).select_related("course").first()
    if not key or len(key) > 200 or not isinstance(asked, dict):
        return status_info(
            400, "invaliddata", "A course is made by a JSON object with an Idempotency-Key."
        )
    if known is None:
        made = _make(asked)
        if made is None:
            return status_info(404, "unknownobject", "There is no such title, course or teacher.")
        known = Repeatable.objects.create(key=key, course=made)
    return JsonResponse({"class": known.course.sourced_id}, status=201)


@transaction.atomic
def _make(asked: dict[str, Any]) -> Course | None:
    source = Course.objects.filter(
        sourced_id=asked.get("copy_of") or asked.get("section_of") or "-"
    ).first()
    book = (
        source.book if source else Title.objects.filter(sourced_id=asked.get("title", "-")).first()
    )
    teacher = Account.objects.filter(sourced_id=asked.get("teacher", "-")).first()
    if teacher is None or (book is None and source is None):
        return None
    title = source.title if source else book.title if book else ""
    made = Course.objects.create(
        sourced_id=f"made-{new_id()[:12]}",
        book=book,
        title=str(asked.get("name") or title)[:200],
        code=str(asked.get("code") or "")[:60],
        term=tarnfield.TERM,
    )
    Enrolment.objects.create(course=made, account=teacher, role="teacher")
    if source:
        _copy(source, made)
    else:
        fill(made)
    return made


def _copy(source: Course, made: Course) -> None:
    """Copy units and items; no learners, no attempts."""
    for unit in source.units.prefetch_related("items"):
        copied = Unit.objects.create(course=made, title=unit.title, position=unit.position)
        for item in unit.items.all():
            tail = item.sourced_id.removeprefix(f"{source.sourced_id}-")
            Item.objects.create(
                unit=copied,
                sourced_id=f"{made.sourced_id}-{tail}"[:64],
                **{name: getattr(item, name) for name in _ITEM},
            )
