"""The test learner of a shell: a tool may open an entry as that learner sees it
(docs/shell-outline.md, Learner view).
"""

from __future__ import annotations

from django.conf import settings
from django.core import signing
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect

from vennpair.standards.lti import vocabulary as v
from vennpair.standins.campus.lti.access import problem, service
from vennpair.standins.campus.models import Enrolment, Node, Person, Shell

SALT, SECONDS = "campus.learner-view", 120


@service(post={v.SCOPE_OUTLINE})
def learner_view(request: HttpRequest, shell: Shell, key: str) -> HttpResponse:
    """Return a one-time address that opens the entry as the test learner."""
    found = Node.objects.filter(shell=shell, key=key).first()
    if found is None:
        return problem(404, "There is no such folder or entry in this course.")
    ticket = signing.dumps({"shell": shell.context_id, "node": found.key}, salt=SALT)
    return JsonResponse(
        {
            "url": f"{settings.BASE_URL}/learner-view?ticket={ticket}",
            "user": test_learner(shell).sub,
        }
    )


def enter(request: HttpRequest) -> HttpResponse:
    """Come in as the test learner; what learners do not see is not found."""
    try:
        asked = signing.loads(request.GET.get("ticket", ""), salt=SALT, max_age=SECONDS)
    except signing.BadSignature as error:
        raise Http404 from error
    shell = get_object_or_404(Shell, context_id=asked["shell"])
    request.session.cycle_key()
    request.session["person"] = test_learner(shell).pk
    return redirect(f"/shells/{shell.context_id}/open?node={asked['node']}")


def test_learner(shell: Shell) -> Person:
    """Return the shell's test learner; in no roster, and made when first asked for."""
    person, _ = Person.objects.get_or_create(
        email=f"test-learner-{shell.context_id}@campus.example",
        defaults={"given_name": "Test", "family_name": "Learner", "testing": True},
    )
    Enrolment.objects.get_or_create(shell=shell, person=person, defaults={"role": "preview"})
    return person
