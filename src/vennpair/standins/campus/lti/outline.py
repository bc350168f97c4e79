"""The Shell Outline protocol (docs/shell-outline.md) of a shell."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from datetime import datetime
from decimal import Decimal, InvalidOperation

from django.db import transaction
from django.db.models import F, Max
from django.http import HttpRequest, HttpResponse, JsonResponse

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import Node as OutlineNode
from vennpair.standards.outline import write_node
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.lti.grades import column_url
from vennpair.standins.campus.models import Node, Repeatable, Shell, new_id

READ, WRITE = {v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ}, {v.SCOPE_OUTLINE}
OFFERS = ["gradebook", "shown_from", "due_at", "learner_view", "html", "unlisted", "levels"]
KINDS = {
    "heading",
    "lti_link",
    "web_link",
    "page",
    "file",
    "discussion",
    "assignment",
    "assessment",
}
LONGEST_TITLE = 255
DEEPEST = 5  # levels


def in_order(shell: Shell) -> list[tuple[Node, int]]:
    """Return the nodes in reading order with their depth."""
    below: dict[int | None, list[Node]] = {}
    for node in shell.nodes.select_related("parent", "shell").prefetch_related(
        "columns__shell", "columns__cells__person"
    ):
        below.setdefault(node.parent_id, []).append(node)
    rows: list[tuple[Node, int]] = []
    stack = [(node, 0) for node in reversed(below.get(None, []))]
    while stack:
        node, depth = stack.pop()
        rows.append((node, depth))
        stack.extend((child, depth + 1) for child in reversed(below.get(node.pk, [])))
    return rows


def _document(node: Node, depth: int = 0) -> dict[str, object]:
    column = next(iter(node.columns.all()), None)
    return write_node(
        OutlineNode(
            node.key,
            node.title,
            node.kind,
            node.parent.key if node.parent else "",
            node.position,
            depth,
            node.visible,
            node.audience,
            node.resource_link_id,
            column_url(column) if column else "",
            node.url,
            node.custom,
            f'"{node.key}-{node.version}"',
            node.identifier,
            node.new_window,
            node.used
            or any(
                cell.score is not None and not cell.person.testing
                for each in node.columns.all()
                for cell in each.cells.all()
            ),
            node.shown_from,
            node.due_at,
            node.listed,
            node.level,
        )
    )


@service(get=READ)
def outline(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Return the whole tree."""
    return JsonResponse(
        {"nodes": [_document(node, depth) for node, depth in in_order(shell)], "offers": OFFERS}
    )


