"""The campus's pages: sign-in, shells, outline and gradebook, plain but readable."""

from __future__ import annotations

from datetime import datetime
from urllib.parse import quote

from django.conf import settings
from django.core.files.uploadedfile import UploadedFile
from django.db.models import Q
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from vennpair.standards.lti.oidc import with_query
from vennpair.standins.campus import quizzes
from vennpair.standins.campus.lti.files import linked
from vennpair.standins.campus.lti.imports import begin_import
from vennpair.standins.campus.lti.launches import begin
from vennpair.standins.campus.lti.outline import in_order
from vennpair.standins.campus.lti.places import place_of
from vennpair.standins.campus.models import (
    Cell,
    Column,
    Enrolment,
    Node,
    Person,
    RegistrationToken,
    StoredFile,
    Tool,
)
from vennpair.standins.scores import typed_score

MOST_IMPORTS = 10  # on the page of imports


def home(request: HttpRequest) -> HttpResponse:
    """Show the shells of whoever is signed in, or who one can sign in as."""
    person = _person(request)
    if person is None:
        staff = (
            Person.objects.filter(
                Q(enrolments__role__in=["instructor", "assistant"]) | Q(administers=True)
            )
            .distinct()
            .order_by("family_name")
        )
        learners = (
            Person.objects.filter(enrolments__role="learner")
            .distinct()
            .order_by("family_name", "given_name")
        )
        return render(request, "campus/sign_in.html", {"staff": staff, "learners": learners})
    parts = (
        person.enrolments.filter(active=True)
        .select_related("shell")
        .order_by("-shell__term", "shell__label", "shell_id")
    )
    return render(request, "campus/home.html", {"person": person, "parts": parts})


@require_POST
def sign_in(request: HttpRequest) -> HttpResponse:
    """Sign in as one of the invented people; the campus has no secrets to guard."""
    person = get_object_or_404(Person, email=request.POST.get("email", ""))
    request.session.cycle_key()
    request.session["person"] = person.pk
    return redirect("/")


@require_POST
def sign_out(request: HttpRequest) -> HttpResponse:
    """Sign out."""
    request.session.flush()
    return redirect("/")


def page(request: HttpRequest, context_id: str, key: str) -> HttpResponse:
    """Show a page, discussion, assignment or quiz of a shell."""
    person, part = _part(request, context_id)
    node = get_object_or_404(Node, shell=part.shell, key=key)
    if not part.teaches:
        if not _seen(node):
            raise Http404
        _note_use(part, node)
    if node.kind == "lti_link":  # a link in another page's text leads here
        return _begun(request, person, part, node)
    quizzes.take_out(node)
    if request.method == "POST" and part.teaches and node.questions:
        quizzes.edit(node, request.POST)
    return render(
        request,
        "campus/page.html",
        {
            "person": person,
            "shell": part.shell,
            "node": node,
            "teaching": part.teaches,
            "body": linked(part.shell, node.body),
        },
    )


def file(request: HttpRequest, context_id: str, digest: str) -> HttpResponse:
    """Hand out a file of a shell."""
    _, part = _part(request, context_id)
    found = get_object_or_404(StoredFile, shell=part.shell, digest=digest)
    shown = (
        found.media.startswith(("image/", "audio/", "video/")) and found.media != "image/svg+xml"
    )
    how = "inline" if shown else "attachment"
    return HttpResponse(
        bytes(found.data),
        content_type=found.media,
        headers={
            "Content-Disposition": f'{how}; filename="{quote(found.name)}"',
            "X-Content-Type-Options": "nosniff",
        },
    )


def import_cartridge(request: HttpRequest, context_id: str) -> HttpResponse:
    """Let an instructor upload a cartridge, as platforms do."""
    person, part = _part(request, context_id)
    if not part.teaches:
        raise Http404
    file = request.FILES.get("file")
    if request.method == "POST" and isinstance(file, UploadedFile):
        begin_import(part.shell, file)
        return redirect(request.path)
    begun = part.shell.cartridge_imports.order_by("-pk")[:MOST_IMPORTS]
    busy = any(each.state in {"queued", "running"} for each in begun)
    shown = {"person": person, "shell": part.shell, "imports": begun, "busy": busy}
    return render(request, "campus/cartridge.html", shown)


def tools(request: HttpRequest) -> HttpResponse:
    """Let the administrator register a tool by its registration address, with a one-time token."""
    person = _person(request)
    if person is None or not person.administers:
        raise Http404
    link = ""
    if request.method == "POST":
        fields = {
            "openid_configuration": f"{settings.BASE_URL}/.well-known/openid-configuration",
            "registration_token": RegistrationToken.objects.create().value,
        }
        link = with_query(request.POST.get("address", ""), fields)
    return render(
        request,
        "campus/tools.html",
        {"person": person, "tools": Tool.objects.order_by("pk"), "link": link},
    )


