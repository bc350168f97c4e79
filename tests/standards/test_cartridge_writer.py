"""What we write, a strict reader accepts, and we read back the same.

Reading and writing again changes nothing.
"""

from __future__ import annotations

import io
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.standards.strict_package import faults
from vennpair.standards.cartridge import (
    Cartridge,
    Limits,
    Package,
    open_package,
    read_cartridge,
    read_package,
)
from vennpair.standards.cartridge.questions import read_questions
from vennpair.standards.cartridge.writer import THIN_KINDS, Entry, Member, Profile, write_cartridge
from vennpair.standards.cartridge.xml import parse

# XML can carry no control characters; titles are compared with white space collapsed.
words = st.text(
    st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Cn", "Zs", "Zl", "Zp")),
    min_size=1,
    max_size=30,
)
ITEM = (
    "<item"
    ' ident="q{n}"><itemmetadata><qtimetadata><qtimetadatafield><fieldlabel>cc_profile</fieldlabel><fieldentry>cc.essay.v0p1</fieldentry></qtimetadatafield><qtimetadatafield><fieldlabel>cc_weighting</fieldlabel><fieldentry>{n}.5</fieldentry></qtimetadatafield></qtimetadata></itemmetadata><presentation><material><mattext>Why'
    " {n}?</mattext></material></presentation></item>"
)
QUIZ = (
    '<questestinterop xmlns="http://www.imsglobal.org/xsd/ims_qtiasiv1p2"><assessment ident="a"'
    ' title="Quiz"><section ident="s">'
    + "".join(ITEM.format(n=n) for n in (1, 2))
    + "</section></assessment></questestinterop>"
).encode()
BANK = (
    b'<questestinterop xmlns="http://www.imsglobal.org/xsd/ims_qtiasiv1p2"><objectbank'
    b' ident="b"/></questestinterop>'
)
KINDS = {
    "thin": sorted(THIN_KINDS),
    "full": [
        "folder",
        "page",
        "file",
        "web_link",
        "discussion",
        "assignment",
        "lti_link",
        "assessment",
        "question_bank",
    ],
}


def member(path: str, data: bytes) -> Member:
    return Member(path, lambda: io.BytesIO(data))


@st.composite
def outlines(draw: st.DrawFn, profile: Profile) -> list[Entry]:
    entries: list[Entry] = []
    depth = 0
    for number in range(draw(st.integers(0, 12))):
        depth = draw(st.integers(0, depth))
        kind = draw(st.sampled_from(KINDS[profile]))
        facts: dict[str, object] = {
            "audience": (
                draw(st.sampled_from(["everyone", "instructor"]))
                if kind != "folder"
                else "everyone"
            )
        }
        if kind in {"web_link", "lti_link"}:
            facts |= {
                "url": f"https://tool.example/{number}?a=1&b=<2>",
                "new_window": kind == "web_link" and draw(st.booleans()),
            }
        if kind == "lti_link":
            facts["custom"] = draw(st.dictionaries(words, words, max_size=3))
        if kind == "assignment":
            facts["points"] = draw(st.none() | st.decimals(0, 1000, places=2))
        if kind in {"discussion", "assignment"} or (kind == "page" and draw(st.booleans())):
            facts["html"] = f"<p>{draw(words)}</p>"
        elif kind in {"page", "file"}:
            name = (
                draw(st.sampled_from(["a b.html", "ü/x.html", "shared.html"]))
                if kind == "page"
                else draw(st.sampled_from(["a.csv", "shared.bin"]))
            )
            facts["files"] = (member(name, name.encode()), member("shared.css", b"p {}"))
        facts |= {"assessment": {"xml": QUIZ}, "question_bank": {"xml": BANK}}.get(kind, {})
        entries.append(Entry(f"e{number}", draw(words), kind, depth, **facts))  # type: ignore[arg-type]
        depth += kind == "folder"
    return entries


