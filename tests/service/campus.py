"""What the campus really holds, and what somebody changes there, past every service of ours."""

from __future__ import annotations

import json
from typing import Any

from tools.house.world import World

READ = """
import json
from vennpair.standins.campus.models import *
from vennpair.standins.campus.lti.outline import in_order
s = Shell.objects.get(context_id='{context}')
names = {{n.pk: n.title for n, _ in in_order(s)}}
links = [dict(title=n.title, kind=n.kind, depth=d, folder=names.get(n.parent_id, ''), visible=n.visible, shown_from=n.shown_from, due=n.due_at, window=n.new_window) for n, d in in_order(s)]
columns = [dict(title=c.label, points=f'{{c.maximum.normalize():f}}', end=c.end, start=c.start, category=c.category.title if c.category else '', link=c.link.title if c.link else '') for c in s.columns.select_related('category', 'link')]
print('READ' + json.dumps(dict(links=links, columns=columns)))
"""


def read_shell(world: World, context: str) -> Any:
    """Return the outline in reading order and the gradebook's columns in theirs."""
    return json.loads(
        world.manage("campus", "shell", "-v", "0", "-c", READ.format(context=context)).rpartition(
            "READ"
        )[2]
    )
