"""LTI codecs: tokens taken apart with every check, messages there and back, grades and rosters."""

from __future__ import annotations

from datetime import UTC, datetime
from decimal import Decimal
from typing import Any

import pytest
from joserfc import jwt as jose
from joserfc.jwk import OctKey

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import (
    LineItem,
    Score,
    next_page,
    read_line_item,
    read_result,
    read_score,
    write_line_item,
    write_score,
)
from vennpair.standards.lti.jwt import sign, verify
from vennpair.standards.lti.keys import new_private_pem, private_key, public_jwks, read_jwks
from vennpair.standards.lti.launch import (
    Context,
    GradeEndpoint,
    Launch,
    OutlineEndpoint,
    Person,
    read_launch,
    write_launch,
)
from vennpair.standards.lti.members import Member, read_members, write_members
from vennpair.standards.lti.oidc import authentication_url, read_authentication, read_login
from vennpair.standards.lti.tokens import asserted_client, token_request, verify_assertion

NOW = 1_800_000_000
KEY = private_key(*new_private_pem())
OTHER = private_key(*new_private_pem())
KEYS = read_jwks(public_jwks([KEY]))
CLAIMS = {"iss": "https://campus.example", "aud": "us", "iat": NOW, "exp": NOW + 300, "nonce": "n"}


def _verify(token: str, now: int = NOW) -> dict[str, Any]:
    return verify(token, KEYS, issuer="https://campus.example", audience="us", now=now)


def test_a_good_token_is_accepted_within_the_skew() -> None:
    assert _verify(sign(CLAIMS, KEY))["nonce"] == "n"
    assert _verify(sign(CLAIMS, KEY), NOW + 359)
    assert _verify(sign(CLAIMS, KEY), NOW - 60)
    assert _verify(sign(CLAIMS | {"aud": ["them", "us"], "azp": "us"}, KEY))


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"iss": "https://other.example"}, "wrong_issuer"),
        ({"aud": "them"}, "wrong_audience"),
        ({"aud": ["us", "them"]}, "wrong_audience"),
        ({"aud": ["us", "them"], "azp": "them"}, "wrong_audience"),
        ({"exp": NOW - 61}, "expired"),
        ({"iat": NOW + 61}, "not_yet"),
        ({"exp": None}, "bad_token"),
        ({"exp": "soon"}, "bad_token"),
        ({"iat": True}, "bad_token"),
    ],
)
def test_wrong_claims_are_refused(change: dict[str, Any], code: str) -> None:
    with pytest.raises(LtiError) as caught:
        _verify(sign(CLAIMS | change, KEY))
    assert caught.value.code == code


def test_wrong_signatures_are_refused() -> None:
    header = {"alg": "RS256", "kid": KEY.kid}
    forged = jose.encode(header, CLAIMS, OTHER)
    whole = sign(CLAIMS, KEY)
    symmetric = jose.encode({"alg": "HS256", "kid": KEY.kid}, CLAIMS, OctKey.import_key("a" * 64))
    unsigned = whole.split(".")[1]
    for token, code in (
        (forged, "bad_signature"),
        (whole[:-6] + "AAAAAA", "bad_signature"),
        (sign(CLAIMS, OTHER), "unknown_key"),
        (symmetric, "bad_algorithm"),
        (f"eyJhbGciOiJub25lIn0.{unsigned}.", "bad_algorithm"),
        ("not a token", "bad_token"),
        ("a.b.c", "bad_token"),
        ("x" * 70_000, "bad_token"),
    ):
        with pytest.raises(LtiError) as caught:
            _verify(token)
        assert caught.value.code == code


def test_a_key_set_without_usable_keys_is_an_error() -> None:
    for document in (
        {},
        {"keys": []},
        {"keys": [{"kty": "EC"}]},
        {"keys": [{"kty": "RSA", "use": "enc"}]},
    ):
        with pytest.raises(ValueError, match="key"):
            read_jwks(document)


def test_a_launch_survives_the_way_there_and_back() -> None:
    launch = Launch(
        Person("u1", "Odile Föhrde", "Odile", "Föhrde", "odile@t.example"),
        "d1",
        "https://pair.example/lti/launch",
        "link-1",
        (v.LEARNER,),
        Context("c1", "Rivers", "HYD 210"),
        "Quiz",
        {"placement": "p1"},
        GradeEndpoint((v.SCOPE_SCORE,), "https://x.example/items", "https://x.example/items/1"),
        "https://x.example/members",
        OutlineEndpoint((v.SCOPE_OUTLINE,), "https://x.example/outline"),
        "https://x.example/back",
    )
    assert read_launch(write_launch(launch)) == launch


