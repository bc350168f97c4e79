"""The press's pages: a course, an item with its questions, and the score."""

from __future__ import annotations

from decimal import Decimal

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from vennpair.standins.press.lti.reports import report
from vennpair.standins.press.models import Account, Attempt, Course, Enrolment, Item


def home(request: HttpRequest) -> HttpResponse:
    """Show the courses of whoever was launched here, or say how to come in."""
    account = _account(request)
    parts = account.enrolments.select_related("course").order_by("course__code") if account else []
    return render(
        request,
        "press/home.html",
        {
            "account": account,
            "parts": parts,
            "teachers": Account.objects.filter(teaches=True).order_by("family_name"),
        },
    )


@require_POST
def sign_in(request: HttpRequest) -> HttpResponse:
    """Sign in as one of the invented teachers; the press has no secrets to guard."""
    account = get_object_or_404(Account, email=request.POST.get("email", ""), teaches=True)
    request.session["account"] = account.pk
    return redirect("/lti/link" if request.POST.get("next") == "/lti/link" else "/")


@require_POST
def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out."""
    request.session.flush()
    return redirect("/")


def course(request: HttpRequest, sourced_id: str) -> HttpResponse:
    """Show a course with its units and items."""
    account, found = _member(request, get_object_or_404(Course, sourced_id=sourced_id))
    return render(
        request,
        "press/course.html",
        {
            "account": account,
            "course": found,
            "units": found.units.prefetch_related("items"),
            "registered": "registered" in request.GET,
        },
    )


def item(request: HttpRequest, sourced_id: str) -> HttpResponse:
    """Show an item; a posted answer is scored, kept and reported."""
    found = get_object_or_404(Item.objects.select_related("unit__course"), sourced_id=sourced_id)
    account, _ = _member(request, found.unit.course)
    if request.method == "POST" and found.questions:
        report(
            answer(
                found,
                account,
                [request.POST.get(f"q{number}", "") for number in range(len(found.questions))],
            )
        )
        return redirect(f"/items/{sourced_id}")
    attempts = list(found.attempts.filter(account=account))
    return render(
        request,
        "press/item.html",
        {
            "account": account,
            "item": found,
            "course": found.unit.course,
            "attempts": attempts,
            "newest": attempts[-1] if attempts else None,
        },
    )


def answer(found: Item, account: Account, given: list[str]) -> Attempt:
    """Score an answer: each right choice earns its share of the points."""
    right = sum(
        choice == str(question["right"])
        for choice, question in zip(given, found.questions, strict=True)
    )
    points = found.points or Decimal(len(found.questions))
    score = (points * right / len(found.questions)).quantize(Decimal("0.01"))
    return Attempt.objects.create(item=found, account=account, score=score, at=timezone.now())


def _account(request: HttpRequest) -> Account | None:
    return Account.objects.filter(pk=request.session.get("account") or 0).first()


def _member(request: HttpRequest, found: Course) -> tuple[Account, Course]:
    account = _account(request)
    if account is None or not Enrolment.objects.filter(course=found, account=account).exists():
        raise Http404
    return account, found
