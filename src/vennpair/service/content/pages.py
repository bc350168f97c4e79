"""HTML from a cartridge: decoded, made harmless, and its relative links pointed at where things
are now.
"""

from __future__ import annotations

import codecs
import posixpath
import re
from collections.abc import Callable
from urllib.parse import unquote

import nh3

FILE_BASE = re.compile(
    r"\$(?:IMS-CC|1EDTECH[-_]CC)-FILEBASE\$/?", re.IGNORECASE
)  # before paths within descriptors (CC 1.x, implementation guide)
_CHARSET = re.compile(rb"""charset\s*=\s*["']?\s*([A-Za-z0-9_.:-]+)""", re.IGNORECASE)
_BOMS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
_MEDIA = {"audio", "video", "source"}
_TAGS = nh3.ALLOWED_TAGS | _MEDIA
_ATTRIBUTES = {
    **nh3.ALLOWED_ATTRIBUTES,
    **{tag: {"src", "controls", "type", "width", "height"} for tag in _MEDIA},
}
_UNSHOWN = {"script", "style", "title", "template", "noscript"}
_PICTURE = re.compile(
    r'<img(?![^>]*\bsrc=)(?:[^>]*\balt="([^"]*)")?[^>]*>'
)  # as the cleaner writes it, once its address is gone
_SCHEMES = {"http", "https", "mailto", "tel", "urn"}


def decoded(data: bytes) -> str:
    """Return a page's text, by its byte order mark, its declared character set, or UTF-8."""
    for mark, encoding in _BOMS:
        if data.startswith(mark):
            return data.decode(encoding, "replace")
    declared = _CHARSET.search(data[:4096])
    try:
        return data.decode(declared.group(1).decode() if declared else "utf-8")
    except (LookupError, UnicodeDecodeError):
        return data.decode("cp1252", "replace")


def clean(html: str, resolve: Callable[[str], str | None]) -> str:
    """Return harmless HTML; ``resolve`` gives each relative address a new one, or None, where it
    leads nowhere.
    """
    return nh3.clean(
        html,
        tags=_TAGS,
        attributes=_ATTRIBUTES,
        clean_content_tags=_UNSHOWN,
        url_schemes=_SCHEMES,
        url_relative=resolve,
    )


def shown(html: str) -> str:
    """Return harmless HTML to look at alone: pictures of the package are not loaded,
    but named.
    """
    return _PICTURE.sub(
        lambda found: f"<em>[picture{': ' + found.group(1) if found.group(1) else ''}]</em>",
        clean(html, lambda _: None),
    )


def references(html: str) -> list[str]:
    """Return the relative addresses of a page, in order, each once."""
    found: dict[str, None] = {}

    def note(address: str) -> None:
        found[address] = None

    clean(html, note)
    return list(found)


def member_of(address: str, page: str) -> str:
    """Return the path in the package that a relative address on a page means.

    Empty for a place on the page itself.
    """
    path = unquote(re.split(r"[?#]", address, maxsplit=1)[0]).replace("\\", "/")
    bare = FILE_BASE.sub("", path)
    if not bare or bare.startswith("/"):
        return ""
    joined = posixpath.normpath(posixpath.join(posixpath.dirname(page), bare))
    return "" if joined.startswith("..") and bare == path else joined
