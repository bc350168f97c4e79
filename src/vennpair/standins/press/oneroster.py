"""OneRoster 1.2 REST: rostering, gradebook, resources, and the token endpoint before them."""

from __future__ import annotations

import base64
import binascii
import re
from collections.abc import Callable
from datetime import datetime, timedelta
from functools import wraps
from io import BytesIO
from typing import Any
from urllib.parse import urlencode
from zoneinfo import ZoneInfo

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.crypto import constant_time_compare
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods, require_POST

from vennpair.standards import provisioning as p
from vennpair.standards.oneroster import objects as o
from vennpair.standins.press.cartridge import write_course
from vennpair.standins.press.models import Account, ApiClient, ApiToken, Attempt, Course, Item
from vennpair.standins.tarnfield import ZONE

LIFE = timedelta(hours=1)
OFFERED = {o.SCOPE_ROSTER, o.SCOPE_GRADEBOOK, o.SCOPE_RESOURCE, p.SCOPE}
Rows = tuple[str, list[dict[str, Any]]]


@csrf_exempt
@require_POST
def token(request: HttpRequest) -> JsonResponse:
    """Give an access token for a client's id and secret (RFC 6749, 4.4)."""
    client = _client(request.headers.get("Authorization", ""))
    if client is None:
        return JsonResponse({"error": "invalid_client"}, status=401)
    if request.POST.get("grant_type") != "client_credentials":
        return JsonResponse({"error": "unsupported_grant_type"}, status=400)
    granted = [scope for scope in request.POST.get("scope", "").split() if scope in OFFERED]
    if not granted:
        return JsonResponse({"error": "invalid_scope"}, status=400)
    given = ApiToken.objects.create(client=client, scopes=granted, expires=timezone.now() + LIFE)
    return JsonResponse(
        {
            "access_token": given.value,
            "token_type": "Bearer",
            "expires_in": int(LIFE.total_seconds()),
            "scope": " ".join(granted),
        }
    )


def _client(header: str) -> ApiClient | None:
    try:
        client_id, _, secret = (
            base64.b64decode(header.removeprefix("Basic ")).decode().partition(":")
        )
    except (binascii.Error, UnicodeDecodeError):
        return None
    client = ApiClient.objects.filter(client_id=client_id).first()
    return client if client and constant_time_compare(client.secret, secret) else None


