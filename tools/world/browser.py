"""A browser without a screen: follows redirects, keeps cookies, submits forms.

For real launches over HTTP.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import IO, Any
from urllib.parse import urljoin

import httpx
from lxml import html

MOST_HOPS = 12


@dataclass
class Page:
    """What came back last."""

    url: str
    status: int
    text: str

    @property
    def tree(self) -> Any:
        """Return the parsed page."""
        return html.fromstring(self.text or "<html/>")

    @property
    def words(self) -> str:
        """Return the text that a person reads."""
        return " ".join(self.tree.text_content().split())


class Browser:
    """One person's browser."""

    def __init__(self) -> None:
        # No connection is kept: one that the other side closes just as it is used again would break
        # a test for nothing.
        self._http = httpx.Client(timeout=60, limits=httpx.Limits(max_keepalive_connections=0))
        self.page = Page("", 0, "")

    def get(self, url: str) -> Page:
        """Open an address."""
        return self._follow(self._http.build_request("GET", url))

    def submit(self, path: str = "//form", **values: Any) -> Page:
        """Fill in and submit the first form that an XPath finds.

        Raises AssertionError where there is none.
        """
        found = self.page.tree.xpath(path)
        assert found, f"no form {path} on {self.page.url}: {self.page.words[:300]}"
        form = found[0]
        fields = {name: value for name, value in form.form_values() if value is not None} | values
        target = urljoin(self.page.url, form.action or self.page.url)
        return self._follow(
            self._http.build_request(
                form.method or "GET",
                target,
                data=fields if form.method == "POST" else None,
                params=None if form.method == "POST" else fields,
            )
        )

    def sign_in(self, campus: str, email: str) -> Page:
        """Sign in at the campus."""
        self.get(campus)
        if self.page.tree.xpath("//form[@action='/sign-out']"):
            self.submit("//form[@action='/sign-out']")
        return self.submit(f"//form[.//input[@value='{email}']]")

    def upload(self, url: str, file: IO[bytes]) -> Page:
        """Open a page and submit its form with a file."""
        self.get(url)
        form = self.page.tree.xpath("//form[.//input[@type='file']]")[0]
        name = form.xpath(".//input[@type='file']/@name")[0]
        fields = {
            key: value for key, value in form.form_values() if value is not None and key != name
        }
        return self._follow(
            self._http.build_request(
                "POST", urljoin(url, form.action or url), data=fields, files={name: file}
            )
        )

    def open_link(self, campus: str, context_id: str, title: str = "") -> Page:
        """Open a link of a shell by its title, or the tool itself, through every hop."""
        self.get(f"{campus}/shells/{context_id}")
        return self.submit(
            f'//form[.//button[normalize-space()="{title}"]]'
            if title
            else "//form[@id='open-tool']"
        )

    def _follow(self, request: httpx.Request) -> Page:
        """Send a request, then follow redirects and forms that submit themselves."""
        for _ in range(MOST_HOPS):
            response = self._http.send(request)
            self.page = Page(str(response.url), response.status_code, response.text)
            if response.next_request is not None:
                request = response.next_request
            elif "text/html" in response.headers.get("content-type", "") and self.page.tree.xpath(
                "//form[@id='go']"
            ):
                form = self.page.tree.xpath("//form[@id='go']")[0]
                request = self._http.build_request(
                    "POST", form.action, data=dict(form.form_values())
                )
            else:
                return self.page
        raise AssertionError(f"more than {MOST_HOPS} hops, last at {self.page.url}")
