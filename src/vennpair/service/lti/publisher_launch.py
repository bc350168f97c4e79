"""The second hop of a launch: from us, as platform, to the publisher.

By LTI 1.3, or 1.1 where it has only a key.
"""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect

from vennpair import __version__
from vennpair.service.connect.authentication import signed_in
from vennpair.service.connect.models import Publisher, User
from vennpair.service.connect.registration_values import OFFERED
from vennpair.service.connect.secrets import unseal
from vennpair.service.content.addresses import address_of
from vennpair.service.content.models import Item, Placement
from vennpair.service.deploy.launch_hints import sign_hint
from vennpair.service.lti.pages import send_form
from vennpair.service.pair.actions.pair_course import contexts_before
from vennpair.service.pair.models import AccountLink, Learner, Shell
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.launch import Context, GradeEndpoint, Launch, Person
from vennpair.standards.lti.oidc import LoginRequest, login_url
from vennpair.standards.lti.review import ReviewRequest, write_review
from vennpair.standards.lti.roles import roles_of, standing
from vennpair.standards.lti.shared_key import launch_fields, short_roles, sign_launch
from vennpair.standards.lti.variables import substitute, written_history

RESULT_SALT = "vennpair.result"
HOPS, MOST_HOPS = "second_hops", 20  # launches that this browser has begun, in as many tabs


def digest(value: str) -> str:
    """Return what is kept of a token or hint."""
    return hashlib.sha256(value.encode()).hexdigest()


def open_placement(
    request: HttpRequest, placement: Placement, learner: Learner | None, message: Launch
) -> HttpResponse:
    """Send the browser on to the publisher with the item of a placement."""
    who = {
        "sub": learner.sub if learner else signed_in(request).subject,
        "name": message.person.name,
        "given": message.person.given_name,
        "family": message.person.family_name,
        "email": message.person.email,
    }
    publisher = placement.pairing.course.publisher
    if learner and publisher.gets_numbers:
        who["number"] = learner.number
    return _open(
        request,
        publisher,
        {
            "placement": str(placement.pk),
            "who": who,
            "learner": learner is not None,
            "role": "learner" if learner else standing(message.roles),
        },
    )


def open_own(request: HttpRequest, placement: Placement, learner: Learner) -> HttpResponse:
    """Send a learner on from the page of their homework, as their own link would."""
    publisher = placement.pairing.course.publisher
    who = {
        "sub": learner.sub,
        "name": learner.name,
        "given": learner.given_name,
        "family": learner.family_name,
        "email": learner.email,
    }
    if publisher.gets_numbers:
        who["number"] = learner.number
    facts = {"placement": str(placement.pk), "who": who, "learner": True, "role": "learner"}
    return _open(request, publisher, facts)


def open_item(request: HttpRequest, item: Item) -> HttpResponse:
    """Send an instructor on to an item that need not be placed."""
    facts = {"item": str(item.pk), "who": _who(signed_in(request)), "learner": False}
    return _open(request, item.pairing.course.publisher, facts)


def open_test(request: HttpRequest, placement: Placement) -> HttpResponse:
    """Send a platform's test learner on to the publisher; no score comes back for it."""
    who = {
        "sub": f"test-{placement.pairing_id}",
        "name": "Test Learner",
        "given": "Test",
        "family": "Learner",
        "email": "",
    }
    return _open(
        request,
        placement.pairing.course.publisher,
        {"placement": str(placement.pk), "who": who, "learner": True, "test": True},
    )


def open_account(request: HttpRequest, link: AccountLink) -> HttpResponse:
    """Send an instructor's browser to the publisher, to show there which account is theirs."""
    facts = {"account": str(link.pk), "who": _who(link.user), "learner": False}
    return _open(request, link.publisher, facts)


def _who(user: User) -> dict[str, str]:
    """Return what the publisher is told of somebody who is signed in here."""
    return {
        "sub": user.subject,
        "name": user.shown_name,
        "given": user.first_name,
        "family": user.last_name,
        "email": user.email,
    }


def open_review(
    request: HttpRequest, placement: Placement, whose: Learner, learner: Learner | None
) -> HttpResponse:
    """Send the browser on to the publisher's page of what ``whose`` handed in (Submission Review
    1.0); ``learner`` is who looks, None for staff who are signed in here.

    Raises LtiError where the publisher shows no submissions.
    """
    publisher = placement.pairing.course.publisher
    if not publisher.review_url:
        raise LtiError(
            "no_review",
            f"{publisher.name} does not take requests to show what one learner handed in"
            " (Submission Review); open the item there and look for the learner.",
        )
    user = None if learner else signed_in(request)
    who = {
        "sub": user.subject if user else whose.sub,
        "name": user.shown_name if user else whose.name,
        "given": user.first_name if user else whose.given_name,
        "family": user.last_name if user else whose.family_name,
        "email": user.email if user else whose.email,
    }
    facts = {"placement": str(placement.pk), "who": who, "learner": learner is not None}
    return _open(request, publisher, facts | {"review": str(whose.pk)})


