"""Reading a cartridge: package, manifest and descriptors brought together, and what is wrong with
them.
"""

from __future__ import annotations

import gc
import re
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path
from typing import IO
from urllib.parse import unquote, urlsplit

from vennpair.standards.cartridge import manifest as m
from vennpair.standards.cartridge.descriptors import READERS
from vennpair.standards.cartridge.findings import Finding, UnusableCartridge
from vennpair.standards.cartridge.limits import Limits, setting_name
from vennpair.standards.cartridge.model import Cartridge, Descriptor, OutlineRow, Resource
from vennpair.standards.cartridge.package import MANIFEST, Package, UnreadableMember, open_package
from vennpair.standards.cartridge.xml import Element, MalformedXml, local, parse


def read_cartridge(
    source: Path | IO[bytes],
    limits: Limits | None = None,
    known_hosts: frozenset[str] = frozenset(),
) -> Cartridge:
    """Read a package completely, except for the bytes of its files.

    ``known_hosts`` are the hosts of registered publishers, in lower case: an LTI link to another
    host becomes the finding ``unknown_tool``. Raises UnusableCartridge, or OSError where the file
    cannot be opened.
    """
    bounds = limits or Limits()
    with open_package(source, bounds) as package:
        return read_package(package, bounds, known_hosts)


def read_package(
    package: Package, limits: Limits, known_hosts: frozenset[str] = frozenset()
) -> Cartridge:
    """Read a package that is open already. Raises UnusableCartridge."""
    with _no_collection():
        return _Reading(package, limits, known_hosts).run()


@contextmanager
def _no_collection() -> Iterator[None]:
    """Let the garbage collector rest: a reading makes tens of thousands of objects that all stay,
    and no cycles (measured: 7 % of the time).
    """
    rests = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if rests:
            gc.enable()


