"""Assignment and Grade Services 2.0 and Names and Roles 2.0 of a shell."""

from __future__ import annotations

import json
from decimal import Decimal

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import (
    LineItem,
    Result,
    read_line_item,
    read_score,
    write_line_item,
    write_result,
)
from vennpair.standards.lti.members import Member, write_members
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.lti.launches import ROLES
from vennpair.standins.campus.models import Cell, Column, Node, Shell

WRITE, READ = {v.SCOPE_LINE_ITEM}, {v.SCOPE_LINE_ITEM, v.SCOPE_LINE_ITEM_READ}
PAGE = 100


def paged(
    request: HttpRequest,
    rows: list[dict[str, object]],
    media: str,
    around: dict[str, object] | None = None,
) -> JsonResponse:
    """Return one page of rows with a Link header to the next.

    ``around`` is the object whose ``members`` they are.
    """
    try:
        start, limit = (
            int(request.GET.get("start", "0")),
            min(int(request.GET.get("limit", PAGE)), PAGE),
        )
    except ValueError:
        return problem(400, "start and limit are whole numbers.")
    page = rows[start : start + limit]
    response = JsonResponse(
        page if around is None else around | {"members": page}, safe=False, content_type=media
    )
    if start + limit < len(rows):
        query = request.GET.copy()
        query["start"] = str(start + limit)
        response["Link"] = f'<{settings.BASE_URL}{request.path}?{query.urlencode()}>; rel="next"'
    return response


def column_url(column: Column) -> str:
    """Return the URL that is a line item's id."""
    return f"{settings.BASE_URL}/services/{column.shell.context_id}/lineitems/{column.key}"


def _line_item(column: Column) -> dict[str, object]:
    link = column.link.resource_link_id if column.link else ""
    return write_line_item(
        LineItem(
            column.label,
            column.maximum.normalize(),
            column_url(column),
            column.resource_id,
            link,
            column.tag,
            column.start,
            column.end,
            column.released,
        )
    )


@service(get=READ, post=WRITE)
def line_items(request: HttpRequest, shell: Shell) -> HttpResponse:
    """List or make columns."""
    if request.method == "GET":
        columns = shell.columns.select_related("link", "shell")
        for name, field in (
            ("resource_id", "resource_id"),
            ("resource_link_id", "link__resource_link_id"),
            ("tag", "tag"),
        ):
            if name in request.GET:
                columns = columns.filter(**{field: request.GET[name]})
        return paged(request, [_line_item(column) for column in columns], v.MEDIA_LINE_ITEMS)
    try:
        asked = read_line_item(_body(request, v.MEDIA_LINE_ITEM))
    except LtiError as error:
        return problem(400, error.message)
    link = (
        Node.objects.filter(shell=shell, resource_link_id=asked.resource_link_id).first()
        if asked.resource_link_id
        else None
    )
    if asked.resource_link_id and link is None:
        return problem(404, "There is no such resource link in this course.")
    column = Column.objects.create(
        shell=shell,
        label=asked.label,
        maximum=asked.score_maximum,
        resource_id=asked.resource_id,
        link=link,
        tag=asked.tag,
        start=asked.start,
        end=asked.end,
        released=asked.released is not False,
    )
    return JsonResponse(_line_item(column), status=201, content_type=v.MEDIA_LINE_ITEM)


@service(get=READ, put=WRITE, delete=WRITE)
def line_item(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Read, change or remove a column."""
    column = get_object_or_404(Column, shell=shell, key=key)
    if request.method == "DELETE":
        column.delete()
        return HttpResponse(status=204)
    if request.method == "PUT":
        try:
            asked = read_line_item(_body(request, v.MEDIA_LINE_ITEM))
        except LtiError as error:
            return problem(400, error.message)
        column.label, column.maximum, column.start, column.end = (
            asked.label,
            asked.score_maximum,
            asked.start,
            asked.end,
        )
        column.resource_id, column.tag = asked.resource_id, asked.tag
        column.released = column.released if asked.released is None else asked.released
        if asked.resource_link_id:
            column.link = (
                Node.objects.filter(shell=shell, resource_link_id=asked.resource_link_id).first()
                or column.link
            )
        column.save()
    return JsonResponse(_line_item(column), content_type=v.MEDIA_LINE_ITEM)


@service(post={v.SCOPE_SCORE})
def scores(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Take a score; one older than what is there is refused with 409 (AGS 2.0, 3.4.8)."""
    column = Column.objects.filter(shell=shell, key=key).first()
    if column is None:
        return problem(404, "There is no such column in this course.")
    if column.locked:
        return problem(422, "The column is locked.")
    try:
        score = read_score(_body(request, v.MEDIA_SCORE))
    except LtiError as error:
        return problem(400, error.message)
    part = shell.enrolments.filter(
        person__sub=score.user_id, role__in=["learner", "preview"], active=True
    ).first()
    if part is None:
        return problem(404, "This user is not a learner in the course.")
    with transaction.atomic():
        cell, _ = Cell.objects.select_for_update().get_or_create(column=column, person=part.person)
        if cell.timestamp and score.timestamp < cell.timestamp:
            return problem(409, "A newer score is in this cell.")
        if score.given is not None and score.maximum:
            cell.score = (
                (score.given * column.maximum / score.maximum).quantize(Decimal("0.01")).normalize()
            )
        else:
            cell.score = None
        cell.timestamp, cell.comment, cell.by_hand = score.timestamp, score.comment, False
        cell.save()
    return HttpResponse(status=204)


@service(get={v.SCOPE_RESULT_READ})
def results(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """List what is in a column now."""
    column = get_object_or_404(Column, shell=shell, key=key)
    cells = column.cells.exclude(score=None).select_related("person").order_by("id")
    if "user_id" in request.GET:
        cells = cells.filter(person__sub=request.GET["user_id"])
    rows = [
        write_result(
            Result(cell.person.sub, score.normalize(), column.maximum.normalize(), cell.comment),
            column_url(column),
        )
        for cell in cells
        if (score := cell.score) is not None
    ]
    return paged(request, rows, v.MEDIA_RESULTS)


@service(get={v.SCOPE_MEMBERSHIP})
def members(request: HttpRequest, shell: Shell) -> HttpResponse:
    """List the members of the course."""
    rows = [
        Member(
            part.person.sub,
            (ROLES[part.role],),
            part.person.name,
            part.person.given_name,
            part.person.family_name,
            part.person.email,
            part.person.number,
            part.active,
        )
        for part in shell.enrolments.exclude(role="preview")
        .select_related("person")
        .order_by("person__family_name", "person__given_name", "id")
    ]
    url = f"{settings.BASE_URL}{request.path}"
    document = write_members(
        url, {"id": shell.context_id, "label": shell.label, "title": shell.title}, rows
    )
    return paged(request, document["members"], v.MEDIA_MEMBERSHIP, document)


def _body(request: HttpRequest, media: str) -> dict[str, object]:
    if (request.content_type or "").split(";")[0] != media:
        raise LtiError("bad_media", f"The content type must be {media}.")
    try:
        document = json.loads(request.body, parse_float=Decimal)
    except ValueError as error:
        raise LtiError("bad_json", "The body is not JSON.") from error
    if not isinstance(document, dict):
        raise LtiError("bad_json", "The body is not an object.")
    return document
