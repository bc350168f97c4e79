"""Registered publishers."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db.models import Count, QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.core.deploy.address import wrong_with
from vennpair.service.connect.actions.check_publisher import check_publisher
from vennpair.service.connect.actions.invite import invite
from vennpair.service.connect.actions.register_publisher import (
    change_publisher,
    publisher_card,
    register_publisher,
)
from vennpair.service.connect.api.common import Address, ForAdministrators, HandshakeSerializer
from vennpair.service.connect.models import Invitation, Publisher
from vennpair.service.connect.registration_values import platform_card
from vennpair.service.kernel.web.reading import read
from vennpair.standards.lti.oidc import with_query


class PublisherSerializer(serializers.ModelSerializer[Publisher]):
    """A publisher; secrets are never shown, only whether there is one.

    ``card`` is what it must know of us.
    """

    redirect_uris = serializers.ListField(child=serializers.CharField(), read_only=True)
    custom = serializers.DictField(child=serializers.CharField(), read_only=True)
    features = serializers.ListField(child=serializers.CharField(), read_only=True)
    courses = serializers.IntegerField(source="course_count", read_only=True, default=0)
    card = serializers.SerializerMethodField()
    has_oneroster_secret = serializers.SerializerMethodField()
    has_shared_secret = serializers.SerializerMethodField()
    can_launch = serializers.BooleanField(read_only=True)

    class Meta:
        model = Publisher
        fields = read_only_fields = [
            *(
                "id",
                "name",
                "speaks",
                "how",
                "active",
                "can_launch",
                "login_url",
                "launch_url",
                "redirect_uris",
                "jwks_url",
                "custom",
                "item_address",
                "gets_numbers",
                "picker_url",
                "review_url",
                "key",
                "has_shared_secret",
            ),
            *(
                "oneroster_url",
                "oneroster_token_url",
                "oneroster_client_id",
                "has_oneroster_secret",
                "provisioning_url",
                "features",
                "courses",
                "card",
            ),
        ]

    def get_card(self, publisher: Publisher) -> dict[str, str]:
        """Return our values for it."""
        return platform_card(publisher)

    def get_has_oneroster_secret(self, publisher: Publisher) -> bool:
        """Say whether there is one."""
        return bool(publisher.oneroster_secret)

    def get_has_shared_secret(self, publisher: Publisher) -> bool:
        """Say whether there is one."""
        return bool(publisher.shared_secret)


class ChangePublisherSerializer(serializers.Serializer[Any]):
    """The publisher's values; what is left out stays.

    Secrets are stored encrypted and never shown again.
    """

    name = serializers.CharField(max_length=200, required=False)
    speaks = serializers.ChoiceField(
        Publisher.Speaks.choices,
        required=False,
        help_text="lti11 only where the publisher has nothing but a key and a shared secret",
    )
    login_url = Address(
        required=False, allow_blank=True, help_text="its OIDC login initiation address"
    )
    launch_url = Address(
        required=False,
        allow_blank=True,
        help_text="where launches go; also its redirect address unless others are named",
    )
    redirect_uris = serializers.ListField(
        child=Address(), required=False, help_text="matched exactly"
    )
    jwks_url = Address(
        required=False,
        allow_blank=True,
        help_text="its public keys, with which it signs for reporting scores",
    )
    custom = serializers.DictField(
        child=serializers.CharField(allow_blank=True, max_length=1000),
        required=False,
        help_text="custom parameters of every launch",
    )
    item_address = serializers.CharField(
        max_length=1000,
        required=False,
        allow_blank=True,
        help_text="opens an item of which nothing else tells an address: https://…/{line_item}",
    )
    gets_numbers = serializers.BooleanField(
        required=False, help_text="it is told the institution's own ids of learners"
    )
    picker_url = Address(
        required=False,
        allow_blank=True,
        help_text="where its picker opens (deep linking); empty: the launch address",
    )
    review_url = Address(
        required=False,
        allow_blank=True,
        help_text="where it shows a learner's submission (submission review); empty: it does not",
    )
    key = serializers.CharField(
        max_length=200, required=False, allow_blank=True, help_text="LTI 1.1: consumer key"
    )
    shared_secret = serializers.CharField(
        max_length=500,
        required=False,
        allow_blank=True,
        trim_whitespace=False,
        help_text="LTI 1.1: shared secret",
    )
    oneroster_url = Address(
        required=False, allow_blank=True, help_text="the part before /ims/oneroster"
    )
    oneroster_token_url = Address(required=False, allow_blank=True)
    oneroster_client_id = serializers.CharField(max_length=200, required=False, allow_blank=True)
    oneroster_secret = serializers.CharField(
        max_length=500, required=False, allow_blank=True, trim_whitespace=False
    )
    provisioning_url = Address(
        required=False,
        allow_blank=True,
        help_text="course provisioning, where the publisher has it (docs/course-provisioning.md)",
    )
    active = serializers.BooleanField(required=False, help_text="while false, nobody is sent there")

    def validate_item_address(self, value: str) -> str:
        """Refuse a pattern that opens no item."""
        if value and (wrong := wrong_with(value)):
            raise serializers.ValidationError(
                f"This pattern cannot be used: {wrong}. For example:"
                " https://press.example/open?item={line_item}"
            )
        return value


class NewPublisherSerializer(ChangePublisherSerializer):
    """A publisher; with a name alone its card is reserved, so that the publisher can be given our
    values first.
    """

    name = serializers.CharField(max_length=200)


class InvitePublisherSerializer(serializers.Serializer[Any]):
    """Where the publisher's tool begins its registration, and what to call it."""

    registration_url = Address(
        help_text="the publisher's registration address; also called registration initiation"
    )
    name = serializers.CharField(max_length=200, allow_blank=True, default="")


