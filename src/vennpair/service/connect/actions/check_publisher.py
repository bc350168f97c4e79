"""Run every handshake with a publisher for real: its login, its keys, OneRoster service by service,
course provisioning.
"""

from __future__ import annotations

from urllib.parse import parse_qs, urlsplit

from django.conf import settings
from django.db import transaction

from vennpair.gateways.http import visit
from vennpair.gateways.publisher import PublisherGateway
from vennpair.gateways.tokens import TokenSource, secret_client
from vennpair.service.connect.actions.check_platform import keys_found
from vennpair.service.connect.checks import Handshake, as_failure, handshake, skipped
from vennpair.service.connect.models import Publisher
from vennpair.service.connect.secrets import unseal
from vennpair.standards.lti.oidc import LoginRequest, login_url

_NEEDED = {
    "scope": "openid",
    "response_type": "id_token",
    "response_mode": "form_post",
    "prompt": "none",
}


def check_publisher(publisher: Publisher) -> list[Handshake]:
    """Return all steps; what the publisher offers of course provisioning is noted in its
    registration.
    """
    if publisher.speaks == Publisher.Speaks.LTI_1_1:
        first = [
            Handshake(
                "launch",
                "ok",
                "Launches are signed with the key and secret (LTI 1.1); whether they fit is seen at"
                " the first launch.",
            )
        ]
    else:
        first = [
            handshake("login", lambda: _login(publisher)),
            (
                handshake(
                    "keys",
                    lambda: keys_found(publisher.jwks_url, publisher.name),
                    theirs="Ask the publisher's support for its key set address.",
                )
                if publisher.jwks_url
                else skipped(
                    "keys",
                    "No key set address is entered.",
                    "Enter the publisher's key set address; without it, it cannot report scores.",
                    "ours",
                )
            ),
        ]
    return [*first, *_oneroster(publisher), _provisioning(publisher)]


def _login(publisher: Publisher) -> str:
    """Begin a launch for nobody; a tool that knows us sends the browser back with a correct
    request.
    """
    remedy = (
        f"Ask {publisher.name} to register our issuer, client id and addresses exactly as our card"
        " says."
    )
    asked = LoginRequest(
        settings.BASE_URL,
        "connection-check",
        publisher.launch_url,
        publisher.client_id,
        "connection-check",
        publisher.deployment_id,
    )
    status, location, body = visit(login_url(publisher.login_url, asked), publisher.name)
    target = location or body
    if f"{settings.BASE_URL}/lti/platform/authorize" not in target:
        said = f"HTTP {status}" if not location else f"a redirect to {urlsplit(location).netloc}"
        raise as_failure(
            f"{publisher.name} answers our login request with {said} instead of sending the browser"
            " back to us: it does not know us under this client id.",
            remedy,
        )
    if location:
        given = {name: values[0] for name, values in parse_qs(urlsplit(location).query).items()}
        wrong = [
            name
            for name, value in {**_NEEDED, "client_id": publisher.client_id}.items()
            if given.get(name) != value
        ]
        wrong += [name for name in ("state", "nonce", "login_hint") if not given.get(name)]
        if given.get("redirect_uri") not in publisher.redirect_uris:
            raise as_failure(
                f"{publisher.name} wants to be answered at"
                f" {given.get('redirect_uri', 'no address')}, which is not registered here.",
                "Add it to the redirect addresses if it is theirs.",
                "bad_redirect",
            )
        if wrong:
            raise as_failure(
                f"{publisher.name} sends the browser back with wrong or missing:"
                f" {', '.join(wrong)}.",
                "Tell the publisher's support.",
                "bad_request",
            )
    return f"{publisher.name} knows us and sends the browser back correctly."


def _oneroster(publisher: Publisher) -> list[Handshake]:
    if not publisher.oneroster_url or not publisher.oneroster_client_id:
        return [
            skipped(
                "OneRoster",
                "No OneRoster access is entered: courses and scores cannot be read.",
                "Enter the OneRoster address, client id and secret that the publisher gave you.",
                "ours",
            )
        ]
    gateway = PublisherGateway(publisher.name, publisher.oneroster_url, _tokens(publisher))
    found: list[str] = []

    def classes() -> str:
        rows = gateway.classes()
        found.extend(each.sourced_id for each in rows)
        return f"Rostering works: {len(rows)} courses."

    steps = [handshake("OneRoster: rostering", classes)]
    if not found:
        return [
            *steps,
            skipped("OneRoster: gradebook", "There is no course to read a gradebook of."),
            skipped("OneRoster: resources", "There is no course to read resources of."),
        ]
    steps.append(
        handshake(
            "OneRoster: gradebook",
            lambda: (
                f"Gradebook works: {len(gateway.line_items(found[0]))} items and"
                f" {len(gateway.results(found[0]))} scores in the first course."
            ),
        )
    )
    steps.append(
        handshake(
            "OneRoster: resources",
            lambda: (
                "Resources work: the course's cartridge can be fetched."
                if gateway.has_cartridge(found[0])
                else "Resources work; they hold no cartridge, so it is uploaded by hand."
            ),
        )
    )
    return steps


def _provisioning(publisher: Publisher) -> Handshake:
    step = "course provisioning"
    if not publisher.provisioning_url:
        return skipped(
            step, "The publisher has not announced it: courses are made and copied there, not here."
        )
    gateway = PublisherGateway(
        publisher.name, publisher.oneroster_url, _tokens(publisher), publisher.provisioning_url
    )

    def features() -> str:
        offered = gateway.features()
        with transaction.atomic():
            Publisher.objects.filter(pk=publisher.pk).update(features=list(offered))
        return f"Offered: {', '.join(offered) or 'nothing'}."

    return handshake(step, features)


def _tokens(publisher: Publisher) -> TokenSource:
    return secret_client(
        publisher.name,
        publisher.oneroster_client_id,
        unseal(publisher.oneroster_secret) if publisher.oneroster_secret else "",
        publisher.oneroster_token_url,
    )
