"""Account links at publishers, and which account is which learner."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db.models import QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import mixins, serializers
from rest_framework.decorators import action
from rest_framework.generics import get_object_or_404
from rest_framework.request import Request
from rest_framework.response import Response

from vennpair.service.connect.api.base import Viewset
from vennpair.service.connect.models import Publisher
from vennpair.service.kernel.web.reading import read, the_one
from vennpair.service.pair.actions.link_account import (
    begin_account,
    confirm_account,
    look_for_account,
    undo_account,
)
from vennpair.service.pair.actions.match_learners import confirm_match, open_accounts, undo_match
from vennpair.service.pair.api.nested import OfPairing
from vennpair.service.pair.models import AccountLink, Learner, LearnerMatch


class AccountSerializer(serializers.Serializer[Any]):
    """One publisher of the institution with the user's account there.

    ``state``: ``none``, ``begun``, ``pending`` (it looks like somebody else's: confirm or undo) or
    ``linked``.
    """

    id = serializers.UUIDField(allow_null=True)
    publisher = serializers.UUIDField()
    publisher_name = serializers.CharField()
    state = serializers.ChoiceField(["none", "begun", "pending", "linked"])
    account = serializers.CharField()
    email = serializers.CharField()
    courses = serializers.IntegerField()
    linked_at = serializers.DateTimeField(allow_null=True)
    warning = serializers.CharField()


class BeginAccountSerializer(serializers.Serializer[Any]):
    """At which publisher."""

    publisher = serializers.UUIDField()


class BegunAccountSerializer(serializers.Serializer[Any]):
    """The address to open in the browser that is signed in to Venn Pair."""

    open = serializers.CharField()
    account = AccountSerializer()


class AccountViewset(Viewset):
    """One's own accounts at the publishers."""

    serializer_class = AccountSerializer
    queryset = AccountLink.objects.none()
    pagination_class = None

    def get_queryset(self) -> QuerySet[AccountLink]:
        """Return one's own."""
        return AccountLink.objects.filter(user=self.user).select_related(
            "publisher", "user__institution"
        )

    @extend_schema(responses=AccountSerializer(many=True))
    def list(self, request: Request) -> Response:
        """List every publisher of the institution with one's account there."""
        links = {link.publisher_id: link for link in self.get_queryset()}
        publishers = Publisher.objects.filter(
            institution=self.user.institution_id, active=True
        ).order_by("name")
        return Response(
            [_account(links.get(each.pk), each) for each in publishers if each.can_launch]
        )

    @extend_schema(request=BeginAccountSerializer, responses={201: BegunAccountSerializer})
    def create(self, request: Request) -> Response:
        """Begin a link: open the address that comes back, sign in at the publisher, and
        come back.
        """
        asked = read(BeginAccountSerializer, request)
        publisher = get_object_or_404(
            Publisher, pk=asked["publisher"], institution=self.user.institution_id
        )
        link = begin_account(publisher, self.user)
        return Response(
            {
                "open": f"{settings.BASE_URL}/lti/platform/account/{link.pk}",
                "account": _account(link, publisher),
            },
            status=201,
        )

    @extend_schema(request=None, responses=AccountSerializer)
    @action(detail=True, methods=["post"])
    def look(self, request: Request, pk: str) -> Response:
        """Ask the publisher which account opened it, where it does not tell on its own."""
        link = look_for_account(self.get_object())
        return Response(_account(link, link.publisher))

    @extend_schema(request=None, responses=AccountSerializer)
    @action(detail=True, methods=["post"])
    def confirm(self, request: Request, pk: str) -> Response:
        """Say that the account is one's own though it looks like somebody else's."""
        link = confirm_account(self.get_object(), self.user)
        return Response(_account(link, link.publisher))

    @extend_schema(responses={204: None})
    def destroy(self, request: Request, pk: str) -> Response:
        """Undo the link; pairings stay."""
        undo_account(self.get_object(), self.user)
        return Response(status=204)


class LearnerRowSerializer(serializers.ModelSerializer[Learner]):
    """A learner of the shell."""

    class Meta:
        model = Learner
        fields = read_only_fields = ["id", "name", "email"]


class MatchCandidateSerializer(serializers.Serializer[Any]):
    """A learner who may be the account's owner, and why."""

    learner = LearnerRowSerializer()
    why = serializers.CharField()
    likeness = serializers.FloatField()


class OpenAccountSerializer(serializers.Serializer[Any]):
    """An account at the publisher whose owner only a person can name."""

    student = serializers.CharField()
    name = serializers.CharField()
    email = serializers.CharField()
    candidates = MatchCandidateSerializer(many=True)


class MatchSerializer(serializers.ModelSerializer[LearnerMatch]):
    """A match that somebody confirmed."""

    learner = LearnerRowSerializer(read_only=True)
    confirmed_by = serializers.CharField(
        source="confirmed_by.shown_name", default="", read_only=True
    )

    class Meta:
        model = LearnerMatch
        fields = read_only_fields = [
            "id",
            "student",
            "name",
            "email",
            "learner",
            "confirmed_by",
            "confirmed_at",
        ]


class MatchesSerializer(serializers.Serializer[Any]):
    """What is open and what was confirmed."""

    open = OpenAccountSerializer(many=True)
    confirmed = MatchSerializer(many=True)


class ConfirmMatchSerializer(serializers.Serializer[Any]):
    """Which account is which learner."""

    student = serializers.CharField(max_length=255)
    learner = serializers.UUIDField()


class MatchViewset(mixins.DestroyModelMixin, OfPairing):
    """Accounts at the publisher and learners of the shell."""

    serializer_class = MatchesSerializer
    queryset = LearnerMatch.objects.none()
    pagination_class = None
    lookup_value_converter = "int"

    @extend_schema(responses=the_one(MatchesSerializer))
    def list(self, request: Request, pairing_pk: str) -> Response:
        """List accounts that need a person's word, with likely owners, and what was confirmed."""
        pairing = self.pairing()
        rows = [
            {
                "student": each.student.sourced_id,
                "name": f"{each.student.given_name} {each.student.family_name}".strip(),
                "email": each.student.email,
                "candidates": [
                    {"learner": learner, "why": like.why, "likeness": like.likeness}
                    for learner, like in each.candidates
                ],
            }
            for each in open_accounts(pairing)
        ]
        confirmed = (
            LearnerMatch.objects.filter(course=pairing.course, learner__shell=pairing.shell)
            .select_related("learner", "confirmed_by")
            .order_by("name", "pk")
        )
        return Response(MatchesSerializer({"open": rows, "confirmed": confirmed}).data)

    @extend_schema(request=ConfirmMatchSerializer, responses={201: MatchSerializer})
    def create(self, request: Request, pairing_pk: str) -> Response:
        """Confirm that an account is a learner's."""
        pairing = self.pairing()
        asked = read(ConfirmMatchSerializer, request)
        learner = get_object_or_404(Learner, pk=asked["learner"], shell=pairing.shell)
        return Response(
            MatchSerializer(confirm_match(pairing, learner, asked["student"], self.user)).data,
            status=201,
        )

    @extend_schema(responses={204: None})
    def destroy(self, request: Request, pairing_pk: str, pk: int) -> Response:
        """Take the word back."""
        pairing = self.pairing()
        undo_match(
            pairing,
            get_object_or_404(
                LearnerMatch, pk=pk, course=pairing.course, learner__shell=pairing.shell
            ),
            self.user,
        )
        return Response(status=204)


def _account(link: AccountLink | None, publisher: Publisher) -> dict[str, Any]:
    warning = ""
    if link is not None and link.state == AccountLink.State.PENDING:
        warning = (
            f"{publisher.name} says that this browser is signed in there as {link.name}"
            f" ({link.email}), and you are {link.user.shown_name}. If that is your account, confirm"
            " it. If not, sign out there and link again."
        )
    facts = {
        "id": link.pk if link else None,
        "publisher": publisher.pk,
        "publisher_name": publisher.name,
        "state": link.state if link else "none",
        "account": link.name if link else "",
        "email": link.email if link else "",
        "courses": len(link.courses) if link else 0,
        "linked_at": link.linked_at if link else None,
        "warning": warning,
    }
    return dict(AccountSerializer(facts).data)
