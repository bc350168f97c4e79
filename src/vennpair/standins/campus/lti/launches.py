"""Launching a tool: the link in a page, then the authorisation endpoint that signs the message."""

from __future__ import annotations

import time

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET

from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.deep_linking import PickRequest, write_request
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.keys import public_jwks
from vennpair.standards.lti.launch import (
    Context,
    GradeEndpoint,
    Launch,
    OutlineEndpoint,
    write_launch,
)
from vennpair.standards.lti.launch import Person as LtiPerson
from vennpair.standards.lti.oidc import LoginRequest, login_url, read_authentication
from vennpair.standards.lti.variables import substitute
from vennpair.standins.campus.lti.taking import settings_for
from vennpair.standins.campus.models import Enrolment, Node, Person, Shell, SigningKey, Tool
from vennpair.standins.keys import signing_key

ROLES = {
    "instructor": v.INSTRUCTOR,
    "assistant": v.ASSISTANT,
    "learner": v.LEARNER,
    "preview": v.LEARNER,
}
SALT = "campus.launch"


def begin(
    tool: Tool, shell: Shell, person: Person, node: Node | None, *, picking: bool = False
) -> HttpResponse:
    """Send the browser to the tool's login address; the hint remembers what is being opened."""
    target = node.url if node and node.url else tool.launch_url
    hint = signing.dumps(
        {
            "shell": shell.pk,
            "node": node.pk if node else None,
            "person": person.pk,
            "tool": tool.pk,
            "picking": picking,
        },
        salt=SALT,
    )
    request = LoginRequest(
        settings.BASE_URL, person.sub, target, tool.client_id, hint, tool.deployment_id
    )
    return redirect(login_url(tool.login_url, request))


@require_GET
def jwks(request: HttpRequest) -> JsonResponse:
    """Publish the platform's keys."""
    return JsonResponse(public_jwks([signing_key(SigningKey)]))


@csrf_exempt
def authorize(request: HttpRequest) -> HttpResponse:
    """Answer an authentication request with the signed message (Security Framework 5.1.1.2)."""
    try:
        asked = read_authentication(request.POST if request.method == "POST" else request.GET)
        tool = Tool.objects.filter(client_id=asked.client_id).first()
        if tool is None:
            raise LtiError("unauthorized_client", "This client_id is not registered at the campus.")
        if asked.redirect_uri not in tool.redirect_uris:
            raise LtiError("invalid_request", "This redirect_uri is not registered for the tool.")
        hint = signing.loads(asked.lti_message_hint, salt=SALT, max_age=600)
        person = Person.objects.filter(sub=asked.login_hint, pk=hint["person"]).first()
        if person is None or request.session.get("person") != person.pk or hint["tool"] != tool.pk:
            raise LtiError("login_required", "Somebody else is signed in at the campus by now.")
    except signing.BadSignature:
        return _refuse(request, "The launch was not begun here or is too old.")
    except LtiError as error:
        return _refuse(request, error.message)
    shell = get_object_or_404(Shell, pk=hint["shell"])
    message = _launch(tool, shell, person, Node.objects.filter(pk=hint["node"]).first())
    claims = (
        write_request(PickRequest(message, settings_for(shell, person.pk)))
        if hint.get("picking")
        else write_launch(message)
    )
    now = int(time.time())
    token = sign(
        claims
        | {
            "iss": settings.BASE_URL,
            "aud": tool.client_id,
            "iat": now,
            "exp": now + 300,
            "nonce": asked.nonce,
        },
        signing_key(SigningKey),
    )
    return render(
        request,
        "campus/post.html",
        {"action": asked.redirect_uri, "fields": {"id_token": token, "state": asked.state}},
    )


def _launch(tool: Tool, shell: Shell, person: Person, node: Node | None) -> Launch:
    part = Enrolment.objects.get(shell=shell, person=person)
    base = f"{settings.BASE_URL}/services/{shell.context_id}"
    column = node.columns.first() if node else None
    return Launch(
        person=LtiPerson(
            person.sub, person.name, person.given_name, person.family_name, person.email
        ),
        deployment_id=tool.deployment_id,
        target_link_uri=node.url if node and node.url else tool.launch_url,
        resource_link_id=node.resource_link_id if node else f"navigation-{shell.context_id}",
        resource_link_title=node.title if node else tool.name,
        roles=(ROLES[part.role], v.TEST_USER) if part.role == "preview" else (ROLES[part.role],),
        context=Context(shell.context_id, shell.title, shell.label),
        custom=substitute(
            tool.custom | (dict(node.custom) if node else {}), _variables(shell, node)
        ),
        grades=GradeEndpoint(
            (v.SCOPE_LINE_ITEM, v.SCOPE_RESULT_READ, v.SCOPE_SCORE),
            f"{base}/lineitems",
            f"{base}/lineitems/{column.key}" if column else "",
        ),
        memberships_url=f"{base}/members",
        outline=OutlineEndpoint((v.SCOPE_OUTLINE, v.SCOPE_OUTLINE_READ), f"{base}/outline"),
        return_url=f"{settings.BASE_URL}/shells/{shell.context_id}",
        timezone=shell.zone,
        platform={
            "guid": "campus.tarnfield.example",
            "name": "Tarnfield Campus",
            "product_family_code": "tarnfield-campus",
        },
    )


def _variables(shell: Shell, node: Node | None) -> dict[str, str]:
    """Return the substitution variables that the campus knows (LTI Core 1.3, Appendix B)."""
    return {
        "Context.id": shell.context_id,
        "Context.timeZone": shell.zone,
        "Context.id.history": shell.history,
        "ResourceLink.id": node.resource_link_id if node else "",
        "ResourceLink.id.history": node.link_history if node else "",
    }


def _refuse(request: HttpRequest, message: str) -> HttpResponse:
    return render(request, "campus/refused.html", {"message": message}, status=400)
