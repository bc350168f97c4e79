"""Links in the text of a page: at chosen words, after a chosen paragraph, or at its end."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from lxml import etree
from lxml import html as lxml_html

Where = Literal["there", "words", "after", "end"]
_OPAQUE = {"a", "script", "style", "button", "textarea", "title"}


@dataclass(frozen=True, slots=True)
class PageLink:
    """A link to put into a page: its address and title, and the words that become it, empty for a
    paragraph of its own.
    """

    href: str
    title: str
    words: str = ""


def with_links(
    text: str, links: Sequence[PageLink], after: str = ""
) -> tuple[str, dict[str, Where]]:
    """Return a page's HTML with its links, and where each went, by address.

    ``words`` are looked for without regard to case, outside links that are there, the first place
    counts. Links without words, or whose words the page does not hold, follow the paragraph that
    holds ``after``, else they go to the end, in their order. What the page links to already stays.
    """
    root = lxml_html.fragment_fromstring(text, create_parent="div")
    went: dict[str, Where] = {}
    known = set(root.xpath(".//a/@href"))
    last = _paragraph(root, after) if after else None
    for link in links:
        if link.href in known:
            went[link.href] = "there"
        elif link.words and _at_words(root, link):
            went[link.href] = "words"
        else:
            made = etree.SubElement(root, "p")
            anchor = etree.SubElement(made, "a", href=link.href)
            anchor.text = link.title
            went[link.href] = "end"
            if last is not None:
                last.addnext(made)
                last, went[link.href] = made, "after"
    inside = "".join(etree.tostring(each, encoding="unicode", method="html") for each in root)
    return (root.text or "") + inside, went


def holds(text: str, words: str) -> bool:
    """Say whether a page's text holds words outside its links."""
    root = lxml_html.fragment_fromstring(text, create_parent="div")
    folded = words.casefold()
    return any(folded in said.casefold() for _, _, said in _texts(root))


def plainly(text: str) -> str:
    """Return a page as text, its links in brackets, for a terminal."""
    root = lxml_html.fragment_fromstring(text, create_parent="div")
    for anchor in root.xpath(".//a"):
        anchor.text = f"[{anchor.text_content()}]"
    lines = [" ".join(each.text_content().split()) for each in root]
    return "\n".join(filter(None, [" ".join((root.text or "").split()), *lines]))


def _texts(root: lxml_html.HtmlElement) -> Iterator[tuple[lxml_html.HtmlElement, bool, str]]:
    """Yield every text outside links: its element, whether it follows that, and the text."""
    for element in list(root.iter()):
        if not isinstance(element.tag, str):
            continue
        inside = [element, *element.iterancestors()]
        if element.text and not any(each.tag in _OPAQUE for each in inside):
            yield element, False, element.text
        if (
            element is not root
            and element.tail
            and not any(each.tag in _OPAQUE for each in inside[1:])
        ):
            yield element, True, element.tail


def _at_words(root: lxml_html.HtmlElement, link: PageLink) -> bool:
    folded = link.words.casefold()
    for element, follows, said in _texts(root):
        at = said.casefold().find(folded)
        if at < 0:
            continue
        anchor = lxml_html.Element("a", href=link.href)
        anchor.text, anchor.tail = said[at : at + len(link.words)], said[at + len(link.words) :]
        if follows:
            element.tail = said[:at]
            element.addnext(anchor)
            anchor.tail = said[at + len(link.words) :]
        else:
            element.text = said[:at]
            element.insert(0, anchor)
        return True
    return False


def _paragraph(root: lxml_html.HtmlElement, words: str) -> lxml_html.HtmlElement | None:
    """Return the outermost element that holds words, None where none does."""
    folded = " ".join(words.casefold().split())
    return next(
        (
            each
            for each in root
            if isinstance(each.tag, str)
            and folded in " ".join(each.text_content().casefold().split())
        ),
        None,
    )
