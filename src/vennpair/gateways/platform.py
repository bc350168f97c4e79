"""A course platform's services: gradebook (AGS), roster (NRPS) and the shell's outline."""

from __future__ import annotations

import hashlib
import io
import json
from collections.abc import Callable, Iterator
from contextlib import closing
from decimal import Decimal
from functools import partial
from typing import IO, Any, TypeVar
from urllib.parse import quote, urlencode, urljoin

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import Answer, OutsideError, call, call_safely
from vennpair.gateways.tokens import TokenSource
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import (
    LineItem,
    Result,
    Score,
    next_page,
    number,
    read_line_item,
    read_result,
    write_line_item,
    write_score,
)
from vennpair.standards.lti.members import Member, read_members
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

MOST_PAGES = 500
MOST_TOKENS = 3
MOST_TURNS = 4
UNAUTHORISED = 401

_read_column = partial(
    read_line_item, lenient=True
)  # one odd column of an instructor's must not hide all others


Read = TypeVar("Read")


class PlatformGateway:
    """Speaks to one platform. Every method raises OutsideError."""

    def __init__(self, name: str, tokens: TokenSource) -> None:
        self.name = name
        self._tokens = tokens

    def members(self, url: str) -> list[Member]:
        """Return all members of a context."""
        found: list[Member] = []
        for page in self._pages(url, [v.SCOPE_MEMBERSHIP], v.MEDIA_MEMBERSHIP):
            found.extend(self._read(read_members, page))
        return found

    def line_items(self, url: str, **filters: str) -> list[LineItem]:
        """Return the columns of a shell, filtered by ``resource_id`` or ``resource_link_id``."""
        wanted = url + ("&" if "?" in url else "?") + urlencode(filters) if filters else url
        return [
            self._read(_read_column, row)
            for page in self._pages(wanted, [v.SCOPE_LINE_ITEM], v.MEDIA_LINE_ITEMS)
            for row in self._rows(page)
        ]

    def make_line_item(self, url: str, item: LineItem) -> LineItem:
        """Make a column. AGS knows no idempotency key, so this is tried once.

        Look before you make.
        """
        answer = self._send(
            "POST", url, [v.SCOPE_LINE_ITEM], write_line_item(item), v.MEDIA_LINE_ITEM, safely=False
        )
        return self._read(_read_column, answer.json(self.name))

    def ensure_line_item(self, url: str, item: LineItem) -> LineItem:
        """Return the column of the item's resource id; made where it is not there yet, so that
        asking again makes no second one.

        What comes is looked at: a platform that knows no filters answers with every column, and
        scores must not go into another's.
        """
        there = next(
            (
                each
                for each in self.line_items(url, resource_id=item.resource_id)
                if each.resource_id == item.resource_id
            ),
            None,
        )
        return there or self.make_line_item(url, item)

    def line_item(self, url: str) -> LineItem:
        """Return one column (AGS 2.0, 3.2.8). Fails with ``gone`` where it is there no more."""
        return self._read(
            _read_column, self._get(url, [v.SCOPE_LINE_ITEM], v.MEDIA_LINE_ITEM).json(self.name)
        )

    def change_line_item(self, item: LineItem) -> LineItem:
        """Change a column to what ``item`` says (AGS 2.0, 3.2.9).

        Asking again changes nothing more.
        """
        answer = self._send(
            "PUT", item.id, [v.SCOPE_LINE_ITEM], write_line_item(item), v.MEDIA_LINE_ITEM
        )
        return self._read(_read_column, answer.json(self.name))

    def send_score(
        self, line_item: str, score: Score, hindered: Callable[[], Failure | None] = lambda: None
    ) -> None:
        """Publish a score, in one try: the relay decides when the next is due. The platform keeps
        the newest by timestamp, so sending twice changes nothing.

        ``hindered`` is asked right before the score goes out, after whatever the token took; its
        failure is raised instead.
        """
        body = json.dumps(write_score(score), default=_plain).encode()

        def attempt(token: str) -> Answer:
            if failure := hindered():
                raise OutsideError(failure)
            return call(
                "POST",
                _under(line_item, "scores"),
                self.name,
                headers={"Authorization": f"Bearer {token}", "Content-Type": v.MEDIA_SCORE},
                body=body,
                patience=self._tokens.patience,
            )

        self._with_token([v.SCOPE_SCORE], attempt)

    def results(self, line_item: str, user: str = "") -> list[Result]:
        """Return the values that stand in a column now, those of one user where one is named (AGS
        2.0, 3.3.6).
        """
        url = _under(line_item, "results")
        url += ("&" if "?" in url else "?") + urlencode({"user_id": user}) if user else ""
        found = [
            self._read(read_result, row)
            for page in self._pages(url, [v.SCOPE_RESULT_READ], v.MEDIA_RESULTS)
            for row in self._rows(page)
        ]
        return [
            each for each in found if not user or each.user_id == user
        ]  # some platforms know no filters

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
        that learner's user id.
        """
        document = self._send(
            "POST",
            _below(url, f"entries/{quote(entry, safe='')}/learner-view"),
            [v.SCOPE_OUTLINE],
            {},
            "application/json",
            safely=False,
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

    def remove_line_item(self, url: str) -> None:
        """Remove a column; one that is gone already is no failure."""
        try:
            self._send("DELETE", url, [v.SCOPE_LINE_ITEM], None, v.MEDIA_LINE_ITEM)
        except OutsideError as error:
            if error.failure.code != "gone":
                raise

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

    def grant(self, scopes: list[str]) -> None:
        """Get a token for scopes anew, to see whether they are granted."""
        self._tokens.forget()
        self._tokens.token(scopes)

    def _make(self, url: str, what: str, fields: dict[str, Any], key: str) -> Node:
        target = _below(url, what)
        answer = self._send(
            "POST", target, [v.SCOPE_OUTLINE], fields, "application/json", {"Idempotency-Key": key}
        )
        return self._read(read_node, answer.json(self.name))

    def _pages(self, url: str, scopes: list[str], media: str) -> Iterator[Any]:
        for _ in range(MOST_PAGES):
            answer = self._get(url, scopes, media)
            yield answer.json(self.name)
            url = next_page(answer.headers.get("link", ""))
            if not url:
                return
        raise OutsideError(
            Failure(
                FailureKind.NEVER,
                "endless",
                f"{self.name} hands out more than {MOST_PAGES} pages.",
                "Tell the administrator; its paging does not end.",
            )
        )

    def _rows(self, page: Any) -> list[Any]:
        if not isinstance(page, list):
            raise self._bad_answer(
                "a container of the score services is a list (AGS 2.0, 3.2.7, 3.3.6)"
            )
        return page

    def _get(self, url: str, scopes: list[str], media: str) -> Answer:
        return self._with_token(
            scopes,
            lambda token: call_safely(
                "GET",
                url,
                self.name,
                headers={"Authorization": f"Bearer {token}", "Accept": media},
                patience=self._tokens.patience,
            ),
        )

    def _send(
        self,
        method: str,
        url: str,
        scopes: list[str],
        document: Any,
        media: str,
        extra: dict[str, str] | None = None,
        *,
        safely: bool = True,
    ) -> Answer:
        body = json.dumps(document, default=_plain).encode() if document is not None else None
        send = call_safely if safely else call

        def attempt(token: str) -> Answer:
            return send(
                method,
                url,
                self.name,
                headers={
                    "Authorization": f"Bearer {token}",
                    "Content-Type": media,
                    "Accept": media,
                    **(extra or {}),
                },
                body=body,
                patience=self._tokens.patience,
            )

        return self._with_token(scopes, attempt)

    def _with_token(self, scopes: list[str], attempt: Any) -> Answer:
        """Call with a token; one that expired early is renewed, and renewed again where the new one
        is not known either.
        """
        for tries in range(MOST_TOKENS):
            token = self._tokens.token(scopes)
            try:
                answer: Answer = attempt(token)
                return answer
            except OutsideError as error:
                if (
                    error.failure.code != "not_allowed"
                    or (tries and error.failure.status != UNAUTHORISED)
                    or tries + 1 == MOST_TOKENS
                ):
                    raise
            self._tokens.refused(token)
        raise AssertionError("unreachable code: the loop returns or raises")

    def _read(self, reader: Callable[[Any], Read], document: Any) -> Read:
        try:
            return reader(document)
        except (LtiError, ValueError, AttributeError, TypeError) as error:
            raise self._bad_answer(str(error)) from error

    def _bad_answer(self, what: str) -> OutsideError:
        return OutsideError(
            Failure(
                FailureKind.NEVER,
                "bad_answer",
                f"{self.name} answered with something that the standard does not allow: {what}",
                "Tell the platform's administrator.",
            )
        )


def _below(url: str, what: str) -> str:
    return urljoin(url.rstrip("/") + "/", what)


def _address(node: Node) -> str:
    return f"{'folders' if node.kind == 'folder' else 'entries'}/{quote(node.id, safe='')}"


def _under(line_item: str, part: str) -> str:
    """Append a path to a line item's URL, before its query (AGS 2.0, 3.4.1)."""
    path, mark, query = line_item.partition("?")
    return f"{path.rstrip('/')}/{part}{mark}{query}"


def _plain(value: Any) -> int | float:
    if isinstance(value, Decimal):
        return number(value)
    raise TypeError(f"{type(value).__name__} has no JSON form here")
