"""Lists page by key: a cursor, never a count."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import QuerySet
from rest_framework.pagination import CursorPagination
from rest_framework.request import Request
from rest_framework.views import APIView


class ByKey(CursorPagination):
    """Fifty rows a page, at most 1,000; a view's ``ordering`` ends in a unique key."""

    page_size = 50
    max_page_size = 1_000
    page_size_query_param = "limit"
    ordering: str | tuple[str, ...] = "pk"

    def get_ordering(
        self, request: Request, queryset: QuerySet[Any], view: APIView
    ) -> tuple[str, ...]:
        """Return the order of the view that pages."""
        wanted = getattr(view, "ordering", self.ordering)
        return (wanted,) if isinstance(wanted, str) else tuple(wanted)

    def _get_position_from_instance(self, instance: Any, ordering: Sequence[str]) -> str:
        """Return where a row is in the order, whose first key may be of a related row.

        The framework reads the key as an attribute's name, so an order by ``item__position``
        would end in an error of ours as soon as there is a second page.
        """
        value = instance
        for part in ordering[0].lstrip("-").split("__"):
            value = value[part] if isinstance(value, dict) else getattr(value, part)
        return str(value)
