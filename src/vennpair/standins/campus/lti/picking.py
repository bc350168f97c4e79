"""Deep linking: an instructor picks content in the tool, and what comes back is put into the
outline.
"""

from __future__ import annotations

import time
from decimal import Decimal

from django.conf import settings
from django.core import signing
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from vennpair.standards.lti.deep_linking import (
    HTML,
    LINK,
    RESOURCE_LINK,
    ContentItem,
    read_response,
)
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import verify
from vennpair.standards.lti.vocabulary import DEPLOYMENT_ID
from vennpair.standins.campus.lti.launches import begin
from vennpair.standins.campus.lti.outline import make_node
from vennpair.standins.campus.lti.taking import SALT, SECONDS
from vennpair.standins.campus.models import Column, Enrolment, Node, Shell, Tool
from vennpair.standins.fetch import fetch_keys


@require_POST
def begin_picking(request: HttpRequest, context_id: str) -> HttpResponse:
    """Send an instructor to the tool to pick content."""
    part = (
        Enrolment.objects.select_related("shell", "person")
        .filter(
            person=request.session.get("person"),
            shell__context_id=context_id,
            role="instructor",
            active=True,
        )
        .first()
    )
    tool = Tool.objects.first()
    if part is None or tool is None:
        raise Http404
    return begin(tool, part.shell, part.person, None, picking=True)


@csrf_exempt
@require_POST
def picked(request: HttpRequest, context_id: str) -> HttpResponse:
    """Take the tool's signed answer and put its items at the end of the outline."""
    shell = get_object_or_404(Shell, context_id=context_id)
    try:
        tool = Tool.objects.first()
        if tool is None:
            raise LtiError("unknown_tool", "No tool is registered at the campus.")
        claims = verify(
            request.POST.get("JWT", ""),
            fetch_keys(tool.jwks_url),
            issuer=tool.client_id,
            audience=settings.BASE_URL,
            now=int(time.time()),
        )
        if claims.get(DEPLOYMENT_ID) != tool.deployment_id:
            raise LtiError("bad_deployment", "The answer names another deployment.")
        items, data = read_response(claims)
        if signing.loads(data, salt=SALT, max_age=SECONDS)["shell"] != shell.pk:
            raise LtiError("bad_data", "The answer belongs to another course.")
        with transaction.atomic():
            Shell.objects.select_for_update().get(pk=shell.pk)
            for item in items:
                _place(shell, item, tool)
    except (LtiError, signing.BadSignature, ValueError) as error:
        return render(
            request,
            "campus/refused.html",
            {"message": getattr(error, "message", str(error))},
            status=400,
        )
    return render(request, "campus/picked.html", {"shell": shell, "items": items})


def _place(shell: Shell, item: ContentItem, tool: Tool) -> Node:
    kind = {RESOURCE_LINK: "lti_link", LINK: "web_link", HTML: "page"}.get(item.kind)
    if kind is None:
        raise LtiError("bad_item", f"The campus takes no items of type {item.kind}.")
    fields: dict[str, object] = {
        "title": item.title or tool.name,
        "url": item.url or tool.launch_url,
        "custom": item.custom,
        "new_window": item.new_window,
        "shown_from": item.shown_from,
        "due_at": item.due_at,
    }
    node = make_node(shell, kind, fields)
    if item.line_item and kind == "lti_link":
        column = item.line_item
        Column.objects.create(
            shell=shell,
            label=column.label,
            maximum=Decimal(column.score_maximum),
            resource_id=column.resource_id,
            tag=column.tag,
            link=node,
            start=item.shown_from,
            end=item.due_at,
        )
    return node
