"""Links in a page's text: words, paragraphs, the end; nothing else changes."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.deploy.page_text import PageLink, holds, plainly, with_links

PAGE = "<p>First <b>measure the depth</b> twice.</p><p>Then <a href='x'>read on</a> in peace.</p>"


def put(words: str = "", after: str = "", page: str = PAGE) -> tuple[str, str]:
    text, went = with_links(page, [PageLink("urn:1", "Quiz & more", words)], after)
    return text, went["urn:1"]


def test_chosen_words_become_the_link_and_the_rest_stays() -> None:
    text, where = put("MEASURE the depth")
    assert where == "words"
    assert '<b><a href="urn:1">measure the depth</a></b> twice.' in text
    text, where = put("in peace")
    assert (where, '<a href="x">read on</a> <a href="urn:1">in peace</a>.' in text) == (
        "words",
        True,
    )


@pytest.mark.parametrize("words", ["read on", "not there", ""])
def test_words_that_are_no_words_of_the_text_lead_to_the_end(words: str) -> None:
    text, where = put(words)
    assert where == "end"
    assert text.endswith('<p><a href="urn:1">Quiz &amp; more</a></p>')
    assert holds(PAGE, "first")
    assert not holds(PAGE, "read on")


def test_links_follow_a_chosen_paragraph_in_their_order_and_are_put_once() -> None:
    links = [PageLink(f"urn:{number}", f"Set {number}") for number in (1, 2)]
    text, went = with_links(PAGE, links, "twice.")
    assert set(went.values()) == {"after"}
    assert text.index("twice") < text.index("Set 1") < text.index("Set 2") < text.index("Then")
    again, went = with_links(text, links, "twice.")
    assert (again, set(went.values())) == (text, {"there"})
    assert plainly(text).splitlines()[1:3] == ["[Set 1]", "[Set 2]"]


@given(st.text(max_size=200), st.text(max_size=20), st.text(max_size=20))
def test_any_text_takes_a_link_once(page: str, words: str, after: str) -> None:
    page = "".join(each for each in page if each.isprintable())
    words, after = ("".join(c for c in each if c.isprintable()) for each in (words, after))
    text, went = with_links(page, [PageLink("urn:1", "Quiz", words)], after)
    assert text.count('href="urn:1"') == 1
    assert went["urn:1"] in {"words", "after", "end"}
