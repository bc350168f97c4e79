"""Delete what has served its purpose; each app says what that is among its rows."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.utils import timezone

from vennpair.service.kernel.hooks import Hook

REMEMBERED = timedelta(days=1)  # what is needed no longer than a sign-in, a picking, a token takes

# Called with the present moment; what is still in force stays.
delete_spent: Hook[[datetime], None] = Hook()


def purge() -> None:
    """Delete, app by app: what one of them cannot delete keeps nothing else from going."""
    now = timezone.now()
    for delete in delete_spent.listeners:
        with transaction.atomic():
            delete(now)
