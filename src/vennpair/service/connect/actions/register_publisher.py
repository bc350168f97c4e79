"""Register a publisher at an institution, in two steps: our card for it, then its card for us."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import transaction

from vennpair.service.activity.audit import record
from vennpair.service.connect.models import Institution, Publisher
from vennpair.service.connect.secrets import seal

FIELDS = ("login_url", "launch_url", "jwks_url", "oneroster_url", "oneroster_token_url", "oneroster_client_id")


def publisher_card(institution: Institution, name: str) -> dict[str, str]:
    """Return what the publisher must know of us as its platform; reserves the client id."""
    publisher, _ = Publisher.objects.get_or_create(institution=institution, name=name)
    base = settings.BASE_URL
    return {
        "issuer": base,
        "client_id": publisher.client_id,
        "deployment_id": publisher.deployment_id,
        "authorization_url": f"{base}/lti/platform/authorize",
        "token_url": f"{base}/lti/platform/token",
        "jwks_url": f"{base}/lti/jwks",
    }


def register_publisher(institution: Institution, name: str, card: dict[str, Any], actor: Any = None) -> Publisher:
    """Store what a publisher's card says; its OneRoster secret is encrypted."""
    with transaction.atomic():
        fields = {field: card[field] for field in FIELDS} | {"redirect_uris": [card["launch_url"]], "oneroster_secret": seal(card["oneroster_secret"])}
        publisher, _ = Publisher.objects.update_or_create(institution=institution, name=name, defaults=fields)
        record("publisher.registered", f"{name} is registered as a publisher.", institution=institution, actor=actor)
    return publisher
