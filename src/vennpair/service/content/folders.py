"""Finding a folder of a shell as people name it."""

from __future__ import annotations

from collections.abc import Sequence

from vennpair.core.deploy import places
from vennpair.service.kernel.errors import Refused
from vennpair.standards.outline import Node


def find_folder(outline: Sequence[Node], wanted: str) -> Node | None:
    """Return the folder of a title or id, None where there is none.

    Raises Refused where several have the title.
    """
    try:
        return places.find(outline, wanted)
    except places.NoPlace as error:
        raise Refused(error.code, error.message, error.remedy, 422) from error
