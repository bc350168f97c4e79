"""What entries are understood as, which are meant, what bringing them in will do, and what changed
at the publisher.
"""

from __future__ import annotations

from decimal import Decimal
from io import BytesIO

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.core.content.bring import Brought, Wanted, plan_bringing
from vennpair.core.content.changes import Facts, changes
from vennpair.core.content.choose import Choice, Wish, choose
from vennpair.core.content.entry_checks import NO_TROUBLE, Trouble
from vennpair.core.content.matching import NO_ITEM, Knowledge
from vennpair.core.content.naming import Named, Renamed, by_pattern, tell_apart
from vennpair.core.content.understand import EntryDraft, items_of, understand
from vennpair.core.deploy.order import ordered, orders
from vennpair.standards.cartridge import open_package, read_package
from vennpair.standards.cartridge.limits import Limits
from vennpair.standards.cartridge.writer import Entry, write_cartridge
from vennpair.standards.oneroster.objects import LineItem
from vennpair.standards.outline import Node

DUE, TOOL = "2027-03-12T23:59:00-06:00", "https://tool.example/launch"
LINES = [
    LineItem(f"li-{n}", title, "c1", due_at=DUE, maximum=Decimal(10), launch_url=f"{TOOL}/{n}")
    for n, title in (
        (1, "Practice"),
        (2, "Quiz"),
        (3, "The essay"),
        (4, "Field sketch"),
        (5, "Field sketch"),
    )
]


def understood(entries: list[Entry], **knowledge: object) -> list[EntryDraft]:
    target = BytesIO()
    write_cartridge(target, "c1", "Course", "en", entries)
    known = Knowledge(
        **({"line_items": LINES, "publisher_hosts": frozenset({"tool.example"})} | knowledge)
    )  # type: ignore[arg-type]
    with open_package(target, Limits()) as package:
        return understand(
            read_package(package, Limits()),
            known,
            lambda member: package.fingerprint(member) if package.holds(member) else None,
        )


def test_line_items_are_recognised_by_parameter_identifier_and_title_with_the_reason() -> None:
    entries = [
        Entry("u1", "Unit 1", "folder"),
        Entry("a", "Renamed here", "lti_link", 1, url=TOOL, custom={"item": "li-1"}),
        Entry("b", "Unit quiz", "lti_link", 1, url=f"{TOOL}/li-2"),
        Entry("c", "  THE   Essay", "lti_link", 1, url=TOOL),
        Entry("d", "Field sketch", "lti_link", 1, url=TOOL, custom={"item": "li-4"}),
        Entry("u2", "Unit 2", "folder"),
        Entry("e", "Field sketch", "lti_link", 1, url=TOOL, custom={"item": "li-5"}),
        Entry("f", "Warm-up", "lti_link", 1, url=TOOL),
    ]
    drafts = [draft for draft in understood(entries) if draft.kind == "lti_link"]
    assert [(draft.line_item, draft.reason) for draft in drafts] == [
        ("li-1", "the custom parameter item"),
        ("li-2", "the address"),
        ("li-3", "the title"),
        ("li-4", "the custom parameter item"),
        ("li-5", "the custom parameter item"),
        ("", ""),
    ]
    assert (
        drafts[2].url == f"{TOOL}/3"
    )  # known by its title only: its own address may open another course's item
    assert [draft.shown_title for draft in drafts[3:5]] == [
        "Field sketch (Unit 1)",
        "Field sketch (Unit 2)",
    ]
    corrected = understood(
        entries, corrections={"i_a": "li-2", "i_b": NO_ITEM}, titles={"i_f": "Loosen up"}
    )
    assert [
        (draft.line_item, draft.shown_title)
        for draft in corrected
        if draft.key in {"i_a", "i_b", "i_f"}
    ] == [("li-2", "Renamed here"), ("", "Unit quiz"), ("", "Loosen up")]


def test_troubles_say_why_an_entry_cannot_come_in_and_what_to_do() -> None:
    entries = [
        Entry("a", "Strange", "lti_link", url="http://elsewhere.example/x"),
        Entry("b", "Sister", "lti_link", url="https://sister.example/x"),
        Entry(
            "c",
            "Ours, here",
            "lti_link",
            url="https://pair.example/lti/launch",
            custom={"placement": "p1"},
        ),
        Entry(
            "d",
            "Ours, elsewhere",
            "lti_link",
            url="https://pair.example/lti/launch",
            custom={"placement": "p2"},
        ),
        Entry("e", "Script", "web_link", url="javascript:alert(1)"),
        Entry("f", "Fine", "web_link", url="https://fine.example/"),
    ]
    drafts = understood(
        entries,
        other_hosts={"sister.example": "Sister Press"},
        own_launch="https://pair.example/lti/launch",
        own_placements=frozenset({"p1"}),
    )
    assert [draft.trouble.code for draft in drafts] == [
        "unknown_tool",
        "other_publisher",
        "",
        "own_link",
        "bad_address",
        "",
    ]
    assert "Sister Press" in drafts[1].trouble.message
    assert drafts[2].placement == "p1"
    assert [draft.title for draft in items_of(drafts)] == ["Script", "Fine"]


