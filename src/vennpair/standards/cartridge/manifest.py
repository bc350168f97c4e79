"""The manifest of a cartridge: version, title, resources and the tree of items.

From CC 1.0 to 1.3 and Content Packaging 1.2: elements count only in the manifest's own namespace,
so that extensions may reuse a name; ``xml:base`` adds up from manifest to file.
"""

from __future__ import annotations

import posixpath
import re
from dataclasses import dataclass, field
from functools import lru_cache

from vennpair.standards.cartridge.xml import Element, child, local, namespace, text

_BELONGING = {
    "dependency",
    "variant",
}  # a variant is another form of the same content, so it belongs as a dependency does
_UNTIDY = re.compile(r"(^|/)\.|//|/$|^$")  # what joining would change
XML_BASE = "{http://www.w3.org/XML/1998/namespace}base"
_RESOURCE_KINDS = (
    (re.compile(r"imswl_xmlv1p\d+$"), "web_link"),
    (re.compile(r"imsdt_xmlv1p\d+$"), "discussion"),
    (re.compile(r"imsbasiclti_xmlv1p\d+(p\d+)?$"), "lti_link"),
    (re.compile(r"assignment_xmlv1p\d+$"), "assignment"),
    (re.compile(r"imsqti_xmlv1p2/imscc_xmlv1p\d+/assessment$"), "assessment"),
    (re.compile(r"imsqti_xmlv1p2/imscc_xmlv1p\d+/question-bank$"), "question_bank"),
    (re.compile(r"associatedcontent/imscc_xmlv1p\d+/learning-application-resource$"), "other"),
)

LONGEST_SUBJECT = 100


@dataclass(slots=True)
class RawResource:
    """A resource as the manifest writes it; paths already joined with their bases."""

    id: str
    type: str
    href: str
    files: list[str] = field(default_factory=list)
    dependencies: list[str] = field(default_factory=list)
    roles: list[str] = field(default_factory=list)
    subjects: list[str] = field(default_factory=list)


@dataclass(slots=True)
class RawItem:
    """An item of an organisation, in reading order."""

    id: str
    title: str
    reference: str
    depth: int
    parent: int
    roles: list[str]
    subjects: list[str] = field(default_factory=list)


def version_and_profile(root: Element) -> tuple[str | None, str]:
    """Return the version (None where it is not one of 1.0 to 1.3) and ``full`` or ``thin``."""
    metadata = child(root, "metadata")
    schema = text(child(metadata, "schema")).lower()
    stated = text(child(metadata, "schemaversion"))
    space = namespace(root)
    profile = "thin" if "thin" in schema or "thin" in space else "full"
    match = re.match(r"1\.([0-3])(\.|$)", stated)
    if match:
        return f"1.{match.group(1)}", profile
    if stated:
        return None, profile
    if match := re.search(r"imscc_?v1p([1-3])", space):
        return f"1.{match.group(1)}", profile
    return ("1.0", profile) if space.endswith("/imscc/imscp_v1p1") else (None, profile)


def title_and_language(root: Element) -> tuple[str, str]:
    """Return the cartridge's title and language from its LOM metadata."""
    lom = child(child(root, "metadata"), "lom")
    general = child(lom, "general")
    title = child(general, "title")
    string = (
        next((each for each in title if isinstance(each.tag, str)), None)
        if title is not None
        else None
    )
    language = text(child(general, "language"))
    if not language and string is not None:
        language = (
            string.get("language") or string.get("{http://www.w3.org/XML/1998/namespace}lang") or ""
        )
    return text(string if string is not None else title), language


def authorisation(root: Element) -> str:
    """Return what an authorisation is asked for (CC 1.x, ``authorizations``): ``cartridge``,
    ``resource`` or nothing.
    """
    found = child(root, "authorizations")
    return (found.get("access") or "cartridge").strip().lower() if found is not None else ""


def read_resources(root: Element) -> list[RawResource]:
    """Return every resource, repeated identifiers included."""
    own = namespace(root)
    found = []
    for group in _own(root, "resources", own):
        outer = _join(root.get(XML_BASE, ""), group.get(XML_BASE, ""))
        for element in _own(group, "resource", own):
            found.append(_resource(element, outer, own))
    return found


