"""Writing a full Common Cartridge 1.3: folders, pages, web links and LTI links.

``write_cartridge`` yields what ``read_cartridge`` gives back: the same outline, titles, depth,
addresses and custom parameters.
"""

from __future__ import annotations

import zipfile
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import IO

from lxml import etree

CP = "http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1"
LOM = "http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest"
LOM_RESOURCE = "http://ltsc.ieee.org/xsd/imsccv1p3/LOM/resource"
WEB_LINK = "http://www.imsglobal.org/xsd/imsccv1p3/imswl_v1p3"
LTI_LINK = "http://www.imsglobal.org/xsd/imslticc_v1p3"
BLTI = "http://www.imsglobal.org/xsd/imsbasiclti_v1p0"
LTICM = "http://www.imsglobal.org/xsd/imslticm_v1p0"
LTICP = "http://www.imsglobal.org/xsd/imslticp_v1p0"
_TYPES = {"page": "webcontent", "web_link": "imswl_xmlv1p3", "lti_link": "imsbasiclti_xmlv1p3"}
_FIXED_DATE = (2026, 1, 1, 0, 0, 0)  # the same input gives the same bytes


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry to write. ``kind`` is ``folder``, ``page``, ``web_link`` or ``lti_link``.

    ``html`` is a page's content; ``id`` must be an XML name and unique; entries come in reading
    order with their depth, as an outline lists them.
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


def write_cartridge(target: IO[bytes], identifier: str, title: str, language: str, entries: Sequence[Entry]) -> None:
    """Write a package to a binary stream. Raises ValueError where depths jump or a kind is unknown."""
    root = _manifest(identifier, title, language)
    organisation = etree.SubElement(etree.SubElement(root, _q(CP, "organizations")), _q(CP, "organization"), identifier="org_1", structure="rooted-hierarchy")
    resources = etree.SubElement(root, _q(CP, "resources"))
    branch = [etree.SubElement(organisation, _q(CP, "item"), identifier="root")]
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for entry in entries:
            if entry.depth >= len(branch):
                raise ValueError(f"'{entry.title}' stands deeper than the entry before it allows")
            del branch[entry.depth + 1 :]
            item = etree.SubElement(branch[-1], _q(CP, "item"), identifier=f"i_{entry.id}")
            etree.SubElement(item, _q(CP, "title")).text = entry.title
            branch.append(item)
            if entry.kind != "folder":
                item.set("identifierref", f"r_{entry.id}")
                _resource(archive, resources, entry)
        _put(archive, "imsmanifest.xml", _bytes(root))


def _manifest(identifier: str, title: str, language: str) -> etree._Element:
    root = etree.Element(_q(CP, "manifest"), nsmap={None: CP, "lom": LOM, "lomr": LOM_RESOURCE}, identifier=identifier)
    metadata = etree.SubElement(root, _q(CP, "metadata"))
    etree.SubElement(metadata, _q(CP, "schema")).text = "IMS Common Cartridge"
    etree.SubElement(metadata, _q(CP, "schemaversion")).text = "1.3.0"
    general = etree.SubElement(etree.SubElement(metadata, _q(LOM, "lom")), _q(LOM, "general"))
    etree.SubElement(etree.SubElement(general, _q(LOM, "title")), _q(LOM, "string"), language=language).text = title
    etree.SubElement(general, _q(LOM, "language")).text = language
    return root


def _resource(archive: zipfile.ZipFile, resources: etree._Element, entry: Entry) -> None:
    if entry.kind not in _TYPES:
        raise ValueError(f"'{entry.kind}' is not a kind that can be written")
    path = f"content/{entry.id}.html" if entry.kind == "page" else f"links/{entry.id}.xml"
    resource = etree.SubElement(resources, _q(CP, "resource"), identifier=f"r_{entry.id}", type=_TYPES[entry.kind], href=path)
    if entry.audience == "instructor":
        lom = etree.SubElement(etree.SubElement(resource, _q(CP, "metadata")), _q(LOM_RESOURCE, "lom"))
        role = etree.SubElement(etree.SubElement(lom, _q(LOM_RESOURCE, "educational")), _q(LOM_RESOURCE, "intendedEndUserRole"))
        etree.SubElement(role, _q(LOM_RESOURCE, "source")).text = "IMSGLC_CC_Rolesv1p3"
        etree.SubElement(role, _q(LOM_RESOURCE, "value")).text = "Instructor"
    etree.SubElement(resource, _q(CP, "file"), href=path)
    content = {"page": lambda: entry.html.encode(), "web_link": lambda: _bytes(_web_link(entry)), "lti_link": lambda: _bytes(_lti_link(entry))}
    _put(archive, path, content[entry.kind]())


def _web_link(entry: Entry) -> etree._Element:
    root = etree.Element(_q(WEB_LINK, "webLink"), nsmap={None: WEB_LINK})
    etree.SubElement(root, _q(WEB_LINK, "title")).text = entry.title
    url = etree.SubElement(root, _q(WEB_LINK, "url"), href=entry.url)
    if entry.new_window:
        url.set("target", "_blank")
    return root


def _lti_link(entry: Entry) -> etree._Element:
    root = etree.Element(_q(LTI_LINK, "cartridge_basiclti_link"), nsmap={None: LTI_LINK, "blti": BLTI, "lticm": LTICM, "lticp": LTICP})
    etree.SubElement(root, _q(BLTI, "title")).text = entry.title
    if entry.custom:
        custom = etree.SubElement(root, _q(BLTI, "custom"))
        for name, value in entry.custom.items():
            etree.SubElement(custom, _q(LTICM, "property"), name=name).text = value
    secure = entry.url.lower().startswith("https:")
    etree.SubElement(root, _q(BLTI, "secure_launch_url" if secure else "launch_url")).text = entry.url
    vendor = etree.SubElement(root, _q(BLTI, "vendor"))
    etree.SubElement(vendor, _q(LTICP, "code")).text = "unnamed"
    etree.SubElement(vendor, _q(LTICP, "name")).text = "Unnamed"
    return root


def _bytes(root: etree._Element) -> bytes:
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8"))


def _put(archive: zipfile.ZipFile, name: str, data: bytes) -> None:
    info = zipfile.ZipInfo(name, _FIXED_DATE)
    info.compress_type = zipfile.ZIP_DEFLATED
    info.external_attr = 0o644 << 16
    archive.writestr(info, data)


def _q(space: str, name: str) -> str:
    return f"{{{space}}}{name}"
