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

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Refuse a query parameter that nothing here reads: a filter that is misspelled would
        otherwise give all rows, as if all fitted.
        """
        super().initial(request, *args, **kwargs)
        if not request.query_params:
            return
        taken = self._known()
        if unknown := [each for each in request.query_params if each not in taken]:
            known = ", ".join(sorted(taken)) or "none"
            raise Refused(
                "unknown_parameter",
                f"There is no query parameter '{unknown[0][:80]}' here, so nothing was read.",
                f"Leave it out, or use one of these: {known}.",
                400,
            )

    def _known(self) -> set[str]:
        """Return the query parameters that this action takes, as its description has them."""
        described = getattr(getattr(self, self.action or "", None), "kwargs", {}).get("schema")
        schema: Any = described or self.schema
        schema = schema() if isinstance(schema, type) else schema
        schema.view, schema.method = self, (self.request.method or "GET").upper()
        names = {each.name for each in schema.get_override_parameters() if each.location == "query"}
        filters = getattr(self, "filterset_class", None)
        if filters is not None and not self.detail:
            names |= set(filters.base_filters)
        if self.action != "retrieve" and self.pagination_class is not None:
            names |= {"cursor", "limit"}
        return names
