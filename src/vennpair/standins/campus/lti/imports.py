"""The campus's own import of a cartridge: by an instructor's upload, or by a tool
(docs/shell-outline.md, imports).
"""

from __future__ import annotations

import io
import os
import threading
import time
from typing import IO, Any

import nh3
from django.core.files.uploadedfile import UploadedFile
from django.db import connection, transaction
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

# How long an import takes, waiting included.
SECONDS = float(os.environ.get("CAMPUS_IMPORT_SECONDS", "0"))
KINDS = {"page", "web_link", "lti_link", "discussion", "assignment", "assessment"}


@service(post={v.SCOPE_OUTLINE})
def imports(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Import a cartridge that a tool sends."""
    file = request.FILES.get("file")
    if not isinstance(file, UploadedFile):
        return problem(400, "The cartridge is the field 'file' of a multipart body.")
    begun = begin_import(shell, file)
    return JsonResponse({"id": begun.key, "state": begun.state}, status=202)


@service(get={v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ})
def state(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Say how far an import is."""
    found = CartridgeImport.objects.filter(shell=shell, key=key).first()
    return (
        JsonResponse({"state": found.state, "issues": found.issues})
        if found
        else problem(404, "There is no such import.")
    )


def begin_import(
    shell: Shell, source: UploadedFile[bytes], seconds: float = SECONDS
) -> CartridgeImport:
    """Begin to import a cartridge. It waits and works for ``seconds``, half of them each, as busy
    platforms do; with none it is done at once.
    """
    made = CartridgeImport.objects.create(shell=shell, name=(source.name or "")[:255])
    content = io.BytesIO(source.read())
    if seconds:
        work = threading.Thread(target=_slowly, args=(made, content, seconds / 2), daemon=True)
        work.start()
    else:
        _bring_in(made, content)
    return made


def _slowly(made: CartridgeImport, content: IO[bytes], pause: float) -> None:
    try:
        time.sleep(pause)
        CartridgeImport.objects.filter(pk=made.pk).update(state="running")
        time.sleep(pause)
        _bring_in(made, content)
    finally:
        connection.close()  # this thread's own


def _bring_in(made: CartridgeImport, content: IO[bytes]) -> None:
    """Make folders and entries of a cartridge, as the campus understands them."""
    try:
        with open_package(content, Limits()) as package, transaction.atomic():
            made.issues = _make_all(made.shell, package)
        made.state = "done"
    except (UnusableCartridge, UnreadableMember, ValueError) as error:
        made.state, made.issues = "failed", [str(error)]
    made.save(update_fields=["state", "issues"])


def _make_all(shell: Shell, package: Package) -> list[str]:
    """Make what a package holds; return what was left out."""
    issues: list[str] = []
    branch: list[Node] = []
    for row in read_package(package, Limits()).outline:
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
    return issues


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