def shell(request: HttpRequest, context_id: str) -> HttpResponse:
    """Show a shell's outline; learners see what is visible and meant for them."""
    person, part = _part(request, context_id)
    teaching = part.teaches
    rows = [
        (node, depth)
        for node, depth in in_order(part.shell)
        if node.listed and (teaching or _seen(node))
    ]
    shown = _tool_of(part)
    return render(
        request,
        "campus/shell.html",
        {"person": person, "shell": part.shell, "rows": rows, "teaching": teaching, "tool": shown},
    )


def gradebook(request: HttpRequest, context_id: str) -> HttpResponse:
    """Show the gradebook; an instructor may type a score over, or change a column's points."""
    person, part = _part(request, context_id)
    teaching = part.teaches
    message = _type_over(request, part) if request.method == "POST" and teaching else ""
    columns = [
        column
        for column in part.shell.columns.select_related("category")
        if teaching or column.released
    ]
    learners = Person.objects.filter(
        enrolments__shell=part.shell, enrolments__role="learner", enrolments__active=True
    ).order_by("family_name", "given_name")
    if not teaching:
        learners = learners.filter(pk=person.pk)
    cells = {
        (cell.person_id, cell.column_id): cell for cell in Cell.objects.filter(column__in=columns)
    }
    rows = [
        (learner, [(column, cells.get((learner.pk, column.pk))) for column in columns])
        for learner in learners
    ]
    return render(
        request,
        "campus/gradebook.html",
        {
            "person": person,
            "shell": part.shell,
            "columns": columns,
            "rows": rows,
            "teaching": teaching,
            "message": message,
        },
        status=400 if message else 200,
    )


def open_link(request: HttpRequest, context_id: str) -> HttpResponse:
    """Open a link, or the tool itself where no link is named."""
    person, part = _part(request, context_id)
    wanted = request.POST.get("node") or request.GET.get("node")
    if request.method == "GET" and part.role != "preview":
        raise Http404
    node = get_object_or_404(Node, shell=part.shell, key=wanted) if wanted else None
    if not part.teaches and not (_seen(node) if node else _tool_of(part) is not None):
        raise Http404
    return _begun(request, person, part, node)


def _begun(
    request: HttpRequest, person: Person, part: Enrolment, node: Node | None
) -> HttpResponse:
    """Begin a launch of a link, or of the tool itself where none is named."""
    tool = Tool.objects.first()
    if tool is None:
        return render(
            request,
            "campus/refused.html",
            {"message": "No tool is registered at the campus yet."},
            status=404,
        )
    if not place_of(part.shell).on:
        return render(
            request,
            "campus/refused.html",
            {"message": f"{tool.name} is turned off in this course."},
            status=404,
        )
    if node:
        _note_use(part, node)
    return begin(tool, part.shell, person, node)


def _person(request: HttpRequest) -> Person | None:
    return Person.objects.filter(pk=request.session.get("person") or 0).first()


def _tool_of(part: Enrolment) -> Tool | None:
    """Return the tool in the navigation of somebody's shell, None where it is not for them."""
    place = place_of(part.shell)
    meant = part.teaches or place.audience == "everyone"
    return Tool.objects.first() if place.on and place.navigation and meant else None


def _part(request: HttpRequest, context_id: str) -> tuple[Person, Enrolment]:
    person = _person(request)
    part = (
        Enrolment.objects.select_related("shell")
        .filter(person=person, shell__context_id=context_id, active=True)
        .first()
        if person
        else None
    )
    if person is None or part is None:
        raise Http404
    return person, part


def _note_use(part: Enrolment, node: Node) -> None:
    """Note that a learner has worked with an entry; a test learner is none."""
    if part.role == "learner":
        Node.objects.filter(pk=node.pk).update(used=True)


def _seen(node: Node) -> bool:
    """Say whether a learner sees a node: it and every folder around it are shown by now and not for
    instructors.
    """
    at: Node | None = node
    while at is not None:
        if (
            not at.visible
            or at.audience != "everyone"
            or (at.shown_from and datetime.fromisoformat(at.shown_from) > timezone.now())
        ):
            return False
        at = at.parent
    return True


def _type_over(request: HttpRequest, part: Enrolment) -> str:
    """Carry out an edit of the gradebook; return what is wrong with it, or nothing."""
    column = get_object_or_404(Column, shell=part.shell, key=request.POST.get("column", ""))
    try:
        value = typed_score(request.POST.get("value", ""))
    except ValueError as error:
        return str(error)
    if request.POST.get("learner"):
        learner = get_object_or_404(
            Person, enrolments__shell=part.shell, email=request.POST["learner"]
        )
        Cell.objects.update_or_create(
            column=column, person=learner, defaults={"score": value, "by_hand": True}
        )
    elif value:
        column.maximum = value
        column.save()
    return ""
