"""Which service one talks to and as whom: kept in a file that only its owner can read."""

from __future__ import annotations

import json
import os
from pathlib import Path

from platformdirs import user_config_path

from vennpair.cli.exits import NOT_ALLOWED, USAGE, Stop
from vennpair.client import VennPair


def session_file() -> Path:
    """Return where the session is kept: ``VENNPAIR_SESSION``, else the user's configuration
    folder.
    """
    return Path(os.environ.get("VENNPAIR_SESSION") or user_config_path("vennpair") / "session.json")


def keep_session(url: str, token: str) -> None:
    """Keep address and token."""
    file = session_file()
    file.parent.mkdir(parents=True, exist_ok=True)
    handle = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(handle, "w") as opened:
        json.dump({"url": url, "token": token}, opened)


def forget_session() -> None:
    """Delete what is kept."""
    session_file().unlink(missing_ok=True)


def kept_url() -> str:
    """Return the address of the service that was last signed in to, or nothing."""
    return _kept().get("url", "")


def connect() -> VennPair:
    """Return a client: from ``VENNPAIR_SERVICE`` and ``VENNPAIR_TOKEN``, else from the session.

    Raises Stop.
    """
    kept = _kept()
    url, token = (
        os.environ.get("VENNPAIR_SERVICE") or kept.get("url", ""),
        os.environ.get("VENNPAIR_TOKEN") or kept.get("token", ""),
    )
    if not url or not token:
        raise Stop(
            NOT_ALLOWED,
            "not_signed_in",
            "You are not signed in.",
            "Sign in with: vennpair sign-in --service URL --user NAME",
        )
    return VennPair(url, token)


def _kept() -> dict[str, str]:
    try:
        kept = json.loads(session_file().read_text())
    except FileNotFoundError:
        return {}
    except (OSError, ValueError) as error:
        raise Stop(
            USAGE,
            "bad_session",
            f"The session file {session_file()} cannot be read: {error}.",
            "Delete it and sign in again.",
        ) from error
    return kept if isinstance(kept, dict) else {}
