"""What the strict strangers share: a site that notes every breach of a standard."""

from __future__ import annotations

import json
import threading
import time
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler
from typing import Any
from urllib.parse import parse_qs, urlsplit

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
