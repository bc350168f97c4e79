"""Rotate our signing keys, with overlap: on schedule, or at once."""

from __future__ import annotations

from itertools import pairwise

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from vennpair.core.moments import moment_words
from vennpair.service.connect.keys import AFTER, AHEAD, LIFE, make_key
from vennpair.service.connect.models import Institution, SigningKey
from vennpair.service.kernel.audit.trail import record


def rotate_on_schedule() -> bool:
    """Publish the next key two days before the current one is ninety days old; withdraw what signed
    last a week ago.

    Return whether a key was made.
    """
    now = timezone.now()
    with transaction.atomic():
        rows = list(SigningKey.objects.select_for_update().order_by("signs_from", "id"))
        if not rows:
            return False
        for older, newer in pairwise(rows):
            if older.ends_at is None:
                older.ends_at = newer.signs_from + AFTER
                older.save(update_fields=["ends_at"])
        SigningKey.objects.filter(ends_at__lt=now).delete()
        if rows[-1].signs_from + LIFE - AHEAD > now:
            return False
        make_key(AHEAD)
    return True


def rotate_now() -> SigningKey:
    """Publish a new key that signs in two days, unless one is waiting already; return it.

    The keys are those of the whole service, so its operator does this (``manage rotate_keys``), and
    every institution's trail says it.
    """
    now = timezone.now()
    with transaction.atomic():
        list(SigningKey.objects.select_for_update())
        newest = SigningKey.objects.aggregate(at=Max("signs_from"))["at"]
        if newest and newest > now:
            return SigningKey.objects.get(signs_from=newest)
        made = make_key(AHEAD)
        SigningKey.objects.exclude(pk=made.pk).filter(ends_at=None).update(
            ends_at=made.signs_from + AFTER
        )
        for institution in Institution.objects.all():
            begins = moment_words(made.signs_from, institution.timezone)
            record(
                "keys.rotated",
                f"A new signing key is published; it signs from {begins} on.",
                institution=institution,
                after={"kid": made.kid},
            )
    return made
