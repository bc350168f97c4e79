"""One hardened way to parse XML: no DTD, no entities, no network, bounded depth."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from lxml import etree

from vennpair.standards.cartridge.findings import UnusableCartridge
from vennpair.standards.cartridge.limits import Limits, setting_name

Element = etree._Element
_PARSER = etree.XMLParser(
    resolve_entities=False,
    load_dtd=False,
    no_network=True,
    huge_tree=False,
    remove_comments=True,
    remove_pis=True,
)


class MalformedXml(Exception):
    """The bytes are not well-formed XML; the message is the parser's, with line and column."""


def parse(data: bytes, where: str, limits: Limits) -> Element:
    """Parse one document.

    Raises MalformedXml, or UnusableCartridge ``unsafe_xml`` (a DTD or entity) and ``too_large``
    (more tags than the limit, before anything is built of them, or nested deeper than the parser's
    own bound).
    """
    if (tags := data.count(b"<")) > limits.tags:
        raise _too_many(where, tags, limits)
    try:
        root = etree.fromstring(data, _PARSER)
    except etree.XMLSyntaxError as error:
        if _declares_type(data):
            raise unsafe(where) from error
        if "depth" in str(error).lower():
            raise _too_deep(where, limits) from error
        raise MalformedXml(str(error)) from error
    except ValueError as error:
        raise MalformedXml(str(error)) from error
    if root.getroottree().docinfo.internalDTD is not None:
        raise unsafe(where)
    return root


def unsafe(where: str) -> UnusableCartridge:
    """Return the refusal of a document that carries a type definition."""
    message = (
        f"{where} carries a document type definition, through which a file can reach other files or"
        " grow without end."
    )
    return UnusableCartridge(
        "unsafe_xml",
        where,
        message,
        "Ask whoever made the package for one without DOCTYPE and entities.",
    )


def local(element: Element) -> str:
    """Return an element's name without its namespace."""
    return _local(str(element.tag))


@lru_cache(maxsize=4_000)
def _local(tag: str) -> str:
    """A package has few names and very many elements."""
    return tag.rpartition("}")[2]


def namespace(element: Element) -> str:
    """Return an element's namespace, or an empty string."""
    return str(element.tag).rpartition("}")[0][1:]


def children(element: Element, name: str) -> Iterator[Element]:
    """Yield the child elements of a local name, whatever their namespace."""
    return element.iterchildren(
        f"{{*}}{name}"
    )  # matched inside lxml, many times as fast as in Python


def child(element: Element | None, name: str) -> Element | None:
    """Return the first child element of a local name."""
    return next(element.iterchildren(f"{{*}}{name}"), None) if element is not None else None


def text(element: Element | None) -> str:
    """Return all text of an element, white space collapsed."""
    if element is None:
        return ""
    whole = "".join(element.itertext()) if len(element) else element.text
    return " ".join(whole.split()) if whole else ""


def firsts(element: Element) -> dict[str, Element]:
    """Return the first child element of each local name; faster than asking for several by name."""
    found: dict[str, Element] = {}
    for each in element:
        if isinstance(each.tag, str):
            found.setdefault(local(each), each)
    return found


def _declares_type(data: bytes) -> bool:
    head = data[:200_000].replace(b"\0", b"").upper()
    return b"<!DOCTYPE" in head or b"<!ENTITY" in head


def _too_many(where: str, tags: int, limits: Limits) -> UnusableCartridge:
    message = (
        f"{where} has {tags:,} tags; at most {limits.tags:,} are read in one file"
        f" ({setting_name('tags')})."
    )
    return UnusableCartridge(
        "too_large", where, message, "Export a package of one course, not of many."
    )


def _too_deep(where: str, limits: Limits) -> UnusableCartridge:
    message = (
        f"{where} nests its elements deeper than {limits.depth} folders allow"
        f" ({setting_name('depth')})."
    )
    return UnusableCartridge(
        "too_large", where, message, "Export a package with fewer levels of folders."
    )
