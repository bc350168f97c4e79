"""Writing a Common Cartridge 1.3, full or thin, so that reading it gives back what was written.

A thin cartridge (Thin CC 1.3) holds folders, web links and LTI links only. A full one holds every
kind; files come as streams and are copied piece by piece.
"""

from __future__ import annotations

import shutil
import zipfile
from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import dataclass, field
from decimal import Decimal
from typing import IO, Literal

from lxml import etree

from vennpair.standards.cartridge.descriptor_writers import (
    CP,
    LOM,
    LOM_RESOURCE,
    descriptor,
    document,
    q,
)

Profile = Literal["full", "thin"]
THIN_KINDS = {"folder", "web_link", "lti_link"}
_SCHEMAS = {"full": "IMS Common Cartridge", "thin": "IMS Thin Common Cartridge"}
_TYPES = {
    "page": "webcontent",
    "file": "webcontent",
    "web_link": "imswl_xmlv1p3",
    "discussion": "imsdt_xmlv1p3",
    "assignment": "assignment_xmlv1p0",
    "lti_link": "imsbasiclti_xmlv1p3",
    "assessment": "imsqti_xmlv1p2/imscc_xmlv1p3/assessment",
    "question_bank": "imsqti_xmlv1p2/imscc_xmlv1p3/question-bank",
}
_COPIED = (  # where the files of pages are, under their own paths, so that links among them hold
    "files"
)
_FIXED_DATE = (2026, 1, 1, 0, 0, 0)  # the same input gives the same bytes


