"""What we write, we read back the same."""

from __future__ import annotations

import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vennpair.standards.cartridge import read_cartridge
from vennpair.standards.cartridge.writer import Entry, write_cartridge

# XML can carry no control characters; titles are compared with white space collapsed.
words = st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Cn", "Zs", "Zl", "Zp")), min_size=1, max_size=30)


@st.composite
def outlines(draw: st.DrawFn) -> list[Entry]:
    entries: list[Entry] = []
    depth = 0
    for number in range(draw(st.integers(0, 12))):
        depth = draw(st.integers(0, depth))
        kind = draw(st.sampled_from(["folder", "page", "web_link", "lti_link"]))
        custom = draw(st.dictionaries(words, words, max_size=3)) if kind == "lti_link" else {}
        url = f"https://tool.example/{number}?a=1&b=<2>" if kind in {"web_link", "lti_link"} else ""
        audience = draw(st.sampled_from(["everyone", "instructor"])) if kind == "page" else "everyone"
        entries.append(Entry(f"e{number}", draw(words), kind, depth, url, f"<p>{number}</p>", kind == "web_link" and draw(st.booleans()), custom, audience))
        depth += kind == "folder"
    return entries


@settings(max_examples=60, deadline=None)
@given(outlines())
def test_reading_gives_back_what_was_written(entries: list[Entry]) -> None:
    target, again = io.BytesIO(), io.BytesIO()
    write_cartridge(target, "c1", "Rivers & <Groundwater>", "en-US", entries)
    write_cartridge(again, "c1", "Rivers & <Groundwater>", "en-US", entries)
    assert target.getvalue() == again.getvalue()
    cartridge = read_cartridge(io.BytesIO(target.getvalue()), known_hosts=frozenset({"tool.example"}))
    assert (cartridge.version, cartridge.profile, cartridge.title, cartridge.language) == ("1.3", "full", "Rivers & <Groundwater>", "en-US")
    assert {finding.code for finding in cartridge.findings} <= {"duplicate_title", "empty"}
    for entry, row in zip(entries, cartridge.outline, strict=True):
        assert (row.title, row.kind, row.depth, row.audience) == (entry.title, entry.kind, entry.depth, entry.audience)
        if row.resource:
            found = row.resource.descriptor
            assert (found.url, found.new_window, found.custom) == (entry.url, entry.new_window, entry.custom)


def test_an_outline_that_jumps_a_level_is_refused() -> None:
    with pytest.raises(ValueError, match="deeper"):
        write_cartridge(io.BytesIO(), "c1", "x", "en", [Entry("a", "A", "folder", 1)])
