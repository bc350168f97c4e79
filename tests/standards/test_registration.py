"""Dynamic registration documents, substitution variables, and OAuth 1.0 signatures of LTI 1.1."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.launch import Context, Launch, Person, read_launch, write_launch
from vennpair.standards.lti.outcomes import check_body, oauth_header
from vennpair.standards.lti.registration import (
    Configuration,
    Registration,
    read_configuration,
    read_registration,
    write_configuration,
    write_registration,
)
from vennpair.standards.lti.shared_key import launch_fields, sign_launch, verify_launch
from vennpair.standards.lti.variables import history, resolved, substitute
from vennpair.standards.provisioning import read_account, read_features, read_made, read_titles

BASE = "https://campus.example"
OURS = Configuration(
    BASE,
    f"{BASE}/auth",
    f"{BASE}/token",
    f"{BASE}/jwks",
    f"{BASE}/register",
    ("a", "b"),
    "campus",
    "1",
    "urn:tokens",
    variables=("Context.id",),
)
TOOL = Registration(
    "Press",
    f"{BASE}/login",
    (f"{BASE}/launch", f"{BASE}/deep"),
    f"{BASE}/jwks",
    f"{BASE}/launch",
    ("a",),
    {"x": "$Context.id"},
    oneroster={"url": BASE, "token_url": f"{BASE}/t"},
    provisioning=f"{BASE}/p",
)


def test_a_configuration_survives_the_way() -> None:
    read = read_configuration(write_configuration(OURS), f"{BASE}/.well-known/openid-configuration")
    assert read == Configuration(
        **{name: getattr(OURS, name) for name in Configuration.__slots__ if name != "scopes"},
        scopes=("openid", "a", "b"),
    )


@pytest.mark.parametrize(
    "changes",
    [
        {"issuer": "https://other.example"},
        {"issuer": None},
        {"token_endpoint": "token"},
        {"jwks_uri": "http://campus.example/jwks"},
        {"registration_endpoint": ""},
        {"id_token_signing_alg_values_supported": ["HS256"]},
        {"response_types_supported": 5},
        {"issuer": "https://campus.example:port"},
        {"token_endpoint_auth_methods_supported": ["client_secret_post"]},
        {"https://purl.imsglobal.org/spec/lti-platform-configuration": None},
    ],
)
def test_a_configuration_that_cannot_be_trusted_is_refused(changes: dict[str, Any]) -> None:
    with pytest.raises(LtiError) as caught:
        read_configuration(write_configuration(OURS) | changes, f"{BASE}/c")
    assert caught.value.code == "bad_configuration"


def test_a_registration_survives_the_way_and_its_answer_brings_the_client() -> None:
    read = read_registration(write_registration(TOOL))
    assert (
        read.client_name,
        read.redirect_uris,
        read.custom,
        read.oneroster,
        read.provisioning,
    ) == (TOOL.client_name, TOOL.redirect_uris, TOOL.custom, TOOL.oneroster, TOOL.provisioning)
    answer = read_registration(
        write_registration(
            Registration("Press", "", (), "", "", client_id="c1", deployment_id="d1")
        ),
        answered=True,
    )
    assert (answer.client_id, answer.deployment_id) == ("c1", "d1")
    with pytest.raises(LtiError):
        read_registration(write_registration(TOOL), answered=True)


@given(
    st.recursive(
        st.none() | st.booleans() | st.integers() | st.text(),
        lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner),
        max_leaves=8,
    )
)
def test_no_document_breaks_the_readers(document: object) -> None:
    for read in (
        lambda: read_registration(document),
        lambda: read_registration(document, answered=True),
        lambda: read_configuration(document, BASE),
    ):
        with pytest.raises(LtiError):
            read()
    for reader in (read_features, read_titles, read_made, read_account):
        with pytest.raises(ValueError, match=r"\w"):
            reader(
                {"features": document, "titles": document}
                if document not in ([], [{}]) and not isinstance(document, list)
                else None
            )


def test_variables_are_replaced_where_known_and_empty_where_nobody_replaced_them() -> None:
    custom = substitute(
        {"a": "$Context.id", "b": "$Unknown.name", "c": "plain", "d": "costs $5"},
        {"Context.id": "c1"},
    )
    assert custom == {"a": "c1", "b": "$Unknown.name", "c": "plain", "d": "costs $5"}
    assert (resolved(custom, "a"), resolved(custom, "b"), resolved(custom, "none")) == (
        "c1",
        "",
        "",
    )
    assert history({"h": "c2, c1,"}, "h") == ("c2", "c1")
    launch = Launch(
        Person("u"),
        "d",
        BASE,
        "r",
        ("role",),
        Context("c"),
        custom={
            "context_id_history": "old2,old1",
            "resource_link_id_history": "$ResourceLink.id.history",
        },
        platform={"guid": "g"},
    )
    read = read_launch(write_launch(launch))
    assert (read.context_history, read.link_history, read.platform) == (
        ("old2", "old1"),
        (),
        {"guid": "g"},
    )


def signed() -> list[tuple[str, str]]:
    fields = launch_fields(
        {"resource_link_id": "r1", "user_id": "u1", "context_title": "Flüsse & Grundwasser"},
        "Learner",
        {"Item-Id": "i 1"},
    )
    return list(sign_launch("https://press.example/launch?site=1", fields, "key", "secret").items())


def test_a_launch_by_key_is_signed_and_verified() -> None:
    now = int(dict(signed())["oauth_timestamp"])
    facts = verify_launch("https://press.example/launch?site=1", signed(), "secret", now)
    assert (facts["roles"], facts["custom_item_id"], facts["lti_version"]) == (
        "Learner",
        "i 1",
        "LTI-1p0",
    )


@pytest.mark.parametrize(
    ("change", "code"),
    [
        (
            lambda fields: [
                (name, "teacher" if name == "user_id" else value) for name, value in fields
            ],
            "bad_signature",
        ),
        (lambda fields: [*fields, ("user_id", "u2")], "bad_message"),
        (lambda fields: [each for each in fields if each[0] != "oauth_signature"], "bad_signature"),
        (
            lambda fields: [
                (name, "PLAINTEXT" if name == "oauth_signature_method" else value)
                for name, value in fields
            ],
            "bad_signature",
        ),
        (lambda fields: [each for each in fields if each[0] != "oauth_nonce"], "bad_message"),
        (
            lambda fields: [
                (name, "1" if name == "oauth_timestamp" else value) for name, value in fields
            ],
            "expired",
        ),
    ],
)
def test_a_launch_by_key_that_was_changed_is_refused(change: Any, code: str) -> None:
    fields = signed()
    with pytest.raises(LtiError) as caught:
        verify_launch(
            "https://press.example/launch?site=1",
            change(fields),
            "secret",
            int(dict(fields)["oauth_timestamp"]),
        )
    assert caught.value.code == code


def test_an_authorization_header_is_taken_apart_and_the_body_must_fit() -> None:
    assert oauth_header('OAuth realm="x",oauth_consumer_key="a%20b", oauth_nonce="n"') == {
        "realm": "x",
        "oauth_consumer_key": "a b",
        "oauth_nonce": "n",
    }
    for bad in ("Bearer x", "OAuth a", 'OAuth a="1",a="2"'):
        with pytest.raises(LtiError):
            oauth_header(bad)
    with pytest.raises(LtiError) as caught:
        check_body({"oauth_body_hash": "wrong"}, b"body")
    assert caught.value.code == "bad_signature"
