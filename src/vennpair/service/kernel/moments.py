"""A moment as a column: a timestamp in the table, ISO 8601 in code."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any

from django.db import models

if TYPE_CHECKING:
    Base = models.DateTimeField[str, str]
else:
    Base = models.DateTimeField


class MomentField(Base):
    """A moment that may be missing: a timestamp with its zone in the table, so that the database
    compares and sorts it; here ISO 8601 text in UTC, empty where there is none, as the rules and
    the wire take it. It is the course's zone that says how it is shown (``core.deploy.dates``).

    Raises ValueError for text that is no time, or one without a zone.
    """

    def __init__(self, **options: Any) -> None:
        super().__init__(**options | {"null": True, "blank": True, "default": ""})

    def from_db_value(self, value: datetime | None, *_: Any) -> str:
        """Return the text of a stored moment."""
        return "" if value is None else value.astimezone(UTC).isoformat()

    def get_prep_value(self, value: Any) -> datetime | None:
        """Return what is stored."""
        if not value:
            return None
        moment = value if isinstance(value, datetime) else datetime.fromisoformat(value)
        if moment.tzinfo is None:
            raise ValueError(f"{value!r} names no zone")
        return moment

    def to_python(self, value: Any) -> Any:
        """Return the text."""
        moment = self.get_prep_value(value)
        return "" if moment is None else moment.astimezone(UTC).isoformat()
