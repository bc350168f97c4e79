"""One's own passkeys and security keys, as a second factor (Web Authentication Level 2)."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.decorators import action
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect import passkeys, second_factor
from vennpair.service.connect.api.base import OnlyInBrowser, Viewset
from vennpair.service.connect.api.proving import ProofSerializer, require_proof
from vennpair.service.connect.models import Passkey
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read


class PasskeySerializer(serializers.ModelSerializer[Passkey]):
    """A passkey: what its owner called it, when it was made and last used."""

    class Meta:
        model = Passkey
        fields = ["id", "name", "made_at", "used_at"]


class NewPasskeySerializer(serializers.Serializer[Any]):
    """A passkey that a browser made."""

    name = serializers.CharField(max_length=80)
    passkey = serializers.DictField(
        help_text="a registration response as a browser gives it (Web Authentication 5.1.8)"
    )


class MadePasskeySerializer(serializers.Serializer[Any]):
    """The passkey, and recovery codes where it is the first second factor, shown this once."""

    passkey = PasskeySerializer()
    recovery = serializers.ListField(child=serializers.CharField())


class OptionsSerializer(serializers.Serializer[Any]):
    """What a browser is given to make or to ask a passkey, as Web Authentication 5.1.8 and 5.1.9
    write it.
    """

    options = serializers.DictField()


class PasskeyViewset(OnlyInBrowser, Viewset):
    """One's own passkeys; adding one and removing one needs the second factor that is on."""

    answers_secrets = frozenset({"create"})
    serializer_class = PasskeySerializer
    queryset = Passkey.objects.none()
    pagination_class = None
    lookup_value_converter = "int"

    def get_queryset(self) -> QuerySet[Passkey]:
        """Return one's own."""
        return Passkey.objects.filter(user=self.user).order_by("pk")

    @extend_schema(responses=PasskeySerializer(many=True))
    def list(self, request: Request) -> Response:
        """List them."""
        return Response(PasskeySerializer(self.get_queryset(), many=True).data)

    @extend_schema(request=ProofSerializer, responses=OptionsSerializer)
    @action(detail=False, methods=["post"], url_path="options-to-add")
    def options_to_add(self, request: Request) -> Response:
        """Begin to add one: what the browser is to be asked."""
        if not self.user.has_usable_password():
            raise Refused(
                "no_password",
                "This account has no password, so a passkey would protect nothing.",
                "Set a password first.",
            )
        if self.user.passkeys.count() >= passkeys.MOST_PASSKEYS:
            raise Refused(
                "too_many",
                f"There are {passkeys.MOST_PASSKEYS} passkeys already.",
                "Remove one that you no longer use.",
            )
        if second_factor.is_on(self.user):
            require_proof(request, self.user)
        return Response({"options": passkeys.begin_adding(self.user)})

    @extend_schema(request=None, responses=OptionsSerializer)
    @action(detail=False, methods=["post"], url_path="options-to-prove")
    def options_to_prove(self, request: Request) -> Response:
        """Begin to prove who one is by a passkey: what the browser is to be asked."""
        options = passkeys.begin_proof(self.user)
        if options is None:
            raise Refused("no_passkey", "There is no passkey.", "Give a code instead.")
        return Response({"options": options})

    @extend_schema(request=NewPasskeySerializer, responses={201: MadePasskeySerializer})
    def create(self, request: Request) -> Response:
        """Keep the passkey that the browser made."""
        asked = read(NewPasskeySerializer, request)
        made = passkeys.add(self.user, asked["name"], asked["passkey"])
        if made is None:
            raise Refused(
                "wrong_passkey",
                "What the browser sent is not a new passkey for this service.",
                "Begin again; the browser must be asked within five minutes.",
                422,
            )
        passkey, recovery = made
        return Response(
            MadePasskeySerializer({"passkey": passkey, "recovery": recovery}).data, status=201
        )

    @extend_schema(request=ProofSerializer, responses={204: None})
    def destroy(self, request: Request, pk: int) -> Response:
        """Remove one, with a code or any passkey."""
        passkey = self.get_object()
        require_proof(request, self.user)
        passkeys.remove(passkey)
        return Response(status=204)
