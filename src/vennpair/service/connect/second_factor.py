"""A second factor beside the password: codes of an authenticator app (TOTP, RFC 6238), passkeys
(``passkeys.py``), and recovery codes that are good once.
"""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime

import pyotp
from django.db import transaction
from django.utils import timezone
from django.utils.crypto import constant_time_compare

from vennpair.service.connect.models import SecondFactor, User
from vennpair.service.connect.secrets import seal, unseal
from vennpair.service.kernel.audit.trail import record

STEP = 30  # seconds that a code is shown for
TOLERANCE = 1  # steps that a clock may be off, either way
RECOVERY_CODES, RECOVERY_BYTES = 8, 10


def is_on(user: User) -> bool:
    """Say whether somebody signs in with a second factor, too."""
    return SecondFactor.objects.filter(user=user).exclude(confirmed_at=None).exists()


def has_app(user: User) -> bool:
    """Say whether somebody has an authenticator app that counts."""
    confirmed = SecondFactor.objects.filter(user=user).exclude(confirmed_at=None)
    return confirmed.exclude(key="").exists()


def begin(user: User) -> str:
    """Make a new key that is to be confirmed by a code; return it in base32, as apps take it."""
    key = pyotp.random_base32()
    with transaction.atomic():
        SecondFactor.objects.filter(user=user, confirmed_at=None).delete()
        SecondFactor.objects.create(user=user, key=seal(key))
    return key


def address_of(user: User, key: str) -> str:
    """Return the address that an authenticator app reads as a picture."""
    return str(pyotp.TOTP(key).provisioning_uri(name=user.username, issuer_name="Venn Pair"))


def confirm(user: User, code: str) -> list[str] | None:
    """Turn the second factor on where a code of the new key is right; return the recovery codes,
    shown this once. None where it is wrong, or nothing waits.
    """
    with transaction.atomic():
        waiting = SecondFactor.objects.select_for_update().filter(user=user, confirmed_at=None)
        factor = waiting.first()
        if factor is None or not _takes(factor, code, timezone.now()):
            return None
        # One who had passkeys alone has a factor already: the new codes replace its codes.
        SecondFactor.objects.filter(user=user).exclude(confirmed_at=None).delete()
        codes = _count_from_now(factor)
        note(user, user, "second_factor.on", "signs in with a code from now on")
    return codes


def begin_with_passkey(user: User) -> list[str]:
    """Let a second factor count from now on that is a passkey alone; return the recovery codes,
    shown this once, empty where one counts already.
    """
    with transaction.atomic():
        User.objects.select_for_update().get(pk=user.pk)
        if is_on(user):
            return []
        codes = _count_from_now(SecondFactor(user=user))
        note(user, user, "second_factor.on", "signs in with a passkey from now on")
    return codes


def accepts(user: User, code: str) -> bool:
    """Say whether a code is right now; each is good once, a recovery code too."""
    with transaction.atomic():
        found = SecondFactor.objects.select_for_update().filter(user=user)
        factor = found.exclude(confirmed_at=None).first()
        if factor is None:
            return False
        digest = _digest(code)
        if digest in factor.recovery:
            factor.recovery = [each for each in factor.recovery if each != digest]
            factor.save()
            return True
        return _takes(factor, code, timezone.now())


def turn_off(user: User, actor: User) -> None:
    """Let somebody sign in with the password alone again: they themselves, or an administrator
    where the app, the passkeys and the recovery codes are lost.
    """
    with transaction.atomic():
        user.passkeys.all().delete()
        if SecondFactor.objects.filter(user=user).delete()[0]:
            note(user, actor, "second_factor.off", "signs in with the password alone from now on")


def note(user: User, actor: User, verb: str, words: str) -> None:
    """Record a change of how somebody signs in."""
    if user.institution:
        record(verb, f"{user.shown_name} {words}.", institution=user.institution, actor=actor)


def _count_from_now(factor: SecondFactor) -> list[str]:
    codes = [secrets.token_hex(RECOVERY_BYTES // 2) for _ in range(RECOVERY_CODES)]
    factor.recovery = [_digest(each) for each in codes]
    factor.confirmed_at = timezone.now()
    factor.save()
    return codes


def _takes(factor: SecondFactor, code: str, now: datetime) -> bool:
    """Say whether a code fits a step that was not used yet; use it up."""
    if not factor.key:  # passkeys alone
        return False
    totp, digits = pyotp.TOTP(unseal(factor.key)), "".join(code.split())
    at = int(now.timestamp()) // STEP
    for step in range(at - TOLERANCE, at + TOLERANCE + 1):
        if step > factor.last_step and constant_time_compare(totp.at(step * STEP), digits):
            factor.last_step = step
            factor.save(update_fields=["last_step"])
            return True
    return False


def _digest(code: str) -> str:
    return hashlib.sha256("".join(code.split()).lower().encode()).hexdigest()
