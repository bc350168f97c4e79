"""Dynamic registration in both roles (LTI Dynamic Registration 1.0)."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.db import transaction
from django.utils import timezone

from vennpair.gateways.registration import fetch_configuration, send_registration
from vennpair.service.connect.actions.invite import claim
from vennpair.service.connect.actions.register_platform import register_platform
from vennpair.service.connect.models import Institution, Invitation, Platform, Publisher, User
from vennpair.service.connect.registration_values import our_registration
from vennpair.service.kernel.audit.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.registration import Registration, message_of, read_registration

LONGEST_NAME = 200


def register_at_platform(
    institution: Institution,
    openid_configuration: str,
    registration_token: str,
    name: str,
    actor: User | None = None,
) -> Platform:
    """Register us as a tool at the platform that published the configuration.

    Raises OutsideError, Refused.
    """
    who = name or urlsplit(openid_configuration).netloc or "the platform"
    configuration = fetch_configuration(openid_configuration, who)
    contacts = (actor.email,) if actor is not None and actor.email else ()
    answer = send_registration(
        configuration, our_registration(configuration, contacts), registration_token, who
    )
    card = {
        "issuer": configuration.issuer,
        "client_id": answer.client_id,
        "deployment_id": answer.deployment_id,
        "authorization_url": configuration.authorization_url,
        "token_url": configuration.token_url,
        "jwks_url": configuration.jwks_url,
        "product": configuration.product,
        "token_audience": configuration.audience,
        "granted": list(answer.scopes),
        "how": "dynamic",
    }
    return register_platform(institution, who[:LONGEST_NAME], card, actor)


def register_by_invitation(
    secret: str, openid_configuration: str, registration_token: str
) -> Platform:
    """Register us at a platform whose administrator opened our one-time link; the link is spent
    only if it works.

    Raises LtiError ``bad_invitation``, OutsideError, Refused.
    """
    with transaction.atomic():
        invitation = claim(secret, Invitation.Side.PLATFORM)
        if invitation is None:
            raise LtiError(
                "bad_invitation",
                "This registration link is unknown, was used already, or is older than a week.",
            )
        platform = register_at_platform(
            invitation.institution,
            openid_configuration,
            registration_token,
            invitation.name,
            invitation.made_by,
        )
        _spend(invitation, platform=platform)
    return platform


def take_registration(secret: str, document: object) -> tuple[Publisher, Registration]:
    """Register a publisher's tool that shows a one-time token; return it and what was registered.

    Raises LtiError: ``invalid_token`` where the token is not good, else RFC 7591's codes.
    """
    with transaction.atomic():
        invitation = claim(secret, Invitation.Side.PUBLISHER)
        if invitation is None:
            raise LtiError(
                "invalid_token",
                "The registration token is unknown, was used already, or is older than a week.",
                "RFC 6750, 3.1",
            )
        asked = read_registration(document)
        publisher = _publisher(invitation, asked)
        publisher.login_url, publisher.launch_url, publisher.redirect_uris, publisher.jwks_url = (
            asked.login_url,
            asked.target_link_uri,
            list(asked.redirect_uris),
            asked.jwks_url,
        )
        publisher.speaks, publisher.how, publisher.active, publisher.custom = (
            Publisher.Speaks.LTI_1_3,
            "dynamic",
            True,
            asked.custom,
        )
        _take_messages(publisher, asked)
        publisher.provisioning_url = asked.provisioning or publisher.provisioning_url
        publisher.oneroster_url = asked.oneroster.get("url", publisher.oneroster_url)
        publisher.oneroster_token_url = asked.oneroster.get(
            "token_url", publisher.oneroster_token_url
        )
        publisher.save()
        _spend(invitation, publisher=publisher)
        record(
            "publisher.registered",
            f"The publisher {publisher.name} registered itself.",
            institution=publisher.institution,
            actor=invitation.made_by,
            after={"login_url": publisher.login_url},
        )
    return publisher, asked


def _take_messages(publisher: Publisher, asked: Registration) -> None:
    """Note where each kind of message goes, and its own parameters beside those of all."""
    launch, picker, review = (
        message_of(asked, kind)
        for kind in (
            v.RESOURCE_LINK_REQUEST,
            v.DEEP_LINKING_REQUEST,
            v.SUBMISSION_REVIEW_REQUEST,
        )
    )
    if launch:
        publisher.launch_url = launch.target
        publisher.custom = asked.custom | launch.custom
    publisher.picker_url, publisher.picker_custom = (
        (picker.target, asked.custom | picker.custom) if picker else ("", {})
    )
    publisher.review_url, publisher.review_custom = (
        (review.target, asked.custom | review.custom) if review else ("", {})
    )


def _publisher(invitation: Invitation, asked: Registration) -> Publisher:
    """Return the publisher of that name, where it is the same one registering again, else a new
    one; its host tells it from another of the same name.
    """
    wanted = (invitation.name or asked.client_name)[:LONGEST_NAME]
    taken = (
        Publisher.objects.select_for_update()
        .filter(institution=invitation.institution, name=wanted)
        .first()
    )
    if (
        taken is not None
        and taken.login_url
        and urlsplit(taken.login_url).netloc != urlsplit(asked.login_url).netloc
    ):
        wanted = f"{wanted[:120]} ({urlsplit(asked.login_url).netloc})"[:LONGEST_NAME]
        taken = (
            Publisher.objects.select_for_update()
            .filter(institution=invitation.institution, name=wanted)
            .first()
        )
    return taken or Publisher(institution=invitation.institution, name=wanted)


def _spend(invitation: Invitation, **made: Any) -> None:
    invitation.used_at = timezone.now()
    for name, value in made.items():
        setattr(invitation, name, value)
    invitation.save()
