"""Passkeys and security keys as a second factor beside the password (Web Authentication Level 2)."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import urlsplit

import webauthn
from django.conf import settings
from django.db import transaction
from django.utils import timezone
from webauthn.helpers import base64url_to_bytes, bytes_to_base64url, parse_client_data_json
from webauthn.helpers.exceptions import WebAuthnException
from webauthn.helpers.structs import (
    AuthenticatorSelectionCriteria,
    PublicKeyCredentialDescriptor,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from vennpair.service.connect import second_factor
from vennpair.service.connect.models import Passkey, PasskeyChallenge, User

MOST_WAITING = 5  # challenges of one person: as many windows, and no more
MOST_PASSKEYS = 20
# What a damaged or hostile answer makes the library raise beside its own errors.
_UNREADABLE = (WebAuthnException, ValueError, KeyError, TypeError, AttributeError)


def begin_adding(user: User) -> dict[str, Any]:
    """Return what a browser needs to make a passkey (PublicKeyCredentialCreationOptions as JSON)."""
    challenge = _new_challenge(user, adding=True)
    options = webauthn.generate_registration_options(
        rp_id=_host(),
        rp_name="Venn Pair",
        user_id=f"user-{user.pk}".encode(),
        user_name=user.username,
        user_display_name=user.shown_name,
        challenge=base64url_to_bytes(challenge),
        exclude_credentials=_descriptors(user),
        # It comes beside a password, so the authenticator need not know who it is or remember us.
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.DISCOURAGED,
            user_verification=UserVerificationRequirement.DISCOURAGED,
        ),
    )
    return dict(json.loads(webauthn.options_to_json(options)))


def add(user: User, name: str, answer: dict[str, Any]) -> tuple[Passkey, list[str]] | None:
    """Keep the passkey that a browser made, where it answers a challenge of ours; return it with
    the recovery codes where it is somebody's first second factor. None where it is not right.
    """
    challenge = _take_challenge(user, answer, adding=True)
    if challenge is None:
        return None
    try:
        made = webauthn.verify_registration_response(
            credential=answer,
            expected_challenge=challenge,
            expected_rp_id=_host(),
            expected_origin=settings.BASE_URL,
        )
    except _UNREADABLE:
        return None
    credential = bytes_to_base64url(made.credential_id)
    with transaction.atomic():
        if Passkey.objects.filter(credential=credential).exists():
            return None
        codes = second_factor.begin_with_passkey(user)
        passkey = Passkey.objects.create(
            user=user,
            name=name,
            credential=credential,
            public_key=made.credential_public_key,
            uses=made.sign_count,
            made_at=timezone.now(),
        )
        second_factor.note(user, user, "passkey.added", f"added the passkey '{name}'")
    return passkey, codes


def begin_proof(user: User) -> dict[str, Any] | None:
    """Return what a browser needs to ask one of somebody's passkeys
    (PublicKeyCredentialRequestOptions as JSON); None where they have none.
    """
    known = _descriptors(user)
    if not known:
        return None
    options = webauthn.generate_authentication_options(
        rp_id=_host(),
        challenge=base64url_to_bytes(_new_challenge(user, adding=False)),
        allow_credentials=known,
        user_verification=UserVerificationRequirement.DISCOURAGED,
    )
    return dict(json.loads(webauthn.options_to_json(options)))


def proves(user: User, answer: dict[str, Any]) -> bool:
    """Say whether an answer is by one of somebody's passkeys to a challenge of ours, used up now."""
    challenge = _take_challenge(user, answer, adding=False)
    if challenge is None:
        return False
    with transaction.atomic():
        known = Passkey.objects.select_for_update().filter(user=user)
        passkey = known.filter(credential=str(answer.get("id"))[:1400]).first()
        if passkey is None:
            return False
        try:
            used = webauthn.verify_authentication_response(
                credential=answer,
                expected_challenge=challenge,
                expected_rp_id=_host(),
                expected_origin=settings.BASE_URL,
                credential_public_key=bytes(passkey.public_key),
                credential_current_sign_count=passkey.uses,
            )
        except _UNREADABLE:
            return False
        passkey.uses, passkey.used_at = used.new_sign_count, timezone.now()
        passkey.save(update_fields=["uses", "used_at"])
    return True


def remove(passkey: Passkey) -> None:
    """Forget a passkey of somebody who proved that they may; without any other factor, signing in
    needs the password alone again.
    """
    user = passkey.user
    with transaction.atomic():
        passkey.delete()
        second_factor.note(user, user, "passkey.removed", f"removed the passkey '{passkey.name}'")
        if not user.passkeys.exists() and not second_factor.has_app(user):
            second_factor.turn_off(user, user)


def _host() -> str:
    """Return the relying party's id: the host that the service is reached at."""
    return str(urlsplit(settings.BASE_URL).hostname)


def _descriptors(user: User) -> list[PublicKeyCredentialDescriptor]:
    known = user.passkeys.order_by("pk").values_list("credential", flat=True)
    return [PublicKeyCredentialDescriptor(id=base64url_to_bytes(each)) for each in known]


def _new_challenge(user: User, *, adding: bool) -> str:
    value = bytes_to_base64url(webauthn.helpers.generate_challenge())
    waiting = PasskeyChallenge.objects.filter(user=user)
    with transaction.atomic():
        kept = waiting.order_by("-made_at").values("pk")[: MOST_WAITING - 1]
        waiting.exclude(pk__in=[each["pk"] for each in kept]).delete()
        PasskeyChallenge.objects.create(
            user=user, value=value, adding=adding, made_at=timezone.now()
        )
    return value


def _take_challenge(user: User, answer: dict[str, Any], *, adding: bool) -> bytes | None:
    """Use up the challenge that an answer names, where it is ours and not too old."""
    try:
        said = base64url_to_bytes(answer["response"]["clientDataJSON"])
        value = bytes_to_base64url(parse_client_data_json(said).challenge)
    except _UNREADABLE:
        return None
    since = timezone.now() - PasskeyChallenge.GOOD_FOR
    mine = PasskeyChallenge.objects.filter(user=user, adding=adding, made_at__gt=since)
    taken, _ = mine.filter(value=value).delete()
    return base64url_to_bytes(value) if taken else None
