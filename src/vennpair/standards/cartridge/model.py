"""A cartridge that has been read: resources, the outline in reading order, and findings."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from decimal import Decimal

from vennpair.standards.cartridge.findings import Finding

KINDS = (
    "folder",
    "page",
    "file",
    "web_link",
    "discussion",
    "assignment",
    "lti_link",
    "assessment",
    "question_bank",
    "other",
)


@dataclass(frozen=True, slots=True)
class Descriptor:
    """What a resource's own XML file says; which fields are filled depends on the kind.

    ``custom`` holds the custom parameters of an LTI link only, never extensions. ``questions``
    counts questions by their type in the QTI profile. ``attachments`` are the paths that a
    discussion or assignment names beside its text. ``broken`` where the XML could not be read.
    """

    title: str = ""
    url: str = ""
    new_window: bool = False
    custom: dict[str, str] = field(default_factory=dict)
    points: Decimal | None = None
    text: str = ""
    questions: dict[str, int] = field(default_factory=dict)
    insecure: bool = False
    attachments: tuple[str, ...] = ()
    broken: bool = False


@dataclass(frozen=True, slots=True)
class Resource:
    """One resource of the manifest. ``href`` and ``files`` are member paths inside the package."""

    id: str
    type: str
    kind: str
    href: str = ""
    files: tuple[str, ...] = ()
    dependencies: tuple[str, ...] = ()
    audience: str = "everyone"
    descriptor: Descriptor = Descriptor()
    subjects: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class OutlineRow:
    """One entry of the outline, folders included; depth 0 is the top. ``subjects`` are its own and
    its resource's.
    """

    id: str
    title: str
    kind: str
    depth: int
    audience: str = "everyone"
    resource: Resource | None = None
    reference: str = ""
    subjects: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Cartridge:
    """A whole cartridge, without the bytes of its files.

    ``identifier`` is the manifest's own. ``protected`` says what needs an authorisation from its
    maker (CC 1.x, authorizations): ``cartridge``, ``resource`` or nothing.
    """

    version: str | None
    profile: str
    title: str
    language: str
    outline: tuple[OutlineRow, ...]
    resources: tuple[Resource, ...]
    loose: tuple[Resource, ...]
    findings: tuple[Finding, ...]
    identifier: str = ""
    protected: str = ""

    def counts(self) -> dict[str, int]:
        """Return how many resources there are of each kind; folders are branches of the outline."""
        seen = Counter(resource.kind for resource in self.resources)
        seen["folder"] = sum(row.kind == "folder" for row in self.outline)
        return {kind: seen[kind] for kind in KINDS}
