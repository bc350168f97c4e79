"""Register a course platform at an institution, or change its registration."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.db import transaction

from vennpair.service.connect.models import Institution, Platform, User
from vennpair.service.connect.sessions import end_sessions
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused

FIELDS = ("authorization_url", "token_url", "jwks_url")


def register_platform(
    institution: Institution, name: str, card: dict[str, Any], actor: User | None = None
) -> Platform:
    """Store what a platform's card says: issuer, client_id, deployment_id (or several) and its
    three addresses.

    The same issuer and client id again change the registration; another institution's is refused.
    """
    named = card.get("deployment_ids") or (
        [card["deployment_id"]] if card.get("deployment_id") else []
    )
    fields = {field: card[field] for field in FIELDS} | {
        name: card[name]
        for name in ("product", "how", "token_audience", "granted")
        if card.get(name)
    }
    with transaction.atomic():
        known = (
            Platform.objects.select_for_update()
            .filter(issuer=card["issuer"], client_id=card["client_id"])
            .first()
        )
        if known is not None and known.institution_id != institution.pk:
            raise Refused(
                "registered_elsewhere",
                "This platform registration belongs to another institution of this service.",
                "Ask the platform for a client id of your own.",
            )
        platform = known or Platform(
            issuer=card["issuer"], client_id=card["client_id"], institution=institution
        )
        platform.name, platform.active = _name(platform, name), True
        for field, value in fields.items():
            setattr(platform, field, value)
        platform.deployment_ids = list(dict.fromkeys([*platform.deployment_ids, *named]))
        platform.save()
        verb, words = (
            ("platform.changed", "changed") if known else ("platform.registered", "registered")
        )
        record(
            verb,
            f"The platform {name} was {words}.",
            institution=institution,
            actor=actor,
            after={"issuer": platform.issuer, "client_id": platform.client_id},
        )
    return platform


def _name(platform: Platform, wanted: str) -> str:
    """Return a name by which people tell a platform from another of the same."""
    others = Platform.objects.filter(institution=platform.institution, name=wanted)
    if not others.exclude(pk=platform.pk).exists():
        return wanted
    return f"{wanted[:120]} ({urlsplit(platform.issuer).netloc})"[:200]


def change_platform(platform: Platform, changes: dict[str, Any], actor: User) -> Platform:
    """Change a registration: its name, addresses, deployments, or whether it is in use."""
    with transaction.atomic():
        locked = (
            Platform.objects.select_for_update(of=("self",))
            .select_related("institution")
            .get(pk=platform.pk)
        )
        before = {name: getattr(locked, name) for name in changes}
        for name, value in changes.items():
            setattr(locked, name, value)
        locked.asked_deployments = [
            each for each in locked.asked_deployments if each not in locked.deployment_ids
        ]
        locked.save()
        if not locked.active:
            end_sessions(platform=locked)
        record(
            "platform.changed",
            f"The platform {locked.name} was changed: {', '.join(sorted(changes))}.",
            institution=locked.institution,
            actor=actor,
            before=before,
            after=changes,
        )
    return locked
