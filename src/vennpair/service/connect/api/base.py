"""The base of every view: it knows who asks, and a POST to it may be repeated."""

from __future__ import annotations

from typing import Any

from knox.models import AuthToken
from rest_framework.exceptions import NotAuthenticated
from rest_framework.request import Request
from rest_framework.views import APIView
from rest_framework.viewsets import GenericViewSet

from vennpair.service.connect.authentication import signed_in
from vennpair.service.connect.models import Institution, User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.idempotency import Idempotent


class SignedIn(APIView):
    """A view that knows who asks."""

    @property
    def user(self) -> User:
        """Who asks: somebody who is signed in, as nobody else gets this far."""
        return signed_in(self.request)

    @property
    def institution(self) -> Institution:
        """The institution of who asks."""
        if self.user.institution is None:
            raise NotAuthenticated
        return self.user.institution


class OnlyInBrowser(SignedIn):
    """A view of how somebody signs in: only in a browser, never by a token."""

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Refuse tokens."""
        super().initial(request, *args, **kwargs)
        if isinstance(request.auth, AuthToken):
            raise Refused(
                "not_allowed",
                "A token cannot change how its owner signs in.",
                "Open Venn Pair from your shell, or sign in to the console, and do it there.",
                403,
            )


class Viewset(SignedIn, Idempotent, GenericViewSet[Any]):
    """What every viewset of ours is: scoped by its own ``get_queryset``, POSTs repeatable."""

    lookup_value_converter = "uuid"
