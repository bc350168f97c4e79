"""A platform written from the standards alone: it shares no code with ours and excuses nothing.

The publisher's tool of that kind is in ``strict_tool.py``.

Each notes every breach in ``complaints``; a test is over when both lists are empty.
"""

from __future__ import annotations

import json
import time
import uuid
from datetime import datetime
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx

from tests.service.strict_site import (
    AGS,
    DL,
    LINE_ITEM,
    LTI,
    MEMBERS,
    NRPS,
    RESULT,
    SCORE,
    Answer,
    Site,
)


class StrictPlatform(Site):
    """A course platform: dynamic registration, launches, tokens, members and line items of one
    course.
    """

    deployment = "campus-wide"
    course = "course-77"

    def __init__(self) -> None:
        super().__init__()
        self.token = uuid.uuid4().hex
        self.tool: dict[str, Any] = {}
        self.asked: dict[str, Any] = {}

    def routes(self) -> Any:
        course = f"/api/{self.course}"
        return {
            ("GET", "/.well-known/openid-configuration"): self.configuration,
            ("GET", "/jwks"): self.jwks,
            ("GET", "/authorize"): lambda *_: (
                400,
                {},
                {"error": "login_required"},
            ),  # nobody is signed in here
            ("POST", "/register"): self.register,
            ("POST", "/token"): self.grant,
            ("GET", f"{course}/members"): self.members,
            ("GET", f"{course}/lineitems"): self.line_items,
        }

    def configuration(self, *_: Any) -> Answer:
        base = self.url
        document = {
            "issuer": base,
            "authorization_endpoint": f"{base}/authorize?site=1",
            "token_endpoint": f"{base}/token",
            "token_endpoint_auth_methods_supported": ["private_key_jwt"],
            "token_endpoint_auth_signing_alg_values_supported": ["RS256"],
            "jwks_uri": f"{base}/jwks",
            "registration_endpoint": f"{base}/register",
            "scopes_supported": ["openid", LINE_ITEM, SCORE, RESULT, MEMBERS],
            "response_types_supported": ["id_token"],
            "subject_types_supported": ["pairwise"],
            "id_token_signing_alg_values_supported": ["RS256"],
            "claims_supported": ["sub", "iss", "name", "email"],
            "authorization_server": "urn:strict:tokens",
            "https://purl.imsglobal.org/spec/lti-platform-configuration": {
                "product_family_code": "strict",
                "version": "7",
                "messages_supported": [
                    {"type": "LtiResourceLinkRequest"},
                    {"type": "LtiDeepLinkingRequest"},
                ],
                "variables": ["Context.id.history", "ResourceLink.id.history"],
            },
        }
        return 200, {}, document

    def register(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        if headers.get("authorization") != f"Bearer {self.token}":
            return 401, {}, {"error": "invalid_token"}
        self.token = ""
        asked = json.loads(body)
        tool = asked["https://purl.imsglobal.org/spec/lti-tool-configuration"]
        for name, value in (
            ("application_type", "web"),
            ("token_endpoint_auth_method", "private_key_jwt"),
        ):
            self.check(asked.get(name) == value, f"registration: {name}")
        self.check(
            headers.get("content-type", "").startswith("application/json"),
            "registration: content type",
        )
        self.check(
            set(asked["grant_types"]) == {"implicit", "client_credentials"}
            and asked["response_types"] == ["id_token"],
            "registration: grant or response types",
        )
        self.check(
            set(asked["scope"].split()) <= {LINE_ITEM, SCORE, RESULT, MEMBERS},
            f"registration: scopes that are not offered: {asked['scope']}",
        )
        self.check(
            all(
                value[1:] in {"Context.id.history", "ResourceLink.id.history"}
                for value in tool.get("custom_parameters", {}).values()
            ),
            "registration: unknown variables",
        )
        self.check(
            tool["target_link_uri"] in asked["redirect_uris"]
            and urlsplit(tool["target_link_uri"]).netloc == tool["domain"],
            "registration: target outside the domain",
        )
        self.check(
            {each["type"] for each in tool["messages"]}
            <= {"LtiResourceLinkRequest", "LtiDeepLinkingRequest"},
            "registration: messages that are not offered",
        )
        self.tool = dict(asked, client_id="tool-42")
        return 200, {}, self.tool  # and no deployment id: the administrator deploys later

    def begin(self, browser: httpx.Client, **claims: Any) -> httpx.Response:
        """Launch the tool from the course, as a browser goes."""
        target = self.tool["https://purl.imsglobal.org/spec/lti-tool-configuration"][
            "target_link_uri"
        ]
        login = {
            "iss": self.url,
            "login_hint": "hint-1",
            "target_link_uri": target,
            "lti_message_hint": "m 1&x",
            "client_id": "tool-42",
            "lti_deployment_id": self.deployment,
        }
        answer = browser.post(self.tool["initiate_login_uri"], data=login)
        assert answer.status_code == 302, answer.text
        back = urlsplit(answer.headers["location"])
        asked = {
            name: values[0] for name, values in parse_qs(back.query, keep_blank_values=True).items()
        }
        self.check(
            back.path == "/authorize" and asked.pop("site", "") == "1",
            "authorisation: the address's own query was lost",
        )
        fixed = {
            "scope": "openid",
            "response_type": "id_token",
            "response_mode": "form_post",
            "prompt": "none",
            "client_id": "tool-42",
            "login_hint": "hint-1",
            "lti_message_hint": "m 1&x",
        }
        self.check({name: asked.get(name) for name in fixed} == fixed, f"authorisation: {asked}")
        self.check(asked["redirect_uri"] in self.tool["redirect_uris"], "authorisation: redirect")
        self.check(
            len(asked["nonce"]) >= 16 and len(asked["state"]) >= 16,
            "authorisation: short nonce or state",
        )
        return browser.post(
            asked["redirect_uri"],
            data={
                "state": asked["state"],
                "id_token": self.sign(self._claims(asked["nonce"], target) | claims),
            },
        )

    def pick(self, browser: httpx.Client, **settings: Any) -> httpx.Response:
        """Ask the tool for content, as a browser goes (Deep Linking 2.0, 4.4).

        A claim that a launch has is not there.
        """
        self.asked = {
            "deep_link_return_url": f"{self.url}/picked",
            "accept_types": ["ltiResourceLink", "link"],
            "accept_presentation_document_targets": ["iframe", "window"],
            "data": f"data {uuid.uuid4().hex}",
        } | settings
        claims = {
            f"{LTI}message_type": "LtiDeepLinkingRequest",
            f"{DL}deep_linking_settings": self.asked,
        }
        return self.begin(browser, **claims)

    def picked(self, token: str) -> list[dict[str, Any]]:
        """Take the tool's answer and check every claim of it (Deep Linking 2.0, 4.5, and 3.2 for
        the items).
        """
        claims, now = self.read(token, self.tool["jwks_uri"]), time.time()
        self.check(
            claims["iss"] == "tool-42"
            and claims["aud"] in (self.url, [self.url])
            and claims.get("azp", self.url) == self.url,
            f"picked: parties {claims['iss']} {claims['aud']}",
        )
        self.check(
            claims["iat"] <= now + 5
            and now < claims["exp"] <= now + 3600
            and claims["nonce"] not in self.used,
            "picked: times or nonce",
        )
        self.used.add(claims["nonce"])
        self.check(
            claims[f"{LTI}message_type"] == "LtiDeepLinkingResponse"
            and claims[f"{LTI}version"] == "1.3.0"
            and claims[f"{LTI}deployment_id"] == self.deployment,
            "picked: kind or deployment",
        )
        self.check(claims[f"{DL}data"] == self.asked["data"], "picked: data was changed")
        items = claims.get(f"{DL}content_items", [])
        self.check(
            len(items) <= 1 or self.asked.get("accept_multiple") is True,
            "picked: several where one is taken",
        )
        for item in items:
            self.check(item["type"] in self.asked["accept_types"], f"picked: type {item['type']}")
            self.check(
                set(item)
                <= {
                    "type",
                    "url",
                    "title",
                    "text",
                    "icon",
                    "thumbnail",
                    "window",
                    "iframe",
                    "custom",
                    "lineItem",
                    "available",
                    "submission",
                },
                f"picked: fields {sorted(item)}",
            )
            self.check(
                item.get("url", self.tool["redirect_uris"][0]).startswith(("http://", "https://")),
                "picked: url",
            )
            self.check(
                all(isinstance(value, str) for value in item.get("custom", {}).values()),
                "picked: custom values that are no text",
            )
            column = item.get("lineItem")
            self.check(
                column is None or self.asked.get("accept_lineitem", True),
                "picked: a column where none is taken",
            )
            self.check(
                column is None
                or (
                    isinstance(column["scoreMaximum"], int | float)
                    and column["scoreMaximum"] > 0
                    and set(column)
                    <= {"scoreMaximum", "label", "resourceId", "tag", "gradesReleased"}
                ),
                f"picked: column {column}",
            )
            for name in ("available", "submission"):
                times = item.get(name, {})
                self.check(
                    set(times) <= {"startDateTime", "endDateTime"}
                    and all(datetime.fromisoformat(value).tzinfo for value in times.values()),
                    f"picked: {name} {times}",
                )
        return list(items)

    def _claims(self, nonce: str, target: str) -> dict[str, Any]:
        now, api = int(time.time()), f"{self.url}/api/{self.course}"
        return {
            "iss": self.url,
            "sub": "teacher-1",
            "aud": ["tool-42"],
            "azp": "tool-42",
            "iat": now,
            "exp": now + 60,
            "nonce": nonce,
            "name": "Pia Marlow",
            "email": "pia.marlow@strict.example",
            f"{LTI}message_type": "LtiResourceLinkRequest",
            f"{LTI}version": "1.3.0",
            f"{LTI}deployment_id": self.deployment,
            f"{LTI}target_link_uri": target,
            f"{LTI}resource_link": {"id": "nav"},
            f"{LTI}roles": [
                "http://purl.imsglobal.org/vocab/lis/v2/institution/person#Faculty",
                "http://purl.imsglobal.org/vocab/lis/v2/membership#Instructor",
            ],
            f"{LTI}context": {
                "id": self.course,
                "title": "Rivers and Groundwater",
                "label": "HYD 210-77",
                "type": ["http://purl.imsglobal.org/vocab/lis/v2/course#CourseSection"],
            },
            f"{AGS}claim/endpoint": {
                "scope": [LINE_ITEM, SCORE, RESULT],
                "lineitems": f"{api}/lineitems?site=1",
            },
            f"{NRPS}claim/namesroleservice": {
                "context_memberships_url": f"{api}/members",
                "service_versions": ["2.0"],
            },
            f"{LTI}custom": {"context_id_history": "$Context.id.history"},
        }

    def grant(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        form = {name: values[0] for name, values in parse_qs(body.decode()).items()}
        self.check(
            headers.get("content-type") == "application/x-www-form-urlencoded",
            "token: content type",
        )
        self.check(
            form.get("grant_type") == "client_credentials"
            and form.get("client_assertion_type")
            == "urn:ietf:params:oauth:client-assertion-type:jwt-bearer",
            "token: grant",
        )
        claims = self.read(form["client_assertion"], self.tool["jwks_uri"])
        self.check(
            claims["iss"] == claims["sub"] == "tool-42" and claims["aud"] == "urn:strict:tokens",
            f"token: parties {claims}",
        )
        self.check(
            claims["jti"] not in self.used and claims["exp"] - claims["iat"] <= 600,
            "token: replay or long life",
        )
        self.used.add(claims["jti"])
        scopes = set(form["scope"].split())
        self.check(
            scopes <= set(self.tool["scope"].split()),
            f"token: scopes that were never granted: {form['scope']}",
        )
        if not scopes <= set(self.tool["scope"].split()):
            return 400, {}, {"error": "invalid_scope"}
        value = uuid.uuid4().hex
        self.tokens[value] = scopes
        return (
            200,
            {},
            {
                "access_token": value,
                "token_type": "Bearer",
                "expires_in": 3600,
                "scope": form["scope"],
            },
        )

    def members(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._allowed(headers, MEMBERS, "application/vnd.ims.lti-nrps.v2.membershipcontainer+json")
        rows = [
            {
                "user_id": "learner-1",
                "roles": ["Learner"],
                "name": "Ada Brook",
                "email": "ada.brook@strict.example",
                "status": "Active",
            }
        ]
        return (
            200,
            {"Content-Type": "application/vnd.ims.lti-nrps.v2.membershipcontainer+json"},
            {
                "id": f"{self.url}/api/{self.course}/members",
                "context": {"id": self.course},
                "members": rows,
            },
        )

    def line_items(self, query: Any, headers: dict[str, str], body: bytes) -> Answer:
        self._allowed(headers, LINE_ITEM, "application/vnd.ims.lis.v2.lineitemcontainer+json")
        self.check(query.get("site") == ["1"], "line items: the address's own query was lost")
        return 200, {}, []

    def _allowed(self, headers: dict[str, str], scope: str, media: str) -> None:
        kind, _, value = headers.get("authorization", "").partition(" ")
        self.check(
            kind == "Bearer" and scope in self.tokens.get(value, set()),
            f"service: token without {scope}",
        )
        self.check(headers.get("accept") == media, f"service: Accept is {headers.get('accept')}")
