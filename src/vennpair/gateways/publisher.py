"""A publisher's truth, read through OneRoster 1.2 REST, and its cartridge."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, TypeVar
from urllib.parse import urlencode

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import Answer, OutsideError, call_safely
from vennpair.gateways.tokens import TokenSource
from vennpair.standards.lti.grades import next_page
from vennpair.standards.oneroster import objects as o

ROSTER = "ims/oneroster/rostering/v1p2"
GRADEBOOK = "ims/oneroster/gradebook/v1p2"
RESOURCES = "ims/oneroster/resources/v1p2"
CARTRIDGE_FORMAT = "imscc"
PAGE = 200
MOST_PAGES = 1_000

T = TypeVar("T")


class PublisherGateway:
    """Speaks to one publisher. Every method raises OutsideError."""

    def __init__(self, name: str, base_url: str, tokens: TokenSource) -> None:
        self.name = name
        self._base = base_url.rstrip("/")
        self._tokens = tokens

    def classes(self) -> list[o.Class]:
        """Return all homework courses."""
        return self._list(f"{ROSTER}/classes", "classes", o.SCOPE_ROSTER, o.read_class)

    def students(self, class_id: str) -> list[o.User]:
        """Return the learners of a course."""
        return self._list(f"{ROSTER}/classes/{class_id}/students", "users", o.SCOPE_ROSTER, o.read_user)

    def line_items(self, class_id: str) -> list[o.LineItem]:
        """Return the graded items of a course."""
        return self._list(f"{GRADEBOOK}/classes/{class_id}/lineItems", "lineItems", o.SCOPE_GRADEBOOK, o.read_line_item)

    def results(self, class_id: str) -> list[o.Result]:
        """Return all scores of a course."""
        return self._list(f"{GRADEBOOK}/classes/{class_id}/results", "results", o.SCOPE_GRADEBOOK, o.read_result)

    def categories(self, class_id: str) -> list[o.Category]:
        """Return the categories of a course."""
        return self._list(f"{GRADEBOOK}/classes/{class_id}/categories", "categories", o.SCOPE_GRADEBOOK, o.read_category)

    def cartridge(self, class_id: str) -> bytes:
        """Return the course as a cartridge: the class resource whose format says so."""
        resources = self._list(f"{RESOURCES}/classes/{class_id}/resources", "resources", o.SCOPE_RESOURCE, o.read_resource)
        found = next((each for each in resources if CARTRIDGE_FORMAT in each.format), None)
        if found is None:
            message = f"{self.name} offers no cartridge for this course."
            raise OutsideError(Failure(FailureKind.NEVER, "no_cartridge", message, "Download it at the publisher and upload it here."))
        return self._get(found.vendor_resource_id, o.SCOPE_RESOURCE).body

    def _list(self, path: str, name: str, scope: str, reader: Callable[[o.Json], T]) -> list[T]:
        rows: list[T] = []
        for page in self._pages(f"{self._base}/{path}?{urlencode({'limit': PAGE})}", scope):
            objects = page.get(name) if isinstance(page, dict) else None
            if not isinstance(objects, list):
                raise self._bad(f"its answer holds no list '{name}'")
            try:
                rows.extend(reader(each) for each in objects if each.get("status") != "tobedeleted")
            except (o.OneRosterError, AttributeError) as error:
                raise self._bad(str(error)) from error
        return rows

    def _pages(self, url: str, scope: str) -> Iterator[Any]:
        for _ in range(MOST_PAGES):
            answer = self._get(url, scope)
            yield answer.json(self.name)
            url = next_page(answer.headers.get("link", ""))
            if not url:
                return
        raise self._bad(f"its paging does not end within {MOST_PAGES} pages")

    def _get(self, url: str, scope: str) -> Answer:
        token = self._tokens.token([scope])
        return call_safely("GET", url, self.name, headers={"Authorization": f"Bearer {token}", "Accept": "application/json"})

    def _bad(self, what: str) -> OutsideError:
        return OutsideError(Failure(FailureKind.NEVER, "bad_answer", f"{self.name} answered with something that OneRoster does not allow: {what}.", "Tell the publisher's support."))
