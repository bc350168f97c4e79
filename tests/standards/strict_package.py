"""A strict reading of Common Cartridge 1.3 and Thin 1.3, as their schemas and prose have it: it
shares no code with ours.
"""

from __future__ import annotations

import re
import zipfile
from typing import IO

from lxml import etree

NS = "http://www.imsglobal.org/xsd/imsccv1p3/imscp_v1p1"
NAME = re.compile(r"[A-Za-z_][\w.-]*\Z")
# For each type: the root element of its descriptor, and the children that it may have, in the
# schema's order.
DESCRIPTORS = {
    "imswl_xmlv1p3": (
        "{http://www.imsglobal.org/xsd/imsccv1p3/imswl_v1p3}webLink",
        ["title", "url", "extensions"],
        ["title", "url"],
    ),
    "imsdt_xmlv1p3": (
        "{http://www.imsglobal.org/xsd/imsccv1p3/imsdt_v1p3}topic",
        ["title", "text", "attachments", "extensions"],
        ["title", "text"],
    ),
    "assignment_xmlv1p0": (
        "{http://www.imsglobal.org/xsd/imscc_extensions/assignment}assignment",
        [
            "title",
            "text",
            "instructor_text",
            "attachments",
            "gradable",
            "submission_formats",
            "extensions",
        ],
        ["title"],
    ),
    "imsbasiclti_xmlv1p3": (
        "{http://www.imsglobal.org/xsd/imslticc_v1p3}cartridge_basiclti_link",
        [
            "title",
            "description",
            "custom",
            "extensions",
            "launch_url",
            "secure_launch_url",
            "icon",
            "secure_icon",
            "vendor",
            "cartridge_bundle",
            "cartridge_icon",
        ],
        ["title", "vendor"],
    ),
    "imsqti_xmlv1p2/imscc_xmlv1p3/assessment": (
        "{http://www.imsglobal.org/xsd/ims_qtiasiv1p2}questestinterop",
        ["assessment"],
        ["assessment"],
    ),
    "imsqti_xmlv1p2/imscc_xmlv1p3/question-bank": (
        "{http://www.imsglobal.org/xsd/ims_qtiasiv1p2}questestinterop",
        ["objectbank"],
        ["objectbank"],
    ),
}
THIN = {"imswl_xmlv1p3", "imsbasiclti_xmlv1p3"}


def faults(source: IO[bytes]) -> list[str]:
    """Return all that is against the standard; empty for a valid package."""
    found: list[str] = []
    with zipfile.ZipFile(source) as archive:
        names = archive.namelist()
        root = etree.fromstring(archive.read("imsmanifest.xml"))
        found += [f"member {name} twice" for name in set(names) if names.count(name) > 1]
        if [_local(each) for each in root] != [
            "metadata",
            "organizations",
            "resources",
        ] or root.tag != f"{{{NS}}}manifest":
            return [*found, "the manifest's parts are not metadata, organizations, resources"]
        thin = root.findtext(f"{{{NS}}}metadata/{{{NS}}}schema") == "IMS Thin Common Cartridge"
        if root.findtext(f"{{{NS}}}metadata/{{{NS}}}schemaversion") != "1.3.0":
            found.append("the schema version is not 1.3.0")
        resources = root[2]
        found += _identifiers(root)
        found += _organisation(root[1], {each.get("identifier"): each for each in resources})
        listed = {file.get("href") for file in resources.iter(f"{{{NS}}}file")}
        found += [
            f"{name} is in the archive and in no resource"
            for name in set(names) - listed - {"imsmanifest.xml"}
        ]
        found += [f"{name} is listed and not there" for name in listed - set(names)]
        for resource in resources:
            found += _resource(resource, archive, thin)
    return found


def _identifiers(root: etree._Element) -> list[str]:
    ids = [each.get("identifier", "") for each in root.iter() if each.get("identifier") is not None]
    return [f"identifier {each} is not a name" for each in ids if not NAME.match(each)] + [
        f"identifier {each} twice" for each in set(ids) if ids.count(each) > 1
    ]


def _organisation(group: etree._Element, resources: dict[str | None, etree._Element]) -> list[str]:
    found = []
    if len(group) != 1 or group[0].get("structure") != "rooted-hierarchy":
        return ["there must be one organization, a rooted-hierarchy"]
    root = group[0]
    if len(root) != 1 or root[0].find(f"{{{NS}}}title") is not None or root[0].get("identifierref"):
        found.append("the organization has one untitled root item")
    for item in root[0].iter(f"{{{NS}}}item"):
        parts = [_local(each) for each in item]
        if item is not root[0] and (
            parts[:1] != ["title"] or set(parts[1:]) - {"item", "metadata"}
        ):
            found.append(f"item {item.get('identifier')} does not begin with its title")
        if (reference := item.get("identifierref")) is not None:
            if reference not in resources:
                found.append(f"item {item.get('identifier')} points to nothing")
            elif resources[reference].get("type", "").endswith("question-bank"):
                found.append("a question bank is in the organization")
            if "item" in parts:
                found.append(f"item {item.get('identifier')} is a leaf and a branch")
    return found


def _resource(resource: etree._Element, archive: zipfile.ZipFile, thin: bool) -> list[str]:
    kind, href = resource.get("type", ""), resource.get("href", "")
    parts = [_local(each) for each in resource]
    found = [f"{kind} in a thin cartridge"] if thin and kind not in THIN else []
    if (
        sorted(parts, key=["metadata", "file", "dependency", "variant"].index) != parts
        or "file" not in parts
    ):
        found.append(f"resource {resource.get('identifier')}: its parts are out of order")
    if href != next(each.get("href") for each in resource if _local(each) == "file"):
        found.append(f"resource {resource.get('identifier')}: href is not its first file")
    if kind == "webcontent":
        return found
    if kind not in DESCRIPTORS:
        return [*found, f"{kind} is not a type of the standard"]
    tag, allowed, needed = DESCRIPTORS[kind]
    root = etree.fromstring(archive.read(href))
    below = [_local(each) for each in root]
    if root.tag != tag or [allowed.index(each) for each in below if each in allowed] != sorted(
        allowed.index(each) for each in below if each in allowed
    ):
        found.append(f"{href}: wrong root or order")
    found += [f"{href}: {each} is not allowed" for each in set(below) - set(allowed)] + [
        f"{href}: {each} is missing" for each in needed if each not in below
    ]
    if kind.startswith("imsbasiclti") and not {"launch_url", "secure_launch_url"} & set(below):
        found.append(f"{href}: no launch address")
    return found


def _local(element: etree._Element) -> str:
    return str(element.tag).rpartition("}")[2]