def review_claims(publisher: Publisher, hint: dict[str, Any]) -> dict[str, Any]:
    """Return the claims of our request to show a learner's work.

    Raises LtiError where item or learner are gone by now.
    """
    launch = second_launch(publisher, hint)
    whose = Learner.objects.filter(pk=hint["review"]).first()
    if whose is None or launch.grades is None:
        raise LtiError("nothing_to_review", "This learner or column is no longer known.")
    number = whose.number if publisher.gets_numbers else ""
    learner = Person(
        whose.sub,
        whose.name,
        whose.given_name,
        whose.family_name,
        whose.email,
        sourced_id=number,
    )
    return write_review(ReviewRequest(launch, learner))


def second_launch(publisher: Publisher, hint: dict[str, Any]) -> Launch:
    """Return the message for the publisher that a hint stands for.

    Raises LtiError where it is gone by now.
    """
    if hint.get("account"):
        return _account_launch(publisher, hint)
    if hint.get("item"):
        return _item_launch(publisher, hint)
    placement = (
        Placement.objects.select_related(
            "pairing__shell__platform__institution", "pairing__course__publisher", "item"
        )
        .filter(pk=hint["placement"])
        .first()
    )
    if placement is None:
        raise LtiError("not_placed", "This link is not connected to homework.")
    shell, base = (
        placement.pairing.shell,
        f"{settings.BASE_URL}/lti/platform/pairings/{placement.pairing_id}/lineitems",
    )
    context = Context(str(placement.pairing_id), shell.title, shell.label)
    grades = (
        GradeEndpoint(OFFERED, base, f"{base}/{placement.pk}")
        if placement.is_scored and not hint.get("test")
        else None
    )
    return _launch(
        publisher,
        hint,
        publisher.review_url
        if hint.get("review")
        else address_of(placement.item, placement.pairing.course),
        str(placement.pk),
        placement.title,
        context,
        dict(placement.item.custom),
        (contexts_before(placement.pairing), placement.history),
        grades=grades,
        return_url=shell.return_url,
        timezone=shell.zone,
    )


def _item_launch(publisher: Publisher, hint: dict[str, Any]) -> Launch:
    """Return the launch of an item that somebody looks at; without a column, as none is meant."""
    items = Item.objects.select_related("pairing__shell__platform__institution", "pairing__course")
    item = items.filter(pk=hint["item"]).first()
    if item is None:
        raise LtiError("not_placed", "This item is no longer there.")
    shell = item.pairing.shell
    return _launch(
        publisher,
        hint,
        address_of(item, item.pairing.course),
        f"look-{item.pk}",
        item.shown_title,
        Context(str(item.pairing_id), shell.title, shell.label),
        dict(item.custom),
        return_url=shell.return_url,
        timezone=shell.zone,
    )


def pick_launch(
    publisher: Publisher, hint: dict[str, Any], shell: Shell, pairing: str, custom: dict[str, str]
) -> Launch:
    """Return what a deep linking request shares with a launch."""
    return _launch(
        publisher,
        hint,
        publisher.picker_url or publisher.launch_url,
        "picking",
        "",
        Context(pairing, shell.title, shell.label),
        custom,
        timezone=shell.zone,
    )


def open_picking(request: HttpRequest, publisher: Publisher, picking: str) -> HttpResponse:
    """Send an instructor's browser to the publisher, to pick content there.

    Raises LtiError where it speaks no LTI 1.3.
    """
    if publisher.speaks == Publisher.Speaks.LTI_1_1:
        raise LtiError("publisher_off", f"{publisher.name} has no picker: it only speaks LTI 1.1.")
    facts = {"picking": picking, "who": _who(signed_in(request)), "learner": False}
    return _open(request, publisher, facts)


def _account_launch(publisher: Publisher, hint: dict[str, Any]) -> Launch:
    link = (
        AccountLink.objects.select_related("user__institution")
        .filter(pk=hint["account"], publisher=publisher)
        .first()
    )
    if link is None:
        raise LtiError("bad_hint", "This account link was undone in the meantime.")
    back = f"{settings.BASE_URL}/lti/platform/account"
    custom = {"vennpair_account_return": back, "vennpair_account_nonce": link.nonce}
    institution = publisher.institution  # it is its own only who links an account there
    return _launch(
        publisher,
        hint,
        publisher.launch_url,
        f"account-{link.pk}",
        "Link your account",
        Context(f"institution-{institution.pk}", institution.name, institution.name),
        custom,
        return_url=f"{settings.BASE_URL}/accounts",
    )


