"""Putting one entry into a shell: its files first, then the entry itself.

Runs in several threads; touches no database.
"""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from functools import partial
from typing import Any
from urllib.parse import quote

from vennpair.core.deploy.dates import in_zone
from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.models import Entry, Placement
from vennpair.service.content.package_view import PackageView, bare_name, media_type
from vennpair.service.content.pages import clean, member_of
from vennpair.service.kernel.errors import Refused
from vennpair.standards.cartridge.questions import only_questions, read_questions
from vennpair.standards.cartridge.writer import Entry as Written
from vennpair.standards.cartridge.writer import Member, write_cartridge
from vennpair.standards.cartridge.xml import Element
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.outline import ENTRY_REFERENCE, Node

DAMAGED = (zipfile.BadZipFile, zlib.error, EOFError)
CARTRIDGE_MEDIA = "application/vnd.ims.imsccv1p3"


@dataclass(frozen=True, slots=True)
class Task:
    """One entry to put into ``folder``.

    ``node`` is there where it is to be changed, ``placement`` where it is a tool's link,
    ``questions`` names those of a quiz that come along, all where it is empty.
    """

    entry: Entry
    folder: str
    key: str
    identifier: str
    node: Node | None = None
    placement: Placement | None = None
    questions: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Sent:
    """What the platform answered: the entry as it is now, and what of it could not be brought
    along.
    """

    node: Node
    note: str = ""