def read_items(root: Element) -> list[RawItem]:
    """Return the items of all organisations in reading order, without the untitled root item."""
    own = namespace(root)
    rows: list[RawItem] = []
    for group in _own(root, "organizations", own):
        for organisation in _own(group, "organization", own):
            tops = list(_own(organisation, "item", own))
            if (
                len(tops) == 1
                and not text(child(tops[0], "title"))
                and not tops[0].get("identifierref")
            ):
                tops = list(_own(tops[0], "item", own))
            _walk(tops, own, rows)
    return rows


def kind_of(resource: RawResource) -> str | None:
    """Return the kind of a resource by its type, or None where the type is none of the
    standard's.
    """
    if resource.type.strip() == "webcontent":
        path = (resource.href or next(iter(resource.files), "")).split("?")[0].split("#")[0].lower()
        return "page" if path.endswith((".html", ".htm", ".xhtml")) else "file"
    return _kind_of_type(resource.type.strip())


@lru_cache(maxsize=1_000)
def _kind_of_type(written: str) -> str | None:
    return next((kind for pattern, kind in _RESOURCE_KINDS if pattern.match(written)), None)


def audience(roles: list[str]) -> str:
    """Return ``instructor`` where the roles name instructors and not learners."""
    named = {role.lower() for role in roles}
    return "instructor" if "instructor" in named and "learner" not in named else "everyone"


def _walk(tops: list[Element], own: str, rows: list[RawItem]) -> None:
    """Add items depth first without recursion: a manifest may nest deeper than Python's stack."""
    item_tag = f"{{{own}}}item" if own else "item"
    stack = [(element, 0, -1) for element in reversed(tops)]
    while stack:
        element, depth, parent = stack.pop()
        item, here = (
            RawItem(
                element.get("identifier", ""),
                "",
                element.get("identifierref", "").strip(),
                depth,
                parent,
                [],
            ),
            len(rows),
        )
        rows.append(item)
        below = []
        titled = False
        for each in element:  # in one pass, as there are thousands
            name = local(each) if isinstance(each.tag, str) else ""
            if name == "item" and each.tag == item_tag:
                below.append(each)
            elif name == "title" and not titled:
                item.title, titled = text(each), True
            elif name == "metadata":
                item.roles = item.roles or _roles_in(each)
                item.subjects += _subjects_in(each)
        stack.extend((each, depth + 1, here) for each in reversed(below))


def _resource(element: Element, outer: str, own: str) -> RawResource:
    base = _join(outer, element.get(XML_BASE, ""))
    href = element.get("href", "").strip()
    found = RawResource(
        element.get("identifier", ""), element.get("type", ""), _join(base, href) if href else ""
    )
    file_tag = f"{{{own}}}file" if own else "file"
    for each in element:  # in one pass, as there are thousands
        tag = each.tag
        if tag == file_tag:
            if path := each.get("href", "").strip():
                found.files.append(_join(base, path))
        elif isinstance(tag, str) and local(each) in _BELONGING and each.get("identifierref"):
            found.dependencies.append(each.get("identifierref", "").strip())
        elif isinstance(tag, str) and local(each) == "metadata":
            found.roles = found.roles or _roles_in(each)
            found.subjects += _subjects_in(each)
    return found


def _roles_in(metadata: Element) -> list[str]:
    roles = metadata.iter("{*}intendedEndUserRole")
    return [value for each in roles if (value := text(child(each, "value")))]


def _subjects_in(metadata: Element) -> list[str]:
    """Return the keywords, and the taxa of a classification by discipline (LOM 1.0, 1.5 and 9)."""
    found = [text(each) for each in metadata.iter("{*}keyword")]
    for each in metadata.iter("{*}classification"):
        if text(child(child(each, "purpose"), "value")).lower() == "discipline":
            found += [text(child(taxon, "entry")) for taxon in each.iter("{*}taxon")]
    return [each[:LONGEST_SUBJECT] for each in found if each]


def _own(element: Element, name: str, own: str) -> list[Element]:
    return list(element.iterchildren(f"{{{own}}}{name}" if own else name))


def _join(base: str, path: str) -> str:
    """Join two relative references; an address with a scheme stands for itself."""
    if not base and not _UNTIDY.search(path):
        return path
    if re.match(r"[A-Za-z][A-Za-z0-9+.-]*:", path):
        return path
    joined = posixpath.join(base, path) if base else path
    trailing = "/" if joined.endswith("/") else ""
    return posixpath.normpath(joined) + trailing if joined else ""