def _launch(
    publisher: Publisher,
    hint: dict[str, Any],
    target: str,
    link_id: str,
    title: str,
    context: Context,
    custom: dict[str, str],
    before: tuple[Sequence[str], Sequence[str]] = ((), ()),
    **rest: Any,
) -> Launch:
    """Return a launch at a publisher. ``before``: what context and link were copied from, the most
    recent first.
    """
    who = hint["who"]
    person = Person(
        who["sub"],
        who["name"],
        who["given"],
        who["family"],
        who["email"],
        sourced_id=who.get("number", ""),
    )
    known = {
        "User.id": person.sub,
        "Person.name.full": person.name,
        "Person.name.given": person.given_name,
        "Person.name.family": person.family_name,
        "Person.email.primary": person.email,
        "Context.id": context.id,
        "Context.title": context.title,
        "Context.label": context.label,
        "Context.timeZone": rest.get("timezone", ""),
        "ResourceLink.id": link_id,
        "ResourceLink.title": title,
        "Person.sourcedId": person.sourced_id,
        "Context.id.history": written_history(before[0]),
        "ResourceLink.id.history": written_history(before[1]),
    }
    return Launch(
        person=person,
        deployment_id=publisher.deployment_id,
        target_link_uri=target,
        resource_link_id=link_id,
        resource_link_title=title,
        roles=(v.LEARNER, v.TEST_USER)
        if hint.get("test")
        else roles_of(hint.get("role") or ("learner" if hint["learner"] else "instructor")),
        context=context,
        custom=substitute(_custom_of(publisher, hint) | custom, known),
        platform={
            "guid": settings.BASE_URL.partition("://")[2],
            "name": "Venn Pair",
            "product_family_code": "vennpair",
            "version": __version__,
        },
        **rest,
    )


def _custom_of(publisher: Publisher, hint: dict[str, Any]) -> dict[str, str]:
    """Return the parameters that go with each message of a kind."""
    own = publisher.picker_custom if hint.get("picking") else {}
    own = publisher.review_custom if hint.get("review") else own
    return dict(own or publisher.custom)


def _open(request: HttpRequest, publisher: Publisher, facts: dict[str, Any]) -> HttpResponse:
    """Begin: the browser goes to the publisher's login, with a hint of who opens what.

    The hint is signed and the browser's session remembers it, so that only this browser can use it.
    """
    if not publisher.can_launch:
        raise LtiError("publisher_off", f"{publisher.name} is not connected at the moment.")
    hint = facts | {"publisher": str(publisher.pk)}
    if publisher.speaks == Publisher.Speaks.LTI_1_1:
        return _open_by_key(request, publisher, second_launch(publisher, hint))
    signed = sign_hint(hint)
    request.session[HOPS] = [*request.session.get(HOPS, []), digest(signed)][-MOST_HOPS:]
    target = (
        publisher.picker_url or publisher.launch_url
        if hint.get("picking")
        else second_launch(publisher, hint).target_link_uri
    )
    asked = LoginRequest(
        settings.BASE_URL,
        hint["who"]["sub"],
        target,
        publisher.client_id,
        signed,
        publisher.deployment_id,
    )
    return redirect(login_url(publisher.login_url, asked))


def _open_by_key(request: HttpRequest, publisher: Publisher, launch: Launch) -> HttpResponse:
    """Launch by key and secret (LTI 1.1.1, 3); scores come back by Basic Outcomes."""
    person, context = launch.person, launch.context
    facts = {
        "resource_link_id": launch.resource_link_id,
        "resource_link_title": launch.resource_link_title,
        "user_id": person.sub,
        "lis_person_name_full": person.name,
        "lis_person_name_given": person.given_name,
        "lis_person_name_family": person.family_name,
        "lis_person_contact_email_primary": person.email,
        "lis_person_sourcedid": person.sourced_id,
        "context_id": context.id if context else "",
        "context_title": context.title if context else "",
        "context_label": context.label if context else "",
        "context_type": "CourseSection",
        "launch_presentation_return_url": launch.return_url,
        "launch_presentation_document_target": "window",
        "tool_consumer_info_product_family_code": "vennpair",
        "tool_consumer_instance_guid": launch.platform["guid"],
        "tool_consumer_instance_name": "Venn Pair",
    }
    learner = v.LEARNER in launch.roles
    if launch.grades and learner:
        facts["lis_outcome_service_url"] = f"{settings.BASE_URL}/lti/platform/outcomes"
        facts["lis_result_sourcedid"] = signing.dumps(
            {"placement": launch.resource_link_id, "learner": person.sub}, salt=RESULT_SALT
        )
    fields = launch_fields(facts, short_roles(launch.roles), launch.custom)
    # Parameters name the item where there are any; else its own address does, if that is at the
    # publisher's site: what we sign goes nowhere else.
    target, own = publisher.launch_url or launch.target_link_uri, launch.target_link_uri
    if not launch.custom and urlsplit(own).netloc == urlsplit(target).netloc:
        target = own
    return send_form(
        request, target, sign_launch(target, fields, publisher.key, unseal(publisher.shared_secret))
    )
