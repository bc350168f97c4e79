"""Signing in at the college's own provider, and with a code beside the password."""

from __future__ import annotations

import base64
import hashlib
import json
import os
import time
import uuid
from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import parse_qs, urlencode, urlsplit

import cbor2
import httpx
import pyotp
import pytest
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from tools.world.actors import CommandLine
from tools.world.world import ADMINISTRATOR, PASSWORD, World

from tests.service.strict_site import Answer, Site
from vennpair.client import NotAllowed, Refusal, VennPair

CLIENT, SECRET = "venn pair & co", "s3cret: with %"


class Provider(Site):
    """An OpenID provider that lets in whoever ``person`` is; ``twist`` changes what its ID token
    says.
    """

    def __init__(self) -> None:
        super().__init__()
        self.person: dict[str, Any] = {}
        self.changed: dict[str, Any] = {}
        self.codes: dict[str, dict[str, str]] = {}

    def routes(self) -> Any:
        return {
            ("GET", "/.well-known/openid-configuration"): self.describe,
            ("GET", "/authorize"): self.authorize,
            ("POST", "/token"): self.token,
            ("GET", "/jwks"): self.jwks,
        }

    def describe(self, *_: Any) -> Answer:
        names = {"authorization": "authorize", "token": "token"}
        addresses = {f"{name}_endpoint": f"{self.url}/{path}" for name, path in names.items()}
        return 200, {}, {"issuer": self.url, "jwks_uri": f"{self.url}/jwks"} | addresses

    def authorize(self, query: dict[str, list[str]], *_: Any) -> Answer:
        asked = {name: values[0] for name, values in query.items()}
        self.check(asked["response_type"] == "code", "another flow")
        self.check("openid" in asked["scope"].split(), "no scope openid")
        self.check(asked["code_challenge_method"] == "S256", "no PKCE")
        self.check(asked["client_id"] == CLIENT, "another client")
        code = uuid.uuid4().hex
        self.codes[code] = asked
        back = f"{asked['redirect_uri']}?{urlencode({'code': code, 'state': asked['state']})}"
        return 302, {"Location": back}, ""

    def token(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        form = {name: values[0] for name, values in parse_qs(body.decode()).items()}
        basic = base64.b64decode(headers["authorization"].removeprefix("Basic ")).decode()
        self.check(basic == "venn%20pair%20%26%20co:s3cret%3A%20with%20%25", "a wrong client")
        asked = self.codes.pop(form["code"], None)
        if asked is None:
            return 400, {}, {"error": "invalid_grant"}
        digest = hashlib.sha256(form["code_verifier"].encode()).digest()
        proof = base64.urlsafe_b64encode(digest).rstrip(b"=").decode()
        self.check(proof == asked["code_challenge"], "a wrong verifier")
        self.check(form["redirect_uri"] == asked["redirect_uri"], "another way back")
        now = int(time.time())
        claims = {
            "iss": self.url,
            "aud": CLIENT,
            "iat": now,
            "exp": now + 300,
            "nonce": asked["nonce"],
        }
        token = self.sign(claims | self.person | self.changed)
        return 200, {}, {"id_token": token, "access_token": "a", "token_type": "Bearer"}


@pytest.fixture(scope="module")
def provider(world: World) -> Iterator[Provider]:
    made = Provider()
    with world.administrator() as admin:
        shown = admin.set_college_sign_in(made.url, CLIENT, SECRET)
        assert (shown["issuer"], shown["active"]) == (made.url, True)
        yield made
        admin.remove_college_sign_in()
        assert admin.college_sign_in()["issuer"] == ""
    assert made.complaints == []
    made.close()


def way(world: World) -> str:
    (found,) = httpx.get(f"{world.url('vennpair')}/api/v1/sign-in/ways").json()
    return f"{world.url('vennpair')}{found['address']}"


def come(world: World, browser: httpx.Client) -> httpx.Response:
    return browser.get(way(world), follow_redirects=True)


def me(world: World, browser: httpx.Client) -> dict[str, Any]:
    return dict(browser.get(f"{world.url('vennpair')}/api/v1/me").json())


@pytest.fixture
def browser() -> Iterator[httpx.Client]:
    with httpx.Client(timeout=30) as made:
        yield made


def test_an_administrator_comes_in_by_the_address_that_the_college_vouches_for(
    world: World, provider: Provider, browser: httpx.Client
) -> None:
    provider.person = {"sub": "p-1", "email": ADMINISTRATOR.upper(), "email_verified": True}
    assert come(world, browser).status_code == 200
    assert (me(world, browser)["username"], me(world, browser)["administrator"]) == (
        ADMINISTRATOR,
        True,
    )
    provider.person = {"sub": "p-1", "email": "renamed@tarnfield.example"}
    with httpx.Client(timeout=30) as other:  # who somebody is, the subject says from then on
        come(world, other)
        assert me(world, other)["username"] == ADMINISTRATOR
    provider.person = {"sub": "p-2", "email": ADMINISTRATOR, "email_verified": False}
    with httpx.Client(timeout=30) as other:  # nobody vouches for this one
        come(world, other)
        assert me(world, other)["administrator"] is False
        assert other.get(f"{world.url('vennpair')}/api/v1/shells").json()["results"] == []
        assert other.get(f"{world.url('vennpair')}/api/v1/people").status_code == 403
    with world.administrator() as admin:
        stranger = next(row for row in admin.people() if row["username"].startswith("college-"))
        admin.block_person(stranger["id"])
        assert next(admin.audit(verb="sign_in.college"))["sentence"].endswith(provider.url + ".")
    with httpx.Client(timeout=30) as other:
        assert come(world, other).status_code == 403


@pytest.mark.parametrize(
    "changed",
    [
        {"nonce": "another"},
        {"aud": "somebody else"},
        {"iss": "https://other.example"},
        {"exp": 1_000_000},
        {"sub": ""},
        {"sub": ["p-1"]},
        {"sub": "x" * 300},
    ],
)
def test_a_token_that_is_not_meant_so_lets_nobody_in(
    world: World, provider: Provider, browser: httpx.Client, changed: dict[str, Any]
) -> None:
    provider.person = {"sub": "p-1"}
    provider.changed = changed
    try:
        assert come(world, browser).status_code == 502
    finally:
        provider.changed = {}
    assert browser.get(f"{world.url('vennpair')}/api/v1/me").status_code == 401


def test_a_sign_in_belongs_to_the_browser_that_began_it(
    world: World, provider: Provider, browser: httpx.Client
) -> None:
    provider.person = {"sub": "p-1"}
    begun = browser.get(way(world))
    back = httpx.get(begun.headers["location"]).headers["location"]
    with httpx.Client(timeout=30) as other:
        assert other.get(back).status_code == 400
        other.get(way(world))  # its own, with another state
        assert other.get(back).status_code == 400
    forged = f"{urlsplit(back)._replace(query='').geturl()}?state=x&code=y"
    assert browser.get(forged).status_code == 400
    assert browser.get(back).status_code == 302
    assert browser.get(back).status_code == 400, "the cookie is gone with it"


def test_a_provider_that_does_not_answer_is_not_set_up(world: World, provider: Provider) -> None:
    with world.administrator() as admin:
        for issuer in ("http://127.0.0.1:9/nobody", f"{provider.url}/other"):
            with pytest.raises(Refusal):
                admin.set_college_sign_in(issuer, CLIENT, SECRET)
        assert admin.college_sign_in()["issuer"] == provider.url


def test_the_command_line_sets_it_up_and_never_shows_the_secret(
    world: World, provider: Provider, admin_line: CommandLine
) -> None:
    shown = admin_line("college-sign-in")
    assert provider.url in shown.out
    assert SECRET not in shown.out
    assert admin_line.json("college-sign-in", "--off")["active"] is False
    assert httpx.get(f"{world.url('vennpair')}/api/v1/sign-in/ways").json() == []
    assert admin_line.json("college-sign-in", "--issuer", provider.url)["active"] is True


@pytest.fixture
def admin_line(world: World) -> CommandLine:
    line = CommandLine(world, "college-admin")
    words = ("sign-in", "--service", world.url("vennpair"), "--user", ADMINISTRATOR)
    assert line(*words, "--password-stdin", given=f"{PASSWORD}\n").status == 0
    return line


class Passkey:
    """An authenticator made of software: one key, as a browser gives its answers (Web
    Authentication Level 2, 5.2, 6.5.1).
    """

    def __init__(self, origin: str) -> None:
        self.origin, self.uses = origin, 0
        self.id, self.key = os.urandom(32), ec.generate_private_key(ec.SECP256R1())

    def made(self, options: dict[str, Any]) -> dict[str, Any]:
        point = self.key.public_key().public_numbers()
        cose = {1: 2, 3: -7, -1: 1, -2: point.x.to_bytes(32), -3: point.y.to_bytes(32)}
        about = bytes(16) + len(self.id).to_bytes(2) + self.id + cbor2.dumps(cose)
        data = self._data(options["rp"]["id"], 0x41) + about
        said = {"attestationObject": {"fmt": "none", "attStmt": {}, "authData": data}}
        return self._answer("webauthn.create", options, said)

    def used(self, options: dict[str, Any]) -> dict[str, Any]:
        self.uses += 1
        data = self._data(options["rpId"], 0x01)
        return self._answer("webauthn.get", options, {"authenticatorData": data})

    def _data(self, host: str, flags: int) -> bytes:
        return hashlib.sha256(host.encode()).digest() + bytes([flags]) + self.uses.to_bytes(4)

    def _answer(self, kind: str, options: dict[str, Any], said: dict[str, Any]) -> dict[str, Any]:
        client = json.dumps(
            {"type": kind, "challenge": options["challenge"], "origin": self.origin}
        ).encode()
        if kind == "webauthn.get":
            over = said["authenticatorData"] + hashlib.sha256(client).digest()
            said["signature"] = self.key.sign(over, ec.ECDSA(hashes.SHA256()))
        else:
            said["attestationObject"] = cbor2.dumps(said["attestationObject"])
        parts = {name: _coded(value) for name, value in (said | {"clientDataJSON": client}).items()}
        name = _coded(self.id)
        return {"id": name, "rawId": name, "type": "public-key", "response": parts}


def _coded(value: bytes) -> str:
    return base64.urlsafe_b64encode(value).rstrip(b"=").decode()


@pytest.fixture
def own(world: World, browser: httpx.Client) -> Callable[..., httpx.Response]:
    """Sign in as the administrator, as the console does; return how to ask for the factor."""
    base = f"{world.url('vennpair')}/api/v1"
    asked = {"username": ADMINISTRATOR, "password": PASSWORD, "session": True}
    assert browser.post(f"{base}/sign-in", json=asked).status_code == 200
    browser.get(f"{world.url('vennpair')}/access")

    def ask(method: str, path: str = "second-factor", **body: Any) -> httpx.Response:
        token = browser.cookies.get("vennpair_csrf", "")
        headers = {"X-CSRFToken": token}
        return browser.request(method, f"{base}/me/{path}", json=body, headers=headers)

    return ask


def test_a_code_beside_the_password_is_asked_for_everywhere_and_each_is_good_once(
    world: World, own: Callable[..., httpx.Response]
) -> None:
    made = own("POST").json()
    assert made["picture"].startswith("<svg")
    totp = pyotp.TOTP(made["key"])
    assert own("PUT", code="000000").status_code == 422
    with VennPair(world.url("vennpair")) as stranger:
        assert stranger.sign_in(ADMINISTRATOR, PASSWORD)["token"], "nothing counts unconfirmed"
        recovery = own("PUT", code=totp.now()).json()["recovery"]
        assert len(set(recovery)) == 8
        for code, told in (
            ("", "code_needed"),
            ("000000", "wrong_code"),
            (totp.now(), "wrong_code"),
        ):
            with pytest.raises(NotAllowed) as caught:
                stranger.sign_in(ADMINISTRATOR, PASSWORD, code)
            assert caught.value.code == told
        assert stranger.sign_in(ADMINISTRATOR, PASSWORD, recovery[0])["token"]
        with pytest.raises(NotAllowed):
            stranger.sign_in(ADMINISTRATOR, PASSWORD, recovery[0])
        later = totp.at(time.time() + 30)
        token = stranger.sign_in(ADMINISTRATOR, PASSWORD, later)["token"]
    with VennPair(world.url("vennpair"), token) as admin:
        assert admin.me()["second_factor"] is True
        refused = admin._http.post("/me/second-factor")
        assert (refused.status_code, refused.json()["code"]) == (403, "not_allowed")
        person = next(row for row in admin.people() if row["username"] == ADMINISTRATOR)
        assert person["second_factor"] is True
        assert admin.forget_second_factor(person["id"])["second_factor"] is False
        assert next(admin.audit(verb="second_factor.off"))["who"] == ADMINISTRATOR
    assert own("DELETE", code=recovery[1]).status_code == 422, "nothing is on any more"
    totp = pyotp.TOTP(own("POST").json()["key"])
    assert own("PUT", code=totp.now()).status_code == 200
    assert own("DELETE", code=totp.at(time.time() + 30)).status_code == 204


def test_a_passkey_beside_the_password_is_asked_for_and_what_is_replayed_is_refused(
    world: World, own: Callable[..., httpx.Response]
) -> None:
    service = world.url("vennpair")
    first, second = Passkey(service), Passkey(service)
    asked = {"username": ADMINISTRATOR, "password": PASSWORD, "session": True}

    def sign_in(passkey: Any = None) -> httpx.Response:
        body = asked | ({} if passkey is None else {"passkey": passkey})
        return httpx.post(f"{service}/api/v1/sign-in", json=body, timeout=30)

    assert own("POST", "passkeys/options-to-prove").json()["code"] == "no_passkey"
    options = own("POST", "passkeys/options-to-add").json()["options"]
    made = first.made(options)
    elsewhere = Passkey("https://elsewhere.example").made(options)
    assert own("POST", "passkeys", name="Phone", passkey=elsewhere).status_code == 422
    assert own("POST", "passkeys", name="Phone", passkey=made).status_code == 422, "one try each"
    made = first.made(own("POST", "passkeys/options-to-add").json()["options"])
    added = own("POST", "passkeys", name="Phone", passkey=made)
    assert (added.status_code, len(added.json()["recovery"])) == (201, 8)
    with VennPair(service) as stranger:
        token = stranger.sign_in(ADMINISTRATOR, PASSWORD, added.json()["recovery"][0])["token"]
    try:
        told = sign_in().json()
        assert told["code"] == "code_needed"
        assert "passkey" in told["remedy"]
        used = first.used(told["passkey"])
        assert sign_in(used).status_code == 200
        assert sign_in(used).json()["code"] == "wrong_code", "a challenge is answered once"
        other = second.used(sign_in().json()["passkey"])
        assert sign_in(other).json()["code"] == "wrong_code"
        first.uses = 0  # a copy of the key that lags behind it
        copied = first.used(sign_in().json()["passkey"])
        assert sign_in(copied).json()["code"] == "wrong_code"
        first.uses = 1
        for odd in (
            {"x": 1},
            used | {"response": 7},
            used | {"response": {"clientDataJSON": "e30"}},
        ):
            assert sign_in(odd).json()["code"] == "wrong_code"
            assert sign_in(first.used(sign_in().json()["passkey"])).status_code == 200

        assert own("POST", "passkeys/options-to-add").status_code == 422, "a session is not a proof"
        proof = first.used(own("POST", "passkeys/options-to-prove").json()["options"])
        options = own("POST", "passkeys/options-to-add", passkey=proof).json()["options"]
        added = own("POST", "passkeys", name="Key", passkey=second.made(options))
        assert added.json()["recovery"] == [], "the first ones stay good"
        names = [row["name"] for row in own("GET", "passkeys").json()]
        assert names == ["Phone", "Key"]
        proof = second.used(own("POST", "passkeys/options-to-prove").json()["options"])
        phone, key = (row["id"] for row in own("GET", "passkeys").json())
        assert own("DELETE", f"passkeys/{phone}", passkey=proof).status_code == 204
        assert own("DELETE", f"passkeys/{key}").status_code == 422
        proof = second.used(own("POST", "passkeys/options-to-prove").json()["options"])
        assert own("DELETE", f"passkeys/{key}", passkey=proof).status_code == 204
        assert sign_in().status_code == 200, "with none left, the password alone signs in"
    finally:
        with VennPair(service, token) as admin:
            person = next(row for row in admin.people() if row["username"] == ADMINISTRATOR)
            admin.forget_second_factor(person["id"])
