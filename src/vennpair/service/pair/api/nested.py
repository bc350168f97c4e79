"""Endpoints below a pairing: the pairing is found first, so nothing else of a stranger's is
reached.
"""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from rest_framework.generics import get_object_or_404
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request

from vennpair.service.connect.api.base import Viewset
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import pairings_for, require_instructor


class OfPairing(Viewset):
    """A viewset under ``/pairings/{pairing_pk}/``; ``in_pairing`` is what it lists and finds.

    Whoever has a part in the shell may look; what changes something is the instructor's, but for
    the actions that ``assistants_may`` names.
    """

    assistants_may: frozenset[str] = frozenset()

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Refuse who may not do this, before anything of the request is read."""
        super().initial(request, *args, **kwargs)
        if request.method not in SAFE_METHODS and self.action not in self.assistants_may:
            require_instructor(self.user, self.pairing().shell)

    def pairing(self) -> Pairing:
        """Return the pairing of the address. Raises Http404 where it is not the user's."""
        if self._pairing is None:
            found = pairings_for(self.user)
            self._pairing = get_object_or_404(found, pk=self.kwargs["pairing_pk"])
        return self._pairing

    _pairing: Pairing | None = None

    def in_pairing(self) -> QuerySet[Any]:
        """Return the rows of the pairing that the address reaches."""
        raise NotImplementedError(f"{type(self).__name__} lists nothing")

    def get_queryset(self) -> QuerySet[Any]:
        """Return the rows; the schema is made without an address, and takes none."""
        if getattr(self, "swagger_fake_view", False):
            return super().get_queryset()
        return self.in_pairing()
