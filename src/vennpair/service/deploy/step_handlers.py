"""The outside call of each kind of step, and what is recorded once it is answered.

A call runs in a thread and touches no database; what it returns does, in the worker's own thread. A
step's id is its idempotency key. AGS knows none, so all columns are read once before any is made:
one that was made by a worker that was killed before it could say so is found by its resource id.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any
from urllib.parse import quote

from vennpair.core.deploy.page_text import PageLink, with_links
from vennpair.core.deploy.places import hidden_around
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.models import Placement
from vennpair.service.deploy.hooks import column_made
from vennpair.service.deploy.mapping import PAGE
from vennpair.service.deploy.models import Rollout, Step
from vennpair.service.deploy.ordering import settle_folders, settle_gradebook
from vennpair.service.operations.runner import Record
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.outline import ENTRY_REFERENCE, Node

TAG = "vennpair"


@dataclass(slots=True)
class Handlers:
    """Make the calls of one rollout's steps. ``folders`` gives a new folder's id by its key,
    ``columns`` a column's URL by its resource id.

    ``scored`` are the placements for which scores have come before, ``titles`` those of the links
    that are there, by placement, where a page is to hold them.
    """

    gateway: PlatformGateway
    rollout: Rollout
    folders: dict[str, str] = field(default_factory=dict)
    columns: dict[str, str] = field(default_factory=dict)
    scored: set[Any] = field(default_factory=set)
    titles: dict[str, str] = field(default_factory=dict)

    def call(self, step: Step) -> Record:
        """Make the outside call of a step. Raises OutsideError."""
        calls: dict[str, Callable[[Step], Record]] = {
            "folder": self._folder,
            "link": self._link,
            "column": self._column,
            "change_link": self._change_link,
            "change_column": self._change_column,
            "remove_link": self._remove_link,
            "remove_column": self._remove_column,
            "remove_folder": self._remove_folder,
            "show_folders": self._show_folders,
            "page": self._page,
            "order": self._order,
            "gradebook": self._gradebook,
        }
        return calls[step.kind](step)

    @property
    def outline_url(self) -> str:
        """Return where the shell's outline is."""
        return self.rollout.pairing.shell.outline_url

    def _place(self, folder: str) -> str:
        return self.folders.get(folder, folder)

    def _folder(self, step: Step) -> Record:
        node = self.gateway.make_folder(
            self.outline_url,
            step.facts["title"][:255],
            step.idempotency_key,
            folder=self._place(step.facts["parent"]),
        )

        def settle() -> None:
            self.folders[step.facts["key"]] = step.node = node.id

        return settle

    def _link(self, step: Step) -> Record:
        write, placement = dict(step.facts["write"]), _of(step)
        folder = self._place(write.pop("folder"))
        node = self.gateway.make_entry(
            self.outline_url,
            write.pop("kind"),
            step.idempotency_key,
            folder=folder,
            identifier=str(placement.pk),
            **write,
        )

        def settle() -> None:
            placement.entry_id, placement.resource_link_id, placement.folder_id, step.node = (
                node.id,
                node.resource_link_id,
                folder,
                node.id,
            )
            placement.state = (
                Placement.State.PLANNED if step.facts["column"] else Placement.State.PLACED
            )
            placement.save(
                update_fields=[
                    "entry_id",
                    "resource_link_id",
                    "folder_id",
                    "state",
                    *_note_placed(placement, step.facts.get("stands", {})),
                ]
            )

        return settle

    def _column(self, step: Step) -> Record:
        placement = _of(step)
        known = self.columns.get(str(placement.pk), "")
        wanted = self._line_item(step, placement, known)
        url = (
            self.gateway.change_line_item(wanted)
            if known
            else self.gateway.make_line_item(self.rollout.pairing.shell.lineitems_url, wanted)
        ).id

        def settle() -> None:
            self.columns[str(placement.pk)] = step.node = url
            placement.column_url, placement.state = url, Placement.State.PLACED
            placement.save(update_fields=["column_url", "state"])
            if not known and placement.pk in self.scored:
                column_made(placement)

        return settle

    def _change_link(self, step: Step) -> Record:
        write, placement = dict(step.facts["write"]), _of(step)
        if "folder" in write:
            write["folder"] = self._place(write["folder"])
        link = placement.resource_link_id
        if write:
            link = (
                self.gateway.change_node(
                    self.outline_url,
                    Node(placement.entry_id, placement.title, "lti_link"),
                    step.idempotency_key,
                    **write,
                ).resource_link_id
                or link
            )

        def settle() -> None:
            placement.resource_link_id, placement.state = link, Placement.State.PLACED
            placement.folder_id = write.get("folder", placement.folder_id)
            _note_placed(placement, step.facts["stands"])
            placement.save()

        return settle

    def _change_column(self, step: Step) -> Record:
        placement = _of(step)
        self.gateway.change_line_item(self._line_item(step, placement, placement.column_url))
        return lambda: None

    def _remove_link(self, step: Step) -> Record:
        placement = _of(step)
        if placement.entry_id:
            self.gateway.remove_node(
                self.outline_url, Node(placement.entry_id, placement.title, "lti_link")
            )

        def settle() -> None:
            placement.entry_id = placement.resource_link_id = placement.folder = (
                placement.folder_id
            ) = ""
            placement.state, placement.place = Placement.State.REMOVED, -1
            placement.save()

        return settle

    def _remove_column(self, step: Step) -> Record:
        placement = _of(step)
        if placement.column_url:
            self.gateway.remove_line_item(placement.column_url)

        def settle() -> None:
            placement.column_url, placement.points, placement.category = "", None, ""
            placement.save(update_fields=["column_url", "points", "category"])

        return settle

    def _remove_folder(self, step: Step) -> Record:
        node = step.facts["node"]
        if not any(each.folder == node for each in self.gateway.outline(self.outline_url)):
            self.gateway.remove_node(self.outline_url, Node(node, step.facts["title"], "folder"))
        return lambda: None

    def _show_folders(self, step: Step) -> Record:
        """Show every hidden folder around a link."""
        outline = self.gateway.outline(self.outline_url)
        nodes = {node.id: node for node in outline}
        at = nodes.get(_of(step).entry_id)
        while at is not None and (around := hidden_around(outline, at.folder)) is not None:
            self.gateway.change_node(
                self.outline_url,
                around,
                f"{step.idempotency_key}-{around.id}"[:200],
                visible=True,
                audience="everyone",
            )
            at = around
        return lambda: None

    def _page(self, step: Step) -> Record:
        """Add the links to a page's text, those that are not in it yet."""
        page, words = step.facts["page"], step.facts.get("words", {})
        links = [
            PageLink(reference(key), self.titles[key], words.get(key, ""))
            for key in step.facts["placements"]
            if key in self.titles
        ]
        before = self.gateway.html(self.outline_url, page)
        text, went = with_links(before, links, step.facts.get("after", ""))
        if set(went.values()) - {"there"}:
            self.gateway.change_node(
                self.outline_url, Node(page, "", "page"), step.idempotency_key, html=text
            )
        return lambda: _note_page(page, step.facts["placements"])

    def _order(self, step: Step) -> Record:
        wanted = {step.facts["folder"]: step.facts["children"]}
        settle_folders(self.gateway, self.outline_url, wanted)
        return lambda: None

    def _gradebook(self, step: Step) -> Record:
        settle_gradebook(self.gateway, self.outline_url, step.facts["columns"])
        return lambda: None

    def _line_item(self, step: Step, placement: Placement, url: str) -> LineItem:
        write = step.facts["write"]
        return LineItem(
            write["title"],
            Decimal(write["points"]),
            url,
            str(placement.pk),
            placement.resource_link_id,
            TAG,
            write["shown_from"],
            write["due_at"],
        )


def _note_placed(placement: Placement, fields: dict[str, Any]) -> list[str]:
    """Note that a placement is as it was planned; return the fields."""
    for name, value in fields.items():
        setattr(
            placement, name, Decimal(value) if name == "points" and value is not None else value
        )
    return list(fields)


def _of(step: Step) -> Placement:
    if step.placement is None:
        raise AssertionError(f"a step of kind {step.kind} belongs to a placement")
    return step.placement


def _note_page(page: str, placements: Sequence[str]) -> None:
    """Note that links are opened from a page's text, so that their loss there is seen."""
    rows = list(Placement.objects.filter(pk__in=placements))
    for each in rows:
        each.seen = each.seen | {PAGE: page}
    Placement.objects.bulk_update(rows, ["seen"], batch_size=500)


def reference(placement: str) -> str:
    return ENTRY_REFERENCE + quote(placement, safe="")
