"""Signing in at the college: which ways there are, and the institution's own."""

from __future__ import annotations

from typing import Any

from django.urls import reverse
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny, IsAuthenticated
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from vennpair.service.connect.actions.college_sign_in import (
    remove_college_sign_in,
    set_college_sign_in,
)
from vennpair.service.connect.api.base import SignedIn
from vennpair.service.connect.api.common import Address
from vennpair.service.connect.college import redirect_uri
from vennpair.service.connect.models import CollegeSignIn
from vennpair.service.connect.permissions import Administrator, TokenScope
from vennpair.service.kernel.web.reading import read


class CollegeWaySerializer(serializers.Serializer[Any]):
    """A college at which people sign in, and the address that begins it."""

    name = serializers.CharField(source="institution.name")
    address = serializers.SerializerMethodField()

    def get_address(self, college: CollegeSignIn) -> str:
        """Return where a browser goes."""
        return reverse("college-begin", args=[college.pk])


class Ways(APIView):
    """The colleges at which people can sign in; for whoever opens the sign-in page."""

    permission_classes = [AllowAny]
    authentication_classes = []

    @extend_schema(responses=CollegeWaySerializer(many=True))
    def get(self, request: Request) -> Response:
        """List them."""
        ways = CollegeSignIn.objects.filter(active=True).select_related("institution")
        return Response(CollegeWaySerializer(ways.order_by("institution__name"), many=True).data)


class CollegeSignInSerializer(serializers.Serializer[Any]):
    """The institution's OpenID provider; empty fields where there is none.

    ``redirect_uri`` is what the provider must know of us.
    """

    issuer = serializers.CharField()
    client_id = serializers.CharField()
    active = serializers.BooleanField()
    redirect_uri = serializers.CharField()


class SetCollegeSignInSerializer(serializers.Serializer[Any]):
    """The provider, and what it gave us as its client; a secret that is left out stays."""

    issuer = Address()
    client_id = serializers.CharField(max_length=255)
    secret = serializers.CharField(max_length=1000, required=False, default="", allow_blank=True)
    active = serializers.BooleanField(default=True)


class CollegeSignInView(SignedIn):
    """How the people of the institution sign in, for its administrators."""

    permission_classes = [IsAuthenticated, TokenScope, Administrator]
    token_scope = "connect"  # noqa: S105 - the name of a scope

    @extend_schema(operation_id="college_sign_in", responses=CollegeSignInSerializer)
    def get(self, request: Request) -> Response:
        """Show it."""
        known = CollegeSignIn.objects.filter(institution=self.institution).first()
        facts = {
            "issuer": known.issuer if known else "",
            "client_id": known.client_id if known else "",
            "active": bool(known and known.active),
            "redirect_uri": redirect_uri(),
        }
        return Response(CollegeSignInSerializer(facts).data)

    @extend_schema(
        operation_id="set_college_sign_in",
        request=SetCollegeSignInSerializer,
        responses=CollegeSignInSerializer,
    )
    def put(self, request: Request) -> Response:
        """Set it up, once the provider has answered."""
        asked = read(SetCollegeSignInSerializer, request)
        set_college_sign_in(self.institution, self.user, **asked)
        return self.get(request)

    @extend_schema(operation_id="remove_college_sign_in", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Forget it; people sign in by their shells and passwords."""
        remove_college_sign_in(self.institution, self.user)
        return Response(status=204)
