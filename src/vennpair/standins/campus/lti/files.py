"""Files of a shell (docs/shell-outline.md): given once under their SHA-256, linked from pages."""

from __future__ import annotations

import hashlib
import re
from urllib.parse import unquote

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import ENTRY_REFERENCE
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.models import Shell, StoredFile

LARGEST = 50_000_000
_REFERENCE = re.compile(re.escape(ENTRY_REFERENCE) + r"([A-Za-z0-9%._~-]+)")


@service(get={v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ}, put={v.SCOPE_OUTLINE})
def file(request: HttpRequest, shell: Shell, digest: str) -> HttpResponse:
    """Say where a file is, or take it; the bytes must have the SHA-256 that the address names."""
    found = StoredFile.objects.filter(shell=shell, digest=digest).only("digest").first()
    if request.method == "PUT" and found is None:
        if int(request.headers.get("Content-Length") or 0) > LARGEST:
            return problem(413, f"A file may have {LARGEST:,} bytes.")
        data = request.read(LARGEST + 1)
        if hashlib.sha256(data).hexdigest() != digest:
            return problem(400, "These bytes have another SHA-256 than the address says.")
        defaults = {
            "data": data,
            "name": request.GET.get("name", "file")[:255],
            "media": (request.headers.get("Content-Type") or "application/octet-stream")[:100],
        }
        found, _ = StoredFile.objects.get_or_create(shell=shell, digest=digest, defaults=defaults)
        return JsonResponse({"url": file_url(shell, digest)}, status=201)
    return (
        JsonResponse({"url": file_url(shell, digest)})
        if found
        else problem(404, "There is no such file in this course.")
    )


def file_url(shell: Shell, digest: str) -> str:
    """Return the address under which pages link to a file."""
    return f"{settings.BASE_URL}/shells/{shell.context_id}/files/{digest}"


def linked(shell: Shell, html: str) -> str:
    """Point references to other entries at where these are.

    One that leads nowhere stays on the page.
    """
    keys = dict(shell.nodes.exclude(identifier="").values_list("identifier", "key"))

    def address(match: re.Match[str]) -> str:
        key = keys.get(unquote(match.group(1)))
        return f"/shells/{shell.context_id}/pages/{key}" if key else "#"

    return _REFERENCE.sub(address, html)
