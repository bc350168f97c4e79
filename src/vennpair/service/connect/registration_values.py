"""Our own values for the other sides: what an administrator copies, and what registration documents
say.
"""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.utils.translation import get_language

from vennpair import __version__
from vennpair.service.connect.models import Publisher
from vennpair.service.kernel.language.spoken import say
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.launch import ASKED_CUSTOM
from vennpair.standards.lti.registration import Configuration, Registration
from vennpair.standards.lti.variables import KNOWN

STANDARD = (
    v.SCOPE_LINE_ITEM,
    v.SCOPE_LINE_ITEM_READ,
    v.SCOPE_RESULT_READ,
    v.SCOPE_SCORE,
    v.SCOPE_MEMBERSHIP,
)
WANTED = (*STANDARD, v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ)
OFFERED = (v.SCOPE_LINE_ITEM_READ, v.SCOPE_RESULT_READ, v.SCOPE_SCORE)
NAME = "Venn Pair"
DESCRIPTION = (
    "Pairs a homework course with this course, places its assignments and keeps the gradebook in"
    " step."
)


def tool_card() -> list[dict[str, str]]:
    """Return our values as a tool, each with what it is for, to copy into a platform's form."""
    base = settings.BASE_URL
    rows = [
        (
            "login_url",
            "Login address",
            f"{base}/lti/login",
            "also called: OIDC third-party initiated login",
        ),
        (
            "launch_url",
            "Launch and redirect address",
            f"{base}/lti/launch",
            "the only redirect address; also the target of links",
        ),
        (
            "jwks_url",
            "Key set",
            f"{base}/lti/jwks",
            "our public keys; they change automatically, so enter the address and not a key",
        ),
        (
            "registration_url",
            "Dynamic registration",
            f"{base}/lti/register",
            "where the platform registers tools by an address; make a link for it here",
        ),
        (
            "scopes",
            "Services",
            " ".join(WANTED),
            "line items, results, scores, members, and the outline where the platform has it",
        ),
        (
            "custom",
            "Custom parameters",
            "\n".join(f"{name}={value}" for name, value in ASKED_CUSTOM.items()),
            "by them a copied shell is known, and the course's time zone",
        ),
    ]
    language = get_language() or ""  # what is called a label elsewhere is somebody's own
    return [
        {"name": name, "label": say(label, language), "value": value, "help": words}
        for name, label, value, words in rows
    ]


def platform_card(publisher: Publisher) -> dict[str, str]:
    """Return our values as a publisher's platform."""
    base = settings.BASE_URL
    return {
        "issuer": base,
        "client_id": publisher.client_id,
        "deployment_id": publisher.deployment_id,
        "authorization_url": f"{base}/lti/platform/authorize",
        "token_url": f"{base}/lti/platform/token",
        "jwks_url": f"{base}/lti/jwks",
    }


def our_registration(platform: Configuration, contacts: tuple[str, ...] = ()) -> Registration:
    """Return our registration as a tool, asking for nothing that a platform does not list (Dynamic
    Registration 1.0, 3.5).
    """
    base = settings.BASE_URL
    scopes = (
        tuple(scope for scope in WANTED if scope in platform.scopes)
        if platform.scopes
        else STANDARD
    )
    custom = {
        name: variable
        for name, variable in ASKED_CUSTOM.items()
        if not platform.variables or variable[1:] in platform.variables
    }
    message: dict[str, Any] = {
        "type": v.RESOURCE_LINK_REQUEST,
        "target_link_uri": f"{base}/lti/launch",
        "label": NAME,
        "roles": [v.INSTRUCTOR],
    }
    picking = (
        ({**message, "type": v.DEEP_LINKING_REQUEST, "label": f"Add from {NAME}"},)
        if v.DEEP_LINKING_REQUEST in platform.messages
        else ()
    )
    review = (
        ({**message, "type": v.SUBMISSION_REVIEW_REQUEST, "label": "Open at the publisher"},)
        if v.SUBMISSION_REVIEW_REQUEST in platform.messages
        else ()
    )
    return Registration(
        NAME,
        f"{base}/lti/login",
        (f"{base}/lti/launch",),
        f"{base}/lti/jwks",
        f"{base}/lti/launch",
        scopes,
        custom,
        (message, *picking, *review),
        DESCRIPTION,
        contacts,
    )


def our_configuration() -> Configuration:
    """Return our configuration as a platform (Dynamic Registration 1.0, 3.4)."""
    base = settings.BASE_URL
    at = f"{base}/lti/platform"
    return Configuration(
        base,
        f"{at}/authorize",
        f"{at}/token",
        f"{base}/lti/jwks",
        f"{at}/register",
        OFFERED,
        "vennpair",
        __version__,
        "",
        (v.RESOURCE_LINK_REQUEST, v.DEEP_LINKING_REQUEST, v.SUBMISSION_REVIEW_REQUEST),
        KNOWN,
    )
