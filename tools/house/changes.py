"""Change something on either side past every service of ours, as somebody who works there would."""

from __future__ import annotations

from tools.house.world import World


def change(world: World, context: str, code: str) -> None:
    """Change something in a shell: ``s`` is the shell, ``link(title)`` and ``column(title)`` find
    in it.
    """
    head = (
        "from vennpair.standins.campus.models import *\ns ="
        f" Shell.objects.get(context_id='{context}')\nlink = lambda title:"
        " s.nodes.filter(title=title)\ncolumn = lambda title: s.columns.filter(label=title)\n"
    )
    world.manage("campus", "shell", "-v", "0", "-c", head + code)


def change_press(world: World, course: str, code: str) -> None:
    """Change something at the press: ``item(title)`` finds in the course."""
    head = (
        "from vennpair.standins.press.models import *\nfrom decimal import Decimal\nitem = lambda"
        f" title: Item.objects.filter(unit__course__sourced_id='{course}', title=title)\n"
    )
    world.manage("press", "shell", "-v", "0", "-c", head + code)
