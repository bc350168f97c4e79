"""Being launched by key and secret (LTI 1.1)."""

from __future__ import annotations

import time

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.shared_key import verify_launch
from vennpair.standins.press.models import Account, Enrolment, Item, KeyedDestination, KeyedPlatform


@csrf_exempt
@require_POST
def launch(request: HttpRequest) -> HttpResponse:
    """Check the signature, then open the item that the link names."""
    fields = [(name, value) for name in request.POST for value in request.POST.getlist(name)]
    try:
        platform = KeyedPlatform.objects.filter(
            key=request.POST.get("oauth_consumer_key", "")
        ).first()
        if platform is None:
            raise LtiError("unknown_platform", "This key is not known at the press.")
        facts = verify_launch(
            f"{settings.BASE_URL}/lti/launch-by-key", fields, platform.secret, int(time.time())
        )
        item = (
            Item.objects.filter(sourced_id=facts.get("custom_item", ""))
            .select_related("unit__course")
            .first()
        )
        if item is None:
            raise LtiError("unknown_item", "The link names an item that the press does not have.")
    except LtiError as error:
        return render(request, "press/refused.html", {"error": error}, status=400)
    email = (
        facts.get("lis_person_contact_email_primary") or f"{facts['user_id']}@no-address.invalid"
    )
    names = {
        "given_name": facts.get("lis_person_name_given") or "Learner",
        "family_name": facts.get("lis_person_name_family") or "unnamed",
    }
    account, _ = Account.objects.get_or_create(email=email, defaults=names)
    Enrolment.objects.get_or_create(
        course=item.unit.course,
        account=account,
        defaults={"role": "teacher" if "Instructor" in facts.get("roles", "") else "student"},
    )
    request.session["account"] = account.pk
    if facts.get("lis_outcome_service_url"):
        where = {
            "platform": platform,
            "url": facts["lis_outcome_service_url"],
            "result": facts["lis_result_sourcedid"],
        }
        KeyedDestination.objects.update_or_create(item=item, account=account, defaults=where)
    return redirect(f"/items/{item.sourced_id}")
