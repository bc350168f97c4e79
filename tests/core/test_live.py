"""One pairing compared: causes tell who has which value, since when, and why."""

from __future__ import annotations

from datetime import UTC, datetime
from decimal import Decimal

from vennpair.core.reconcile.cells import Mark
from vennpair.core.reconcile.facts import LooseColumn, Person, PlacedItem, PublisherScore, SentFact
from vennpair.core.reconcile.live import compare_live

SENT_AT = datetime(2027, 3, 3, 20, 2, tzinfo=UTC)
ADA = (Person("p1", "Ada Brook", subject="s1"), Person("c1", "Ada Brook", subject="s1"))


def _item(**facts: object) -> PlacedItem:
    return PlacedItem(
        **(
            {
                "placement": "x",
                "title": "Quiz",
                "points": Decimal(20),
                "column_title": "Quiz",
                "column_points": Decimal(20),
            }
            | facts
        )
    )  # type: ignore[arg-type]


def _score(value: int, at: str = "") -> dict[str, PublisherScore]:
    return {"p1": PublisherScore(Mark(Decimal(value), Decimal(20)), at)}


def _sent(value: int | None, newest: int | None = None, refused: str = "") -> dict[str, SentFact]:
    mark = None if value is None else Mark(Decimal(value), Decimal(20))
    return {
        "c1": SentFact(
            mark,
            SENT_AT,
            refused,
            SENT_AT if refused else None,
            None if newest is None else Decimal(newest),
        )
    }


def _only_cell(item: PlacedItem) -> tuple[str, str]:
    result = compare_live([item], [ADA[0]], [ADA[1]], zone="America/Chicago")
    (cell,) = result.cells
    return cell.kind, cell.cause


def test_a_typed_over_score_names_all_three_values_and_the_time_in_the_course_s_zone() -> None:
    kind, cause = _only_cell(
        _item(publisher=_score(18), gradebook={"c1": Decimal(19)}, sent=_sent(18, 18))
    )
    assert kind == "edited"
    assert (
        cause
        == "Typed over in the gradebook after our score of 18 of 20 on March 3 at 2:02 PM: it holds"
        " 19, the publisher still has 18 of 20. Who typed it, the platform does not tell."
    )


def test_a_changed_column_is_not_blamed_on_somebody_typing() -> None:
    kind, cause = _only_cell(
        _item(
            column_points=Decimal(25),
            publisher=_score(18),
            gradebook={"c1": Decimal(18)},
            sent=_sent(18, 18),
        )
    )
    assert kind == "edited"
    assert "column now has 25 points instead of 20" in cause


def test_what_one_changed_column_explains_is_marked_so_and_nothing_else() -> None:
    def because(**facts: object) -> str:
        (cell,) = compare_live(
            [_item(column_points=Decimal(25), publisher=_score(18), **facts)], [ADA[0]], [ADA[1]]
        ).cells
        return cell.because

    assert because(gradebook={"c1": Decimal(18)}, sent=_sent(18, 18)) == "points_differ"
    assert because(gradebook={"c1": Decimal(19)}, sent=_sent(18, 18)) == ""
    assert because() == ""


def test_a_lost_resubmission_is_told_from_one_that_waits() -> None:
    lost = _only_cell(
        _item(
            publisher=_score(19, "2027-03-05T21:40:00-06:00"),
            gradebook={"c1": Decimal(18)},
            sent=_sent(18, 18),
        )
    )
    waits = _only_cell(
        _item(publisher=_score(19), gradebook={"c1": Decimal(18)}, sent=_sent(18, 19))
    )
    assert lost[0] == waits[0] == "behind"
    assert "on March 5 at 9:40 PM; that new attempt was never reported" in lost[1]
    assert "reported but not sent yet" in waits[1]


def test_a_refusal_repeats_the_platform_s_words() -> None:
    kind, cause = _only_cell(
        _item(publisher=_score(19), sent=_sent(None, 19, "the column is locked"))
    )
    assert (kind, cause) == (
        "refused",
        (
            "The publisher has 19 of 20; the platform refused it on March 3 at 2:02 PM: the column is"
            " locked"
        ),
    )


