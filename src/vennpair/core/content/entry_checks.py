"""What keeps an entry of a cartridge out of the shell, or should be known before it goes in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from urllib.parse import urlsplit

from vennpair.core.content.matching import Knowledge
from vennpair.standards.cartridge import OutlineRow

_WEB = {"http", "https", "mailto"}


@dataclass(frozen=True, slots=True)
class Trouble:
    """One reason, with its remedy; ``blocks`` where the entry cannot be brought in."""

    code: str = ""
    message: str = ""
    remedy: str = ""
    blocks: bool = False


NO_TROUBLE = Trouble()


def trouble_of(
    row: OutlineRow, knowledge: Knowledge, fingerprint: Callable[[str], str | None]
) -> Trouble:
    """Return what is wrong with an entry, the gravest first."""
    if row.kind == "folder":
        return NO_TROUBLE
    resource = row.resource
    if resource is None:
        return Trouble(
            "missing_resource",
            "The package does not hold what this entry points to.",
            "Ask its maker for a complete package.",
            True,
        )
    if row.kind == "other":
        return Trouble(
            "unsupported_resource",
            f"Content of the type '{resource.type}' cannot be brought into a shell.",
            "Bring it into the shell by hand, if it is needed.",
            True,
        )
    if resource.href and fingerprint(resource.href) is None:
        return Trouble(
            "missing_file",
            f"The package lacks {resource.href}.",
            "Ask its maker for a complete package.",
            True,
        )
    if resource.descriptor.broken:
        return Trouble(
            "bad_xml",
            f"{resource.href} cannot be read, so nobody knows what this entry holds.",
            "Ask its maker for a corrected package, or make this entry by hand.",
            True,
        )
    if row.kind == "lti_link":
        return _trouble_of_tool(row, knowledge)
    if row.kind == "web_link" and _scheme(resource.descriptor.url) not in _WEB:
        return Trouble(
            "bad_address",
            "The link has no address that a browser opens safely.",
            "Make the link in the shell by hand.",
            True,
        )
    if row.kind in {"page", "file"} and not resource.href and not resource.files:
        return Trouble(
            "missing_file",
            "The entry names no file.",
            "Ask its maker for a complete package.",
            True,
        )
    return NO_TROUBLE


def _trouble_of_tool(row: OutlineRow, knowledge: Knowledge) -> Trouble:
    descriptor = row.resource.descriptor if row.resource else None
    url = descriptor.url if descriptor else ""
    host = _host(url)
    if not host:
        return Trouble(
            "bad_address",
            "The link names no tool that could be opened.",
            "Ask its maker for a corrected package.",
            True,
        )
    if descriptor is not None and knowledge.is_own(url):
        if descriptor.custom.get("placement", "") in knowledge.own_placements:
            return NO_TROUBLE
        return Trouble(
            "own_link",
            "Venn Pair wrote this link for another shell, or for a pairing that is gone.",
            "Import the publisher's own cartridge instead.",
            True,
        )
    if host in knowledge.publisher_hosts:
        return NO_TROUBLE
    if name := knowledge.other_hosts.get(host):
        return Trouble(
            "other_publisher",
            f"The link opens {name}, not the publisher of this pairing.",
            f"Pair the shell with the course at {name}, then import this entry there.",
            True,
        )
    return Trouble(
        "unknown_tool",
        f"No publisher is registered for {host}, so the link would open without credentials.",
        "Ask an administrator to connect that publisher (Connections), then import again.",
        True,
    )


def _scheme(url: str) -> str:
    try:
        return urlsplit(url.strip()).scheme.lower()
    except ValueError:
        return ""


def _host(url: str) -> str:
    try:
        parts = urlsplit(url)
        return (parts.hostname or "").lower() if parts.scheme in {"http", "https"} else ""
    except ValueError:
        return ""
