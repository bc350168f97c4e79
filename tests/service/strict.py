"""A platform and a publisher's tool written from the standards alone: they share no code with ours
and excuse nothing.

Each notes every breach in ``complaints``; a test is over when both lists are empty.
"""

from __future__ import annotations

import json
import threading
import time
import uuid
from collections.abc import Callable
from datetime import datetime
from http.server import BaseHTTPRequestHandler
from typing import Any
from urllib.parse import parse_qs, urlencode, urlsplit

import httpx
from joserfc import jwt
from joserfc.jwk import KeySet, RSAKey

from tests.service.servers import serve

LTI = "https://purl.imsglobal.org/spec/lti/claim/"
AGS, NRPS = "https://purl.imsglobal.org/spec/lti-ags/", "https://purl.imsglobal.org/spec/lti-nrps/"
DL = "https://purl.imsglobal.org/spec/lti-dl/claim/"
LINE_ITEM, SCORE, RESULT, MEMBERS = (
    f"{AGS}scope/lineitem",
    f"{AGS}scope/score",
    f"{AGS}scope/result.readonly",
    f"{NRPS}scope/contextmembership.readonly",
)
Answer = tuple[int, dict[str, str], Any]


class Site:
    """A small server; routes are methods called with the request's facts."""

    def __init__(self) -> None:
        self.complaints: list[str] = []
        self.key = RSAKey.generate_key(2048, private=True, auto_kid=True)
        self._server = serve(self._handler())
        self.url = f"http://127.0.0.1:{self._server.server_port}"
        self.tokens: dict[str, set[str]] = {}
        self.used: set[str] = set()
        self.moment = threading.local()  # when the request that a thread answers came in

    def routes(
        self,
    ) -> dict[tuple[str, str], Callable[[dict[str, list[str]], dict[str, str], bytes], Answer]]:
        raise NotImplementedError

    def close(self) -> None:
        self._server.shutdown()
        self._server.server_close()  # else whoever asks later waits for an answer that never comes

    def twist(self, path: str, document: Any) -> Any:
        """Return what is answered in place of a document."""
        return document

    def answered(self, status: int) -> None:
        """An answer has gone out whole: only now can the other side know what it says."""

    def check(self, right: bool, complaint: str) -> None:
        if not right:
            self.complaints.append(complaint)

    def jwks(self, *_: Any) -> Answer:
        return 200, {}, {"keys": [dict(self.key.as_dict(private=False), use="sig", alg="RS256")]}

    def sign(self, claims: dict[str, Any]) -> str:
        return jwt.encode({"alg": "RS256", "typ": "JWT", "kid": self.key.kid}, claims, self.key)

    def read(self, token: str, jwks_url: str) -> dict[str, Any]:
        keys = KeySet.import_key_set(httpx.get(jwks_url).raise_for_status().json())
        decoded = jwt.decode(token, keys, algorithms=["RS256"])
        self.check(bool(decoded.header.get("kid")), "a token without kid")
        return dict(decoded.claims)

    def _handler(self) -> type[BaseHTTPRequestHandler]:
        site = self

        class Handler(BaseHTTPRequestHandler):
            def answer(self) -> None:
                site.moment.came = time.monotonic()
                parts = urlsplit(self.path)
                body = self.rfile.read(int(self.headers.get("Content-Length") or 0))
                view = site.routes().get((self.command, parts.path))
                headers = {name.lower(): value for name, value in self.headers.items()}
                try:
                    status, sent, document = (
                        view(parse_qs(parts.query, keep_blank_values=True), headers, body)
                        if view
                        else (404, {}, {})
                    )
                    document = site.twist(parts.path, document)
                except ConnectionAbortedError:  # what was asked is done, and its answer is lost
                    self.close_connection = True
                    return
                data = (
                    document.encode()
                    if isinstance(document, str)
                    else json.dumps(document).encode()
                )
                self.send_response(status)
                for name, value in {
                    "Content-Type": "application/json",
                    "Content-Length": str(len(data)),
                    **sent,
                }.items():
                    self.send_header(name, value)
                self.end_headers()
                self.wfile.write(data)
                site.answered(status)

            do_GET = do_POST = do_PUT = do_DELETE = answer

            def log_message(self, *words: Any) -> None:
                return

        return Handler


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