@pytest.mark.parametrize(
    "missing",
    [
        "sub",
        v.MESSAGE_TYPE,
        v.VERSION,
        v.DEPLOYMENT_ID,
        v.TARGET_LINK_URI,
        v.RESOURCE_LINK,
        v.ROLES,
    ],
)
def test_a_launch_without_a_required_claim_is_refused(missing: str) -> None:
    claims = write_launch(Launch(Person("u1"), "d1", "https://pair.example/", "link-1"))
    del claims[missing]
    with pytest.raises(LtiError, match=r"."):
        read_launch(claims)


def test_login_and_authentication_requests() -> None:
    login = {
        "iss": "https://campus.example",
        "login_hint": "u1",
        "target_link_uri": "https://pair.example/",
    }
    assert read_login(login).iss == "https://campus.example"
    for change in ({"iss": ""}, {"login_hint": "x" * 5000}):
        with pytest.raises(LtiError):
            read_login(login | change)
    good = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
        "client_id": "c",
        "redirect_uri": "r",
        "login_hint": "u1",
        "state": "s",
        "nonce": "n",
    }
    request = read_authentication(good)
    assert authentication_url("https://campus.example/auth?tenant=1", request).startswith(
        "https://campus.example/auth?tenant=1&scope=openid"
    )
    for change in ({"response_type": "code"}, {"prompt": "login"}, {"nonce": ""}):
        with pytest.raises(LtiError):
            read_authentication(good | change)


def test_a_client_assertion_is_checked_and_lives_an_hour_at_most() -> None:
    url = "https://campus.example/token"
    form = token_request("client", url, ["a", "b"], KEY, now=NOW, token_id="once")
    assert asserted_client(form) == "client"
    assert verify_assertion(form, KEYS, client_id="client", token_url=url, now=NOW) == (
        "once",
        ["a", "b"],
    )
    long_lived = form | {
        "client_assertion": sign(
            {
                "iss": "client",
                "sub": "client",
                "aud": url,
                "iat": NOW,
                "exp": NOW + 7200,
                "jti": "x",
            },
            KEY,
        )
    }
    elsewhere = token_request(
        "client", "https://other.example/token", ["a"], KEY, now=NOW, token_id="x"
    )
    for bad in (long_lived, elsewhere):
        with pytest.raises(LtiError) as caught:
            verify_assertion(bad, KEYS, client_id="client", token_url=url, now=NOW)
        assert caught.value.code == "invalid_client"


def test_grades_there_and_back() -> None:
    item = LineItem("Quiz", Decimal("12.5"), resource_id="p1", end="2027-03-12T23:59:00-06:00")
    assert read_line_item(write_line_item(item)) == item
    score = Score("u1", datetime(2027, 3, 3, 20, 2, 1, 250, UTC), Decimal("7.5"), Decimal(10))
    assert read_score(write_score(score)) == score
    assert "scoreGiven" not in write_score(Score("u1", score.timestamp, None, None))
    assert read_result({"userId": "u1", "resultScore": 0.83}).maximum == 1


@pytest.mark.parametrize(
    "change",
    [
        {"userId": ""},
        {"timestamp": "2027-03-03T20:02:01"},
        {"timestamp": "yesterday"},
        {"scoreGiven": -1},
        {"scoreGiven": 5, "scoreMaximum": 0},
        {"scoreGiven": "NaN"},
        {"activityProgress": "Done"},
        {"gradingProgress": None},
    ],
)
def test_a_score_that_breaks_the_standard_is_refused(change: dict[str, Any]) -> None:
    document = write_score(Score("u1", datetime(2027, 3, 3, tzinfo=UTC), Decimal(7), Decimal(10)))
    with pytest.raises(LtiError) as caught:
        read_score(document | change)
    assert caught.value.code == "bad_score"


def test_members_and_paging() -> None:
    members = [
        Member("u1", (v.LEARNER,), "Ada Brook", "Ada", "Brook", "ada@t.example", "T1"),
        Member("u2", (v.INSTRUCTOR,), active=False),
    ]
    assert read_members(write_members("https://x.example", {"id": "c1"}, members)) == members
    assert read_members({"members": [{"user_id": 5, "roles": ["Learner"]}]})[0].roles == (
        v.LEARNER,
    )
    assert (
        next_page('<https://x.example/?p=1>; rel="prev", <https://x.example/?p=3>; rel="next"')
        == "https://x.example/?p=3"
    )
    assert next_page("") == next_page('<https://x.example/?p=1>; rel="prev"') == ""
