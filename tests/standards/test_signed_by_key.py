"""LTI 1.1 as an independent consumer and provider see it: signatures made and checked here with
nothing but RFC 5849, and outcomes at the edges of what a number is.
"""

from __future__ import annotations

import base64
import hashlib
import hmac
from decimal import Decimal
from urllib.parse import quote, urlsplit

import pytest

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.outcomes import NAMESPACE, check_body, oauth_header, read_outcome
from vennpair.standards.lti.shared_key import (
    launch_fields,
    sign_launch,
    verify_header,
    verify_launch,
)

NOW = 1_800_000_000
ODD = {
    "resource_link_id": "a b+c%20d",
    "resource_link_title": "Größe & Tiefe: 50 % ~ *!'()",
    "context_title": "水文学 / Ríos",
    "ext_d2": "x=1&y=2",
    "ext_empty_looking": " ",
    "user_id": "ü:1",
}


def escaped(text: str) -> str:
    """RFC 5849, 3.6: everything but letters, digits, - . _ ~ is encoded, in upper case."""
    return quote(text, safe="-._~")


def signature(url: str, pairs: list[tuple[str, str]], secret: str) -> str:
    """RFC 5849, 3.4.1 and 3.4.2, from their words."""
    parts = urlsplit(url)
    port = {"http": ":80", "https": ":443"}[parts.scheme]
    host = parts.netloc.lower().removesuffix(port)
    query = [tuple(each.partition("=")[::2]) for each in parts.query.split("&") if each]
    every = sorted((escaped(k), escaped(v)) for k, v in [*pairs, *query])
    joined = "&".join(f"{name}={value}" for name, value in every)
    base = "&".join(
        escaped(each) for each in ("POST", f"{parts.scheme}://{host}{parts.path or '/'}", joined)
    )
    digest = hmac.new(f"{escaped(secret)}&".encode(), base.encode(), hashlib.sha1).digest()
    return base64.b64encode(digest).decode()


@pytest.mark.parametrize(
    "url",
    [
        "https://press.example/launch",
        "https://PRESS.example:443/launch",
        "http://press.example:8080/launch?course=1&empty=",
        "https://press.example",
    ],
)
@pytest.mark.parametrize("secret", ["s3cret", "with & and = and ü"])
def test_what_we_sign_is_what_the_rfc_says(url: str, secret: str) -> None:
    fields = sign_launch(url, launch_fields(ODD, "Learner", {"Item-No.": "7 + 1"}), "key", secret)
    assert fields["custom_item_no_"] == "7 + 1"
    signed = [(name, value) for name, value in fields.items() if name != "oauth_signature"]
    assert fields["oauth_signature"] == signature(url, signed, secret)


@pytest.mark.parametrize("url", ["https://pair.example/x?a=1&b=", "https://pair.example:443/x"])
def test_what_others_sign_by_the_rfc_is_taken_and_nothing_else(url: str) -> None:
    fields = [
        *ODD.items(),
        ("oauth_consumer_key", "key"),
        ("oauth_signature_method", "HMAC-SHA1"),
        ("oauth_timestamp", str(NOW)),
        ("oauth_nonce", "n1"),
        ("oauth_version", "1.0"),
        ("ext_params", ""),
    ]
    given = signature(url, fields, "s")
    assert verify_launch(url, [*fields, ("oauth_signature", given)], "s", NOW)["user_id"] == "ü:1"
    for name, _ in fields:
        if name.startswith("oauth_version"):
            continue
        changed = [(k, v + "x" if k == name else v) for k, v in fields]
        with pytest.raises(LtiError):
            verify_launch(url, [*changed, ("oauth_signature", given)], "s", NOW)


def test_an_outcome_is_signed_with_its_body_s_hash() -> None:
    url, body = "https://pair.example/outcomes", b"<x/>"
    pairs = [
        ("oauth_body_hash", base64.b64encode(hashlib.sha1(body).digest()).decode()),  # noqa: S324 - the standard fixes it
        ("oauth_consumer_key", "k e+y"),
        ("oauth_nonce", "n"),
        ("oauth_signature_method", "HMAC-SHA1"),
        ("oauth_timestamp", str(NOW)),
        ("oauth_version", "1.0"),
    ]
    whole = [*pairs, ("oauth_signature", signature(url, pairs, "s")), ("realm", "x, y")]
    header = "OAuth " + ", ".join(f'{name}="{escaped(value)}"' for name, value in whole)
    read = oauth_header(header)
    assert read["oauth_consumer_key"] == "k e+y"
    check_body(read, body)
    verify_header(url, read, "s", NOW)
    with pytest.raises(LtiError):
        check_body(read, body + b" ")
    with pytest.raises(LtiError):
        verify_header(url, read, "t", NOW)


def envelope(operation: str, inner: str = "", extra: str = "") -> bytes:
    return (
        f'<imsx_POXEnvelopeRequest xmlns="{NAMESPACE}"><imsx_POXHeader>'
        "<imsx_POXRequestHeaderInfo><imsx_version>V1.0</imsx_version>"
        "<imsx_messageIdentifier> 7 </imsx_messageIdentifier></imsx_POXRequestHeaderInfo>"
        f"</imsx_POXHeader><imsx_POXBody><{operation}Request>{extra}<resultRecord><sourcedGUID>"
        f"<sourcedId>\n r-1 </sourcedId></sourcedGUID>{inner}</resultRecord></{operation}Request>"
        "</imsx_POXBody></imsx_POXEnvelopeRequest>"
    ).encode()


def result(text: str) -> str:
    return (
        "<result><ext_submission xmlns='urn:other'>later</ext_submission><resultScore>"
        f"<language>en-us</language><textString>{text}</textString></resultScore></result>"
    )


@pytest.mark.parametrize(
    ("text", "share"),
    [
        ("0", "0"),
        ("1", "1"),
        ("1.0000", "1"),
        ("0.92", "0.92"),
        (".5", "0.5"),
        (" 0.5\n", "0.5"),
        ("0.30000000000000004", "0.30000000000000004"),
        ("5e-1", "0.5"),
        ("1.01", None),
        ("-0.1", None),
        ("0,5", None),
        ("٠.٥", None),
        ("NaN", None),
        ("", None),
        ("1e999999999", None),
    ],
)
def test_a_share_is_a_decimal_from_0_to_1_and_nothing_else(text: str, share: str | None) -> None:
    body = envelope("replaceResult", result(text))
    if share is None:
        with pytest.raises(LtiError) as caught:
            read_outcome(body)
        assert caught.value.code == "bad_outcome"
    else:
        assert read_outcome(body).score == Decimal(share)


@pytest.mark.parametrize("operation", ["readResult", "deleteResult"])
def test_reading_and_deleting_need_no_score_and_extensions_do_no_harm(operation: str) -> None:
    read = read_outcome(envelope(operation, extra="<ext xmlns='urn:other'/>"))
    assert (read.operation, read.message_id, read.sourced_id, read.score) == (
        operation,
        "7",
        "r-1",
        None,
    )