@service(post=WRITE)
def folders(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Make a folder."""
    return _write(request, shell, lambda fields: make_node(shell, "folder", fields))


@service(post=WRITE)
def entries(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Make an entry: an LTI link, web link, page or file."""

    def make(fields: dict[str, object]) -> Node:
        if fields.get("kind") not in KINDS:
            raise ValueError(f"kind is one of {', '.join(sorted(KINDS))}")
        return make_node(shell, str(fields["kind"]), fields)

    return _write(request, shell, make)


@service(get=READ, patch=WRITE, delete=WRITE)
def node(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Read an entry with its HTML, or change or remove one; a stale If-Match gets 412."""
    found = Node.objects.filter(shell=shell, key=key).first()
    if found is None:
        return problem(404, "There is no such folder or entry in this course.")
    if request.method == "GET":
        return JsonResponse(_document(found) | {"html": found.body})
    wanted = request.headers.get("If-Match")
    if wanted and wanted != f'"{found.key}-{found.version}"':
        return problem(412, "Somebody changed it in the meantime; read it again.")
    if request.method == "DELETE":
        delete_node(found)
        return HttpResponse(status=204)
    return _write(request, shell, lambda fields: _change(shell, found, fields), status=200)


@service(put=WRITE)
def order(request: HttpRequest, shell: Shell) -> HttpResponse:
    """Put the children of a folder into a new order: {"folder": id or "", "children": [ids]}."""
    document = _json(request)
    ids = document.get("children") if document else None
    parent = (
        Node.objects.filter(shell=shell, key=document.get("folder") or "-").first()
        if document
        else None
    )
    found = {each.key: each for each in shell.nodes.filter(parent=parent)}
    if not isinstance(ids, list) or sorted(map(str, ids)) != sorted(found):
        return problem(400, "children must list every child of the folder once.")
    with transaction.atomic():
        for position, key in enumerate(ids):
            Node.objects.filter(pk=found[key].pk).update(
                position=position
            )  # a place among others is no part of what the etag stands for
    return HttpResponse(status=204)


def _write(
    request: HttpRequest, shell: Shell, act: Callable[[dict[str, object]], Node], status: int = 201
) -> HttpResponse:
    """Do a write once for each idempotency key; the same key with another body is refused."""
    key = request.headers.get("Idempotency-Key", "")
    if not key or len(key) > 200:
        return problem(400, "Every write needs an Idempotency-Key of at most 200 characters.")
    fields = _json(request)
    if fields is None:
        return problem(400, "The body is not a JSON object.")
    fingerprint = hashlib.sha256(
        f"{request.method}{request.path}".encode() + request.body
    ).hexdigest()
    with transaction.atomic():
        Shell.objects.select_for_update().get(
            pk=shell.pk
        )  # writes of one course come one after another, so that places are told apart
        known = Repeatable.objects.select_for_update().filter(key=key).first()
        if known:
            if known.fingerprint != fingerprint:
                return problem(422, "This Idempotency-Key was used for another request.")
            return JsonResponse(known.body, status=status)
        try:
            written = act(fields)
        except (ValueError, TypeError, InvalidOperation) as error:
            return problem(400, str(error))
        body = _document(written)
        Repeatable.objects.create(key=key, fingerprint=fingerprint, body=body)
    response = JsonResponse(body, status=status)
    response["ETag"] = str(body["etag"])
    return response


def make_node(shell: Shell, kind: str, fields: dict[str, object]) -> Node:
    """Make a folder or entry. Raises ValueError."""
    parent = _folder(shell, fields.get("folder"))
    siblings = shell.nodes.filter(parent=parent)
    last = siblings.aggregate(last=Max("position"))["last"]
    end = 0 if last is None else last + 1
    position = min(int(str(fields.get("position", end))), end)
    siblings.filter(position__gte=position).update(position=F("position") + 1)
    made = Node(
        shell=shell,
        kind=kind,
        parent=parent,
        title=_title(fields),
        position=position,
        visible=bool(fields.get("visible", True)),
    )
    made.audience = "instructor" if fields.get("audience") == "instructor" else "everyone"
    made.identifier = str(fields.get("identifier") or "")[:255]
    made.resource_link_id = new_id() if kind == "lti_link" else ""
    _fill(made, fields)
    made.save()
    return made


def delete_node(node: Node) -> None:
    """Delete a folder or entry with all in it; nothing comes into it meanwhile."""
    with transaction.atomic():
        Shell.objects.select_for_update().get(pk=node.shell_id)
        node.delete()


def _fill(node: Node, fields: dict[str, object]) -> None:
    """Take over what a kind has of its own."""
    if "html" in fields:
        node.body = str(fields["html"] or "")
    if "url" in fields:
        node.url = str(fields["url"] or "")
    if "custom" in fields:
        node.custom = dict(fields["custom"] or {})  # type: ignore[call-overload]
    for name in ("shown_from", "due_at"):
        if name in fields:
            setattr(node, name, _moment(fields[name]))
    if "listed" in fields:
        node.listed = bool(fields["listed"])
    if "level" in fields:
        node.level = max(0, min(int(str(fields["level"])), DEEPEST))
    if "new_window" in fields:
        node.new_window = bool(fields["new_window"])
    if "points" in fields:
        node.points = Decimal(str(fields["points"])) if fields["points"] is not None else None


def _change(shell: Shell, found: Node, fields: dict[str, object]) -> Node:
    if "title" in fields:
        found.title = _title(fields)
    if "visible" in fields:
        found.visible = bool(fields["visible"])
    if "audience" in fields:
        found.audience = "instructor" if fields["audience"] == "instructor" else "everyone"
    if "folder" in fields:
        found.parent = _folder(shell, fields["folder"])
    if "position" in fields:
        found.position = int(str(fields["position"]))
    _fill(found, fields)
    found.version += 1
    found.save()
    return found


def _folder(shell: Shell, key: object) -> Node | None:
    if not key:
        return None
    # Held until what comes into it is there, so that it cannot be deleted in between.
    found = shell.nodes.select_for_update().filter(key=key, kind="folder").first()
    if found is None:
        raise ValueError("there is no such folder in this course")
    return found


def _moment(value: object) -> str:
    """Return a time that names its zone, or nothing. Raises ValueError."""
    text = str(value or "")
    if text and datetime.fromisoformat(text).tzinfo is None:
        raise ValueError("a time needs its zone")
    return text


def _title(fields: dict[str, object]) -> str:
    title = str(fields.get("title") or "").strip()
    if not title or len(title) > LONGEST_TITLE:
        raise ValueError(f"a title has 1 to {LONGEST_TITLE} characters")
    return title


def _json(request: HttpRequest) -> dict[str, object] | None:
    try:
        document = json.loads(request.body)
    except ValueError:
        return None
    return document if isinstance(document, dict) else None
