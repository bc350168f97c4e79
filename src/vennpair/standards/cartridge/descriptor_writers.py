"""The small XML documents of a written cartridge: one for each kind that has a descriptor
(CC 1.3).
"""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from typing import Any

from lxml import etree

CP = "http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1"
LOM = "http://ltsc.ieee.org/xsd/imsccv1p3/LOM/manifest"
LOM_RESOURCE = "http://ltsc.ieee.org/xsd/imsccv1p3/LOM/resource"
WEB_LINK = "http://www.imsglobal.org/xsd/imsccv1p3/imswl_v1p3"
DISCUSSION = "http://www.imsglobal.org/xsd/imsccv1p3/imsdt_v1p3"
ASSIGNMENT = "http://www.imsglobal.org/xsd/imscc_extensions/assignment"
LTI_LINK = "http://www.imsglobal.org/xsd/imslticc_v1p3"
BLTI = "http://www.imsglobal.org/xsd/imsbasiclti_v1p0"
LTICM = "http://www.imsglobal.org/xsd/imslticm_v1p0"
LTICP = "http://www.imsglobal.org/xsd/imslticp_v1p0"


def q(space: str, name: str) -> str:
    """Return a name in a namespace."""
    return f"{{{space}}}{name}"


def document(root: etree._Element) -> bytes:
    """Return an element as a document in UTF-8."""
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8"))


def descriptor(kind: str, title: str, **facts: Any) -> bytes:
    """Return the descriptor of a web link, discussion, assignment or LTI link.

    ``facts``: ``url``, ``html``, ``new_window``, ``custom``, ``points``. Raises KeyError for a kind
    without descriptor.
    """
    return document(_ROOTS[kind](title, facts))


def _web_link(title: str, facts: dict[str, Any]) -> etree._Element:
    root = etree.Element(q(WEB_LINK, "webLink"), nsmap={None: WEB_LINK})
    etree.SubElement(root, q(WEB_LINK, "title")).text = title
    url = etree.SubElement(root, q(WEB_LINK, "url"), href=facts["url"])
    if facts["new_window"]:
        url.set("target", "_blank")
    return root


def _discussion(title: str, facts: dict[str, Any]) -> etree._Element:
    root = etree.Element(q(DISCUSSION, "topic"), nsmap={None: DISCUSSION})
    etree.SubElement(root, q(DISCUSSION, "title")).text = title
    etree.SubElement(root, q(DISCUSSION, "text"), texttype="text/html").text = facts["html"]
    return root


def _assignment(title: str, facts: dict[str, Any]) -> etree._Element:
    root = etree.Element(
        q(ASSIGNMENT, "assignment"), nsmap={None: ASSIGNMENT}, identifier="assignment"
    )
    etree.SubElement(root, q(ASSIGNMENT, "title")).text = title
    etree.SubElement(root, q(ASSIGNMENT, "text"), texttype="text/html").text = facts["html"]
    points: Decimal | None = facts["points"]
    gradable = etree.SubElement(root, q(ASSIGNMENT, "gradable"))
    gradable.text = "true" if points is not None else "false"
    if points is not None:
        gradable.set("points_possible", f"{points.normalize():f}")
    formats = etree.SubElement(root, q(ASSIGNMENT, "submission_formats"))
    etree.SubElement(formats, q(ASSIGNMENT, "format"), type="html")
    return root


def _lti_link(title: str, facts: dict[str, Any]) -> etree._Element:
    root = etree.Element(
        q(LTI_LINK, "cartridge_basiclti_link"),
        nsmap={None: LTI_LINK, "blti": BLTI, "lticm": LTICM, "lticp": LTICP},
    )
    etree.SubElement(root, q(BLTI, "title")).text = title
    if facts["custom"]:
        custom = etree.SubElement(root, q(BLTI, "custom"))
        for name, value in facts["custom"].items():
            etree.SubElement(custom, q(LTICM, "property"), name=name).text = value
    secure = facts["url"].lower().startswith("https:")
    etree.SubElement(root, q(BLTI, "secure_launch_url" if secure else "launch_url")).text = facts[
        "url"
    ]
    vendor = etree.SubElement(root, q(BLTI, "vendor"))
    etree.SubElement(vendor, q(LTICP, "code")).text = "unnamed"
    etree.SubElement(vendor, q(LTICP, "name")).text = "Unnamed"
    return root


_ROOTS: dict[str, Callable[[str, dict[str, Any]], etree._Element]] = {
    "web_link": _web_link,
    "discussion": _discussion,
    "assignment": _assignment,
    "lti_link": _lti_link,
}
