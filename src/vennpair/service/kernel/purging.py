"""Delete what has served its purpose; each app says what that is among its rows, and for how long
it is kept (docs/settings.md).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from vennpair.service.kernel.apart import apart
from vennpair.service.kernel.hooks import Hook

REMEMBERED = timedelta(days=1)  # what is needed no longer than a sign-in, a picking, a token takes

# Called with the present moment; what is still in force stays. Answers how many rows of what went.
delete_spent: Hook[[datetime], dict[str, int]] = Hook()


def purge(*, keep: bool = False) -> dict[str, int]:
    """Delete, app by app, and return how many rows of what went: what one of them cannot delete
    keeps nothing else from going. ``keep``: only count.
    """
    now, gone = timezone.now(), Counter[str]()

    def go(delete: Callable[[datetime], dict[str, int]]) -> None:
        gone.update(delete(now))
        transaction.set_rollback(keep)

    apart(delete_spent.listeners, go, "deleting what is kept no longer")
    return dict(gone)


def spent(rows: QuerySet[Any]) -> int:
    """Delete rows; return how many of them there were, without those that hang on them."""
    _, by_model = rows.delete()
    return by_model.get(rows.model._meta.label, 0)


def before(now: datetime, name: str) -> datetime | None:
    """Return the moment before which the rows of a retention setting go, None where they are kept
    for ever (0 days).
    """
    days: int = settings.KEPT_DAYS[name]
    return now - timedelta(days=days) if days else None
