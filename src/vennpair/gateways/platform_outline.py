"""A shell's outline: its folders and entries, the order of its gradebook, and the tool's place in
it (docs/shell-outline.md).
"""

from __future__ import annotations

import hashlib
import io
from collections.abc import Callable
from contextlib import closing
from typing import IO, Any
from urllib.parse import quote, urlencode, urljoin

from vennpair.core.failures import FailureKind
from vennpair.gateways.http import Answer, OutsideError, call
from vennpair.gateways.platform_calls import PlatformCalls
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.outline import (
    Node,
    ShellTool,
    read_file_url,
    read_node,
    read_offers,
    read_outline,
    read_tool,
)
from vennpair.standards.outline.gradebook import (
    Category,
    Gradebook,
    read_category,
    read_gradebook,
    write_gradebook,
)

MOST_TURNS = 4


class OutlineService(PlatformCalls):
    """The outline of one platform's shells."""

    def outline(self, url: str) -> list[Node]:
        """Return the shell's tree in reading order."""
        return self.outline_and_offers(url)[0]

    def outline_and_offers(self, url: str) -> tuple[list[Node], frozenset[str]]:
        """Return the shell's tree, and which optional parts of the protocol the platform offers.

        Both are empty where the shell has no outline service: ``url`` is empty then.
        """
        if not url:
            return [], frozenset()
        document = self._get(url, [v.SCOPE_OUTLINE_READ], "application/json").json(self.name)
        return self._read(read_outline, document), read_offers(document)

    def gradebook(self, url: str) -> Gradebook:
        """Return the gradebook's order and categories."""
        return self._read(
            read_gradebook,
            self._get(_below(url, "gradebook"), [v.SCOPE_OUTLINE_READ], "application/json").json(
                self.name
            ),
        )

    def rearrange_gradebook(self, url: str, change: Callable[[Gradebook], Gradebook]) -> None:
        """Put the columns into another order or other categories, in one call that names every
        column once; none where nothing changes.

        Where somebody changed the gradebook meanwhile it is read and changed again, so that
        neither's work is lost.
        """
        for turn in range(MOST_TURNS):
            book = self.gradebook(url)
            wanted = change(book)
            if (wanted.columns, wanted.category_of) == (book.columns, book.category_of):
                return
            try:
                self._send(
                    "PUT",
                    _below(url, "gradebook"),
                    [v.SCOPE_OUTLINE],
                    write_gradebook(wanted),
                    "application/json",
                    {"If-Match": book.etag} if book.etag else {},
                )
            except OutsideError as error:
                if error.failure.kind is not FailureKind.NEVER or turn == MOST_TURNS - 1:
                    raise
            else:
                return

    def make_category(self, url: str, title: str, key: str) -> Category:
        """Make a category of the gradebook; the same ``key`` never makes a second one."""
        answer = self._send(
            "POST",
            _below(url, "categories"),
            [v.SCOPE_OUTLINE],
            {"title": title},
            "application/json",
            {"Idempotency-Key": key},
        )
        return self._read(read_category, answer.json(self.name))

    def html(self, url: str, entry: str) -> str:
        """Return the HTML of a page."""
        document = self._get(
            _below(url, f"entries/{quote(entry, safe='')}"),
            [v.SCOPE_OUTLINE_READ],
            "application/json",
        ).json(self.name)
        return str(self._read(lambda said: said.get("html"), document) or "")

    def learner_view(self, url: str, entry: str) -> tuple[str, str]:
        """Return a one-time address that opens an entry as the platform's test learner does, and
        that learner's user id. One that was lost on its way is never used, so it is asked for again.
        """
        document = self._send(
            "POST",
            _below(url, f"entries/{quote(entry, safe='')}/learner-view"),
            [v.SCOPE_OUTLINE],
            {},
            "application/json",
        ).json(self.name)
        return self._read(
            lambda said: (str(said.get("url") or ""), str(said.get("user") or "")), document
        )

    def make_folder(self, url: str, title: str, key: str, **fields: Any) -> Node:
        """Make a folder, at the end of the top unless ``folder`` or ``position`` say otherwise.

        The same ``key`` never makes a second one.
        """
        return self._make(url, "folders", {"title": title, **fields}, key)

    def make_entry(self, outline_url: str, kind: str, key: str, **fields: Any) -> Node:
        """Make an entry of a kind with ``title`` and what the kind has (docs/shell-outline.md,
        Objects).
        """
        return self._make(outline_url, "entries", {"kind": kind, **fields}, key)

    def change_node(self, outline_url: str, node: Node, key: str, **changes: Any) -> Node:
        """Change a folder or entry; fails with ``stale`` where its etag is not the current one any
        more.
        """
        headers = {"Idempotency-Key": key} | ({"If-Match": node.etag} if node.etag else {})
        answer = self._send(
            "PATCH",
            _below(outline_url, _address(node)),
            [v.SCOPE_OUTLINE],
            changes,
            "application/json",
            headers,
        )
        return self._read(read_node, answer.json(self.name))

    def remove_node(self, outline_url: str, node: Node) -> None:
        """Remove a folder or entry; one that is gone already is no failure.

        Fails with ``stale`` where it was changed.
        """
        try:
            self._send(
                "DELETE",
                _below(outline_url, _address(node)),
                [v.SCOPE_OUTLINE],
                None,
                "application/json",
                {"If-Match": node.etag} if node.etag else {},
            )
        except OutsideError as error:
            if error.failure.code != "gone":
                raise

    def put_in_order(self, outline_url: str, folder: str, children: list[str]) -> None:
        """Put the children of a folder (empty: the top) into a new order."""
        self._send(
            "PUT",
            _below(outline_url, "order"),
            [v.SCOPE_OUTLINE],
            {"folder": folder, "children": children},
            "application/json",
        )

    def put_file(
        self,
        outline_url: str,
        digest: str,
        name: str,
        media: str,
        size: int,
        open_stream: Callable[[], IO[bytes]],
    ) -> str:
        """Give the platform a file under its SHA-256 unless it has it; return the address that
        pages link to.

        ``open_stream`` is called only where the file has to be sent; it is sent piece by piece.
        """
        url = _below(outline_url, f"files/{digest}")
        try:
            answer = self._get(url, [v.SCOPE_OUTLINE_READ], "application/json")
        except OutsideError as error:
            if error.failure.code != "gone":
                raise
            answer = self._with_token(
                [v.SCOPE_OUTLINE],
                lambda token: self._put(url, token, name, media, size, open_stream),
            )
        return self._read(read_file_url, answer.json(self.name))

    def put_data(self, outline_url: str, data: bytes, name: str, media: str) -> str:
        """Give the platform a small file that was made here."""
        return self.put_file(
            outline_url,
            hashlib.sha256(data).hexdigest(),
            name,
            media,
            len(data),
            lambda: io.BytesIO(data),
        )

    def _put(
        self,
        url: str,
        token: str,
        name: str,
        media: str,
        size: int,
        open_stream: Callable[[], IO[bytes]],
    ) -> Answer:
        headers = {
            "Authorization": f"Bearer {token}",
            "Content-Type": media,
            "Content-Length": str(size),
        }
        with closing(open_stream()) as stream:
            return call(
                "PUT",
                f"{url}?{urlencode({'name': name})}",
                self.name,
                headers=headers,
                body=stream,
                patience=self._tokens.patience,
            )

    def tool(self, url: str) -> ShellTool:
        """Return whether and where Venn Pair is turned on in the shell."""
        answer = self._get(_below(url, "tool"), [v.SCOPE_OUTLINE_READ], "application/json")
        return self._read(read_tool, answer.json(self.name))

    def change_tool(self, url: str, key: str, etag: str, **changes: Any) -> ShellTool:
        """Change ``on``, ``navigation``, ``position`` or ``audience``.

        Fails with ``stale`` where somebody changed it since.
        """
        headers = {"Idempotency-Key": key} | ({"If-Match": etag} if etag else {})
        answer = self._send(
            "PATCH", _below(url, "tool"), [v.SCOPE_OUTLINE], changes, "application/json", headers
        )
        return self._read(read_tool, answer.json(self.name))

    def _make(self, url: str, what: str, fields: dict[str, Any], key: str) -> Node:
        target = _below(url, what)
        answer = self._send(
            "POST", target, [v.SCOPE_OUTLINE], fields, "application/json", {"Idempotency-Key": key}
        )
        return self._read(read_node, answer.json(self.name))


def _below(url: str, what: str) -> str:
    return urljoin(url.rstrip("/") + "/", what)


def _address(node: Node) -> str:
    return f"{'folders' if node.kind == 'folder' else 'entries'}/{quote(node.id, safe='')}"
