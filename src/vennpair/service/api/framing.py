"""Which pages of others may hold ours in a frame: those of the platforms that people come from."""

from __future__ import annotations

import time
from typing import Any
from urllib.parse import urlsplit

from django.http import HttpRequest

from vennpair.service.connect.models import Platform, User
from vennpair.service.pair.models import Shell

KNOWN_SECONDS, MOST_ORIGINS = 30.0, 100
REGISTERING = "/lti/register"
_known: dict[Any, tuple[float, str]] = {}


def frame_ancestors(request: HttpRequest) -> str:
    """Return the sources for ``frame-ancestors`` (Content Security Policy 3, 6.4.2): the platforms
    of the institution of who is signed in; during a launch, before that is known, those of all;
    where one is only being registered (Dynamic Registration 1.0, 3.2), any.
    """
    if request.path.startswith(REGISTERING):
        return "*"
    user = request.user
    institution = user.institution_id if isinstance(user, User) else None
    at, sources = _known.get(institution, (0.0, ""))
    if not sources or time.monotonic() - at > KNOWN_SECONDS:
        sources = " ".join(["'self'", *_origins(institution)])
        _known[institution] = time.monotonic(), sources
    return sources


def _origins(institution: Any) -> list[str]:
    """Return where the active platforms' own pages are: the addresses of their registrations, and
    of the pages that their shells return to.
    """
    platforms = Platform.objects.filter(active=True)
    shells = Shell.objects.filter(platform__active=True).exclude(return_url="")
    if institution is not None:
        platforms = platforms.filter(institution=institution)
        shells = shells.filter(platform__institution=institution)
    addresses = {
        each for row in platforms.values_list("issuer", "authorization_url") for each in row
    }
    addresses |= set(shells.values_list("return_url", flat=True).distinct())
    return sorted({found for each in addresses if (found := _origin(each))})[:MOST_ORIGINS]


def _origin(address: str) -> str:
    """Return scheme, host and port, where nothing in them could end the policy."""
    parts = urlsplit(address)
    origin = f"{parts.scheme}://{parts.netloc}"
    odd = set(origin) & set(" ;,'\"\t\r\n@")
    return origin if parts.scheme in {"http", "https"} and parts.netloc and not odd else ""
