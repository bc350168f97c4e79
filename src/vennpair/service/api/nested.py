"""Endpoints below a pairing: the pairing is found first, so nothing else of a stranger's is
reached.
"""

from __future__ import annotations

from rest_framework.generics import get_object_or_404

from vennpair.service.api.views import Viewset
from vennpair.service.pair.models import Pairing
from vennpair.service.pair.queries import pairings_for


class OfPairing(Viewset):
    """A viewset under ``/pairings/{pairing_pk}/``."""

    def pairing(self) -> Pairing:
        """Return the pairing of the address. Raises Http404 where it is not the user's."""
        return get_object_or_404(pairings_for(self.request.user), pk=self.kwargs["pairing_pk"])
