"""Lists page by key: a cursor, never a count."""

from __future__ import annotations

from rest_framework.pagination import CursorPagination


class ByKey(CursorPagination):
    """Fifty rows a page, at most 500; a view sets ``ordering`` that ends in a unique key."""

    page_size = 50
    max_page_size = 500
    page_size_query_param = "limit"
    ordering = "pk"
