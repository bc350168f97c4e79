"""Telling a platform whose account an instructor has here (docs/course-provisioning.md,
Accounts).
"""

from __future__ import annotations

import time

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render

from vennpair.standards.lti.jwt import sign
from vennpair.standards.lti.launch import Launch
from vennpair.standards.provisioning import ACCOUNT_CLAIM
from vennpair.standins.keys import signing_key
from vennpair.standins.press.models import Account, Identity, Platform, SigningKey

PENDING = "account_link"


def begin_link(request: HttpRequest, platform: Platform, message: Launch) -> HttpResponse:
    """Remember who asks, then let the person sign in.

    One who is signed in goes back at once, as whoever they are.
    """
    asked = {"platform": platform.pk, "sub": message.person.sub, "person": message.person.name}
    request.session[PENDING] = asked | {
        "back": message.custom["vennpair_account_return"],
        "nonce": message.custom.get("vennpair_account_nonce", ""),
    }
    return redirect("/lti/link")


def link(request: HttpRequest) -> HttpResponse:
    """Send the signed word back, or show the sign-in page."""
    asked, account = (
        request.session.get(PENDING),
        Account.objects.filter(pk=request.session.get("account") or 0, teaches=True).first(),
    )
    if not asked:
        return redirect("/")
    if account is None:
        return render(
            request,
            "press/link.html",
            {
                "person": asked["person"],
                "teachers": Account.objects.filter(teaches=True).order_by("family_name"),
            },
        )
    del request.session[PENDING]
    platform = Platform.objects.get(pk=asked["platform"])
    Identity.objects.update_or_create(
        platform=platform, sub=asked["sub"], defaults={"account": account}
    )
    now = int(time.time())
    claims = {
        "iss": platform.client_id,
        "aud": platform.issuer,
        "iat": now,
        "exp": now + 300,
        "nonce": asked["nonce"],
    }
    claims[ACCOUNT_CLAIM] = {"id": account.sourced_id, "name": account.name, "email": account.email}
    return render(
        request,
        "press/post.html",
        {
            "action": asked["back"],
            "fields": {"JWT": sign(claims, signing_key(SigningKey)), "nonce": asked["nonce"]},
        },
    )