@dataclass(frozen=True, slots=True)
class Member:
    """A file to copy: its path below the package's files, and what opens a stream of its bytes."""

    path: str
    open: Callable[[], IO[bytes]]


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry to write; ``id`` must be an XML name and unique; entries come in reading order with
    their depth.

    A page has ``html``, or ``files`` whose first is the page; a file has ``files``; a discussion or
    assignment has ``html``; an assessment or question bank has ``xml``, its QTI 1.2 document as it
    is.
    """

    id: str
    title: str
    kind: str
    depth: int = 0
    url: str = ""
    html: str = ""
    new_window: bool = False
    custom: dict[str, str] = field(default_factory=dict)
    audience: str = "everyone"
    points: Decimal | None = None
    files: tuple[Member, ...] = ()
    xml: bytes = b""
    subjects: tuple[str, ...] = ()


def write_cartridge(
    target: IO[bytes],
    identifier: str,
    title: str,
    language: str,
    entries: Sequence[Entry],
    profile: Profile = "full",
) -> None:
    """Write a package to a binary stream.

    Raises ValueError where depths jump, or a kind cannot be in the profile.
    """
    root = _manifest(identifier, title, language, profile)
    organisation = etree.SubElement(
        etree.SubElement(root, q(CP, "organizations")),
        q(CP, "organization"),
        identifier="org_1",
        structure="rooted-hierarchy",
    )
    branch = [etree.SubElement(organisation, q(CP, "item"), identifier="root")]
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        resources = _Resources(archive, etree.SubElement(root, q(CP, "resources")))
        for entry in entries:
            _check(entry, profile, len(branch))
            if entry.kind != "question_bank":  # a bank is in no organisation (CC 1.3, 4.4)
                del branch[entry.depth + 1 :]
                item = etree.SubElement(branch[-1], q(CP, "item"), identifier=f"i_{entry.id}")
                etree.SubElement(item, q(CP, "title")).text = entry.title
                branch.append(item)
            if entry.kind != "folder":
                resources.add(entry)
                if entry.kind != "question_bank":
                    item.set("identifierref", f"r_{entry.id}")
        _put(archive, "imsmanifest.xml", document(root))


def _check(entry: Entry, profile: Profile, levels: int) -> None:
    if entry.depth >= levels:
        raise ValueError(f"'{entry.title}' is deeper than the entry before it allows")
    if entry.kind != "folder" and entry.kind not in _TYPES:
        raise ValueError(f"'{entry.kind}' is not a kind that can be written")
    if profile == "thin" and entry.kind not in THIN_KINDS:
        raise ValueError(
            f"'{entry.title}' is a {entry.kind}; a thin cartridge holds folders, web links and LTI"
            " links only"
        )


def _manifest(identifier: str, title: str, language: str, profile: Profile) -> etree._Element:
    root = etree.Element(
        q(CP, "manifest"), nsmap={None: CP, "lom": LOM, "lomr": LOM_RESOURCE}, identifier=identifier
    )
    metadata = etree.SubElement(root, q(CP, "metadata"))
    etree.SubElement(metadata, q(CP, "schema")).text = _SCHEMAS[profile]
    etree.SubElement(metadata, q(CP, "schemaversion")).text = "1.3.0"
    general = etree.SubElement(etree.SubElement(metadata, q(LOM, "lom")), q(LOM, "general"))
    etree.SubElement(
        etree.SubElement(general, q(LOM, "title")), q(LOM, "string"), language=language
    ).text = title
    etree.SubElement(general, q(LOM, "language")).text = language
    return root


class _Resources:
    """Adds resources to a manifest and their members to the archive.

    A file that several share is written once.
    """

    def __init__(self, archive: zipfile.ZipFile, group: etree._Element) -> None:
        self._archive = archive
        self._group = group
        self._written: set[str] = set()

    def add(self, entry: Entry) -> None:
        paths = self._copied(entry) if entry.files else [self._made(entry)]
        resource = etree.SubElement(
            self._group,
            q(CP, "resource"),
            identifier=f"r_{entry.id}",
            type=_TYPES[entry.kind],
            href=paths[0],
        )
        if entry.audience == "instructor" or entry.subjects:
            lom = etree.SubElement(
                etree.SubElement(resource, q(CP, "metadata")), q(LOM_RESOURCE, "lom")
            )
        if entry.subjects:
            general = etree.SubElement(lom, q(LOM_RESOURCE, "general"))
            for each in entry.subjects:
                word = etree.SubElement(general, q(LOM_RESOURCE, "keyword"))
                etree.SubElement(word, q(LOM_RESOURCE, "string")).text = each
        if entry.audience == "instructor":
            role = etree.SubElement(
                etree.SubElement(lom, q(LOM_RESOURCE, "educational")),
                q(LOM_RESOURCE, "intendedEndUserRole"),
            )
            etree.SubElement(role, q(LOM_RESOURCE, "source")).text = "IMSGLC_CC_Rolesv1p3"
            etree.SubElement(role, q(LOM_RESOURCE, "value")).text = "Instructor"
        for path in paths:
            etree.SubElement(resource, q(CP, "file"), href=path)

    def _made(self, entry: Entry) -> str:
        if entry.kind == "page":
            path, content = f"content/{entry.id}.html", entry.html.encode()
        else:
            path, content = (
                f"descriptors/{entry.id}.xml",
                entry.xml
                or descriptor(
                    entry.kind,
                    entry.title,
                    url=entry.url,
                    html=entry.html,
                    new_window=entry.new_window,
                    custom=entry.custom,
                    points=entry.points,
                ),
            )
        _put(self._archive, path, content)
        return path

    def _copied(self, entry: Entry) -> list[str]:
        paths = list(dict.fromkeys(f"{_COPIED}/{each.path}" for each in entry.files))
        for each in entry.files:
            path = f"{_COPIED}/{each.path}"
            if path not in self._written:
                self._written.add(path)
                with closing(each.open()) as source, self._archive.open(_info(path), "w") as sink:
                    shutil.copyfileobj(source, sink, 1 << 20)
        return paths


def _info(name: str) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(name, _FIXED_DATE)
    info.compress_type = zipfile.ZIP_DEFLATED
    info.external_attr = 0o644 << 16
    return info


def _put(archive: zipfile.ZipFile, name: str, data: bytes) -> None:
    archive.writestr(_info(name), data)
