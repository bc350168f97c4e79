"""Outside calls: every kind of failure is named, tried again where that is safe, and never looks
like success.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from email.utils import format_datetime
from typing import Any
from urllib.parse import unquote

import pytest
from tests.gateways.server import Server

from vennpair.core.failures import FailureKind
from vennpair.gateways import deadlines
from vennpair.gateways.http import OutsideError, call, call_safely
from vennpair.gateways.patience import Patience
from vennpair.gateways.platform import PlatformGateway
from vennpair.gateways.publisher import PublisherGateway
from vennpair.gateways.tokens import TokenSource, secret_client
from vennpair.standards.lti.grades import LineItem


class Ready(TokenSource):
    """Always has a token."""

    def token(self, scopes: list[str]) -> str:
        return "t"


def tokens(server: Server) -> TokenSource:
    """Return a source that asks nobody."""
    return Ready(
        "The platform", f"{server.url}/token", lambda scopes: ({}, {}), Patience("The platform")
    )


@pytest.mark.parametrize(
    ("status", "kind", "code"),
    [
        (400, FailureKind.NEVER, "refused"),
        (401, FailureKind.SETTING, "not_allowed"),
        (403, FailureKind.SETTING, "not_allowed"),
        (404, FailureKind.NEVER, "gone"),
        (409, FailureKind.NEVER, "stale"),
        (429, FailureKind.LATER, "busy"),
        (500, FailureKind.LATER, "down"),
    ],
)
def test_each_status_is_one_of_three_kinds_and_keeps_the_other_side_s_words(
    server: Server, status: int, kind: FailureKind, code: str
) -> None:
    server.answers = [(status, {"Retry-After": "7"}, {"detail": "the column is locked"})]
    with pytest.raises(OutsideError) as caught:
        call("GET", server.url, "The platform")
    failure = caught.value.failure
    assert (failure.kind, failure.code) == (kind, code)
    assert "The platform" in failure.message
    assert "the column is locked" in failure.message
    assert failure.retry_after == (7 if status in {429, 500} else None)


def test_a_connection_is_used_again_at_once_and_never_after_it_was_idle(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    server = Server(keeps=True)
    server.answers = [(200, {}, {})]
    try:
        for _ in range(3):
            call("POST", server.url, "The platform")
        assert server.connections == 1
        monkeypatch.setattr(deadlines, "IDLE_SECONDS", 0.0)
        for _ in range(3):
            call("POST", server.url, "The platform")
        assert (server.connections, len(server.asked)) == (4, 6)
    finally:
        server.close()


@pytest.mark.parametrize(
    ("asked", "least", "most"),
    [
        ("120", 120, 120),
        (timedelta(hours=2), 7000, 7200),
        (timedelta(hours=-2), 0, 0),
        ("soon", None, None),
    ],
)
def test_patience_may_be_asked_for_by_a_number_or_a_date(
    server: Server, asked: str | timedelta, least: float | None, most: float | None
) -> None:
    if isinstance(asked, timedelta):
        asked = format_datetime(datetime.now(UTC) + asked, usegmt=True)
    server.answers = [(429, {"Retry-After": asked}, {})]
    with pytest.raises(OutsideError) as caught:
        call("GET", server.url, "The platform")
    after = caught.value.failure.retry_after
    if least is None or most is None:
        assert after is None
    else:
        assert after is not None
        assert least <= after <= most


def test_what_is_safe_is_tried_three_times_and_what_is_final_once(server: Server) -> None:
    server.answers = [(503, {}, {}), (503, {}, {}), (200, {}, {"ok": True})]
    assert call_safely("GET", server.url, "The platform").json("x") == {"ok": True}
    assert len(server.asked) == 3
    server.answers = [(404, {}, {})]
    with pytest.raises(OutsideError):
        call_safely("GET", server.url, "The platform")
    assert len(server.asked) == 4


def test_a_long_pause_is_left_to_the_job(server: Server) -> None:
    server.answers = [(429, {"Retry-After": "120"}, {})]
    with pytest.raises(OutsideError) as caught:
        call_safely("GET", server.url, "The platform")
    assert caught.value.failure.retry_after == 120
    assert len(server.asked) == 1  # who had waited for it would have asked again


def test_nothing_listening_and_html_are_told_apart(server: Server) -> None:
    server.answers = [(200, {}, b"<html>Sign in</html>")]
    with pytest.raises(OutsideError) as caught:
        PublisherGateway("Press", server.url, tokens(server)).classes()
    assert caught.value.failure.code == "not_json"
    with pytest.raises(OutsideError) as caught:
        call("GET", "http://127.0.0.1:9/", "The platform")
    assert "nothing listens there" in caught.value.failure.message


def test_lists_are_walked_by_their_links_and_bad_rows_are_named(server: Server) -> None:
    one, two = (
        {"classes": [{"sourcedId": name, "title": name, "status": "active"}]} for name in "ab"
    )
    server.answers = [(200, {"Link": f'<{server.url}/more>; rel="next"'}, one), (200, {}, two)]
    assert [
        each.sourced_id for each in PublisherGateway("Press", server.url, tokens(server)).classes()
    ] == ["a", "b"]
    assert server.asked[1][1] == "/more"
    server.answers = [(200, {}, {"classes": [{"title": "no id"}]})]
    with pytest.raises(OutsideError, match="lacks its field sourcedId"):
        PublisherGateway("Press", server.url, tokens(server)).classes()


def test_pages_are_asked_for_side_by_side_where_their_number_is_told_and_stay_in_order(
    server: Server,
) -> None:
    flying: list[int] = []
    lock, most = threading.Lock(), []
    together, second = threading.Barrier(5, timeout=30), threading.Event()

    def page(path: str) -> tuple[int, dict[str, str], Any]:
        offset = int(
            dict(part.split("=") for part in path.partition("?")[2].split("&")).get("offset", "0")
        )
        with lock:
            flying.append(offset)
            most.append(len(flying))
        if 100 <= offset <= 500:  # these come back only together, the second before the first
            together.wait()
        if offset == 200:
            second.set()
        assert offset != 100 or second.wait(30)
        with lock:
            flying.remove(offset)
        rows = [
            {"sourcedId": str(offset + each), "title": "x", "status": "active"}
            for each in range(min(100, 1050 - offset))
        ]
        return (
            200,
            {
                "X-Total-Count": "1050",
                "Link": f'<{server.url}/classes?limit=100&offset={offset + 100}>; rel="next"',
            },
            {"classes": rows},
        )

    server.by = page
    found = PublisherGateway("Press", server.url, tokens(server)).classes()
    assert [each.sourced_id for each in found] == [str(each) for each in range(1050)]
    assert max(most) > 4


def test_a_gradebook_that_somebody_changed_meanwhile_is_read_and_changed_again(
    server: Server,
) -> None:
    def book(*columns: str, etag: str) -> tuple[int, dict[str, str], Any]:
        return (
            200,
            {},
            {
                "columns": [{"column": each, "category": ""} for each in columns],
                "categories": [],
                "etag": etag,
            },
        )

    server.answers = [
        book("a", "b", etag="1"),
        (412, {}, {"detail": "changed"}),
        book("a", "b", "c", etag="2"),
        (204, {}, b""),
    ]
    PlatformGateway("Campus", tokens(server)).rearrange_gradebook(
        f"{server.url}/outline",
        lambda found: replace(found, columns=tuple(reversed(found.columns))),
    )
    assert [headers.get("If-Match") for _, _, headers in server.asked] == [None, "1", None, "2"]
    server.asked.clear()
    server.answers = [book("a", etag="1")]
    PlatformGateway("Campus", tokens(server)).rearrange_gradebook(
        f"{server.url}/outline", lambda found: found
    )
    assert len(server.asked) == 1  # nothing to change is no call


def test_one_odd_column_does_not_hide_the_others(server: Server) -> None:
    server.answers = [
        (
            200,
            {},
            [
                {"id": "u1", "label": "Participation", "scoreMaximum": 0},
                {"id": "u2", "label": "", "scoreMaximum": 10},
                {"id": "u3", "label": "Quiz"},
            ],
        )
    ]
    found = PlatformGateway("Campus", tokens(server)).line_items(f"{server.url}/items")
    assert [(each.label, each.score_maximum) for each in found] == [
        ("Participation", 0),
        ("", 10),
        ("Quiz", 0),
    ]


def test_a_column_is_asked_for_once_since_the_standard_knows_no_idempotency_key(
    server: Server,
) -> None:
    server.answers = [(500, {}, {})]
    with pytest.raises(OutsideError):
        PlatformGateway("Campus", tokens(server)).make_line_item(
            f"{server.url}/items", LineItem("Quiz", Decimal(10))
        )
    assert len(server.asked) == 1


def test_links_carry_their_idempotency_key_through_retries(server: Server) -> None:
    server.answers = [(503, {}, {}), (201, {}, {"id": "e1", "title": "Quiz", "kind": "lti_link"})]
    assert (
        PlatformGateway("Campus", tokens(server))
        .make_entry(f"{server.url}/outline", "lti_link", "key-1", title="Quiz")
        .id
        == "e1"
    )
    assert [headers["Idempotency-Key"] for _, _, headers in server.asked] == ["key-1", "key-1"]


def test_a_token_is_shared_until_it_is_about_to_expire(server: Server) -> None:
    source = secret_client("Press", "id", "secret", f"{server.url}/token")
    server.answers = [
        (200, {}, {"access_token": "one", "expires_in": 3600}),
        (200, {}, {"access_token": "two", "expires_in": 30}),
    ]
    assert [source.token(["a"]) for _ in range(3)] == ["one"] * 3
    assert source.token(["b"]) == "two"
    assert source.token(["b"]) == "two"
    assert len(server.asked) == 3
    server.answers = [(200, {}, {"token_type": "Bearer"})]
    with pytest.raises(OutsideError) as caught:
        source.token(["c"])
    assert caught.value.failure.kind is FailureKind.SETTING


@pytest.mark.parametrize("name", ["a/b c", "a?b#c", "../results", "Übung:1", "a%2Fb"])
def test_an_id_is_one_part_of_a_path_whatever_it_is_made_of(server: Server, name: str) -> None:
    server.answers = [(200, {}, {"results": []})]
    assert PublisherGateway("Press", server.url, tokens(server)).results(name) == []
    parts = server.asked[-1][1].partition("?")[0].split("/")
    assert (unquote(parts[-2]), parts[-1], len(parts)) == (name, "results", 8)


@pytest.mark.parametrize(
    "said",
    [
        [],
        "x",
        None,
        7,
        {"id": "n", "kind": "folder", "position": "2"},
        {"nodes": {}},
        {"columns": "x"},
    ],
)
def test_what_no_platform_should_answer_is_named_as_the_platform_s_mistake(
    server: Server, said: object
) -> None:
    platform = PlatformGateway("Campus", tokens(server))
    server.answers = [(200, {}, said)]
    asked: list[Callable[[], object]] = [
        lambda: platform.outline_and_offers(server.url),
        lambda: platform.gradebook(server.url),
        lambda: platform.tool(server.url),
        lambda: platform.make_folder(server.url, "Week 1", "k"),
        lambda: platform.make_category(server.url, "Quizzes", "k"),
    ]
    asked += (
        [
            lambda: platform.html(server.url, "n"),
            lambda: platform.learner_view(server.url, "n"),
            lambda: platform.put_data(server.url, b"x", "x.txt", "text/plain"),
        ]
        if not isinstance(said, dict)
        else []
    )
    for each in asked:
        with pytest.raises(OutsideError) as caught:
            each()
        assert caught.value.failure.code == "bad_answer"
        assert (
            "Campus answered with something that the standard does not allow"
            in caught.value.failure.message
        )


def test_a_platform_that_knows_no_filters_gets_no_score_into_another_column(server: Server) -> None:
    platform = PlatformGateway("Campus", tokens(server))
    others = [
        {"id": f"{server.url}/{name}", "label": name, "scoreMaximum": 10, "resourceId": name}
        for name in "ab"
    ]
    made = {"id": f"{server.url}/c", "label": "c", "scoreMaximum": 10, "resourceId": "c"}
    server.answers = [(200, {}, others), (201, {}, made)]
    assert (
        platform.ensure_line_item(
            f"{server.url}/items?course=1", LineItem("c", Decimal(10), resource_id="c")
        ).id
        == made["id"]
    )
    assert [(method, path) for method, path, _ in server.asked] == [
        ("GET", "/items?course=1&resource_id=c"),
        ("POST", "/items?course=1"),
    ]
    server.answers = [
        (
            200,
            {},
            [{"userId": name, "resultScore": 1, "resultMaximum": 10} for name in ("u1", "u2")],
        )
    ]
    assert [each.user_id for each in platform.results(f"{server.url}/c?course=1", "u2")] == ["u2"]
    assert server.asked[-1][1] == "/c/results?course=1&user_id=u2"


@pytest.mark.parametrize("said", [{"lineItems": []}, None, 7, "x", [7]])
def test_columns_and_results_are_lists_of_what_the_standard_says(
    server: Server, said: object
) -> None:
    platform = PlatformGateway("Campus", tokens(server))
    server.answers = [(200, {}, said)]
    for ask in (lambda: platform.line_items(server.url), lambda: platform.results(server.url)):
        with pytest.raises(OutsideError) as caught:
            ask()
        assert caught.value.failure.code == "bad_answer"
