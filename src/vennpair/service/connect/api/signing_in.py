"""The endpoints of signing in, and of who one is."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import authenticate
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.utils import timezone
from drf_spectacular.utils import extend_schema
from knox.models import AuthToken
from rest_framework import serializers
from rest_framework.exceptions import Throttled
from rest_framework.parsers import JSONParser
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from vennpair.gateways.hold import why_held
from vennpair.service.connect import passkeys, second_factor
from vennpair.service.connect.actions.change_wishes import change_digest, change_language
from vennpair.service.connect.actions.sign_ins import (
    change_password,
    note_refused_sign_in,
    note_sign_in,
    sign_out_everywhere,
)
from vennpair.service.connect.api.base import SignedIn
from vennpair.service.connect.api.proving import proven
from vennpair.service.connect.guessing import (
    address_of,
    forget_wrong,
    note_wrong,
    seconds_to_wait,
)
from vennpair.service.connect.models import User
from vennpair.service.connect.sessions import LONGEST, launch_language, sign_in, sign_out
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.web.reading import read


class SignInSerializer(serializers.Serializer[Any]):
    """Who signs in."""

    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    code = serializers.CharField(
        max_length=40,
        default="",
        allow_blank=True,
        help_text="of the authenticator app, or a recovery code, where the account has that",
    )
    passkey = serializers.DictField(
        required=False,
        help_text="what a passkey answered, instead of a code: an authentication response as a"
        " browser gives it (Web Authentication 5.1.8)",
    )
    session = serializers.BooleanField(
        default=False, help_text="sign this browser in too, for the console"
    )


class TokenSerializer(serializers.Serializer[Any]):
    """A token, shown this once; empty where a browser was signed in by its session."""

    token = serializers.CharField()
    expires = serializers.DateTimeField()
    name = serializers.CharField()


class MeSerializer(serializers.Serializer[Any]):
    """Who is signed in."""

    username = serializers.CharField()
    name = serializers.CharField()
    institution = serializers.CharField()
    administrator = serializers.BooleanField()
    designer = serializers.BooleanField()
    notices = serializers.IntegerField(help_text="how many are unread")
    has_password = serializers.BooleanField()
    second_factor = serializers.BooleanField(help_text="whether signing in needs a code, too")
    authenticator_app = serializers.BooleanField(help_text="whether an app gives such codes")
    digest = serializers.ChoiceField(
        User.Digest.choices, help_text="how often the night's comparisons are told"
    )
    language = serializers.CharField(
        help_text="BCP 47 tag of the language that the person chose, else of the course from which"
        " they came; empty where neither says one"
    )
    on_hold = serializers.CharField(
        help_text="why the operator keeps all outgoing calls back; empty where they are made"
    )


class WishSerializer(serializers.Serializer[Any]):
    """What one wishes; what is left out stays."""

    digest = serializers.ChoiceField(User.Digest.choices, required=False)
    language = serializers.RegexField(
        r"^([A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*)?$",
        max_length=35,
        allow_blank=True,
        required=False,
        help_text="BCP 47 tag, as es or en-US; empty for the language of the course",
    )


class PasswordSerializer(serializers.Serializer[Any]):
    """A new password."""

    password = serializers.CharField(max_length=200, trim_whitespace=False)


class SignIn(APIView):
    """Sign in with a password; gives a token for the command line."""

    permission_classes = [AllowAny]
    authentication_classes = []
    parser_classes = [JSONParser]  # no form of another site can send this

    @extend_schema(request=SignInSerializer, responses=TokenSerializer)
    def post(self, request: Request) -> Response:
        """Give a token that is good for thirty days."""
        facts = read(SignInSerializer, request)
        name = facts["username"]
        if wait := seconds_to_wait(request._request, name):
            raise Throttled(wait)
        user = authenticate(request._request, username=name, password=facts["password"])
        if not isinstance(user, User):
            note_wrong(request._request, name)
            note_refused_sign_in(name, address_of(request._request))
            raise Refused(
                "wrong_password",
                "The name or the password is not right.",
                "Open Venn Pair from your shell and set a password under your name, then try"
                " again.",
                401,
            )
        _require_second_factor(request, user, facts)
        forget_wrong(request._request, name)
        note_sign_in(user)
        if facts["session"]:  # the console has its session, and no token that could be taken
            sign_in(request._request, user)
            ends = timezone.now() + LONGEST
            return Response(
                TokenSerializer({"token": "", "expires": ends, "name": user.shown_name}).data
            )
        instance, token = AuthToken.objects.create(user)
        return Response(
            TokenSerializer(
                {"token": token, "expires": instance.expiry, "name": user.shown_name}
            ).data
        )


def _require_second_factor(request: Request, user: User, asked: dict[str, Any]) -> None:
    """Raise Refused where the account has a second factor and none is given, or a wrong one."""
    if not second_factor.is_on(user):
        return
    if not asked["code"] and "passkey" not in asked:
        options = passkeys.begin_proof(user) if asked["session"] else None
        raise Refused(
            "code_needed",
            "This account also needs a code.",
            "Give the six digits that your authenticator app shows, or a recovery code."
            if second_factor.has_app(user)
            else "Sign in to the console with your passkey, or give a recovery code.",
            401,
            **({"passkey": options} if options else {}),
        )
    if not proven(user, asked):
        note_wrong(request._request, user.username)
        note_refused_sign_in(user.username, address_of(request._request))
        raise Refused(
            "wrong_code",
            "The passkey was not accepted."
            if "passkey" in asked
            else "The code is not right, or was used already.",
            "Try it again, or give a recovery code."
            if "passkey" in asked
            else "Wait for the next one that the app shows, or use another recovery code.",
            401,
        )


class SignOutSerializer(serializers.Serializer[Any]):
    """Whether to sign out in every browser and end every token."""

    everywhere = serializers.BooleanField(default=False)


class SignOut(SignedIn):
    """End the session or the token that the request came with, or all."""

    @extend_schema(request=SignOutSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """Sign out."""
        if read(SignOutSerializer, request)["everywhere"]:
            sign_out_everywhere(self.user)
        elif isinstance(request.auth, AuthToken):
            request.auth.delete()
        else:
            sign_out(request._request)
        return Response(status=204)


class Me(SignedIn):
    """Who is signed in."""

    @extend_schema(responses=MeSerializer)
    def get(self, request: Request) -> Response:
        """Say who is signed in."""
        user = self.user
        facts = {
            "username": user.username,
            "name": user.shown_name,
            "institution": user.institution.name if user.institution else "",
            "administrator": user.is_staff,
            "designer": user.is_designer,
            "notices": user.notices.filter(read_at=None).count(),
        }
        return Response(
            MeSerializer(
                facts
                | {
                    "has_password": user.has_usable_password(),
                    "second_factor": second_factor.is_on(user),
                    "authenticator_app": second_factor.has_app(user),
                    "digest": user.digest,
                    "language": user.language or launch_language(request._request),
                    "on_hold": why_held(),
                }
            ).data
        )

    @extend_schema(request=WishSerializer, responses=MeSerializer)
    def patch(self, request: Request) -> Response:
        """Change how often one is told, or the language of the console."""
        asked = read(WishSerializer, request)
        if "digest" in asked:
            change_digest(self.user, asked["digest"])
        if "language" in asked:
            change_language(self.user, asked["language"])
        return self.get(request)


class Password(SignedIn):
    """Set a password for the command line.

    Only from the console, where a launch proved who it is.
    """

    @extend_schema(request=PasswordSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """Set it. This session stays; every other one and all tokens end."""
        asked = read(PasswordSerializer, request)
        if isinstance(request.auth, AuthToken):
            raise Refused(
                "not_allowed",
                "A token cannot change the password.",
                "Open Venn Pair from your shell and set it there.",
                403,
            )
        try:
            validate_password(asked["password"], self.user)
        except ValidationError as error:
            raise serializers.ValidationError({"password": error.messages}) from error
        change_password(self.user, asked["password"], request._request)
        return Response(status=204)
