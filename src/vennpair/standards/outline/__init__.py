"""The Shell Outline protocol (docs/shell-outline.md): a shell's tree of folders and entries."""

from __future__ import annotations

from dataclasses import MISSING, dataclass, field, fields
from typing import Any

Json = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Node:
    """A folder or an entry of a shell's outline.

    ``kind`` is ``folder``, ``heading``, ``lti_link``, ``web_link``, ``page``, ``file``,
    ``discussion``, ``assignment`` or ``assessment``; ``position`` counts from 0 among the children
    of ``folder`` (empty at the top); ``column`` is the URL of its line item; ``identifier`` is its
    maker's own name for it; ``level`` is how far it is set in among its neighbours; ``used`` says
    that a learner has worked with it. ``shown_from`` and ``due_at`` are ISO 8601 with their zone,
    empty where there is none.
    """

    id: str
    title: str
    kind: str
    folder: str = ""
    position: int = 0
    depth: int = 0
    visible: bool = True
    audience: str = "everyone"
    resource_link_id: str = ""
    column: str = ""
    url: str = ""
    custom: dict[str, str] = field(default_factory=dict)
    etag: str = ""
    identifier: str = ""
    new_window: bool = False
    used: bool = False
    shown_from: str = ""
    due_at: str = ""
    listed: bool = True
    level: int = 0


# before an identifier: a link within a page to another entry of the shell
ENTRY_REFERENCE = "urn:vennpair:entry:"


def read_file_url(document: Json) -> str:
    """Read the address under which pages link to a file. Raises ValueError where it is missing."""
    if (
        not isinstance(document, dict)
        or not isinstance(document.get("url"), str)
        or not document["url"]
    ):
        raise ValueError("the answer names no address of the file")
    return str(document["url"])


def write_node(node: Node) -> Json:
    """Return the JSON of a node; names are the dataclass's own."""
    return {name: getattr(node, name) for name in Node.__slots__}


def read_node(document: Json) -> Node:
    """Read a node; a title may be missing.

    Raises ValueError where id or kind is, or where a field is not of its type.
    """
    if not isinstance(document, dict) or not document.get("id") or document.get("kind") is None:
        raise ValueError("an outline node lacks its id or kind")
    known = {name: document[name] for name in Node.__slots__ if document.get(name) is not None}
    known |= {
        name: str(known.get(name, ""))
        for name in ("id", "title", "folder")
        if not isinstance(known.get(name), dict | list)
    }
    for name, value in known.items():
        if type(value) is not _TYPES[name]:  # a bool is no position
            raise ValueError(
                f"'{name}' of the outline node {str(document['id'])[:60]} is no"
                f" {_TYPES[name].__name__}"
            )
    if "custom" in known:
        known["custom"] = {str(key): str(value) for key, value in known["custom"].items()}
    return Node(**known)


_TYPES: dict[str, type] = {
    each.name: (
        dict if each.name == "custom" else str if each.default is MISSING else type(each.default)
    )
    for each in fields(Node)
}


@dataclass(frozen=True, slots=True)
class ShellTool:
    """Whether the tool is turned on in a shell, whether it is in the navigation, where (from
    0), and for whom.
    """

    on: bool
    navigation: bool = False
    position: int = 0
    audience: str = "instructor"
    etag: str = ""


def write_tool(tool: ShellTool) -> Json:
    """Return the JSON of a tool's place in a shell."""
    return {name: getattr(tool, name) for name in ShellTool.__slots__}


def read_tool(document: Json) -> ShellTool:
    """Read a tool's place in a shell. Raises ValueError where ``on`` is missing."""
    if not isinstance(document, dict) or not isinstance(document.get("on"), bool):
        raise ValueError("the tool's place in the shell does not say whether it is on")
    audience = "everyone" if document.get("audience") == "everyone" else "instructor"
    position = document.get("position")
    return ShellTool(
        document["on"],
        bool(document.get("navigation")),
        position if isinstance(position, int) else 0,
        audience,
        str(document.get("etag") or ""),
    )


def read_offers(document: Json) -> frozenset[str]:
    """Read which optional parts of the protocol a platform offers: ``gradebook``, ``shown_from``,
    ``due_at``, ``learner_view``, ``html``.
    """
    offers = document.get("offers") if isinstance(document, dict) else None
    return frozenset(str(each) for each in offers) if isinstance(offers, list) else frozenset()


def read_outline(document: Json) -> list[Node]:
    """Read a whole outline, in reading order. Raises ValueError."""
    nodes = document.get("nodes") if isinstance(document, dict) else None
    if not isinstance(nodes, list):
        raise ValueError("the outline holds no list 'nodes'")
    return [read_node(node) for node in nodes]
