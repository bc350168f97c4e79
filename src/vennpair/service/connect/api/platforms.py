"""Registered course platforms."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db.models import Count, QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.actions.check_platform import check_platform
from vennpair.service.connect.actions.invite import invite, platform_link
from vennpair.service.connect.actions.register_dynamically import register_at_platform
from vennpair.service.connect.actions.register_platform import change_platform, register_platform
from vennpair.service.connect.api.common import (
    Address,
    CardRowSerializer,
    ForAdministrators,
    HandshakeSerializer,
)
from vennpair.service.connect.models import Invitation, Platform
from vennpair.service.connect.registration_values import tool_card
from vennpair.service.kernel.web.reading import read


class PlatformSerializer(serializers.ModelSerializer[Platform]):
    """A course platform at which we are registered as a tool."""

    deployment_ids = serializers.ListField(child=serializers.CharField(), read_only=True)
    asked_deployments = serializers.ListField(child=serializers.CharField(), read_only=True)
    shells = serializers.IntegerField(source="shell_count", read_only=True, default=0)

    class Meta:
        model = Platform
        fields = read_only_fields = [
            "id",
            "name",
            "issuer",
            "client_id",
            "deployment_ids",
            "asked_deployments",
            "authorization_url",
            "token_url",
            "jwks_url",
            "token_audience",
            "product",
            "how",
            "active",
            "launched_at",
            "shells",
        ]


class NewPlatformSerializer(serializers.Serializer[Any]):
    """The platform's values, entered by hand."""

    name = serializers.CharField(
        max_length=200, help_text="what you call it, for example 'Tarnfield Campus'"
    )
    issuer = Address(help_text="who signs its messages; also called platform id")
    client_id = serializers.CharField(max_length=200, help_text="under which it knows us")
    deployment_ids = serializers.ListField(
        child=serializers.CharField(max_length=255),
        default=list,
        help_text="left empty, the first launch's is taken",
    )
    authorization_url = Address(
        help_text=(
            "where we ask for the launch message; also called OIDC authentication request address"
        )
    )
    token_url = Address(help_text="where we get access tokens for its services")
    jwks_url = Address(help_text="its public keys; also called JWKS address")
    token_audience = serializers.CharField(
        max_length=500,
        required=False,
        allow_blank=True,
        help_text="only where the platform says that tokens are asked under another name",
    )


class ChangePlatformSerializer(serializers.Serializer[Any]):
    """What to change; what is left out stays. Issuer and client id are who it is and cannot
    change.
    """

    name = serializers.CharField(max_length=200, required=False)
    deployment_ids = serializers.ListField(
        child=serializers.CharField(max_length=255), required=False
    )
    authorization_url = Address(required=False)
    token_url = Address(required=False)
    jwks_url = Address(required=False)
    token_audience = serializers.CharField(max_length=500, required=False, allow_blank=True)
    active = serializers.BooleanField(required=False, help_text="while false, no launch is taken")


class RegistrationSerializer(serializers.Serializer[Any]):
    """What the platform's administrator page gives: its configuration address and a registration
    token.
    """

    openid_configuration = Address()
    registration_token = serializers.CharField(
        max_length=8000, allow_blank=True, default="", trim_whitespace=True
    )
    name = serializers.CharField(max_length=200, allow_blank=True, default="")


class InvitationLinkSerializer(serializers.Serializer[Any]):
    """A one-time link, shown this once, for the platform's page that registers tools by an
    address.
    """

    link = serializers.CharField()
    expires = serializers.DateTimeField()


class InvitePlatformSerializer(serializers.Serializer[Any]):
    """What to call the platform that will register."""

    name = serializers.CharField(max_length=200, allow_blank=True, default="")


class PlatformViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, ForAdministrators):
    """The institution's course platforms."""

    answers_secrets = frozenset({"invite"})
    serializer_class = PlatformSerializer
    queryset = Platform.objects.none()

    def get_queryset(self) -> QuerySet[Platform]:
        """Return the institution's."""
        return (
            Platform.objects.filter(institution=self.user.institution_id)
            .annotate(shell_count=Count("shells"))
            .order_by("pk")
        )

    @extend_schema(request=NewPlatformSerializer, responses={201: PlatformSerializer})
    def create(self, request: Request) -> Response:
        """Register a platform by hand."""
        asked = read(NewPlatformSerializer, request)
        made = register_platform(
            self.institution,
            asked["name"],
            asked,
            self.user,
        )
        return Response(PlatformSerializer(made).data, status=201)

    @extend_schema(request=ChangePlatformSerializer, responses=PlatformSerializer)
    def partial_update(self, request: Request, pk: str) -> Response:
        """Change a registration, accept a deployment, or take the platform out of use."""
        platform = self.get_object()
        asked = read(ChangePlatformSerializer, request)
        return Response(PlatformSerializer(change_platform(platform, asked, self.user)).data)

    @extend_schema(request=None, responses=HandshakeSerializer(many=True))
    @action(detail=True, methods=["post"], pagination_class=None)
    def check(self, request: Request, pk: str) -> Response:
        """Run every handshake for real, and say which fails and who must act."""
        return Response(
            HandshakeSerializer(
                check_platform(self.get_object(), f"{settings.BASE_URL}/lti/launch"), many=True
            ).data
        )

    @extend_schema(request=RegistrationSerializer, responses={201: PlatformSerializer})
    @action(detail=False, methods=["post"])
    def register(self, request: Request) -> Response:
        """Register us dynamically, from the platform's configuration address and registration
        token.
        """
        asked = read(RegistrationSerializer, request)
        made = register_at_platform(self.institution, actor=self.user, **asked)
        return Response(PlatformSerializer(made).data, status=201)

    @extend_schema(request=InvitePlatformSerializer, responses={201: InvitationLinkSerializer})
    @action(detail=False, methods=["post"])
    def invite(self, request: Request) -> Response:
        """Make a one-time link that the platform's administrator enters there."""
        asked = read(InvitePlatformSerializer, request)
        made, secret = invite(
            self.institution,
            Invitation.Side.PLATFORM,
            asked["name"],
            self.user,
        )
        return Response({"link": platform_link(secret), "expires": made.expires}, status=201)

    @extend_schema(responses=CardRowSerializer(many=True))
    @action(detail=False, pagination_class=None)
    def card(self, request: Request) -> Response:
        """Return our values as a tool, to copy into a platform's form."""
        return Response(tool_card())
