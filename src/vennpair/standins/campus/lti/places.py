"""Whether the tool is turned on in a shell (docs/shell-outline.md, Tool)."""

from __future__ import annotations

import json

from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import ShellTool, write_tool
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.models import Shell, ToolPlace

_TYPES = {"on": bool, "navigation": bool, "position": int, "audience": str}


def place_of(shell: Shell) -> ToolPlace:
    """Return the tool's place in a shell; on, for instructors, until somebody changes it."""
    return ToolPlace.objects.get_or_create(shell=shell)[0]


def _document(place: ToolPlace) -> dict[str, object]:
    return write_tool(
        ShellTool(
            place.on,
            place.navigation,
            place.position,
            place.audience,
            f'"{place.pk}-{place.version}"',
        )
    )


@service(get={v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ}, patch={v.SCOPE_OUTLINE})
def tool(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Say where the tool is, or change it; a stale If-Match gets 412."""
    if request.method == "GET":
        return JsonResponse(_document(place_of(shell)))
    try:
        changes = json.loads(request.body)
    except ValueError:
        return problem(400, "The body is not JSON.")
    wrong = (
        [
            name
            for name, value in changes.items()
            if name not in _TYPES or not isinstance(value, _TYPES[name])
        ]
        if isinstance(changes, dict)
        else ["body"]
    )
    if wrong or changes.get("audience") not in {None, "instructor", "everyone"}:
        return problem(
            400,
            "One may change on, navigation (true or false), position (a whole number) and audience"
            " (instructor or everyone).",
        )
    with transaction.atomic():
        place_of(shell)
        place = ToolPlace.objects.select_for_update().get(shell=shell)
        wanted = request.headers.get("If-Match")
        if wanted and wanted != _document(place)["etag"]:
            return problem(412, "Somebody changed it in the meantime; read it again.")
        for name, value in changes.items():
            setattr(place, name, value)
        place.version += 1
        place.save()
    return JsonResponse(_document(place))