def test_a_missing_column_is_looked_for_by_its_mark_its_link_then_its_title() -> None:
    def found(*loose: LooseColumn) -> list[tuple[str, str, tuple[str, ...]]]:
        items = [
            _item(column_title=None, resource_link="r1"),
            _item(placement="y", title="Lab", column_title=None),
        ]
        return [
            (each.kind, each.heir.url if each.heir else each.url, each.remedies)
            for each in compare_live(items, [], [], loose).columns
        ]

    marked, linked, called = (
        LooseColumn("u1", "Anything", resource="x"),
        LooseColumn("u2", "Else", link="r1"),
        LooseColumn("u3", " quiz"),
    )
    missing = ("column_missing", "", ("make_again", "leave"))
    assert found(called, linked, marked) == [
        ("column_missing", "u1", ("claim", "make_again", "leave")),
        missing,
        ("column_extra", "u3", ("leave",)),
        ("column_extra", "u2", ("leave",)),
    ]
    assert found(called, linked)[0][1] == "u2"
    assert found(called)[0][1] == "u3"
    assert (
        found(called, LooseColumn("u4", "QUIZ"))[0] == missing
    )  # two of one title cannot be told apart
    assert found(LooseColumn("u5", "lab"))[:2] == [
        missing,
        ("column_missing", "u5", ("claim", "make_again", "leave")),
    ]


def test_columns_tell_what_is_wrong_with_them() -> None:
    items = [
        _item(title="A", column_title=None),
        _item(
            title="B",
            column_title="B",
            column_points=Decimal(25),
            due_at="2027-03-05T23:59:00-06:00",
            column_due="2027-03-06T05:59:00Z",
        ),
        _item(title="D", column_title=None, opened=False),
        _item(title="E", column_title="E", category="Quizzes", column_category="Essays"),
        _item(
            title="C",
            column_title="See",
            due_at="2027-03-05T23:59:00-06:00",
            column_due="2027-03-07T05:59:00Z",
            at_publisher=False,
        ),
    ]
    result = compare_live(
        items, [], [], loose=[LooseColumn("u1", "Participation"), LooseColumn("u2", "see")]
    )
    assert [(finding.kind, finding.subject) for finding in result.columns] == [
        ("column_missing", "A"),
        ("points_differ", "B"),
        ("never_opened", "D"),
        ("category_differs", "E"),
        ("item_gone", "C"),
        ("due_differs", "C"),
        ("title_differs", "C"),
        ("column_extra", "Participation"),
        ("title_ambiguous", "see"),
    ]


def test_somebody_under_another_address_is_proposed_not_merged() -> None:
    result = compare_live(
        [],
        [Person("p1", "Hugo Wexcombe", "h@post.example")],
        [Person("c1", "Hugo Wexcombe", "hugo@t.example", "T1", "s9")],
    )
    assert [finding.kind for finding in result.learners] == ["publisher_only", "shell_only"]
    assert [each.remedies for each in result.learners] == [("match", "leave")] * 2
    assert "Likely the same person: Hugo Wexcombe (the same name)" in result.learners[0].cause


def test_the_grid_has_a_row_for_each_matched_learner() -> None:
    result = compare_live(
        [_item(publisher=_score(18), gradebook={"c1": Decimal(18)}), _item(title="Other")],
        [ADA[0]],
        [ADA[1]],
    )
    assert [(row.ours.key, row.by, row.kinds, row.shares) for row in result.grid] == [
        ("c1", "launch", ["agree", None], [(0.9, 0.9), (None, None)])
    ]


def test_why_somebody_stands_on_one_side_only_is_said_as_far_as_it_is_known() -> None:
    hints = [
        ("dropped", "", "dropped or been moved"),
        ("other_section", "HYD 210-02", "roster of HYD 210-02"),
        ("direct", "", "registered there directly"),
        ("started", "", "under another account"),
        ("", "", "cannot be seen"),
    ]
    for hint, where, words in hints:
        (found,) = compare_live(
            [], [Person("p1", "Ada Brook", "a@t.example", hint=hint, where=where)], []
        ).learners
        assert words in found.cause
    (found,) = compare_live([], [], [Person("c1", "Ada Brook", hint="never_started")]).learners
    assert (found.kind, "not opened any link" in found.cause) == ("shell_only", True)


def test_what_counts_by_a_rule_of_ours_goes_before_the_publisher_s_number() -> None:
    chosen = {"c1": PublisherScore(Mark(Decimal(18), Decimal(20)), "", "ledger")}
    result = compare_live(
        [
            _item(
                publisher=_score(11),
                chosen=chosen,
                gradebook={"c1": Decimal(18)},
                sent=_sent(18, 18),
            )
        ],
        [ADA[0]],
        [ADA[1]],
    )
    assert result.counts == {"agree": 1}