@dataclass(slots=True)
class Sender:
    """Sends the entries of one delivery.

    ``identifiers`` gives, by member, the identifier of the entry that shows it; a catalogue has no
    ``source``.
    """

    gateway: PlatformGateway
    outline_url: str
    lineitems_url: str
    zone: str
    launch_url: str
    source: PackageView | None
    identifiers: Mapping[str, str]
    _files: dict[str, str] = field(default_factory=dict)

    @property
    def package(self) -> PackageView:
        """Return the package. Raises Refused where the import has none, as a catalogue has not."""
        if self.source is None:
            raise Refused(
                "package_gone", "There is no package that this could come from.", "Import it again."
            )
        return self.source

    def send(self, task: Task) -> Sent:
        """Make or change an entry.

        Raises OutsideError; what the package itself lacks is one that will never work.
        """
        try:
            fields, note = self._fields(task)
        except Refused as error:
            raise OutsideError(
                Failure(FailureKind.NEVER, error.code, error.message, error.remedy)
            ) from error
        except DAMAGED as error:
            raise OutsideError(
                Failure(
                    FailureKind.NEVER,
                    "missing_file",
                    f"A file of this entry is damaged in the package ({error}).",
                    "Ask for a complete package.",
                )
            ) from error
        entry = task.entry
        common: dict[str, Any] = {
            "title": entry.shown_title[:255],
            "visible": entry.visible,
            "identifier": task.identifier,
        }
        if task.node is not None:
            changed = common | fields
            return Sent(
                self.gateway.change_node(self.outline_url, task.node, task.key, **changed), note
            )
        common |= {"folder": task.folder, "audience": entry.audience}
        if entry.kind == "folder":
            return Sent(self.gateway.make_folder(self.outline_url, key=task.key, **common), note)
        kind = "assessment" if entry.kind == "question_bank" else entry.kind
        return Sent(
            self.gateway.make_entry(self.outline_url, kind, task.key, **common, **fields), note
        )

    def column(self, task: Task) -> str:
        """Make the column of a placed link, unless it is there; return its address.

        Raises OutsideError.
        """
        placement, entry = task.placement, task.entry
        if placement is None:
            raise AssertionError("only a link has a column")
        wanted = LineItem(
            entry.shown_title,
            Decimal(entry.points or 0).normalize(),
            "",
            str(placement.pk),
            placement.resource_link_id,
            "vennpair",
            "",
            in_zone(entry.due_at, self.zone),
        )
        return self.gateway.ensure_line_item(self.lineitems_url, wanted).id

    def _fields(self, task: Task) -> tuple[dict[str, Any], str]:
        """Return what a kind has of its own, and a note where something could not come along."""
        entry = task.entry
        makers: dict[str, Callable[[Task], tuple[dict[str, Any], str]]] = {
            "folder": lambda _: ({}, ""),
            "page": self._page,
            "file": self._file,
            "web_link": lambda _: ({"url": entry.url, "new_window": entry.new_window}, ""),
            "lti_link": self._link,
            "discussion": self._text,
            "assignment": self._text,
            "assessment": self._quiz,
            "question_bank": self._quiz,
        }
        return makers[entry.kind](task)

    def _link(self, task: Task) -> tuple[dict[str, Any], str]:
        """Return a link to us with its date, as a rollout would place it."""
        placement = task.placement
        fields = {
            "url": self.launch_url,
            "custom": {"placement": str(placement.pk) if placement else ""},
            "due_at": in_zone(placement.due_at, self.zone) if placement else "",
        }
        return fields, ""

    def _page(self, task: Task) -> tuple[dict[str, Any], str]:
        return self._html(self.package.page(task.entry.member), task.entry.member)

    def _text(self, task: Task) -> tuple[dict[str, Any], str]:
        fields, note = self._html(self.package.descriptor(task.entry).text, task.entry.member)
        points = (
            {"points": _number(task.entry.points)}
            if task.entry.kind == "assignment" and task.entry.points is not None
            else {}
        )
        return fields | points, note

    def _html(self, html: str, base: str) -> tuple[dict[str, Any], str]:
        lost: list[str] = []
        return {
            "html": clean(html, lambda address: self._resolve(address, base, lost))
        }, f"Not brought along: {', '.join(lost[:5])}." if lost else ""

    def _resolve(self, address: str, base: str, lost: list[str]) -> str | None:
        """Return where a relative address on a page leads in the shell: to another entry, or to a
        file given to the platform.
        """
        path = member_of(address, base)
        member = self.package.find(path)
        if member is None:
            if path:
                lost.append(path)
            return None
        if identifier := self.identifiers.get(member):
            return ENTRY_REFERENCE + quote(identifier, safe="")
        if media_type(member) in {"text/html", "application/xhtml+xml"}:
            lost.append(member)  # a page that was not chosen: raw HTML is given to no platform
            return None
        return self._given(member)

    def _given(self, member: str) -> str:
        """Give the platform a file, once in a delivery; return the address of it."""
        if member not in self._files:
            digest = self.package.digest(member)
            self._files[member] = self.gateway.put_file(
                self.outline_url,
                digest,
                bare_name(member),
                media_type(member),
                self.package.size(member),
                lambda: self.package.stream(member),
            )
        return self._files[member]

    def _file(self, task: Task) -> tuple[dict[str, Any], str]:
        member = self.package.find(task.entry.member) or next(
            (found for each in task.entry.files if (found := self.package.find(each))), None
        )
        if member is None:
            raise Refused(
                "missing_file",
                f"The package lacks {task.entry.member}.",
                "Ask for a complete package.",
            )
        return {"url": self._given(member)}, ""

    def _quiz(self, task: Task) -> tuple[dict[str, Any], str]:
        """Give an assessment as a cartridge that holds it alone: every platform that reads
        cartridges can read it.
        """
        entry, target = task.entry, io.BytesIO()
        kind = "assessment" if entry.kind == "question_bank" else entry.kind
        files = tuple(
            Member(member, partial(self.package.stream, member))
            for each in entry.files
            if (member := self.package.find(each)) and member != entry.member
        )
        carried = [
            Written(f"f{number}", bare_name(each.path), "file", files=(each,))
            for number, each in enumerate(files)
        ]
        write_cartridge(
            target,
            f"quiz-{entry.position}",
            entry.shown_title,
            "und",
            [
                Written("quiz", entry.shown_title, kind, xml=self._questions(task)),
                *carried,
            ],
        )
        points = entry.points
        if task.questions:
            points = _points_of(self.package.document(entry), task.questions)
        data = target.getvalue()
        url = self.gateway.put_data(
            self.outline_url, data, f"{entry.shown_title[:60]}.imscc", CARTRIDGE_MEDIA
        )
        return {"url": url} | ({"points": _number(points)} if points is not None else {}), ""

    def _questions(self, task: Task) -> bytes:
        """Return a quiz's document, with the chosen questions where some were chosen."""
        if not task.questions:
            return self.package.raw(task.entry.member)
        return only_questions(self.package.document(task.entry), task.questions)


def _points_of(root: Element, numbers: Sequence[int]) -> Decimal | None:
    """Return the points of chosen questions together, None where one of them states none."""
    found = [each.points for each in read_questions(root, max(numbers))]
    chosen = [found[number - 1] for number in numbers if number <= len(found)]
    return (
        sum((each for each in chosen if each is not None), Decimal(0))
        if all(each is not None for each in chosen)
        else None
    )


def _number(points: Decimal) -> str:
    return f"{points.normalize():f}"
