"""The few pages that a launch can end in, other than the console."""

from __future__ import annotations

import base64
import hashlib

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from vennpair.standards.lti.errors import LtiError

# What the person can do, by the code of what went wrong; the rest gets the last line.
_ADVICE = {
    "expired": "Go back to the course and open the link again; a launch is good for a few minutes.",
    "bad_state": "Go back to the course and open the link again. If your browser blocks cookies for this site, allow them or open the link in a new window.",
    "bad_nonce": "Go back to the course and open the link again; a launch can be used once.",
    "not_yet": "Ask your administrator to compare the clocks of the course platform and Venn Pair.",
    "unknown_platform": "Ask your administrator to register this course platform with Venn Pair.",
    "bad_deployment": "Ask your administrator to add this deployment to the platform's registration.",
    "not_placed": "Your instructor has not finished setting this link up, or has taken it back. Tell them which link you opened.",
    "not_for_learners": "There is nothing to do for you here: open your homework from the links in the course.",
    "keys": "Try again in a minute; if it stays, tell your administrator that the platform's keys cannot be read.",
    "publisher_off": "Try again in a few minutes. If it stays, tell your instructor.",
}
_OTHERWISE = "Go back to the course and open the link again. If it stays, send this page to your administrator."
_SUBMIT = "document.getElementById('go').submit()"
_HASH = base64.b64encode(hashlib.sha256(_SUBMIT.encode()).digest()).decode()


def refusal(request: HttpRequest, error: LtiError, status: int = 400) -> HttpResponse:
    """Show why a launch was refused, and what the person can do."""
    context = {"error": error, "advice": _ADVICE.get(error.code, _OTHERWISE)}
    return render(request, "lti/refused.html", context, status=status)


def send_form(request: HttpRequest, action: str, fields: dict[str, str]) -> HttpResponse:
    """Post fields to another site by way of the browser (OAuth 2.0 Form Post Response Mode)."""
    response = render(request, "lti/post.html", {"action": action, "fields": fields, "script": _SUBMIT})
    response["Content-Security-Policy"] = f"default-src 'none'; script-src 'sha256-{_HASH}'; style-src 'unsafe-inline'; frame-ancestors *; base-uri 'none'"
    return response
