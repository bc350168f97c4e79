"""A publisher's truth, read through OneRoster 1.2 REST, its cartridge, and the making of
courses.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar
from urllib.parse import parse_qsl, quote, urlencode, urlsplit

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import Answer, OutsideError, call_safely, download
from vennpair.gateways.tokens import TokenSource
from vennpair.standards import provisioning as p
from vennpair.standards.lti.grades import next_page
from vennpair.standards.oneroster import objects as o

ROSTER = "ims/oneroster/rostering/v1p2"
GRADEBOOK = "ims/oneroster/gradebook/v1p2"
RESOURCES = "ims/oneroster/resources/v1p2"
CARTRIDGE_FORMAT = "imscc"
NO_CARTRIDGE = "no_cartridge"
PAGE = 200
MOST_PAGES = 1_000
AT_ONCE = 8

T = TypeVar("T")


class PublisherGateway:
    """Speaks to one publisher. Every method raises OutsideError."""

    def __init__(
        self, name: str, base_url: str, tokens: TokenSource, provisioning_url: str = ""
    ) -> None:
        self.name = name
        self._provisioning = provisioning_url.rstrip("/")
        self._base = base_url.partition("/ims/oneroster")[0].rstrip(
            "/"
        )  # some are handed out with the standard's own path
        self._tokens = tokens

    def classes(self) -> list[o.Class]:
        """Return all homework courses."""
        return self._list(f"{ROSTER}/classes", "classes", o.SCOPE_ROSTER, o.read_class)

    def course(self, class_id: str) -> o.Class:
        """Return one homework course."""
        document = self._get(f"{self._base}/{ROSTER}/classes/{_id(class_id)}", o.SCOPE_ROSTER).json(
            self.name
        )
        try:
            return o.read_class(document["class"])
        except (o.OneRosterError, KeyError, TypeError, AttributeError) as error:
            raise self._bad(str(error)) from error

    def students(self, class_id: str) -> list[o.User]:
        """Return the learners of a course."""
        return self._list(
            f"{ROSTER}/classes/{_id(class_id)}/students", "users", o.SCOPE_ROSTER, o.read_user
        )

    def teachers(self, class_id: str) -> list[o.User]:
        """Return who teaches a course."""
        return self._list(
            f"{ROSTER}/classes/{_id(class_id)}/teachers", "users", o.SCOPE_ROSTER, o.read_user
        )

    def all_teachers(self) -> list[o.User]:
        """Return all teachers, with the subject that they launch under where the publisher tells
        it.
        """
        return self._list(f"{ROSTER}/teachers", "users", o.SCOPE_ROSTER, o.read_user)

    def classes_of_teacher(self, account: str) -> list[o.Class]:
        """Return the courses that an account teaches."""
        return self._list(
            f"{ROSTER}/teachers/{_id(account)}/classes", "classes", o.SCOPE_ROSTER, o.read_class
        )

    def features(self) -> tuple[str, ...]:
        """Return what of the course provisioning protocol is offered."""
        return self._ask("GET", "", p.read_features)

    def titles(self) -> list[p.Title]:
        """Return the institution's adopted titles."""
        return self._ask("GET", "/titles", p.read_titles)

    def account_of(self, subject: str) -> p.Account:
        """Return the account that launches under a subject.

        Fails with ``gone`` where there is none.
        """
        return self._ask("GET", f"/accounts?{urlencode({'subject': subject})}", p.read_account)

    def make_course(self, key: str, **fields: str) -> str:
        """Make a course; return its OneRoster class id. The same ``key`` never makes a second one.

        ``fields``: ``code``, ``term`` and ``name``, with ``title`` (a new one), ``copy_of`` or
        ``section_of`` (a class id), and ``teacher`` (an account id).
        """
        return self._ask("POST", "/courses", p.read_made, fields, key)

    def line_items(self, class_id: str) -> list[o.LineItem]:
        """Return the graded items of a course."""
        return self._list(
            f"{GRADEBOOK}/classes/{_id(class_id)}/lineItems",
            "lineItems",
            o.SCOPE_GRADEBOOK,
            o.read_line_item,
        )

    def results(self, class_id: str) -> list[o.Result]:
        """Return all scores of a course."""
        return self._list(
            f"{GRADEBOOK}/classes/{_id(class_id)}/results",
            "results",
            o.SCOPE_GRADEBOOK,
            o.read_result,
        )

    def changed_results(self, class_id: str, since: str) -> list[o.Result]:
        """Return the scores of a course that changed at or after ``since`` (ISO 8601, all where
        empty), deleted ones included (OneRoster 1.2, 3.4.3, filtering).
        """
        query = (
            {"filter": f"dateLastModified>='{since}'", "sort": "dateLastModified", "orderBy": "asc"}
            if since
            else {}
        )
        return self._list(
            f"{GRADEBOOK}/classes/{_id(class_id)}/results",
            "results",
            o.SCOPE_GRADEBOOK,
            o.read_result,
            query,
            deleted=True,
        )

    def categories(self, class_id: str) -> list[o.Category]:
        """Return the categories of a course."""
        return self._list(
            f"{GRADEBOOK}/classes/{_id(class_id)}/categories",
            "categories",
            o.SCOPE_GRADEBOOK,
            o.read_category,
        )

    def cartridge(self, class_id: str) -> Iterator[bytes]:
        """Yield the course as a cartridge, piece by piece: the class resource whose format
        says so.
        """
        found = self._cartridge(class_id)
        if found is None:
            message = f"{self.name} offers no cartridge for this course."
            raise OutsideError(
                Failure(
                    FailureKind.NEVER,
                    NO_CARTRIDGE,
                    message,
                    "Download it at the publisher and upload it here.",
                )
            )
        token = self._tokens.token([o.SCOPE_RESOURCE])
        return download(found.vendor_resource_id, self.name, {"Authorization": f"Bearer {token}"})

    def has_cartridge(self, class_id: str) -> bool:
        """Say whether the course's cartridge can be fetched."""
        return self._cartridge(class_id) is not None

    def _cartridge(self, class_id: str) -> o.Resource | None:
        resources = self._list(
            f"{RESOURCES}/classes/{_id(class_id)}/resources",
            "resources",
            o.SCOPE_RESOURCE,
            o.read_resource,
        )
        return next((each for each in resources if CARTRIDGE_FORMAT in each.format), None)

    def _ask(
        self,
        method: str,
        path: str,
        reader: Callable[[Any], T],
        fields: dict[str, str] | None = None,
        key: str = "",
    ) -> T:
        if not self._provisioning:
            message = (
                f"{self.name} does not offer Venn Pair to make or list such things (course"
                " provisioning)."
            )
            raise OutsideError(
                Failure(
                    FailureKind.SETTING,
                    "no_provisioning",
                    message,
                    "Make the course at the publisher, then choose it here.",
                )
            )
        headers = {
            "Authorization": f"Bearer {self._tokens.token([p.SCOPE])}",
            "Accept": "application/json",
        }
        headers |= (
            {"Content-Type": "application/json", "Idempotency-Key": key}
            if fields is not None
            else {}
        )
        body = json.dumps(fields).encode() if fields is not None else None
        try:
            return reader(
                call_safely(
                    method,
                    self._provisioning + path,
                    self.name,
                    headers=headers,
                    body=body,
                    patience=self._tokens.patience,
                ).json(self.name)
            )
        except ValueError as error:
            raise self._bad(str(error)) from error

    def _list(
        self,
        path: str,
        name: str,
        scope: str,
        reader: Callable[[o.Json], T],
        query: dict[str, str] | None = None,
        *,
        deleted: bool = False,
    ) -> list[T]:
        rows: list[T] = []
        for page in self._pages(
            f"{self._base}/{path}?{urlencode({'limit': PAGE} | (query or {}))}", scope
        ):
            objects = page.get(name) if isinstance(page, dict) else None
            if not isinstance(objects, list):
                raise self._bad(f"its answer holds no list '{name}'")
            try:
                rows.extend(
                    reader(each)
                    for each in objects
                    if deleted or each.get("status") != "tobedeleted"
                )
            except (o.OneRosterError, AttributeError) as error:
                raise self._bad(str(error)) from error
        return rows

    def _pages(self, url: str, scope: str) -> Iterator[Any]:
        """Yield pages in order; where the first one says how many rows there are in all, the others
        are asked for side by side.
        """
        for _ in range(MOST_PAGES):
            answer = self._get(url, scope)
            yield answer.json(self.name)
            url = next_page(answer.headers.get("link", ""))
            if not url:
                return
            if others := _other_pages(url, answer.headers.get("x-total-count", "")):
                with ThreadPoolExecutor(AT_ONCE) as threads:
                    yield from threads.map(
                        lambda each: self._get(each, scope).json(self.name), others
                    )
                return
        raise self._bad(f"its paging does not end within {MOST_PAGES} pages")

    def _get(self, url: str, scope: str) -> Answer:
        token = self._tokens.token([scope])
        return call_safely(
            "GET",
            url,
            self.name,
            headers={"Authorization": f"Bearer {token}", "Accept": "application/json"},
            patience=self._tokens.patience,
        )

    def _bad(self, what: str) -> OutsideError:
        return OutsideError(
            Failure(
                FailureKind.NEVER,
                "bad_answer",
                f"{self.name} answered with something that the standard does not allow: {what}.",
                "Tell the publisher's support.",
            )
        )


def _other_pages(second: str, total: str) -> list[str]:
    """Return the addresses of the second page and all after it, none where they cannot be told
    (OneRoster 1.2, 3.4.2: limit, offset, X-Total-Count).
    """
    parts = urlsplit(second)
    query = dict(parse_qsl(parts.query, keep_blank_values=True))
    step, rows = query.get("offset", ""), int(total) if total.isdigit() else 0
    if not step.isdigit() or query.get("limit") != step or not 0 < rows <= MOST_PAGES * int(step):
        return []
    return [
        parts._replace(query=urlencode(query | {"offset": str(offset)})).geturl()
        for offset in range(int(step), rows, int(step))
    ]


def _id(sourced_id: str) -> str:
    """Return a sourcedId as one part of a path, whatever characters it is made of (OneRoster 1.2
    forbids none).
    """
    return quote(sourced_id, safe=":")
