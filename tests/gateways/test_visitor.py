"""Going through a launch as a browser does, also where it leads nowhere."""

from __future__ import annotations

from typing import Any

import pytest
from tests.gateways.server import Server

from vennpair.gateways.launch_client import LARGEST_PAGE, MOST_HOPS, walk

HTML = {"Content-Type": "text/html; charset=utf-8"}


def page(body: str) -> tuple[int, dict[str, str], Any]:
    return 200, HTML, f"<html><head><title>Press</title></head><body>{body}</body></html>".encode()


def handed_on(
    fields: str, action: str = "/item", more: str = ""
) -> tuple[int, dict[str, str], Any]:
    """Return a page that sends a form automatically, as the two hops of a launch do."""
    return page(
        '<form method="post"'
        f' action="{action}">{fields}{more}</form><script>document.forms[0].submit()</script>'
    )


def test_redirects_cookies_and_forms_that_send_themselves_are_followed(server: Server) -> None:
    pages = {
        "/": (302, {"Location": "/login?a=1", "Set-Cookie": "state=s1; Path=/"}, b""),
        "/login?a=1": handed_on(
            '<input type="hidden" name="id_token" value="t&amp;1"><input type="submit" value="Go'
            ' on">'
        ),
        "/item": page("<h1>Practice set 1A</h1><main>Answer all.</main>"),
    }
    server.by = lambda path: pages[path]
    visit = walk(server.url + "/")
    assert (visit.status, visit.heading, visit.words, visit.broken) == (
        200,
        "Press · Practice set 1A",
        "Answer all.",
        "",
    )
    assert visit.sent == [{"id_token": "t&1"}]
    assert [address.removeprefix(server.url) for address in visit.trail] == [
        "/",
        "/login?a=1",
        "/item",
    ]
    method, _, headers = server.asked[-1]
    assert (method, headers["Cookie"], headers["Origin"], headers["Referer"]) == (
        "POST",
        "state=s1",
        server.url,
        f"{server.url}/login?a=1",
    )


@pytest.mark.parametrize(
    "form",
    [
        # somebody has to fill it in
        '<input type="hidden" name="a" value="1"><input name="password">',
        "",
        (
            '<input type="hidden" name="a" value="1"></form><form method="post"><input'
            ' type="hidden" name="b">'
        ),
    ],
)
def test_a_form_that_a_person_fills_in_is_where_it_ends(server: Server, form: str) -> None:
    server.answers = [handed_on(form)]
    visit = walk(server.url)
    assert (len(visit.trail), visit.sent, visit.heading) == (1, [], "Press")


def test_a_form_without_a_script_is_not_sent(server: Server) -> None:
    server.answers = [
        page('<form method="post" action="/drop"><input type="hidden" name="a" value="1"></form>')
    ]
    assert len(walk(server.url).trail) == 1


@pytest.mark.parametrize(
    ("answer", "words"),
    [
        ((302, {"Location": "/again"}, b""), f"goes on and on ({MOST_HOPS} addresses)"),
        (
            (302, {"Location": "javascript:alert(1)"}, b""),
            "to something that is not an address",
        ),
        ((302, {"Location": "file:///etc/passwd"}, b""), "not a web page: "),
        (
            (302, {"Location": "http://127.0.0.1:9/x"}, b""),
            "no answer came from 127.0.0.1:9: nothing listens there",
        ),
        ((302, {"Location": "http://[bad/"}, b""), "to something that is not an address"),
    ],
)
def test_what_leads_nowhere_is_said_and_never_raised(
    server: Server, answer: tuple[int, dict[str, str], Any], words: str
) -> None:
    server.answers = [answer]
    visit = walk(server.url, seconds=2)
    assert words in visit.broken


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"  ",
        b"\x00\xff\xfe",
        b"<",
        b"<html>" * 2_000,
        b"<p>x</p>" * (LARGEST_PAGE // 4),
        "<h1>\U0001f30a Übung</h1>".encode(),
    ],
)
def test_a_page_of_any_kind_is_read_or_left(server: Server, body: bytes) -> None:
    server.answers = [(200, HTML, body)]
    visit = walk(server.url)
    assert (visit.status, visit.broken, len(visit.trail)) == (200, "", 1)
    assert len(visit.heading) <= 500


def test_a_refusal_keeps_its_words(server: Server) -> None:
    server.answers = [
        (
            404,
            HTML,
            (
                b"<html><title>Not here</title><main>This item is gone. <b>Ask</b> your"
                b" instructor.</main></html>"
            ),
        )
    ]
    visit = walk(server.url)
    assert (visit.status, visit.heading, visit.words) == (
        404,
        "Not here",
        "This item is gone. Ask your instructor.",
    )
