"""The XML files that resources point to: web links, discussions, LTI links, assignments, QTI.

Each reader takes the root element and returns a Descriptor; elements are found by their local
name, so that every version's namespace and any prefix will do.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from decimal import Decimal

from vennpair.standards.cartridge.model import Descriptor
from vennpair.standards.cartridge.xml import Element, child, children, firsts, local, text
from vennpair.standards.numbers import read_json_number


def web_link(root: Element) -> Descriptor:
    """Read a web link (CC 1.x, imswl)."""
    url = child(root, "url")
    target = url.get("target", "") if url is not None else ""
    return Descriptor(
        title=text(child(root, "title")),
        url=(url.get("href") or "").strip() if url is not None else "",
        new_window=target.strip().lower() in {"_blank", "_new"},
    )


def discussion(root: Element) -> Descriptor:
    """Read a discussion topic (CC 1.x, imsdt)."""
    return Descriptor(
        title=text(child(root, "title")), text=_body(root), attachments=_attachments(root)
    )


def lti_link(root: Element) -> Descriptor:
    """Read a basic LTI link (CC 1.1, imsbasiclti; secure launch address preferred)."""
    parts = firsts(root)
    secure, plain = text(parts.get("secure_launch_url")), text(parts.get("launch_url"))
    custom = parts.get("custom")
    properties = [each for each in custom if each.get("name")] if custom is not None else []
    return Descriptor(
        title=text(parts.get("title")),
        text=text(parts.get("description")),
        url=secure or plain,
        custom={
            each.get("name", ""): (each.text or "") if not len(each) else "".join(each.itertext())
            for each in properties
        },
        insecure=not (secure or plain).lower().startswith("https:"),
    )


@dataclass(frozen=True, slots=True)
class ToolDetails:
    """What an LTI link says of its tool beside what a launch needs.

    ``extensions`` by the name of the platform they are for.
    """

    vendor: str
    icon: str
    extensions: dict[str, dict[str, str]]


def tool_details(root: Element) -> ToolDetails:
    """Read vendor, icon and extensions of a link (Basic LTI 1.0, 6).

    Apart from ``lti_link``, as thousands are read without them.
    """
    parts = firsts(root)
    extensions = {
        each.get("platform", ""): {
            part.get("name", ""): text(part) for part in each.iter("{*}property")
        }
        for each in children(root, "extensions")
    }
    return ToolDetails(
        text(child(parts.get("vendor"), "name")),
        text(parts.get("secure_icon")) or text(parts.get("icon")),
        extensions,
    )


def assignment(root: Element) -> Descriptor:
    """Read the assignment extension (CC 1.3, assignment_xmlv1p0)."""
    gradable = child(root, "gradable")
    points = (
        gradable.get("points_possible")
        if gradable is not None and text(gradable).lower() in {"true", "1"}
        else None
    )
    return Descriptor(
        title=text(child(root, "title")),
        text=_body(root),
        points=_decimal(points),
        attachments=_attachments(root),
    )


def assessment(root: Element) -> Descriptor:
    """Read what a QTI 1.2 assessment or question bank holds: title, questions by profile,
    points.
    """
    body = child(root, "assessment")
    if body is None:
        body = child(root, "objectbank")
    if body is None:
        return Descriptor()
    kinds: Counter[str] = Counter()
    weights: list[Decimal] = []
    for element in body.iter():
        if isinstance(element.tag, str) and local(element) == "item":
            fields = item_metadata(element)
            kinds[question_kind(fields)] += 1
            weight = weight_of(fields)
            if weight is not None:
                weights.append(weight)
    return Descriptor(
        title=body.get("title", ""),
        questions=dict(sorted(kinds.items())),
        points=sum(weights, Decimal(0)) if weights else None,
    )


READERS = {
    "web_link": web_link,
    "discussion": discussion,
    "lti_link": lti_link,
    "assignment": assignment,
    "assessment": assessment,
    "question_bank": assessment,
}


def _body(root: Element) -> str:
    body = child(root, "text")
    return "".join(body.itertext()) if body is not None else ""


def _attachments(root: Element) -> tuple[str, ...]:
    group = child(root, "attachments")
    return tuple(
        path
        for each in (children(group, "attachment") if group is not None else ())
        if (path := (each.get("href") or "").strip())
    )


def item_metadata(item: Element) -> dict[str, str]:
    """Return the metadata fields of a QTI item by label."""
    group = child(item, "itemmetadata")
    fields = group.iter("{*}qtimetadatafield") if group is not None else ()
    return {text(child(each, "fieldlabel")): text(child(each, "fieldentry")) for each in fields}


def question_kind(fields: dict[str, str]) -> str:
    """Return the kind that a QTI item's profile says: ``cc.multiple_choice.v0p1`` is
    ``multiple_choice``.
    """
    parts = fields.get("cc_profile", "").split(".")
    return parts[1] if len(parts) > 1 else "unknown"


def weight_of(fields: dict[str, str]) -> Decimal | None:
    """Return the points that a QTI item's metadata gives, if any."""
    return _decimal(fields.get("cc_weighting"))


def _decimal(value: str | None) -> Decimal | None:
    try:
        return read_json_number((value or "").strip() or None)
    except ValueError:
        return None
