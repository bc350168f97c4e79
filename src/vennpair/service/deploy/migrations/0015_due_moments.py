"""A due date becomes a timestamp; until now it was kept as text that names its zone."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.db import migrations

from vennpair.service.kernel.moments import MomentField

ROWS = ('decision',)


def to_moments(apps: Any, schema_editor: Any) -> None:
    """Read each text once: a course has few due dates. What is no date says none."""
    for name in ROWS:
        rows = apps.get_model("deploy", name).objects
        for text in rows.exclude(due_text="").values_list("due_text", flat=True).distinct():
            rows.filter(due_text=text).update(due_at=_moment(text))
    _settle(schema_editor)


def to_texts(apps: Any, schema_editor: Any) -> None:
    """Write each moment as text."""
    for name in ROWS:
        rows = apps.get_model("deploy", name).objects
        dated = rows.filter(due_at__isnull=False)
        for text in dated.values_list("due_at", flat=True).distinct():
            rows.filter(due_at=text).update(due_text=text)
    _settle(schema_editor)


def _settle(schema_editor: Any) -> None:
    """Check what waits for the end of the transaction now: a table of which rows wait for it cannot
    be altered.
    """
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")


def _moment(text: str) -> str:
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        return ""
    return (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).isoformat()


class Migration(migrations.Migration):
    dependencies = [("deploy", "0014_due_at")]

    operations = [
        *(migrations.RenameField(row, "due_at", "due_text") for row in ROWS),
        *(migrations.AddField(row, "due_at", MomentField()) for row in ROWS),
        migrations.RunPython(to_moments, to_texts),
        *(migrations.RemoveField(row, "due_text") for row in ROWS),
    ]
