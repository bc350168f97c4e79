"""Small packages made for a test: good ones to start from, and what can be done to them."""

from __future__ import annotations

import io
import zipfile

CP = "http://www.imsglobal.org/xsd/imsccv1p1/imscp_v1p1"
LTI = """<cartridge_basiclti_link xmlns="http://www.imsglobal.org/xsd/imslticc_v1p0" xmlns:blti="http://www.imsglobal.org/xsd/imsbasiclti_v1p0" xmlns:lticm="http://www.imsglobal.org/xsd/imslticm_v1p0">
<blti:title>Tool</blti:title><blti:custom><lticm:property name="item">7</lticm:property></blti:custom><blti:launch_url>http://tool.example/x</blti:launch_url></cartridge_basiclti_link>"""


def manifest(
    items: str = "",
    resources: str = "",
    *,
    version: str = "1.1.0",
    namespace: str = CP,
    schema: str = "IMS Common Cartridge",
    head: str = "",
) -> bytes:
    """Return a manifest with an untitled root item around ``items``."""
    return f"""<?xml version="1.0" encoding="UTF-8"?>{head}
<manifest identifier="M" xmlns="{namespace}"><metadata><schema>{schema}</schema><schemaversion>{version}</schemaversion></metadata>
<organizations><organization identifier="O" structure="rooted-hierarchy"><item identifier="root">{items}</item></organization></organizations>
<resources>{resources}</resources></manifest>""".encode()


ITEM = '<item identifier="i1" identifierref="R1"><title>Page</title></item>'
PAGE = '<resource identifier="R1" type="webcontent" href="a.html"><file href="a.html"/></resource>'


def package(members: dict[str, bytes | str] | None = None, **overrides: bytes | str) -> bytes:
    """Return a zip; without arguments a good package of one page."""
    contents: dict[str, bytes | str] = (
        {"imsmanifest.xml": manifest(ITEM, PAGE), "a.html": "<p>hello</p>"}
        if members is None
        else dict(members)
    )
    contents |= overrides
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in contents.items():
            archive.writestr(name, data)
    return target.getvalue()