def guarded_by(
    scope: str, method: str = "GET"
) -> Callable[[Callable[..., HttpResponse]], Callable[..., HttpResponse]]:
    """Guard a service view: the method, and a token with the scope."""

    def wrap(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
        @require_http_methods([method])
        @wraps(view)
        def guarded(request: HttpRequest, **rest: str) -> HttpResponse:
            given = ApiToken.objects.filter(
                value=request.headers.get("Authorization", "").removeprefix("Bearer "),
                expires__gt=timezone.now(),
            ).first()
            if given is None:
                return status_info(
                    401, "unauthorisedrequest", "The access token is missing, unknown or expired."
                )
            if scope not in given.scopes:
                return status_info(403, "forbidden", f"The access token lacks the scope {scope}.")
            if "sourced_id" not in rest:
                return view(request, **rest)
            course = Course.objects.filter(sourced_id=rest["sourced_id"]).first()
            return (
                view(request, course)
                if course
                else status_info(404, "unknownobject", "There is no such class.")
            )

        return guarded

    return wrap


def status_info(status: int, code: str, words: str) -> JsonResponse:
    """Return an error as the standard's status payload (OneRoster 1.2, 4.1.7)."""
    minor = {
        "imsx_codeMinorField": [
            {"imsx_codeMinorFieldName": "sourcedId", "imsx_codeMinorFieldValue": code}
        ]
    }
    return JsonResponse(
        {
            "imsx_codeMajor": "failure",
            "imsx_severity": "error",
            "imsx_description": words,
            "imsx_CodeMinor": minor,
        },
        status=status,
    )


def _page(request: HttpRequest, name: str, rows: list[dict[str, Any]]) -> JsonResponse:
    try:
        limit, offset = int(request.GET.get("limit", "100")), int(request.GET.get("offset", "0"))
    except ValueError:
        return status_info(400, "invaliddata", "limit and offset are whole numbers.")
    response = JsonResponse({name: rows[offset : offset + limit]})
    response["X-Total-Count"] = str(len(rows))
    if offset + limit < len(rows):
        query = urlencode(request.GET.dict() | {"limit": str(limit), "offset": str(offset + limit)})
        response["Link"] = f'<{settings.BASE_URL}{request.path}?{query}>; rel="next"'
    return response


def _object(sourced_id: str, **fields: Any) -> dict[str, Any]:
    return {
        "sourcedId": sourced_id,
        "status": "active",
        "dateLastModified": "2027-01-04T09:00:00Z",
    } | fields


def _ref(kind: str, sourced_id: str) -> dict[str, Any]:
    return o.reference(kind, sourced_id, f"{settings.BASE_URL}/ims/oneroster")


@guarded_by(o.SCOPE_ROSTER)
def classes(request: HttpRequest) -> HttpResponse:
    """List the homework courses."""
    return _classes(request, Course.objects.all())


def _classes(request: HttpRequest, courses: Any) -> HttpResponse:
    rows = [
        _class(course)
        for course in courses.order_by("code", "id")
        .select_related("book")
        .prefetch_related("enrolments")
    ]
    return _page(request, "classes", rows)


@guarded_by(o.SCOPE_ROSTER)
def one_class(request: HttpRequest, course: Course) -> HttpResponse:
    """Tell of one homework course."""
    return JsonResponse({"class": _class(course)})


@guarded_by(o.SCOPE_ROSTER)
def classes_of_teacher(request: HttpRequest, account: str) -> HttpResponse:
    """List the courses that a teacher has."""
    return _classes(
        request,
        Course.objects.filter(enrolments__account__sourced_id=account, enrolments__role="teacher"),
    )


@guarded_by(o.SCOPE_ROSTER)
def teachers(request: HttpRequest) -> HttpResponse:
    """List all teachers."""
    return _people(request, Account.objects.filter(teaches=True))


@guarded_by(o.SCOPE_ROSTER)
def teachers_of_class(request: HttpRequest, course: Course) -> HttpResponse:
    """List the teachers of a course."""
    return _people(
        request, Account.objects.filter(enrolments__course=course, enrolments__role="teacher")
    )


def _class(course: Course) -> dict[str, Any]:
    learners = sum(part.role == "student" for part in course.enrolments.all())
    term = dict(_ref("term", course.term.lower().replace(" ", "-")), title=course.term)
    return _object(
        course.sourced_id,
        title=course.title,
        classCode=course.code,
        classType="scheduled",
        subjects=["Hydrology"],
        course=_ref("course", "rivers-3"),
        terms=[term],
        metadata=_about(course, learners),
    )


def _about(course: Course, learners: int) -> dict[str, Any]:
    book = {"author": course.book.author, "isbn": course.book.isbn} if course.book else {}
    links = {
        name: {
            "url": f"{settings.BASE_URL}/lti/launch",
            "custom": {"course": course.sourced_id} | more,
        }
        for name, more in (("launch", {}), ("registration", {"show": "registration"}))
    }
    return (
        links
        | {"learners": learners, "term": course.term, "shared": course.shared, "timezone": ZONE}
        | book
    )


@guarded_by(o.SCOPE_ROSTER)
def students(request: HttpRequest, course: Course) -> HttpResponse:
    """List the learners of a course, with the subject they launch under where one is known."""
    return _people(
        request, Account.objects.filter(enrolments__course=course, enrolments__role="student")
    )


def _people(request: HttpRequest, accounts: Any) -> HttpResponse:
    rows = []
    for account in (
        accounts.prefetch_related("identities")
        .order_by("family_name", "given_name", "id")
        .distinct()
    ):
        ids = [
            {"type": o.LTI_USER_ID, "identifier": identity.sub}
            for identity in account.identities.all()
        ]
        rows.append(
            _object(
                account.sourced_id,
                givenName=account.given_name,
                familyName=account.family_name,
                email=account.email,
                userIds=ids,
                enabledUser="true",
            )
        )
    return _page(request, "users", rows)


@guarded_by(o.SCOPE_GRADEBOOK)
def line_items(request: HttpRequest, course: Course) -> HttpResponse:
    """List the graded items of a course."""
    rows = []
    for item in Item.objects.filter(unit__course=course, kind="graded").order_by(
        "unit__position", "position"
    ):
        due = {"dueDate": item.due.astimezone(ZoneInfo(ZONE)).isoformat()} if item.due else {}
        category = _ref(
            "category", f"{course.sourced_id}-{item.category.lower().replace(' ', '-')}"
        )
        fields = {
            "title": item.title,
            "class": _ref("class", course.sourced_id),
            "category": category,
            "resultValueMin": 0,
            "resultValueMax": float(item.points or 0),
        }
        about = {
            "launch": {
                "url": f"{settings.BASE_URL}/lti/launch",
                "custom": {"item": item.sourced_id},
            },
            "attempts": {"counts": "last", "reported": "each"},
        }
        rows.append(_object(item.sourced_id, **fields, **due, metadata=about))
    return _page(request, "lineItems", rows)


@guarded_by(o.SCOPE_GRADEBOOK)
def results(request: HttpRequest, course: Course) -> HttpResponse:
    """List the counting score of every learner and item: the newest attempt that counts.

    ``filter=dateLastModified>='…'`` is understood.
    """
    newest: dict[tuple[int, int], Attempt] = {}
    for attempt in Attempt.objects.filter(
        item__unit__course=course, item__kind="graded"
    ).select_related("item", "account"):
        known = newest.get((attempt.item_id, attempt.account_id))
        if known is None or known.deleted or not attempt.deleted:
            newest[attempt.item_id, attempt.account_id] = attempt
    since = re.fullmatch(r"dateLastModified>='([^']+)'", request.GET.get("filter", ""))
    if request.GET.get("filter") and since is None:
        return status_info(
            400, "invalid_filter_field", "Only dateLastModified>='time' is understood."
        )
    rows = []
    for attempt in sorted(newest.values(), key=lambda each: (each.changed, each.pk)):
        if since is not None and attempt.changed < datetime.fromisoformat(since[1]):
            continue
        fields: dict[str, Any] = {
            "lineItem": _ref("lineItem", attempt.item.sourced_id),
            "student": _ref("user", attempt.account.sourced_id),
            "scoreStatus": "fully graded",
        }
        if attempt.deleted:
            fields |= {"status": "tobedeleted"}
        else:
            fields["score"] = float(attempt.score)
        rows.append(
            _object(
                f"result-{attempt.item.sourced_id}-{attempt.account_id}",
                **fields,
                scoreDate=attempt.at.isoformat(),
            )
            | {"dateLastModified": attempt.changed.isoformat()}
        )
    return _page(request, "results", rows)


@guarded_by(o.SCOPE_GRADEBOOK)
def categories(request: HttpRequest, course: Course) -> HttpResponse:
    """List the categories of a course."""
    names = sorted(
        set(
            Item.objects.filter(unit__course=course, kind="graded").values_list(
                "category", flat=True
            )
        )
    )
    return _page(
        request,
        "categories",
        [
            _object(f"{course.sourced_id}-{name.lower().replace(' ', '-')}", title=name)
            for name in names
        ],
    )


@guarded_by(o.SCOPE_RESOURCE)
def resources(request: HttpRequest, course: Course) -> HttpResponse:
    """List what belongs to a course: its cartridge, where one is handed out."""
    url = f"{settings.BASE_URL}/courses/{course.sourced_id}/cartridge"
    fields = {
        "title": f"{course.title}, cartridge",
        "vendorResourceId": url,
        "format": "application/vnd.ims.imsccv1p3",
        "vendorId": "kestrelbrook",
        "roles": ["primary"],
        "importance": "primary",
    }
    return _page(
        request,
        "resources",
        [_object(f"cartridge-{course.sourced_id}", **fields)] if course.packaged else [],
    )


@guarded_by(o.SCOPE_RESOURCE)
def cartridge(request: HttpRequest, course: Course) -> HttpResponse:
    """Hand out a course as a Common Cartridge 1.3."""
    target = BytesIO()
    write_course(course, target)
    return HttpResponse(
        target.getvalue(),
        content_type="application/vnd.ims.imsccv1p3",
        headers={"Content-Disposition": f'attachment; filename="{course.sourced_id}.imscc"'},
    )
