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
        os.fchmod(handle, 0o600)  # one that was there may have been open to others
        json.dump({"url": url, "token": token}, opened)


def forget_session() -> None:
    """Delete what is kept."""
    session_file().unlink(missing_ok=True)


def kept_url() -> str:
    """Return the address of the service that was last signed in to, or nothing."""
    return _kept().get("url", "")


def connect() -> VennPair:
    """Return a client: from ``VENNPAIR_SERVICE`` and ``VENNPAIR_TOKEN``, else from the session.

    A token that is kept goes to the service that gave it, and to no other. Raises Stop.
    """
    kept = _kept()
    own = kept.get("url", "")
    url = os.environ.get("VENNPAIR_SERVICE") or own
    token = os.environ.get("VENNPAIR_TOKEN") or ""
    if not token and url.rstrip("/") == own.rstrip("/"):
        token = kept.get("token", "")
    if not url or not token:
        at = f" at {url}" if url else ""
        raise Stop(
            NOT_ALLOWED,
            "not_signed_in",
            f"You are not signed in{at}.",
            f"Sign in with: vennpair sign-in --service {url or 'URL'} --user NAME"
            + (", or give its token in VENNPAIR_TOKEN." if url else ""),
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
