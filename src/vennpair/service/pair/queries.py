"""What somebody may see: every queryset goes through the institution and the role in the shell."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import (
    BooleanField,
    Case,
    Exists,
    ExpressionWrapper,
    FloatField,
    Func,
    JSONField,
    OuterRef,
    Prefetch,
    Q,
    QuerySet,
    Subquery,
    Value,
    When,
)
from django.utils import timezone

from vennpair.core.pair.guess import (
    CODE_SHARE,
    SECTION_SHARE,
    TITLE_SHARE,
    search_words,
    section,
    telling_words,
)
from vennpair.core.pair.states import UNDO
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.hooks import last_comparison
from vennpair.service.pair.models import (
    MAKING,
    AccountLink,
    HomeworkCourse,
    Pairing,
    Shell,
    ShellRole,
    Title,
)

HAS_LINKS = Q(placements__state="placed")  # of a pairing: some of its links are in the shell
CHANGES = ("instructor", "designer")  # parts in a shell that may change things there
LISTED = (
    "id",
    "title",
    "author",
    "isbn",
    "code",
    "section",
    "term",
    "learners",
    "shared",
    "publisher__name",
    "publisher__features",
)


def sees_all(user: User) -> bool:
    """Say whether somebody sees all shells of the institution."""
    return user.is_staff or user.is_designer


def shells_for(user: User) -> QuerySet[Shell]:
    """Return the shells that somebody teaches or assists in.

    Administrators and course designers see the institution's.
    """
    mine = Exists(ShellRole.objects.filter(shell=OuterRef("pk"), user=user))
    seen = Q(platform__institution=user.institution) & (Q() if sees_all(user) else Q(mine))
    return Shell.objects.filter(seen) if user.institution_id else Shell.objects.none()


def shells_listed(user: User) -> QuerySet[Shell]:
    """Return the same with what a list shows."""
    newest = next(iter(last_comparison()), Value(None, output_field=JSONField()))
    current = (
        Pairing.objects.exclude(state=Pairing.State.ENDED)
        .select_related("course__publisher")
        .annotate(compared=newest)
    )
    ended = (
        Pairing.objects.filter(
            shell=OuterRef("pk"), state=Pairing.State.ENDED, ended_at__gt=timezone.now() - UNDO
        )
        .order_by("-ended_at")
        .values("pk")[:1]
    )
    return (
        shells_for(user)
        .annotate(ended=Subquery(ended), from_paired=_from_paired())
        .select_related("platform__institution")
        .prefetch_related(Prefetch("pairings", current, to_attr="current"))
    )


def _from_paired() -> Case:
    """Say of a shell whether one that it was copied from has homework links: its ``history`` holds
    that one's context id. Most are copied from none, and for these no other is looked at.
    """
    listed = ExpressionWrapper(OuterRef("history"), output_field=JSONField())
    there = Pairing.objects.filter(HAS_LINKS, shell__platform=OuterRef("platform")).annotate(
        listed=listed
    )
    copied = Exists(
        there.filter(
            listed__contains=Func(
                "shell__context_id", function="to_jsonb", output_field=JSONField()
            )
        )
    )
    return Case(When(history=[], then=Value(False)), default=copied, output_field=BooleanField())


def pairings_for(user: User) -> QuerySet[Pairing]:
    """Return the pairings of somebody's shells."""
    return Pairing.objects.filter(shell__in=shells_for(user)).select_related(
        "shell__platform__institution", "course__publisher"
    )


def courses_for(user: User, words: str = "") -> QuerySet[HomeworkCourse]:
    """Return the institution's homework courses that hold every word in title, author, ISBN, code,
    section or term.
    """
    found = HomeworkCourse.objects.filter(
        publisher__institution=user.institution_id, gone=False
    ).exclude(sourced_id__startswith=MAKING)
    for word in search_words(words):
        found = found.filter(search__contains=word)
    return found.select_related("publisher")


def courses_listed(
    user: User, words: str = "", shell: Shell | None = None
) -> QuerySet[Any, dict[str, Any]]:
    """Return the same as plain rows with what a list says: paired or not, one's own or not, and
    ``fit`` for a shell, the best first.

    Rows and not objects: thousands are ranked as one types, and what is not shown is not carried
    through the sort.
    """
    taken = Pairing.objects.filter(course=OuterRef("pk")).exclude(state=Pairing.State.ENDED)
    mine = [
        each
        for link in AccountLink.objects.filter(user=user, state=AccountLink.State.LINKED)
        for each in link.courses
    ]
    found = (
        courses_for(user, words)
        .select_related(None)
        .annotate(
            paired=Exists(taken),
            mine=Case(When(sourced_id__in=mine, then=Value(True)), default=Value(False)),
            fit=_fit(shell),
        )
    )
    listed = found.order_by("-fit", "title", "code", "pk")
    rows: QuerySet[Any, dict[str, Any]] = listed.values(*LISTED, "paired", "mine", "fit")
    return rows


def _fit(shell: Shell | None) -> Any:
    """Return core's likeness as the database can rank it, so that thousands of courses need not be
    read.
    """
    if shell is None:
        return Value(0.0, output_field=FloatField())
    words, number = telling_words(shell.title), section(shell.label, shell.title)
    parts = [
        Case(
            When(folded_title__contains=word, then=Value(TITLE_SHARE / len(words))),
            default=Value(0.0),
            output_field=FloatField(),
        )
        for word in sorted(words)[:12]
    ]
    if number:
        parts.append(
            Case(
                When(section=number, then=Value(SECTION_SHARE)),
                default=Value(0.0),
                output_field=FloatField(),
            )
        )
    if shell.label:
        parts.append(
            Case(
                When(code__iexact=shell.label, then=Value(CODE_SHARE)),
                default=Value(0.0),
                output_field=FloatField(),
            )
        )
    return sum(parts[1:], parts[0]) if parts else Value(0.0, output_field=FloatField())


def titles_for(user: User, words: str = "") -> QuerySet[Title]:
    """Return the institution's adopted titles that hold every word in title, author or ISBN."""
    found = Title.objects.filter(publisher__institution=user.institution_id).select_related(
        "publisher"
    )
    for word in words.split():
        found = found.filter(
            Q(title__icontains=word) | Q(author__icontains=word) | Q(isbn__icontains=word)
        )
    return found.order_by("title", "pk")


def may_change(user: User, shell: Shell) -> bool:
    """Say whether somebody may change things in a shell: its instructor, or the institution's
    administrators and designers.
    """
    if (user.is_staff or user.is_designer) and user.institution_id == shell.platform.institution_id:
        return True
    return ShellRole.objects.filter(shell=shell, user=user, role__in=CHANGES).exists()


def require_instructors(user: User, shells: Sequence[Shell]) -> None:
    """Let pass who may change things in every one of the shells. Raises Refused ``not_allowed``."""
    taught = set(
        ShellRole.objects.filter(shell__in=shells, user=user, role__in=CHANGES).values_list(
            "shell_id", flat=True
        )
    )
    for shell in shells:
        if shell.pk not in taught:
            require_instructor(user, shell)


def require_instructor(user: User, shell: Shell) -> None:
    """Let pass who may change things in a shell. Raises Refused ``not_allowed``."""
    if not may_change(user, shell):
        raise Refused(
            "not_allowed",
            "Only the shell's instructor may do this; an assistant may look and compare.",
            "Ask the instructor of the shell.",
            403,
        )
