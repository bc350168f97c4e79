"""The campus's own import of a cartridge: by an instructor's upload, or by a tool
(docs/shell-outline.md, imports).
"""

from __future__ import annotations

from typing import IO, Any

import nh3
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.standards.cartridge import (
    Limits,
    OutlineRow,
    Package,
    UnreadableMember,
    UnusableCartridge,
    open_package,
    read_package,
)
from vennpair.standards.lti import vocabulary as v
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.lti.outline import make_node
from vennpair.standins.campus.models import CartridgeImport, Node, Shell

KINDS = {"page", "web_link", "lti_link", "discussion", "assignment", "assessment"}


@service(post={v.SCOPE_OUTLINE})
def imports(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Import a cartridge that a tool sends."""
    file = request.FILES.get("file")
    if not isinstance(file, UploadedFile):
        return problem(400, "The cartridge is the field 'file' of a multipart body.")
    done = bring_in(shell, file)
    return JsonResponse({"id": done.key, "state": done.state}, status=202)


@service(get={v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ})
def state(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Say how an import stands."""
    found = CartridgeImport.objects.filter(shell=shell, key=key).first()
    return (
        JsonResponse({"state": found.state, "issues": found.issues})
        if found
        else problem(404, "There is no such import.")
    )


def bring_in(shell: Shell, source: IO[bytes]) -> CartridgeImport:
    """Make folders and entries of a cartridge, as the campus understands them."""
    issues: list[str] = []
    try:
        with open_package(source, Limits()) as package, transaction.atomic():
            cartridge = read_package(package, Limits())
            branch: list[Node] = []
            for row in cartridge.outline:
                del branch[row.depth :]
                if row.kind != "folder" and row.kind not in KINDS:
                    issues.append(f"'{row.title}' was left out: the campus imports no {row.kind}.")
                    continue
                fields: dict[str, Any] = {
                    "title": row.title or "Untitled",
                    "folder": branch[-1].key if branch else "",
                    "audience": row.audience,
                    "identifier": row.id,
                }
                branch.append(make_node(shell, row.kind, fields | _own(row, package)))
    except (UnusableCartridge, UnreadableMember, ValueError) as error:
        return CartridgeImport.objects.create(shell=shell, state="failed", issues=[str(error)])
    return CartridgeImport.objects.create(shell=shell, state="done", issues=issues)


def _own(row: OutlineRow, package: Package) -> dict[str, Any]:
    """Return what a kind has of its own."""
    if row.resource is None:
        return {}
    descriptor = row.resource.descriptor
    if row.kind == "page":
        return {"html": nh3.clean(package.read(row.resource.href).decode("utf-8", "replace"))}
    if row.kind in {"discussion", "assignment"}:
        return {"html": nh3.clean(descriptor.text)}
    return {"url": descriptor.url, "custom": descriptor.custom, "new_window": descriptor.new_window}
