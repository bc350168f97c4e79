"""Addresses that are none."""

from __future__ import annotations

from typing import Any

from rest_framework.exceptions import NotFound
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.views import APIView


class NoSuchAddress(APIView):
    """Every address under ``/api/`` that is none: a problem like all others, to everybody."""

    permission_classes = [AllowAny]
    authentication_classes = []
    schema = None

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Raise NotFound, whatever the method."""
        raise NotFound
