"""What the campus takes back from a tool in which somebody picks content."""

from __future__ import annotations

from django.conf import settings
from django.core import signing

from vennpair.standards.lti.deep_linking import HTML, LINK, RESOURCE_LINK, PickSettings
from vennpair.standins.campus.models import Shell

SALT, SECONDS = "campus.picking", 3600


def settings_for(shell: Shell, person: int) -> PickSettings:
    """Return what the campus takes back, and where."""
    data = signing.dumps({"shell": shell.pk, "person": person}, salt=SALT)
    back = f"{settings.BASE_URL}/shells/{shell.context_id}/picked"
    return PickSettings(
        back,
        (RESOURCE_LINK, LINK, HTML),
        ("iframe", "window"),
        True,
        True,
        False,
        f"Add to {shell.label}",
        "",
        data,
    )
