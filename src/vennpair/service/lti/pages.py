"""The few pages that a launch or a registration can end in, other than the console."""

from __future__ import annotations

import base64
import hashlib
from pathlib import Path

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from vennpair.standards.lti.errors import LtiError

# What the person can do, by the code of what went wrong; the rest gets the last line.
_ADVICE = {
    "expired": "Go back to the course and open the link again; a launch is good for a few minutes.",
    "bad_state": (
        "Go back to the course and open the link again. If your browser blocks cookies for this"
        " site, allow them or open the link in a new window."
    ),
    "bad_nonce": "Go back to the course and open the link again; a launch can be used once.",
    "bad_ticket": (
        "Go back to the course and open the link again; the way on is good once, for five minutes."
    ),
    "not_yet": "Ask your administrator to compare the clocks of the course platform and Venn Pair.",
    "unknown_platform": "Ask your administrator to register this course platform with Venn Pair.",
    "platform_off": (
        "Ask your administrator; they have taken this course platform out of use in Venn Pair."
    ),
    "bad_deployment": (
        "Ask your administrator to accept this deployment under Connections, then open the link"
        " again."
    ),
    "not_placed": (
        "Your instructor has not finished setting this link up, or has taken it back. Tell them"
        " which link you opened."
    ),
    "copied_link": (
        "This link was copied from another course and your instructor has not pointed it at this"
        " one yet. Tell them; it takes them two clicks."
    ),
    "not_for_learners": (
        "There is nothing to do for you here: open your homework from the links in the course."
    ),
    "no_review": "If the publisher has such a page, its administrator can register it with Venn Pair.",
    "nothing_to_review": "Look in the course's roster; then compare the two sides again.",
    "blocked": "Ask your administrator if you think that this is a mistake.",
    "not_for_mentors": "Ask the learner, or the instructor, to show you what you need to see.",
    "no_course_role": (
        "If you teach or learn in this course, ask your course platform's administrator to give you"
        " that part. If you administer Venn Pair, sign in at its own address."
    ),
    "paired_paused": (
        "Your work at the publisher is kept. Ask your instructor when the homework opens again."
    ),
    "keys": (
        "Try again in a minute; if it stays, tell your administrator that the platform's keys"
        " cannot be read."
    ),
    "publisher_off": "Try again in a few minutes. If it stays, tell your instructor.",
    "not_administrator": (
        "Sign in to Venn Pair as an administrator in this browser and open this again, or make a"
        " registration link under Connections and enter that."
    ),
    "bad_invitation": (
        "Ask the administrator of Venn Pair for a new link; they make it under Connections."
    ),
    "registration_failed": (
        "Nothing is half registered: make a new registration link at the platform and try again, or"
        " enter the values by hand under Connections."
    ),
    "wrong_person": (
        "Sign in to Venn Pair as the person who began, or begin again under your own name."
    ),
}
_OTHERWISE = (
    "Go back to the course and open the link again. If it stays, send this page to your"
    " administrator."
)
_SCRIPTS = Path(__file__).parent / "scripts"


def refusal(request: HttpRequest, error: LtiError, status: int = 400) -> HttpResponse:
    """Show why a launch was refused, and what the person can do."""
    what = (
        "This registration did not go through"
        if "regist" in error.clause.lower()
        or error.code in {"bad_invitation", "registration_failed", "not_administrator"}
        else "This link could not be opened"
    )
    context = {"error": error, "advice": _ADVICE.get(error.code, _OTHERWISE), "what": what}
    return render(request, "lti/refused.html", context, status=status)


def send_form(request: HttpRequest, action: str, fields: dict[str, str]) -> HttpResponse:
    """Post fields to another site by way of the browser (OAuth 2.0 Form Post Response Mode)."""
    return _scripted(request, "lti/post.html", "post", {"action": action, "fields": fields})


def keep_proof(request: HttpRequest, storage: dict[str, str], onward: str) -> HttpResponse:
    """Put a proof into the platform's frame, then go on to its authorisation address (client-side
    postMessage storage).
    """
    return _scripted(
        request, "lti/storage.html", "storage", {"storage": storage, "onward": onward, "fields": {}}
    )


def ask_proof(
    request: HttpRequest, storage: dict[str, str], fields: dict[str, str]
) -> HttpResponse:
    """Get the proof back from the platform's frame and send the message with it."""
    return _scripted(
        request, "lti/storage.html", "storage", {"storage": storage, "onward": "", "fields": fields}
    )


def new_window(request: HttpRequest, address: str) -> HttpResponse:
    """Go on in a new window, where cookies are not blocked."""
    return render(request, "lti/window.html", {"address": address})


def registered(request: HttpRequest, name: str, base: str) -> HttpResponse:
    """Say that a platform is registered, and tell the platform's page to close this one (Dynamic
    Registration 1.0, 3.7).
    """
    return _scripted(request, "lti/registered.html", "close", {"name": name, "base": base})


def confirm_registration(request: HttpRequest, configuration: str, token: str) -> HttpResponse:
    """Ask an administrator whether to register at a platform."""
    return render(request, "lti/confirm.html", {"configuration": configuration, "token": token})


def _scripted(
    request: HttpRequest, template: str, script: str, context: dict[str, object]
) -> HttpResponse:
    code = (_SCRIPTS / f"{script}.js").read_text().strip()
    allowed = base64.b64encode(hashlib.sha256(code.encode()).digest()).decode()
    response = render(request, template, context | {"script": code})
    response["Content-Security-Policy"] = (
        f"default-src 'none'; script-src 'sha256-{allowed}'; style-src 'unsafe-inline';"
        " base-uri 'none'"
    )
    return response