class _Reading:
    """The state of one reading: findings add up while parts are read."""

    def __init__(self, package: Package, limits: Limits, known_hosts: frozenset[str]) -> None:
        self.package = package
        self.limits = limits
        self.known_hosts = known_hosts
        self.findings: list[Finding] = []

    def run(self) -> Cartridge:
        root = self._manifest()
        version, profile = m.version_and_profile(root)
        if version is None:
            self._add(
                "unknown_version",
                MANIFEST,
                "The manifest does not say a version from 1.0 to 1.3; it was read as well as"
                " could be.",
                "Look through the outline before you import.",
            )
        title, language = m.title_and_language(root)
        resources = self._resources(root)
        items = m.read_items(root)
        self._check_identifiers(items, resources)
        by_id: dict[str, Resource] = {}
        for resource in resources:
            by_id.setdefault(resource.id, resource)
        self._check_dependencies(resources, by_id)
        outline = self._outline(items, by_id)
        self._check_links(outline, resources)
        self._check_titles(items, outline)
        if not resources and not any(row.kind != "folder" for row in outline):
            self._add(
                "empty",
                MANIFEST,
                "The cartridge holds nothing that could be imported.",
                "Export it again with the parts you want chosen.",
            )
        return Cartridge(
            version,
            profile,
            title,
            language,
            tuple(outline),
            tuple(resources),
            _loose(resources, outline),
            tuple(self.findings),
            root.get("identifier", ""),
            m.authorisation(root),
        )

    def _add(self, code: str, where: str, message: str, remedy: str) -> None:
        self.findings.append(Finding(code, where, message, remedy))

    def _manifest(self) -> Element:
        try:
            root = parse(self.package.read(MANIFEST), MANIFEST, self.limits)
        except UnreadableMember as error:
            message = (
                f"The manifest cannot be unpacked ({error}); the file is damaged or cut short."
            )
            raise UnusableCartridge(
                "not_a_zip", MANIFEST, message, "Download the package again."
            ) from error
        except MalformedXml as error:
            message = f"The manifest is not well-formed XML: {error}."
            raise UnusableCartridge(
                "bad_xml",
                MANIFEST,
                message,
                "Export the package again; if it comes out the same, send this message to its"
                " maker.",
            ) from error
        if local(root) != "manifest":
            message = f"{MANIFEST} is not a manifest: its outermost element is '{local(root)}'."
            raise UnusableCartridge(
                "no_manifest",
                MANIFEST,
                message,
                "Choose the package that was exported as Common Cartridge.",
            )
        return root

    def _resources(self, root: Element) -> list[Resource]:
        found = []
        for raw in m.read_resources(root):
            kind = m.kind_of(raw)
            where = f"resource {raw.id}"
            if kind is None:
                self._add(
                    "unsupported_resource",
                    f"{where} ({raw.href or 'no file'})",
                    f"The resource type '{raw.type}' is not one of Common Cartridge; it cannot be"
                    " imported.",
                    "Leave it out, or bring it into the shell by hand.",
                )
            href = self._locate(raw.href, where) if raw.href else ""
            files = tuple(self._locate(path, where, seen=path == raw.href) for path in raw.files)
            if not href and kind not in {None, "page", "file", "other"}:
                href = next(iter(files), "")
            descriptor = self._descriptor(kind, href, where) if kind in READERS else Descriptor()
            found.append(
                Resource(
                    raw.id,
                    raw.type,
                    kind or "other",
                    href,
                    files,
                    tuple(raw.dependencies),
                    m.audience(raw.roles),
                    descriptor,
                    tuple(dict.fromkeys(raw.subjects)),
                )
            )
        return found

    def _locate(self, path: str, where: str, *, seen: bool = False) -> str:
        """Return the member that a path means; note it once where there is none."""
        if self.package.holds(
            path
        ):  # nearly always; members' own names were checked when the package was opened
            return path
        if re.match(r"[A-Za-z][A-Za-z0-9+.-]*:", path):
            if not seen:
                self._add(
                    "missing_file",
                    f"{where}, {path}",
                    f"{path} lies outside the package, so it cannot be imported with it.",
                    "Add it to the shell as a web link.",
                )
            return path
        if unquote(path).replace("\\", "/").startswith("/") or ".." in unquote(path).replace(
            "\\", "/"
        ).split("/"):
            message = f"The manifest points to '{path}', which leads out of the package."
            raise UnusableCartridge(
                "unsafe_path",
                f"{where}, {path}",
                message,
                "Do not use this file; ask its maker for a clean one.",
            )
        member = self.package.find(path)
        if member is None and not seen:
            self._add(
                "missing_file",
                f"{where}, {path}",
                f"The package says it holds {path}, but it does not; whoever opens this entry finds"
                " nothing.",
                "Ask for a complete package, or leave the entry out.",
            )
        return member or unquote(path)

    def _descriptor(self, kind: str, href: str, where: str) -> Descriptor:
        member = self.package.find(href) if href else None
        if member is None:
            return Descriptor()
        try:
            return READERS[kind](parse(self.package.read(member), member, self.limits))
        except MalformedXml as error:
            self._add(
                "bad_xml",
                f"{where}, {member}",
                f"{member} is not well-formed XML ({error}); this one entry cannot be imported, the"
                " rest can.",
                "Ask for a corrected package, or make this entry by hand.",
            )
        except UnreadableMember as error:
            self._add(
                "missing_file",
                f"{where}, {member}",
                f"{member} is listed but cannot be unpacked ({error}); this one entry cannot be"
                " imported.",
                "Download the package again.",
            )
        return Descriptor(broken=True)

    def _outline(self, items: list[m.RawItem], by_id: dict[str, Resource]) -> list[OutlineRow]:
        rows = []
        for item in items:
            if item.depth > self.limits.depth:
                message = (
                    f"The outline nests deeper than {self.limits.depth} levels"
                    f" ({setting_name('depth')})."
                )
                raise UnusableCartridge(
                    "too_large",
                    f"item {item.id}",
                    message,
                    "Export a package with fewer levels of folders.",
                )
            resource = by_id.get(item.reference) if item.reference else None
            if item.reference and resource is None:
                self._add(
                    "missing_resource",
                    f"item {item.id} ({item.title}), resource {item.reference}",
                    f"The entry '{item.title}' points to a resource that the package does not"
                    " have.",
                    "Leave the entry out, or ask for a complete package.",
                )
            kind = resource.kind if resource else ("other" if item.reference else "folder")
            who = (
                m.audience(item.roles)
                if item.roles
                else (resource.audience if resource else "everyone")
            )
            about = dict.fromkeys([*item.subjects, *(resource.subjects if resource else ())])
            rows.append(
                OutlineRow(
                    item.id,
                    item.title,
                    kind,
                    item.depth,
                    who,
                    resource,
                    item.reference,
                    tuple(about),
                )
            )
        return rows

    def _check_dependencies(self, resources: list[Resource], by_id: dict[str, Resource]) -> None:
        """Note what a resource needs and the package does not have (Common Cartridge 1.3, 4.4)."""
        for resource in resources:
            for needed in dict.fromkeys(resource.dependencies):
                if needed and needed not in by_id:
                    self._add(
                        "missing_resource",
                        f"resource {resource.id} ({resource.href or 'no file'}), dependency"
                        f" {needed}",
                        f"'{resource.href or resource.id}' needs the resource {needed}, which the"
                        " package does not have; what it shows may be incomplete.",
                        "Look at the entry after the import, or ask for a complete package.",
                    )

    def _check_identifiers(self, items: list[m.RawItem], resources: list[Resource]) -> None:
        seen: set[str] = set()
        repeated: list[str] = []
        for identifier in [*(item.id for item in items), *(resource.id for resource in resources)]:
            if identifier in seen and identifier and identifier not in repeated:
                repeated.append(identifier)
            seen.add(identifier)
        for identifier in repeated:
            self._add(
                "duplicate_identifier",
                f"identifier {identifier}",
                f"The identifier {identifier} is used more than once; the first resource of that"
                " name is taken.",
                "Check that the entries open what their titles say.",
            )

    def _check_links(self, outline: list[OutlineRow], resources: list[Resource]) -> None:
        titles: dict[str, str] = {}
        for row in outline:
            if row.resource:
                titles.setdefault(row.resource.id, f"item {row.id} ({row.title}), ")
        strangers: dict[str, list[str]] = defaultdict(list)
        for resource in resources:
            if resource.kind != "lti_link" or not resource.descriptor.url:
                continue
            where = (
                f"{titles.get(resource.id, '')}resource {resource.id}, {resource.href},"
                f" {resource.descriptor.url}"
            )
            if resource.descriptor.insecure:
                self._add(
                    "insecure_launch",
                    where,
                    "The link opens its tool without encryption (http only); browsers block it"
                    " inside a secure page.",
                    "Ask the tool's maker for an https address.",
                )
            host = _host(resource.descriptor.url)
            if host not in self.known_hosts:
                strangers[host].append(resource.id)
        for host, ids in strangers.items():
            count = f"{len(ids)} link{'s' if len(ids) > 1 else ''}"
            self._add(
                "unknown_tool",
                f"{host}: {', '.join(ids[:20])}",
                f"No publisher is registered for {host or 'this address'}: {count} would open"
                " without credentials.",
                "Ask an administrator to connect that publisher, or leave the links out.",
            )

    def _check_titles(self, items: list[m.RawItem], outline: list[OutlineRow]) -> None:
        neighbours: dict[tuple[int, str], list[OutlineRow]] = defaultdict(list)
        for item, row in zip(items, outline, strict=True):
            if row.title:
                neighbours[item.parent, row.title.casefold()].append(row)
            else:
                self._add(
                    "untitled",
                    f"item {row.id}, resource {row.reference or 'none'}",
                    "An entry has no title, so nobody could tell what it is.",
                    "Give it a name before you place it.",
                )
        for rows in neighbours.values():
            if len(rows) > 1:
                where = ", ".join(f"item {row.id} ({row.title})" for row in rows[:20])
                self._add(
                    "duplicate_title",
                    where,
                    f"{len(rows)} entries side by side are called '{rows[0].title}'; learners and"
                    " the gradebook cannot tell them apart.",
                    "Rename them so that each says what it is.",
                )


def _loose(resources: list[Resource], outline: list[OutlineRow]) -> tuple[Resource, ...]:
    used = {row.reference for row in outline}
    for resource in resources:
        used.update(each for each in resource.dependencies if each != resource.id)
    return tuple(resource for resource in resources if resource.id not in used)


def _host(url: str) -> str:
    return _host_of("/".join(url.split("/", 3)[:3]))


@lru_cache(maxsize=1_000)
def _host_of(origin: str) -> str:
    """A package's links have few origins and thousands of addresses."""
    try:
        return (urlsplit(origin).hostname or "").lower()
    except ValueError:
        return ""
