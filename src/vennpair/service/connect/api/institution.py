"""Keys, people and tokens."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from knox.models import AuthToken
from rest_framework import mixins, serializers
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect import second_factor
from vennpair.service.connect.actions.block_person import block_person, remove_person
from vennpair.service.connect.actions.change_person import change_person
from vennpair.service.connect.actions.make_token import end_token, make_token
from vennpair.service.connect.api.base import Viewset
from vennpair.service.connect.api.common import ForAdministrators
from vennpair.service.connect.keys import signing_row
from vennpair.service.connect.models import SigningKey, User
from vennpair.service.connect.permissions import SCOPES
from vennpair.service.kernel.web.reading import read


class KeySerializer(serializers.ModelSerializer[SigningKey]):
    """A signing key of ours; ``signs`` marks the one in use."""

    signs = serializers.BooleanField(read_only=True, default=False)

    class Meta:
        model = SigningKey
        fields = read_only_fields = ["kid", "made_at", "signs_from", "ends_at", "signs"]


class KeyViewset(ForAdministrators):
    """Our keys; they change every ninety days, and when the service's operator says so."""

    serializer_class = KeySerializer
    queryset = SigningKey.objects.none()
    pagination_class = None

    @extend_schema(responses=KeySerializer(many=True))
    def list(self, request: Request) -> Response:
        """List them, newest first."""
        current, rows = signing_row(), list(SigningKey.objects.order_by("-id"))
        for row in rows:
            row.signs = row.pk == current.pk  # type: ignore[attr-defined]
        return Response(KeySerializer(rows, many=True).data)


class PersonSerializer(serializers.ModelSerializer[User]):
    """Somebody of the institution who has signed in or launched."""

    name = serializers.CharField(source="shown_name", read_only=True)
    role = serializers.SerializerMethodField()
    blocked = serializers.SerializerMethodField()
    second_factor = serializers.SerializerMethodField()

    class Meta:
        model = User
        fields = read_only_fields = [
            "id",
            "username",
            "name",
            "role",
            "blocked",
            "second_factor",
            "last_login",
        ]

    def get_role(self, user: User) -> str:
        """Return the role in the institution; roles in shells come from launches."""
        return "administrator" if user.is_staff else "designer" if user.is_designer else "teacher"

    def get_second_factor(self, user: User) -> bool:
        """Say whether the person signs in with a code, too."""
        return any(each.confirmed_at for each in user.second_factors.all())

    def get_blocked(self, user: User) -> bool:
        """Say whether the person may not sign in or launch."""
        return not user.is_active


class ChangePersonSerializer(serializers.Serializer[Any]):
    """A person's role in the institution, and whether they are blocked; what is left out stays."""

    role = serializers.ChoiceField(["administrator", "designer", "teacher"], required=False)
    second_factor = serializers.ChoiceField(
        ["off"], required=False, help_text="where the app and the recovery codes are lost"
    )
    blocked = serializers.BooleanField(
        required=False, help_text="ends sessions, tokens, invitations and account links at once"
    )


class PersonViewset(mixins.ListModelMixin, ForAdministrators):
    """The people of the institution, and what they may."""

    serializer_class = PersonSerializer
    queryset = User.objects.none()
    lookup_value_converter = "int"

    def get_queryset(self) -> QuerySet[User]:
        """Return the institution's."""
        people = User.objects.filter(institution=self.user.institution_id)
        return people.prefetch_related("second_factors")

    @extend_schema(request=ChangePersonSerializer, responses=PersonSerializer)
    def partial_update(self, request: Request, pk: int) -> Response:
        """Make somebody administrator or course designer, or neither."""
        person = self.get_object()
        asked = read(ChangePersonSerializer, request)
        if "role" in asked:
            person = change_person(person, asked["role"], self.user)
        if "second_factor" in asked:
            second_factor.turn_off(person, self.user)
            person = self.get_object()
        if "blocked" in asked and asked["blocked"] == person.is_active:
            person = block_person(person, self.user, blocked=asked["blocked"])
        return Response(PersonSerializer(person).data)

    @extend_schema(responses={204: None})
    def destroy(self, request: Request, pk: int) -> Response:
        """Block somebody and take their parts in all shells away; the record keeps their name."""
        remove_person(self.get_object(), self.user)
        return Response(status=204)


class TokenRowSerializer(serializers.Serializer[Any]):
    """A token of one's own; its value was shown once."""

    id = serializers.CharField(source="token_key")
    name = serializers.SerializerMethodField()
    scopes = serializers.SerializerMethodField()
    made_at = serializers.DateTimeField(source="created")
    expires = serializers.DateTimeField(source="expiry")
    used_at = serializers.DateTimeField(source="use.used_at", default=None, allow_null=True)

    def get_name(self, token: AuthToken) -> str:
        """Return what it is for."""
        grant = getattr(token, "grant", None)
        return grant.name if grant else "sign-in"

    def get_scopes(self, token: AuthToken) -> list[str]:
        """Return what it may."""
        grant = getattr(token, "grant", None)
        return list(grant.scopes) if grant else list(SCOPES)


class NewTokenSerializer(serializers.Serializer[Any]):
    """What the token is for, what it may, and for how many days."""

    name = serializers.CharField(max_length=100)
    scopes = serializers.ListField(child=serializers.ChoiceField(list(SCOPES)), min_length=1)
    days = serializers.IntegerField(min_value=1, max_value=366, default=30)


class MadeTokenSerializer(serializers.Serializer[Any]):
    """The token, shown this once."""

    token = serializers.CharField()
    id = serializers.CharField()
    expires = serializers.DateTimeField()


class TokenViewset(Viewset):
    """One's own tokens for scripts."""

    answers_secrets = frozenset({"create"})

    serializer_class = TokenRowSerializer
    queryset = AuthToken.objects.none()
    pagination_class = None
    lookup_field = "token_key"
    lookup_value_converter = "str"

    @extend_schema(responses=TokenRowSerializer(many=True))
    def list(self, request: Request) -> Response:
        """List those that have not ended, newest first."""
        return Response(
            TokenRowSerializer(
                AuthToken.objects.filter(user=self.user)
                .exclude(expiry__lt=timezone.now())
                .select_related("grant", "use")
                .order_by("-created"),
                many=True,
            ).data
        )

    @extend_schema(request=NewTokenSerializer, responses={201: MadeTokenSerializer})
    def create(self, request: Request) -> Response:
        """Make one; it cannot do more than what it is asked with."""
        facts = read(NewTokenSerializer, request)
        made, value = make_token(
            self.user,
            request.auth,
            facts["name"],
            facts["scopes"],
            timedelta(days=facts["days"]),
        )
        return Response({"token": value, "id": made.token_key, "expires": made.expiry}, status=201)

    @extend_schema(responses={204: None})
    def destroy(self, request: Request, token_key: str) -> Response:
        """Revoke one."""
        end_token(get_object_or_404(AuthToken, user=self.user, token_key=token_key), self.user)
        return Response(status=204)