def test_untitled_entries_get_a_name_by_kind_place_and_unit_and_equal_ones_are_told_apart() -> None:
    assert [
        each.name
        for each in tell_apart(
            [Named("A"), Named("a"), Named("A"), Named("B")], ["U1", "U2", "U2", ""]
        )
    ] == ["A (U1)", "a (U2)", "A (U2) (2)", "B"]
    assert [each.name for each in tell_apart([Named("A"), Named("A")], ["U", "U"])] == [
        "A",
        "A (2)",
    ]
    assert by_pattern(
        "{number}. {title} / {unit}", [Renamed("A", "U", "page"), Renamed("B", "", "page")]
    ) == ["1. A / U", "2. B /"]
    for bad in ("{other}", "{title", "}", "{title.__class__}", "{0}", "{unit}"):
        with pytest.raises(ValueError, match="pattern"):
            by_pattern(bad, [Renamed("A", "", "page")])


def tree(*rows: tuple[int, str, str]) -> list[EntryDraft]:
    """Return drafts from (parent, kind, title).

    The position is the place in the row, a review folder marks what is in it.
    """
    drafts: list[EntryDraft] = []
    for position, (parent, kind, title) in enumerate(rows):
        group = "review" if "Review" in title or (parent >= 0 and drafts[parent].group) else ""
        drafts.append(
            EntryDraft(
                f"k{position}",
                f"r{position}",
                kind,
                title,
                title,
                position,
                parent,
                0,
                group=group,
                digest=f"d{position}",
            )
        )
    return drafts


TREE = tree(
    (-1, "folder", "Unit 1"),
    (0, "page", "Rivers"),
    (0, "folder", "Deeper"),
    (2, "lti_link", "Flow quiz"),
    (2, "page", "Flow"),
    (-1, "folder", "Review"),
    (5, "page", "Numbers"),
)


@pytest.mark.parametrize(
    ("wish", "wanted"),
    [
        (Wish(everything=True), {0, 1, 2, 3, 4, 5, 6}),
        (Wish(positions=frozenset({3})), {0, 2, 3}),
        (Wish(folders=frozenset({2})), {0, 2, 3, 4}),
        (Wish(folders=frozenset({0}), kinds=frozenset({"page"})), {0, 1, 2, 4}),
        (Wish(kinds=frozenset({"page"}), review="leave_out"), {0, 1, 2, 4}),
        (Wish(words="FLOW quiz"), {0, 2, 3}),
        (Wish(everything=True, review="leave_out"), {0, 1, 2, 3, 4}),
    ],
)
def test_what_is_chosen_brings_the_folders_around_it(wish: Wish, wanted: set[int]) -> None:
    assert choose(TREE, wish).wanted == wanted


def test_what_stands_in_no_outline_is_listed_and_comes_only_where_it_is_named() -> None:
    drafts = understood(
        [
            Entry("a", "In", "page", html="x"),
            Entry(
                "b",
                "Bank",
                "question_bank",
                xml=b"<questestinterop><objectbank ident='b'/></questestinterop>",
            ),
        ]
    )
    assert [(draft.shown_title, draft.kind, draft.group, draft.depth) for draft in drafts[1:]] == [
        ("Beside the outline", "folder", "beside", 0),
        ("b.xml", "question_bank", "beside", 1),
    ]
    assert choose(drafts, Wish(everything=True)).wanted == {0}
    assert choose(drafts, Wish(folders=frozenset({1}))).wanted == {1, 2}
    assert choose(drafts, Wish(kinds=frozenset({"question_bank"}))).wanted == {1, 2}


def test_review_folders_are_hidden_as_a_group() -> None:
    assert choose(TREE, Wish(everything=True, review="hide")).hidden == {5, 6}


def _wanted(position: int, parent: int = -1, **facts: object) -> Wanted:
    base = {
        "position": position,
        "parent": parent,
        "key": f"k{position}",
        "kind": "page",
        "title": f"T{position}",
        "digest": f"d{position}",
        "audience": "everyone",
        "trouble": NO_TROUBLE,
        "package": "P",
    }
    return Wanted(**(base | facts))  # type: ignore[arg-type]


