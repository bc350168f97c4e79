"""Register a publisher at an institution, or change its registration; we are its platform."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.db import IntegrityError, transaction

from vennpair.service.connect.models import Institution, Publisher, User
from vennpair.service.connect.registration_values import platform_card
from vennpair.service.connect.secrets import seal
from vennpair.service.kernel.audit.trail import record
from vennpair.service.kernel.errors import Refused

SECRETS = {"oneroster_secret", "shared_secret"}
FIELDS = (
    "speaks",
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
    "oneroster_url",
    "oneroster_token_url",
    "oneroster_client_id",
    "provisioning_url",
    "features",
    "how",
    "active",
    "name",
)


def publisher_card(institution: Institution, name: str) -> dict[str, str]:
    """Return what the publisher must know of us as its platform; reserves the client id."""
    publisher, _ = Publisher.objects.get_or_create(institution=institution, name=name)
    return platform_card(publisher)


def register_publisher(
    institution: Institution, name: str, card: dict[str, Any], actor: User | None = None
) -> Publisher:
    """Store what a publisher's card says, under its name; secrets are encrypted.

    Another one that has the name already, at another host, keeps it.
    """
    name = told_apart(institution, name, str(card.get("login_url") or card.get("launch_url") or ""))
    with transaction.atomic():
        publisher, made = Publisher.objects.select_for_update().get_or_create(
            institution=institution, name=name
        )
        _fill(publisher, card)
        record(
            "publisher.registered" if made else "publisher.changed",
            f"The publisher {name} was registered.",
            institution=institution,
            actor=actor,
        )
    return publisher


def told_apart(institution: Institution, name: str, url: str) -> str:
    """Return a name by which people tell a publisher from another of the same."""
    host = urlsplit(url).netloc
    taken = Publisher.objects.filter(institution=institution, name=name).first()
    there = urlsplit(taken.login_url or taken.launch_url).netloc if taken else ""
    return f"{name[:120]} ({host})"[:200] if host and there and there != host else name


def change_publisher(publisher: Publisher, changes: dict[str, Any], actor: User) -> Publisher:
    """Change a registration; a secret that is left out stays.

    Raises Refused where the name is taken.
    """
    try:
        with transaction.atomic():
            locked = (
                Publisher.objects.select_for_update(of=("self",))
                .select_related("institution")
                .get(pk=publisher.pk)
            )
            shown = sorted(name for name in changes if name not in SECRETS)
            before = {name: getattr(locked, name) for name in shown}
            _fill(locked, changes)
            words = ", ".join([*shown, *("a secret" for name in changes if name in SECRETS)])
            record(
                "publisher.changed",
                f"The publisher {locked.name} was changed: {words}.",
                institution=locked.institution,
                actor=actor,
                before=before,
                after={name: changes[name] for name in shown},
            )
    except IntegrityError:
        raise Refused(
            "name_taken",
            "Another publisher of this institution has that name.",
            "Choose another name.",
        ) from None
    return locked


def _fill(publisher: Publisher, card: dict[str, Any]) -> None:
    for name in FIELDS:
        if name in card:
            setattr(publisher, name, card[name])
    for name in SECRETS & set(card):
        setattr(publisher, name, seal(card[name]) if card[name] else "")
    # Redirects are matched exactly; a publisher registered by hand answers at its launch address.
    if "launch_url" in card and "redirect_uris" not in card:
        publisher.redirect_uris = [card["launch_url"]] if card["launch_url"] else []
    publisher.save()
