"""A publisher's tool written from the standards alone: it shares no code with ours and excuses
nothing.
"""

from __future__ import annotations

import time
import uuid
from typing import Any
from urllib.parse import parse_qs, urlencode, urlsplit

import httpx

from tests.service.strict_site import LTI, RESULT, SCORE, Answer, Site


class StrictTool(Site):
    """A publisher's tool with a OneRoster server of one class: registers itself, is launched,
    checks every claim.
    """

    def __init__(self, name: str = "Strict Publishing", edition: str = "strict") -> None:
        super().__init__()
        self.name, self.edition = name, edition
        self.platform: dict[str, Any] = {}
        self.client = ""
        self.begun: dict[str, str] = {}
        self.launched: list[dict[str, Any]] = []

    def routes(self) -> Any:
        roster = "/ims/oneroster/rostering/v1p2"
        return {
            ("GET", "/start"): self.start,
            ("GET", "/jwks"): self.jwks,
            ("GET", "/login"): self.login,
            ("POST", "/launch"): self.launch,
            ("POST", "/oauth/token"): self.grant,
            ("GET", f"{roster}/classes"): self.classes,
            ("GET", "/ims/oneroster/gradebook/v1p2/classes/c-1/lineItems"): self.line_items,
            ("GET", "/ims/oneroster/gradebook/v1p2/classes/c-1/categories"): lambda *_: (
                200,
                {},
                {"categories": []},
            ),
            ("GET", f"{roster}/classes/c-1/students"): lambda *_: (200, {}, {"users": []}),
            ("GET", f"{roster}/classes/c-1/teachers"): lambda *_: (200, {}, {"users": []}),
        }

    def start(self, query: dict[str, list[str]], headers: dict[str, str], body: bytes) -> Answer:
        where, token = query["openid_configuration"][0], query["registration_token"][0]
        found = httpx.get(where).raise_for_status().json()
        about = found["https://purl.imsglobal.org/spec/lti-platform-configuration"]
        self.check(
            urlsplit(found["issuer"]).netloc == urlsplit(where).netloc,
            "configuration: issuer on another host",
        )
        self.check(
            "RS256" in found["id_token_signing_alg_values_supported"]
            and "private_key_jwt" in found["token_endpoint_auth_methods_supported"],
            "configuration: algorithms",
        )
        self.check(
            {"openid", SCORE} <= set(found["scopes_supported"])
            and found["response_types_supported"] == ["id_token"],
            "configuration: scopes or responses",
        )
        self.check(
            {"type": "LtiResourceLinkRequest"} in about["messages_supported"]
            and bool(about["product_family_code"])
            and bool(about["version"]),
            "configuration: LTI's part",
        )
        asked = {
            "application_type": "web",
            "response_types": ["id_token"],
            "grant_types": ["client_credentials", "implicit"],
            "initiate_login_uri": f"{self.url}/login",
            "redirect_uris": [f"{self.url}/launch"],
            "client_name": self.name,
            "jwks_uri": f"{self.url}/jwks",
            "token_endpoint_auth_method": "private_key_jwt",
            "scope": f"{SCORE} {RESULT}",
            "https://purl.imsglobal.org/spec/lti-tool-configuration": {
                "domain": urlsplit(self.url).netloc,
                "target_link_uri": f"{self.url}/launch",
                "claims": ["iss", "sub"],
                "messages": self.messages(),
            },
        }
        answer = httpx.post(
            found["registration_endpoint"], json=asked, headers={"Authorization": f"Bearer {token}"}
        )
        if answer.is_error:
            return 502, {}, answer.json()
        made = self.answered_with = answer.json()
        self.check(
            answer.headers["content-type"].startswith("application/json")
            and bool(made["client_id"]),
            "registration answer",
        )
        self.check(
            made["redirect_uris"] == asked["redirect_uris"]
            and set(made["scope"].split()) == {SCORE, RESULT},
            "registration answer: what was registered",
        )
        self.platform, self.client = found, made["client_id"]
        self.deployment = made["https://purl.imsglobal.org/spec/lti-tool-configuration"][
            "deployment_id"
        ]
        return 200, {"Content-Type": "text/html"}, "<p>registered</p>"

    def messages(self) -> list[dict[str, Any]]:
        """Return the messages that are registered for."""
        return [{"type": "LtiResourceLinkRequest"}]

    def login(self, query: dict[str, list[str]], headers: dict[str, str], body: bytes) -> Answer:
        self.check(all(len(values) == 1 for values in query.values()), "login: a parameter twice")
        given = {name: values[0] for name, values in query.items()}
        self.check(
            given["iss"] == self.platform["issuer"]
            and given["client_id"] == self.client
            and given["target_link_uri"] == f"{self.url}/launch",
            f"login: {given}",
        )
        state, nonce = uuid.uuid4().hex, uuid.uuid4().hex
        self.begun[state] = nonce
        fields = {
            "scope": "openid",
            "response_type": "id_token",
            "response_mode": "form_post",
            "prompt": "none",
            "client_id": self.client,
            "redirect_uri": f"{self.url}/launch",
            "state": state,
            "nonce": nonce,
            "login_hint": given["login_hint"],
            "lti_message_hint": given["lti_message_hint"],
        }
        return (
            302,
            {"Location": f"{self.platform['authorization_endpoint']}?{urlencode(fields)}"},
            "",
        )

    def launch(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        form = {name: values[0] for name, values in parse_qs(body.decode()).items()}
        nonce = self.begun.pop(form["state"], "")
        claims, now = self.read(form["id_token"], self.platform["jwks_uri"]), time.time()
        self.check(
            claims["iss"] == self.platform["issuer"]
            and claims["aud"] == self.client
            and claims.get("azp", self.client) == self.client,
            "message: parties",
        )
        self.check(
            claims["nonce"] == nonce
            and claims["iat"] <= now + 5
            and now < claims["exp"] <= now + 3600,
            "message: nonce or times",
        )
        self.check(0 < len(claims["sub"]) <= 255 and claims["sub"].isascii(), "message: subject")
        self.check(
            claims[f"{LTI}message_type"] == "LtiResourceLinkRequest"
            and claims[f"{LTI}version"] == "1.3.0",
            "message: kind",
        )
        self.check(
            claims[f"{LTI}deployment_id"] == self.deployment
            and claims[f"{LTI}target_link_uri"] == f"{self.url}/launch",
            "message: deployment or target",
        )
        self.check(
            0 < len(claims[f"{LTI}resource_link"]["id"]) <= 255 and bool(claims[f"{LTI}roles"]),
            "message: link or roles",
        )
        self.check(
            all(
                role.startswith("http://purl.imsglobal.org/vocab/lis/v2/")
                for role in claims[f"{LTI}roles"]
            ),
            "message: roles are no URIs",
        )
        self.check(
            isinstance(claims[f"{LTI}context"]["type"], list)
            and bool(claims[f"{LTI}context"]["id"]),
            "message: context",
        )
        self.check(
            bool(claims[f"{LTI}tool_platform"]["guid"]), "message: tool_platform without guid"
        )
        self.check(
            all(isinstance(value, str) for value in claims.get(f"{LTI}custom", {}).values()),
            "message: custom values that are no text",
        )
        self.check(
            claims.get(f"{LTI}launch_presentation", {}).get("document_target", "window")
            in {"frame", "iframe", "window"},
            "message: document target",
        )
        self.launched.append(claims)
        return 200, {"Content-Type": "text/html"}, "<h1>Strict Publishing</h1>"

    def grant(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self.check(
            headers.get("authorization", "").startswith("Basic "),
            "OneRoster token: client authentication",
        )
        value = uuid.uuid4().hex
        self.tokens[value] = set(parse_qs(body.decode())["scope"][0].split())
        return 200, {}, {"access_token": value, "token_type": "Bearer", "expires_in": 600}

    def classes(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self.check(
            headers.get("authorization", "").removeprefix("Bearer ") in self.tokens,
            "OneRoster: token",
        )
        fields = {
            "sourcedId": "c-1",
            "status": "active",
            "dateLastModified": "2027-01-04T09:00:00Z",
            "title": f"Rivers and Groundwater, {self.edition} ed.",
            "classCode": "HYD 210-77",
            "classType": "scheduled",
        }
        return 200, {"X-Total-Count": "1"}, {"classes": [fields]}

    def line_items(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self.check(
            headers.get("authorization", "").removeprefix("Bearer ") in self.tokens,
            "OneRoster: token",
        )
        common = {
            "status": "active",
            "dateLastModified": "2027-01-04T09:00:00Z",
            "class": {"sourcedId": "c-1", "type": "class"},
            "category": {"sourcedId": "k", "type": "category"},
            "resultValueMin": 0,
        }
        rows = [
            {
                "sourcedId": f"l-{number}",
                "title": f"Quiz {number}",
                "dueDate": f"2027-02-0{number}T23:59:00-06:00",
                "resultValueMax": 7.5 * number,
            }
            | common
            for number in (1, 2, 3)
        ]
        return 200, {"X-Total-Count": "3"}, {"lineItems": rows}
