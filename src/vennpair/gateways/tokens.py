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
from vennpair.gateways.http import OutsideError, call
from vennpair.gateways.patience import Patience
from vennpair.standards.lti.tokens import token_request

EARLY_SECONDS = 60
PATIENCE_SECONDS = 120.0


@dataclass(slots=True)
class TokenSource:
    """Gets tokens from one endpoint; ``ask`` makes the form, so that both kinds of client fit."""

    who: str
    token_url: str
    ask: Callable[[list[str]], tuple[dict[str, str], dict[str, str]]]
    patience: Patience
    _tokens: dict[tuple[str, ...], tuple[str, float]] = field(default_factory=dict)
    _lock: threading.Lock = field(default_factory=threading.Lock)
    _refused_since: float = 0.0

    def token(self, scopes: list[str]) -> str:
        """Return a token that is good for at least a minute. Raises OutsideError."""
        key = tuple(sorted(scopes))
        with self._lock:
            token, expires = self._tokens.get(key, ("", 0.0))
            if expires - EARLY_SECONDS > time.time():
                return token
            answer = self._asked(scopes)
            told = answer if isinstance(answer, dict) else {}
            token = str(told.get("access_token") or "")
            if not token:
                raise OutsideError(
                    Failure(
                        FailureKind.SETTING,
                        "no_token",
                        f"{self.who} gave no access token.",
                        "Ask an administrator to check the connection.",
                    )
                )
            self._tokens[key] = (token, time.time() + float(told.get("expires_in") or 3600))
            return token

    def _asked(self, scopes: list[str]) -> object:
        """Ask with a new assertion at each try: one whose answer was lost is spent.

        A refusal is waited out for a while, as the other side may just not reach our keys; one that
        lasts needs an administrator.
        """
        for pause in (0.5, 1.0, 0.0):
            fields, headers = self.ask(scopes)
            try:
                answer = call(
                    "POST",
                    self.token_url,
                    self.who,
                    fields=fields,
                    headers=headers,
                    patience=self.patience,
                ).json(self.who)
            except OutsideError as error:
                if not pause or error.failure.code == "busy":
                    raise self._judged(error) from error
                time.sleep(pause)
            else:
                self._refused_since = 0.0
                return answer
        raise AssertionError("unreachable code: the loop returns or raises")

    def _judged(self, error: OutsideError) -> OutsideError:
        failure = error.failure
        if failure.kind is FailureKind.LATER or "scope" in failure.message.lower():
            return error
        self._refused_since = self._refused_since or time.monotonic()
        if time.monotonic() - self._refused_since > PATIENCE_SECONDS:
            return error
        return OutsideError(
            Failure(
                FailureKind.LATER,
                failure.code,
                failure.message,
                f"It is tried again for {PATIENCE_SECONDS:.0f} seconds. {failure.remedy}",
            )
        )

    def refused(self, token: str) -> None:
        """Drop a token that was refused; of many calls that met with the same refusal, only the
        first has a new one fetched.
        """
        with self._lock:
            self._tokens = {key: kept for key, kept in self._tokens.items() if kept[0] != token}

    def forget(self) -> None:
        """Drop all that is kept."""
        with self._lock:
            self._tokens.clear()


def signed_client(
    who: str,
    client_id: str,
    token_url: str,
    key: RSAKey,
    audience: str = "",
    patience: Patience | None = None,
) -> TokenSource:
    """Return a source that signs its requests (Security Framework 4.1).

    ``audience`` is the token address unless named, ``patience`` one of its own.
    """

    def ask(scopes: list[str]) -> tuple[dict[str, str], dict[str, str]]:
        return token_request(
            client_id,
            audience or token_url,
            scopes,
            key,
            now=int(time.time()),
            token_id=uuid.uuid4().hex,
        ), {}

    return TokenSource(who, token_url, ask, patience or Patience(who))


def secret_client(
    who: str, client_id: str, secret: str, token_url: str, patience: Patience | None = None
) -> TokenSource:
    """Return a source that shows a secret (OneRoster 1.2 security, OAuth 2 client credentials)."""

    def ask(scopes: list[str]) -> tuple[dict[str, str], dict[str, str]]:
        basic = base64.b64encode(f"{client_id}:{secret}".encode()).decode()
        return {"grant_type": "client_credentials", "scope": " ".join(scopes)}, {
            "Authorization": f"Basic {basic}"
        }

    return TokenSource(who, token_url, ask, patience or Patience(who))
