"""The client: errors by kind, lists walked to their end, writes repeated safely, jobs
waited for.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import httpx
import pytest

from vennpair.client import NotAllowed, Refusal, ServiceError, Unreachable, VennPair, transport

Handler = Callable[[httpx.Request], httpx.Response]


def client(handler: Handler) -> VennPair:
    return VennPair("https://pair.example/", "t", transport=httpx.MockTransport(handler))


def problem(status: int, **facts: Any) -> httpx.Response:
    return httpx.Response(status, json={"code": "x", "detail": "what", "remedy": "do"} | facts)


def test_every_call_carries_the_token_and_every_post_a_key_of_its_own() -> None:
    seen: list[httpx.Request] = []

    def answer(request: httpx.Request) -> httpx.Response:
        seen.append(request)
        return httpx.Response(200, json={"queued": 1})

    with client(answer) as venn:
        venn.me()
        venn.send_again("p")
        venn.send_again("p")
    assert {request.headers["Authorization"] for request in seen} == {"Bearer t"}
    assert "Idempotency-Key" not in seen[0].headers
    assert seen[1].headers["Idempotency-Key"] != seen[2].headers["Idempotency-Key"]


def test_a_job_is_waited_for_while_the_service_is_away_and_not_for_ever(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(transport, "LOOK_SECONDS", 0.01)
    answers = [httpx.Response(502, html="<h1>Bad Gateway</h1>") for _ in range(4)]
    answers += [problem(503, code="database_away"), httpx.Response(200, json=job("done"))]
    asked = iter(answers)
    assert client(lambda request: next(asked)).wait(job("queued"))["state"] == "done"  # type: ignore[arg-type]
    monkeypatch.setattr(transport, "AWAY_SECONDS", 0.05)
    with pytest.raises(Unreachable, match="the service behind it does not"):
        client(lambda request: httpx.Response(502)).wait(job("queued"))  # type: ignore[arg-type]
    with pytest.raises(Refusal, match="what"):  # what is certain is said at once
        client(lambda request: problem(404)).wait(job("queued"))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("status", "kind"),
    [(401, NotAllowed), (403, NotAllowed), (404, Refusal), (409, Refusal), (500, Refusal)],
)
def test_refusals_keep_code_message_and_remedy(status: int, kind: type[Refusal]) -> None:
    with pytest.raises(kind) as caught:
        client(lambda request: problem(status)).me()
    assert type(caught.value) is kind
    assert (caught.value.status, caught.value.code, caught.value.message, caught.value.remedy) == (
        status,
        "x",
        "what",
        "do",
    )
    assert isinstance(caught.value, ServiceError)


def test_a_broken_connection_is_tried_again_with_the_same_key(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("time.sleep", lambda seconds: None)
    keys: list[str] = []

    def answer(request: httpx.Request) -> httpx.Response:
        keys.append(request.headers["Idempotency-Key"])
        if len(keys) < 3:
            raise httpx.ReadError("broke off", request=request)
        return httpx.Response(202, json={"queued": 4})

    assert client(answer).send_again("p")["queued"] == 4
    assert len(keys) == 3
    assert len(set(keys)) == 1


def test_what_stays_broken_or_is_no_service_is_unreachable(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("time.sleep", lambda seconds: None)

    def broken(request: httpx.Request) -> httpx.Response:
        raise httpx.ConnectError("refused", request=request)

    with pytest.raises(Unreachable, match="cannot be reached"):
        client(broken).me()
    with pytest.raises(Unreachable, match="not a Venn Pair service"):
        client(lambda request: httpx.Response(200, text="<html>hello</html>")).me()


def test_a_part_that_breaks_off_is_sent_again_and_half_a_download_is_not_taken_for_a_whole(
    tmp_path: Path,
) -> None:
    tries: list[str] = []

    def broken(request: httpx.Request) -> httpx.Response:
        tries.append(request.method)
        if request.method == "PUT" and tries.count("PUT") < 3:
            raise httpx.WriteError("broke off", request=request)
        if request.method == "GET":
            raise httpx.ReadError("broke off", request=request)
        return httpx.Response(
            200, json={"id": "k", "received": [], "part_bytes": 6, "complete": True}
        )

    file = tmp_path / "a.imscc"
    file.write_bytes(b"x" * 10)
    assert client(broken).send_package("p", file)["complete"]
    assert tries == ["POST", "PUT", "PUT", "PUT", "PUT"]
    with pytest.raises(Unreachable):
        client(broken).fetch_package("p", "k", tmp_path / "b.imscc")
    assert list(tmp_path.iterdir()) == [file]


def test_lists_are_walked_to_their_end_and_read_as_they_are_needed() -> None:
    asked: list[str] = []

    def answer(request: httpx.Request) -> httpx.Response:
        asked.append(str(request.url.params))
        page = int(request.url.params.get("cursor", "0"))
        following = (
            f"https://elsewhere.example/api/v1/shells?cursor={page + 1}&limit=1000"
            if page < 2
            else None
        )
        return httpx.Response(
            200, json={"next": following, "previous": None, "results": [{"id": str(page)}]}
        )

    with client(answer) as venn:
        shells = venn.shells()
        assert next(shells)["id"] == "0"
        assert len(asked) == 1
        assert [shell["id"] for shell in shells] == ["1", "2"]
    assert asked == ["limit=1000", "cursor=1&limit=1000", "cursor=2&limit=1000"]


def job(state: str, **facts: Any) -> dict[str, Any]:
    return {
        "id": "j",
        "kind": "import",
        "state": state,
        "done": 1,
        "total": 4,
        "message": "reading",
        "remedy": "wait",
    } | facts


def test_a_job_is_followed_to_its_end(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("time.sleep", lambda seconds: None)
    states = iter(["queued", "running", "waiting", "done"])
    shown: list[str] = []
    venn = client(lambda request: httpx.Response(200, text=json.dumps(job(next(states)))))
    assert venn.wait(job("queued"), lambda now: shown.append(now["state"]))["state"] == "done"  # type: ignore[arg-type]
    assert shown == ["queued", "running", "waiting", "done"]


def test_a_job_that_fails_or_takes_too_long_is_an_error_with_its_words(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("time.sleep", lambda seconds: None)
    with pytest.raises(Refusal) as caught:
        client(
            lambda request: httpx.Response(200, json=job("failed", message="no cartridge"))
        ).wait(job("queued"))  # type: ignore[arg-type]
    assert (caught.value.code, caught.value.message) == ("job_failed", "no cartridge")
    with pytest.raises(Refusal) as caught:
        client(lambda request: httpx.Response(200, json=job("running"))).wait(
            job("queued"), seconds=-1
        )  # type: ignore[arg-type]
    assert caught.value.code == "job_slow"