def written(entries: list[Entry], profile: Profile) -> bytes:
    target = io.BytesIO()
    write_cartridge(target, "c1", "Rivers & <Groundwater>", "en-US", entries, profile)
    return target.getvalue()


def entries_of(cartridge: Cartridge, package: Package) -> list[Entry]:
    """Return what was read as entries to write again."""
    entries = []
    for row in cartridge.outline:
        facts: dict[str, object] = {}
        if row.resource:
            found, paths = row.resource.descriptor, row.resource.files
            facts = {
                "url": found.url,
                "custom": found.custom,
                "new_window": found.new_window,
                "points": found.points,
                "html": found.text,
                "audience": row.audience,
            }
            if row.kind in {"page", "file"}:
                facts = {
                    "audience": row.audience,
                    "files": tuple(
                        member(path.removeprefix("files/"), package.read(path)) for path in paths
                    ),
                }
            if row.kind == "assessment":
                facts = {"audience": row.audience, "xml": package.read(row.resource.href)}
        entries.append(Entry(row.id.removeprefix("i_"), row.title, row.kind, row.depth, **facts))  # type: ignore[arg-type]
    return entries


def plain(entry: Entry) -> tuple[object, ...]:
    points = entry.points if entry.kind == "assignment" else None
    return (
        entry.id,
        entry.title,
        entry.kind,
        entry.depth,
        entry.audience,
        entry.url,
        entry.new_window,
        entry.custom,
        points,
    )


@settings(max_examples=80, deadline=None)
@given(st.data(), st.sampled_from(["full", "thin"]))
def test_reading_and_writing_again_gives_the_same_thing(
    data: st.DataObject, profile: Profile
) -> None:
    entries = data.draw(outlines(profile))
    first = written(entries, profile)
    assert first == written(entries, profile)
    assert faults(io.BytesIO(first)) == []
    with open_package(io.BytesIO(first), Limits()) as package:
        cartridge = read_package(package, Limits(), frozenset({"tool.example"}))
        assert (cartridge.version, cartridge.profile, cartridge.title, cartridge.language) == (
            "1.3",
            profile,
            "Rivers & <Groundwater>",
            "en-US",
        )
        assert {finding.code for finding in cartridge.findings} <= {"duplicate_title", "empty"}
        again = entries_of(cartridge, package)
    standing = [entry for entry in entries if entry.kind != "question_bank"]
    assert [plain(entry) for entry in again] == [plain(entry) for entry in standing]
    for before, after in zip(standing, again, strict=True):
        assert before.kind == "page" or before.html == after.html
        assert [(each.path, each.open().read()) for each in after.files] == [
            (each.path, each.open().read()) for each in before.files
        ] or not before.files
    second = read_cartridge(
        io.BytesIO(written(again, profile)), known_hosts=frozenset({"tool.example"})
    )
    assert [(row.id, row.title, row.kind, row.depth, row.audience) for row in second.outline] == [
        (row.id, row.title, row.kind, row.depth, row.audience) for row in cartridge.outline
    ]


def test_an_outline_that_jumps_a_level_and_pages_in_a_thin_cartridge_are_refused() -> None:
    with pytest.raises(ValueError, match="deeper"):
        written([Entry("a", "A", "folder", 1)], "full")
    with pytest.raises(ValueError, match="thin"):
        written([Entry("a", "A", "page", html="x")], "thin")
    with pytest.raises(ValueError, match="kind"):
        written([Entry("a", "A", "spaceship")], "full")


def test_questions_are_read_with_kind_prompt_and_points() -> None:
    questions = read_questions(parse(QUIZ, "quiz.xml", Limits()), 10)
    assert [(each.kind, each.prompt, each.points) for each in questions] == [
        ("essay", "Why 1?", Decimal("1.5")),
        ("essay", "Why 2?", Decimal("2.5")),
    ]
    assert len(read_questions(parse(QUIZ, "quiz.xml", Limits()), 1)) == 1
