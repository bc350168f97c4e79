"""Access tokens for services, shared by all threads of a process and renewed before they expire."""

from __future__ import annotations

import base64
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field

from joserfc.jwk import RSAKey

from vennpair.core.failures import Failure, FailureKind
from vennpair.gateways.http import OutsideError, call_safely
from vennpair.standards.lti.tokens import token_request

EARLY_SECONDS = 60


@dataclass(slots=True)
class TokenSource:
    """Gets tokens from one endpoint; ``ask`` makes the form, so that both kinds of client fit."""

    who: str
    token_url: str
    ask: Callable[[list[str]], tuple[dict[str, str], dict[str, str]]]
    _tokens: dict[tuple[str, ...], tuple[str, float]] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def token(self, scopes: list[str]) -> str:
        """Return a token that is good for at least a minute. Raises OutsideError."""
        key = tuple(sorted(scopes))
        with self._lock:
            token, expires = self._tokens.get(key, ("", 0.0))
            if expires - EARLY_SECONDS > time.time():
                return token
            fields, headers = self.ask(scopes)
            answer = call_safely("POST", self.token_url, self.who, fields=fields, headers=headers).json(self.who)
            token = str(answer.get("access_token") or "") if isinstance(answer, dict) else ""
            if not token:
                raise OutsideError(Failure(FailureKind.SETTING, "no_token", f"{self.who} gave no access token.", "Ask an administrator to check the connection."))
            self._tokens[key] = (token, time.time() + float(answer.get("expires_in") or 3600))
            return token

    def forget(self) -> None:
        """Drop what is kept, after a token was refused."""
        with self._lock:
            self._tokens.clear()


def signed_client(who: str, client_id: str, token_url: str, key: RSAKey, audience: str = "") -> TokenSource:
    """Return a source that signs its requests (Security Framework 4.1); ``audience`` is the token address unless named."""

    def ask(scopes: list[str]) -> tuple[dict[str, str], dict[str, str]]:
        return token_request(client_id, audience or token_url, scopes, key, now=int(time.time()), token_id=uuid.uuid4().hex), {}

    return TokenSource(who, token_url, ask)


def secret_client(who: str, client_id: str, secret: str, token_url: str) -> TokenSource:
    """Return a source that shows a secret (OneRoster 1.2 security, OAuth 2 client credentials)."""

    def ask(scopes: list[str]) -> tuple[dict[str, str], dict[str, str]]:
        basic = base64.b64encode(f"{client_id}:{secret}".encode()).decode()
        return {"grant_type": "client_credentials", "scope": " ".join(scopes)}, {"Authorization": f"Basic {basic}"}

    return TokenSource(who, token_url, ask)
