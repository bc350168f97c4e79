"""HTML from packages: harmless, decoded, and its links understood."""

from __future__ import annotations

import pytest

from vennpair.service.content.pages import clean, decoded, member_of, references, shown


@pytest.mark.parametrize(
    ("address", "member"),
    [
        ("img/a%20b.png", "pages/img/a b.png"),
        ("../x.css?v=1#t", "x.css"),
        ("#here", ""),
        ("/etc/passwd", ""),
        ("../../secret", ""),
        ("$IMS-CC-FILEBASE$/media/f.png", "pages/media/f.png"),
        ("a\\b.png", "pages/a/b.png"),
    ],
)
def test_relative_addresses_lead_to_members_and_never_out(address: str, member: str) -> None:
    assert member_of(address, "pages/p.html") == member


def test_pages_are_made_harmless_whatever_their_encoding() -> None:
    wicked = (
        '<p onclick="x()">Tiefe: 2 m² <a href="javascript:x()">a</a><a href="'
        ' data:text/html,x">b</a><img src=x.png onerror=x()><svg><script>x()</script></svg><iframe'
        ' src="y"></iframe><form action="z"><input></form></p>'
    )
    for data in (
        wicked.encode(),
        b"\xef\xbb\xbf" + wicked.encode(),
        wicked.encode("utf-16"),
        ('<meta charset="iso-8859-1">' + wicked).encode("latin-1"),
        wicked.encode("latin-1"),
    ):
        html = clean(decoded(data), lambda address: f"https://files.example/{address}")
        assert "Tiefe: 2 m²" in html
        assert 'src="https://files.example/x.png"' in html
        assert not [
            word
            for word in (
                "onclick",
                "onerror",
                "javascript",
                "data:",
                "script",
                "iframe",
                "form",
                "input",
            )
            if word in html
        ]
    assert references(
        '<a href="one.html">1</a><img src="two.png"><a href="https://x.example/">3</a><a'
        ' href="one.html">again</a>'
    ) == ["one.html", "two.png"]


def test_pictures_of_the_package_are_named_in_a_preview() -> None:
    assert (
        shown('<p><img src="a.png" alt="a map"> and <img src="b.png"></p>')
        == "<p><em>[picture: a map]</em> and <em>[picture]</em></p>"
    )
    assert 'src="https://x.example/c.png"' in shown('<img src="https://x.example/c.png" alt="far">')
