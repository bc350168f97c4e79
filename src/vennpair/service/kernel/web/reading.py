"""Reading what a request brings, and saying what it gets: once for all endpoints."""

from __future__ import annotations

from typing import Any

from drf_spectacular.helpers import forced_singular_serializer
from rest_framework.request import Request
from rest_framework.serializers import Serializer


def read(kind: type[Serializer[Any]], request: Request) -> dict[str, Any]:
    """Return the fields of a request's body as a serializer understands them.

    Raises ValidationError, which is answered as a problem that names every field.
    """
    given = kind(data=request.data)
    given.is_valid(raise_exception=True)
    return dict(given.validated_data)


def the_one(kind: type[Serializer[Any]]) -> Any:
    """Return the answer, for the schema, of a list's address that has one object and no rows."""
    return forced_singular_serializer(kind)  # type: ignore[no-untyped-call]
