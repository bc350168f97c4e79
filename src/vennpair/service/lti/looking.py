"""A look at one item at the publisher, as the instructor, before it is placed."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from vennpair.service.connect.authentication import signed_in
from vennpair.service.content.models import Item
from vennpair.service.lti.pages import refusal
from vennpair.service.lti.publisher_launch import open_item
from vennpair.service.pair.queries import shells_for
from vennpair.standards.lti.errors import LtiError


@require_GET
def look(request: HttpRequest, item_id: Any) -> HttpResponse:
    """Lead somebody who is signed in here on to the item; nothing is placed, no score comes back."""
    try:
        if not request.user.is_authenticated:
            raise LtiError("wrong_person", "Sign in to Venn Pair first.")
        mine = Item.objects.filter(pairing__shell__in=shells_for(signed_in(request)))
        item = (
            mine.filter(pk=item_id)
            .select_related("pairing__shell", "pairing__course__publisher")
            .first()
        )
        if item is None:
            raise LtiError("not_placed", "This item was not found in your shells.")
        return open_item(request, item)
    except LtiError as error:
        return refusal(request, error)