def test_a_second_import_updates_keeps_and_never_doubles() -> None:
    entries = [_wanted(n) for n in range(6)] + [
        _wanted(6, audience="instructor"),
        _wanted(7, trouble=Trouble("bad_xml", "broken", "ask", blocks=True)),
    ]
    brought = [
        Brought("k0", "page", "T0", "d0", "P", "n0", "1"),  # the same
        Brought("k1", "page", "T1", "old", "P", "n1", "1"),  # other content now
        Brought("k2", "page", "T2", "old", "P", "n2", "1"),  # other content, changed in the shell
        Brought("k3", "page", "T3", "d3", "P", "gone", "1"),  # taken out of the shell by somebody
        Brought("kx", "page", "T4", "d4", "Q", "n4", "1"),  # the same content in another package
        Brought("k5", "page", "Something else", "old", "Q", "n5", "1"),  # another package's own k5
    ]
    nodes = {
        name: Node(name, name, "page", etag="2" if name == "n2" else "1")
        for name in ("n0", "n1", "n2", "n4", "n5")
    }
    planned = plan_bringing(entries, Choice(frozenset(range(8))), brought, {}, nodes)
    assert [each.action for each in planned] == [
        "same",
        "update",
        "keep",
        "make",
        "same",
        "make",
        "make",
        "leave_out",
    ]
    assert not planned[6].visible
    assert "changed in the shell" in planned[2].why
    assert (planned[2].etag, planned[0].etag) == (
        "1",
        "1",
    )  # as it was then: a change since is still known when a newer package comes


def test_what_is_hidden_is_written_in_nothing_else_and_stays_known_as_changed() -> None:
    brought = [
        Brought("k0", "page", "T0", "d0", "P", "n0", "1"),  # the same
        Brought("k1", "page", "T1", "d1", "P", "n1", "1"),  # changed and renamed in the shell
        Brought("k2", "page", "T2", "old", "P", "n2", "1"),  # other content in the package now
        Brought("k3", "page", "T3", "d3", "P", "n3", "1"),  # hidden already
    ]
    nodes = {
        "n0": Node("n0", "T0", "page", etag="1"),
        "n1": Node("n1", "Mine", "page", etag="2"),
        "n2": Node("n2", "T2", "page", etag="1"),
        "n3": Node("n3", "T3", "page", etag="1", visible=False),
    }
    every = frozenset(range(4))
    planned = plan_bringing(
        [_wanted(n) for n in range(4)], Choice(every, every), brought, {}, nodes
    )
    assert [(each.action, each.hides, each.etag) for each in planned] == [
        ("update", True, "1"),
        ("update", True, "1"),
        ("update", False, "1"),
        ("same", False, "1"),
    ]
    assert not any(each.visible for each in planned)


def test_a_folder_of_which_nothing_can_come_is_left_out_and_an_empty_one_is_not() -> None:
    blocked = Trouble("missing_file", "lacks it", "ask", blocks=True)
    entries = [
        _wanted(0, kind="folder"),
        _wanted(1, 0, trouble=blocked),
        _wanted(2, kind="folder"),
        _wanted(3, kind="folder"),
        _wanted(4, 3, kind="folder"),
        _wanted(5, 4),
    ]
    planned = plan_bringing(entries, Choice(frozenset(range(6))), [], {}, {})
    assert [each.action for each in planned] == [
        "leave_out",
        "leave_out",
        "make",
        "make",
        "make",
        "make",
    ]


def test_new_entries_follow_their_neighbours_and_nothing_else_moves() -> None:
    assert ordered(["x", "a", "c", "y", "b"], ["b"], ["a", "b", "c"]) == ["x", "a", "b", "c", "y"]
    assert ordered(["x", "c", "y", "a"], ["a"], ["a", "c"]) == ["x", "a", "c", "y"]
    assert ordered(["x", "b", "a"], ["a", "b"], ["a", "b"]) == ["x", "a", "b"]


def test_only_folders_that_need_it_are_put_in_order() -> None:
    outline = [
        Node("f", "F", "folder"),
        Node("b", "B", "page", "f"),
        Node("a", "A", "page", "f"),
        Node("x", "X", "page"),
        Node("y", "Y", "page"),
    ]
    assert orders(outline, ["f", "a", "b", "x", "y", "gone"], {"a", "b", "x", "y"}) == [
        ("f", ["a", "b"])
    ]


@given(st.permutations(list("abcdefgh")), st.sets(st.sampled_from("abcdefgh")))
def test_ordering_keeps_everything_and_what_stood_there_in_its_order(
    children: list[str], made: set[str]
) -> None:
    row = sorted(set("abcdef") | made)
    result = ordered(children, [each for each in row if each in made], row)
    assert sorted(result) == sorted(children)
    assert [each for each in result if each not in made] == [
        each for each in children if each not in made
    ]


def test_changes_are_told_by_kind_before_and_after() -> None:
    before = {
        "a": Facts("A", Decimal(10), "d", "U1"),
        "b": Facts("B", None, "", "U1"),
        "c": Facts("C", Decimal(5), "", "", gone=True),
    }
    after = {
        "a": Facts("A2", Decimal("10.0"), "e", "U2"),
        "c": Facts("C", Decimal(5), "", ""),
        "n": Facts("N", None, "", ""),
    }
    assert [(each.kind, each.before, each.after) for each in changes(before, after)] == [
        ("renamed", "A", "A2"),
        ("moved", "U1", "U2"),
        ("date", "d", "e"),
        ("back", "", ""),
        ("new", "", ""),
        ("withdrawn", "", ""),
    ]