class OpenedRegistrationSerializer(serializers.Serializer[Any]):
    """The address to open in a browser; the publisher's page registers itself with us by it.

    Good once.
    """

    open = serializers.CharField()
    invitation = serializers.UUIDField()
    expires = serializers.DateTimeField()


class InvitationSerializer(serializers.Serializer[Any]):
    """Whether a registration has come in."""

    id = serializers.UUIDField()
    side = serializers.CharField()
    used_at = serializers.DateTimeField(allow_null=True)
    expires = serializers.DateTimeField()
    publisher = serializers.UUIDField(source="publisher_id", allow_null=True)
    platform = serializers.UUIDField(source="platform_id", allow_null=True)


class PublisherViewset(mixins.ListModelMixin, mixins.RetrieveModelMixin, ForAdministrators):
    """The institution's publishers."""

    answers_secrets = frozenset({"invite"})
    serializer_class = PublisherSerializer
    queryset = Publisher.objects.none()

    def get_queryset(self) -> QuerySet[Publisher]:
        """Return the institution's."""
        return (
            Publisher.objects.filter(institution=self.user.institution_id)
            .annotate(course_count=Count("courses"))
            .order_by("pk")
        )

    @extend_schema(request=NewPublisherSerializer, responses={201: PublisherSerializer})
    def create(self, request: Request) -> Response:
        """Register a publisher by hand, or reserve its card."""
        asked = read(NewPublisherSerializer, request)
        card = dict(asked)
        name = card.pop("name")
        publisher_card(self.institution, name)
        return Response(
            PublisherSerializer(register_publisher(self.institution, name, card, self.user)).data,
            status=201,
        )

    @extend_schema(request=ChangePublisherSerializer, responses=PublisherSerializer)
    def partial_update(self, request: Request, pk: str) -> Response:
        """Change a registration."""
        publisher = self.get_object()
        asked = read(ChangePublisherSerializer, request)
        return Response(PublisherSerializer(change_publisher(publisher, asked, self.user)).data)

    @extend_schema(request=None, responses=HandshakeSerializer(many=True))
    @action(detail=True, methods=["post"], pagination_class=None)
    def check(self, request: Request, pk: str) -> Response:
        """Run every handshake for real, and say which fails and who must act."""
        return Response(HandshakeSerializer(check_publisher(self.get_object()), many=True).data)

    @extend_schema(request=InvitePublisherSerializer, responses={201: OpenedRegistrationSerializer})
    @action(detail=False, methods=["post"])
    def invite(self, request: Request) -> Response:
        """Begin a dynamic registration at a publisher's tool: open the address that comes back in a
        browser.
        """
        asked = read(InvitePublisherSerializer, request)
        made, secret = invite(
            self.institution,
            Invitation.Side.PUBLISHER,
            asked["name"],
            self.user,
        )
        fields = {
            "openid_configuration": f"{settings.BASE_URL}/.well-known/openid-configuration",
            "registration_token": secret,
        }
        return Response(
            {
                "open": with_query(asked["registration_url"], fields),
                "invitation": made.pk,
                "expires": made.expires,
            },
            status=201,
        )


class InvitationViewset(mixins.RetrieveModelMixin, ForAdministrators):
    """Registration links that were given out."""

    serializer_class = InvitationSerializer
    queryset = Invitation.objects.none()

    def get_queryset(self) -> QuerySet[Invitation]:
        """Return the institution's."""
        return Invitation.objects.filter(institution=self.user.institution_id)
