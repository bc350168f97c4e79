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
    return json.loads(world.manage("campus", "shell", "-v", "0", "-c", READ.format(context=context)).rpartition("READ")[2])


def change(world: World, context: str, code: str) -> None:
    """Change something in a shell: ``s`` is the shell, ``link(title)`` and ``column(title)`` find in it."""
    head = f"from vennpair.standins.campus.models import *\ns = Shell.objects.get(context_id='{context}')\nlink = lambda title: s.nodes.filter(title=title)\ncolumn = lambda title: s.columns.filter(label=title)\n"
    world.manage("campus", "shell", "-v", "0", "-c", head + code)


def change_press(world: World, course: str, code: str) -> None:
    """Change something at the press: ``item(title)`` finds in the course."""
    head = f"from vennpair.standins.press.models import *\nfrom decimal import Decimal\nitem = lambda title: Item.objects.filter(unit__course__sourced_id='{course}', title=title)\n"
    world.manage("press", "shell", "-v", "0", "-c", head + code)
