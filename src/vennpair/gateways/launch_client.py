"""Going through a launch as a browser does: redirects, cookies, and forms that a page sends by
itself.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from urllib.parse import urljoin, urlsplit

import httpx
from lxml import etree
from lxml import html as lxml_html

from vennpair.gateways.addresses import Inside, guarded_transport
from vennpair.gateways.hold import why_held
from vennpair.gateways.proxy import proxy_for
from vennpair.gateways.unreached import Unreached, unreached

MOST_HOPS = 20
LARGEST_PAGE = 2_000_000
REDIRECTS = {301, 302, 303, 307, 308}
# Connections that were there and broke; one that is refused or takes too long is not among them.
DROPPED = (httpx.ReadError, httpx.WriteError, httpx.CloseError, httpx.RemoteProtocolError)


@dataclass(slots=True)
class Visit:
    """Where a walk ended: every address and every form sent on the way, the last page's status and
    headings, and why it could not go on; ``dropped`` where a connection broke in the middle of an
    answer, which says nothing of the link.
    """

    trail: list[str] = field(default_factory=list)
    sent: list[dict[str, str]] = field(default_factory=list)
    status: int = 0
    heading: str = ""
    words: str = ""
    broken: str = ""
    dropped: bool = False

    @property
    def last(self) -> str:
        """Return the last address."""
        return self.trail[-1] if self.trail else ""


def walk(url: str, seconds: float = 15) -> Visit:
    """Open an address and go on until a page stays.

    Never raises; ``broken`` says what did not answer.
    """
    visit = Visit()
    if why := why_held():
        visit.broken = f"it was not opened while Venn Pair is on hold: {why}"
        return visit
    with httpx.Client(
        timeout=seconds,
        follow_redirects=False,
        # A connection that is kept may be closed by the other side just as it is used again; a
        # browser would come again, and so nothing is wrong with the link.
        headers={"User-Agent": "Venn Pair test learner", "Connection": "close"},
        transport=_Ways(),
    ) as client:
        request: httpx.Request | None = client.build_request("GET", url)
        while request is not None and len(visit.trail) < MOST_HOPS:
            if urlsplit(str(request.url)).scheme not in {"http", "https"}:
                visit.broken = (
                    f"it leads to an address that is not a web page: {str(request.url)[:80]}"
                )
                return visit
            visit.trail.append(str(request.url))
            try:
                request = _step(client, request, visit)
            except httpx.HTTPError as error:
                visit.dropped = isinstance(error, DROPPED)
                visit.broken = _why(visit, unreached(error))
                return visit
            except (ValueError, httpx.InvalidURL):
                visit.broken = (
                    f"it leads on from {urlsplit(visit.last).netloc} to something that is not an"
                    " address"
                )
                return visit
        if request is not None:
            visit.broken = f"it goes on and on ({MOST_HOPS} addresses)"
    return visit


class _Ways(httpx.BaseTransport):
    """Goes to each address of a walk directly or through the operator's proxy."""

    def __init__(self) -> None:
        self._ways: dict[str, httpx.HTTPTransport] = {}

    def handle_request(self, request: httpx.Request) -> httpx.Response:
        try:
            proxy = proxy_for(str(request.url))
        except (Inside, OSError) as error:  # a name that was known a moment ago may be so no more
            raise httpx.ConnectError(str(error), request=request) from error
        if proxy not in self._ways:
            self._ways[proxy] = guarded_transport(proxy)
        try:
            return self._ways[proxy].handle_request(request)
        except httpx.ConnectError as error:
            if not proxy:
                raise
            raise httpx.ProxyError(str(error), request=request) from error

    def close(self) -> None:
        for each in self._ways.values():
            each.close()


def _why(visit: Visit, how: Unreached) -> str:
    said = f"no answer came from {urlsplit(visit.last).netloc}: {how.words}"
    return f"{said}. {how.remedy.removesuffix('.')}" if how.remedy else said


def _step(client: httpx.Client, request: httpx.Request, visit: Visit) -> httpx.Request | None:
    response = client.send(request)
    visit.status = response.status_code
    if response.status_code in REDIRECTS and response.headers.get("location"):
        return client.build_request("GET", urljoin(visit.last, response.headers["location"]))
    page = _page(response.content[:LARGEST_PAGE])
    if page is None:
        return None
    form = _sent_by_itself(page)
    if form is None or response.status_code >= 400:
        visit.heading, visit.words = _headings(page), _words(page)
        return None
    fields = {name: value or "" for name, value in form.form_values()}
    visit.sent.append(fields)
    target = urljoin(visit.last, form.action or "")
    origin = urlsplit(visit.last)
    headers = {"Origin": f"{origin.scheme}://{origin.netloc}", "Referer": visit.last}
    return client.build_request("POST", target, data=fields, headers=headers)


def _page(data: bytes) -> lxml_html.HtmlElement | None:
    try:
        return lxml_html.document_fromstring(data) if data.strip() else None
    except (ValueError, etree.ParserError):
        return None


def _sent_by_itself(page: lxml_html.HtmlElement) -> lxml_html.FormElement | None:
    """Return the form of a page that only hands something on: one form, posted, with nothing to
    fill in but hidden fields.
    """
    forms = page.forms
    if (
        len(forms) != 1
        or forms[0].method.upper() != "POST"
        or not page.xpath("//script | //body[@onload]")
    ):
        return None
    fields = forms[0].xpath(".//input[not(@type='submit')] | .//textarea | .//select")
    return forms[0] if fields and all(each.get("type") == "hidden" for each in fields) else None


def _headings(page: lxml_html.HtmlElement) -> str:
    found = page.xpath("//title | //h1 | //h2")
    return " · ".join(
        dict.fromkeys(text for each in found[:6] if (text := " ".join(each.text_content().split())))
    )[:500]


def _words(page: lxml_html.HtmlElement) -> str:
    main = page.xpath("//main") or page.xpath("//body")
    return " ".join(main[0].text_content().split())[:300] if main else ""
