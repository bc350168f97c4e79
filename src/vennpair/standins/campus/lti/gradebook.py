"""The gradebook's order and categories (docs/shell-outline.md, Gradebook)."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline.gradebook import Category as OutlineCategory
from vennpair.standards.outline.gradebook import Gradebook, write_gradebook
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.lti.grades import column_url
from vennpair.standins.campus.models import Category, Column, Shell

READ, WRITE = {v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ}, {v.SCOPE_OUTLINE}


@service(get=READ, post=WRITE)
def categories(request: HttpRequest, shell: Shell) -> HttpResponse:
    """List or make categories; a title is there once."""
    if request.method == "GET":
        return JsonResponse(
            {
                "categories": [
                    {"id": each.key, "title": each.title} for each in shell.categories.all()
                ]
            }
        )
    title = str((_body(request) or {}).get("title") or "").strip()
    if not title or len(title) > 200:
        return problem(400, "a title has 1 to 200 characters")
    with transaction.atomic():
        Shell.objects.select_for_update().get(pk=shell.pk)
        found = shell.categories.filter(title__iexact=title).first() or Category.objects.create(
            shell=shell, title=title
        )
    return JsonResponse({"id": found.key, "title": found.title}, status=201)


@service(get=READ, put=WRITE)
def gradebook(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Tell the order and categories of the columns, or set them, all at once."""
    if request.method == "GET":
        return JsonResponse(_document(shell))
    rows = (_body(request) or {}).get("columns")
    with transaction.atomic():
        Shell.objects.select_for_update().get(pk=shell.pk)
        wanted = request.headers.get("If-Match")
        if wanted and wanted != _document(shell)["etag"]:
            return problem(412, "The gradebook has changed since it was read.")
        there = {column_url(each): each for each in shell.columns.select_related("shell")}
        groups = {each.key: each for each in shell.categories.all()}
        if not isinstance(rows, list) or sorted(str(row.get("column")) for row in rows) != sorted(
            there
        ):
            return problem(400, "columns must name every column of the gradebook once.")
        if any(row.get("category") and row["category"] not in groups for row in rows):
            return problem(400, "there is no such category in this course")
        for position, row in enumerate(rows):
            Column.objects.filter(pk=there[row["column"]].pk).update(
                position=position, category=groups.get(row.get("category") or "")
            )
    return HttpResponse(status=204)


def _document(shell: Shell) -> dict[str, Any]:
    document = write_gradebook(_book(shell))
    return document | {"etag": hashlib.sha256(json.dumps(document).encode()).hexdigest()[:16]}


def _book(shell: Shell) -> Gradebook:
    columns = {
        column_url(each): each.category.key if each.category else ""
        for each in shell.columns.select_related("shell", "category")
    }
    return Gradebook(
        tuple(columns),
        columns,
        tuple(OutlineCategory(each.key, each.title) for each in shell.categories.all()),
    )


def _body(request: HttpRequest) -> dict[str, Any] | None:
    try:
        document = json.loads(request.body)
    except ValueError:
        return None
    return document if isinstance(document, dict) else None
