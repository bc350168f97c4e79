"""Signing in at the college's own OpenID provider: setting it up, and taking in who comes."""

from __future__ import annotations

import uuid

from django.db import transaction

from vennpair.gateways.openid import find_provider
from vennpair.service.connect.models import (
    CollegeIdentity,
    CollegeSignIn,
    Institution,
    User,
)
from vennpair.service.connect.secrets import seal
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused
from vennpair.standards.openid import SignedIn


def set_college_sign_in(
    institution: Institution, actor: User, *, issuer: str, client_id: str, secret: str, active: bool
) -> CollegeSignIn:
    """Store where the institution's people sign in, once the provider has answered there.

    A secret that is left empty stays; with another issuer the people known from the old one are
    forgotten, as they are others there. Raises OutsideError, Refused.
    """
    find_provider(issuer, issuer)
    with transaction.atomic():
        known = CollegeSignIn.objects.select_for_update().filter(institution=institution).first()
        if known is None and not secret:
            raise Refused(
                "no_secret",
                "The provider's client secret is missing.",
                "Copy it from the provider, where Venn Pair is registered as a client.",
                422,
            )
        made = known or CollegeSignIn(institution=institution)
        if known is not None and known.issuer != issuer:
            known.identities.all().delete()
        made.issuer, made.client_id, made.active = issuer, client_id, active
        if secret:
            made.secret = seal(secret)
        made.save()
        record(
            "college_sign_in.set",
            f"Sign-in at {issuer} was {'set up' if active else 'turned off'}.",
            institution=institution,
            actor=actor,
            after={"issuer": issuer, "client_id": client_id, "active": active},
        )
    return made


def remove_college_sign_in(institution: Institution, actor: User) -> None:
    """Forget the provider and who came from it."""
    with transaction.atomic():
        CollegeSignIn.objects.filter(institution=institution).delete()
        record(
            "college_sign_in.removed",
            "Sign-in by the college was removed.",
            institution=institution,
            actor=actor,
        )


def take_in(college: CollegeSignIn, who: SignedIn) -> User:
    """Return whom somebody is with us.

    Somebody new is who has the address that the provider vouches for, else a person of the
    institution who may do nothing yet. Raises Refused for somebody who is blocked.
    """
    with transaction.atomic():
        CollegeSignIn.objects.select_for_update().get(pk=college.pk)  # two windows, one person
        known = college.identities.filter(subject=who.subject).select_related("user").first()
        user = known.user if known else _by_address(college, who) or _made(college, who)
        if not user.is_active or user.institution_id != college.institution_id:
            raise Refused(
                "blocked",
                "Your account with Venn Pair is blocked.",
                "Ask an administrator of your college.",
                403,
            )
        if known is None:
            CollegeIdentity.objects.create(college=college, subject=who.subject, user=user)
        record(
            "sign_in.college",
            f"{user.shown_name} signed in at {college.issuer}.",
            institution=college.institution,
            actor=user,
        )
    return user


def _by_address(college: CollegeSignIn, who: SignedIn) -> User | None:
    if not who.email:
        return None
    people = User.objects.filter(institution=college.institution, username__iexact=who.email)
    return people.exclude(college_identities__college=college).first()


def _made(college: CollegeSignIn, who: SignedIn) -> User:
    taken = not who.email or User.objects.filter(username__iexact=who.email).exists()
    user = User(
        username=f"college-{uuid.uuid4()}" if taken else who.email,
        email=who.email,
        first_name=who.given_name,
        last_name=who.family_name,
        institution=college.institution,
    )
    user.set_unusable_password()
    user.save()
    return user
