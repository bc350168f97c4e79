"""A platform's roster (NRPS) and gradebook (AGS)."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import partial
from urllib.parse import urlencode

from vennpair.core.failures import Failure
from vennpair.gateways.http import Answer, OutsideError, call
from vennpair.gateways.platform_calls import PlatformCalls, json_number
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import (
    LineItem,
    Result,
    Score,
    read_line_item,
    read_result,
    write_line_item,
    write_score,
)
from vennpair.standards.lti.members import Member, read_members

_read_column = partial(
    read_line_item, lenient=True
)  # one odd column of an instructor's must not hide all others


class GradeServices(PlatformCalls):
    """Members, columns, scores and results of one platform."""

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
        body = json.dumps(write_score(score), default=json_number).encode()

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
        """Return the values that are in a column now, those of one user where one is named (AGS
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

    def remove_line_item(self, url: str) -> None:
        """Remove a column; one that is gone already is no failure."""
        try:
            self._send("DELETE", url, [v.SCOPE_LINE_ITEM], None, v.MEDIA_LINE_ITEM)
        except OutsideError as error:
            if error.failure.code != "gone":
                raise


def _under(line_item: str, part: str) -> str:
    """Append a path to a line item's URL, before its query (AGS 2.0, 3.4.1)."""
    path, mark, query = line_item.partition("?")
    return f"{path.rstrip('/')}/{part}{mark}{query}"
