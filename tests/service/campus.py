"""What the campus really holds: a shell's outline and gradebook, as its pages would show them."""

from __future__ import annotations

from typing import Any

from tools.world import at_campus
from tools.world.world import World

_SHOWN = ("title", "kind", "depth", "folder", "visible", "shown_from", "due", "window")


def read_shell(world: World, context_id: str) -> dict[str, Any]:
    """Return the outline in reading order and the gradebook's columns in theirs."""
    links = at_campus.outline(world, context_id)
    return {
        "links": [{name: row[name] for name in _SHOWN} for row in links],
        "columns": at_campus.columns(world, context_id),
    }
