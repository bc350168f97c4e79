"""The press's picker (Deep Linking 2.0): a teacher chooses items of a course, and they go back to
the platform.
"""

from __future__ import annotations

import time
from dataclasses import asdict
from typing import Any

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_POST

from vennpair.standards.lti.deep_linking import (
    RESOURCE_LINK,
    ContentItem,
    PickSettings,
    write_response,
)
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.lti.jwt import sign
from vennpair.standins.keys import signing_key
from vennpair.standins.press.models import Course, Item, Platform, SigningKey

PENDING = "picking"


def show_picker(
    request: HttpRequest, platform: Platform, course: Course, asked: PickSettings
) -> HttpResponse:
    """Remember who asks, and show what can be picked."""
    request.session[PENDING] = {
        "platform": platform.pk,
        "course": course.pk,
        "settings": asdict(asked),
    }
    items = (
        Item.objects.filter(unit__course=course)
        .exclude(kind="notes")
        .select_related("unit")
        .order_by("unit__position", "position")
    )
    return render(request, "press/picker.html", {"course": course, "items": items})


@require_POST
def picked(request: HttpRequest) -> HttpResponse:
    """Send the chosen items back, signed."""
    pending = request.session.pop(PENDING, None)
    if not pending:
        raise Http404
    platform = get_object_or_404(Platform, pk=pending["platform"])
    facts: dict[str, Any] = {
        name: tuple(value) if isinstance(value, list) else value
        for name, value in pending["settings"].items()
    }
    asked = PickSettings(**facts)
    items = Item.objects.filter(
        unit__course=pending["course"], sourced_id__in=request.POST.getlist("item")
    ).order_by("unit__position", "position")
    now = int(time.time())
    claims = write_response(asked, platform.deployment_id, [_content(item) for item in items])
    claims |= {
        "iss": platform.client_id,
        "aud": platform.issuer,
        "iat": now,
        "exp": now + 300,
        "nonce": f"pick-{platform.pk}-{time.time_ns()}",
    }
    return render(
        request,
        "press/post.html",
        {"action": asked.return_url, "fields": {"JWT": sign(claims, signing_key(SigningKey))}},
    )


def _content(item: Item) -> ContentItem:
    column = (
        LineItem(item.title, item.points.normalize(), resource_id=item.sourced_id)
        if item.points
        else None
    )
    due = item.due.isoformat() if item.due else ""
    return ContentItem(
        RESOURCE_LINK,
        item.title,
        f"{settings.BASE_URL}/lti/launch",
        "",
        {"item": item.sourced_id},
        column,
        "",
        due,
    )
