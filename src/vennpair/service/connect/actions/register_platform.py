"""Register a course platform at an institution, or change its registration."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from vennpair.service.activity.audit import record
from vennpair.service.connect.models import Institution, Platform

FIELDS = ("authorization_url", "token_url", "jwks_url")


def register_platform(institution: Institution, name: str, card: dict[str, Any], actor: Any = None) -> Platform:
    """Store what a platform's card says: issuer, client_id, deployment_id and its three addresses."""
    with transaction.atomic():
        fields = {field: card[field] for field in FIELDS} | {"institution": institution, "name": name, "deployment_ids": [card["deployment_id"]]}
        platform, made = Platform.objects.update_or_create(issuer=card["issuer"], client_id=card["client_id"], defaults=fields)
        record("platform.registered" if made else "platform.changed", f"{name} is registered as a platform.", institution=institution, actor=actor, after={"issuer": platform.issuer})
    return platform
