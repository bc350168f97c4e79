"""What somebody may see: every queryset goes through the institution and the role in the shell."""

from __future__ import annotations

from typing import Any

from django.db.models import Exists, F, OuterRef, Prefetch, Q, QuerySet, Subquery

from vennpair.service.api.refusals import Refused
from vennpair.service.pair.models import HomeworkCourse, Pairing, Shell, ShellRole
from vennpair.service.reconcile.models import Comparison


def shells_for(user: Any) -> QuerySet[Shell]:
    """Return the shells that somebody teaches or assists in; an administrator sees the institution's."""
    mine = Exists(ShellRole.objects.filter(shell=OuterRef("pk"), user=user))
    seen = Q(platform__institution=user.institution) & (Q() if user.is_staff else Q(mine))
    return Shell.objects.filter(seen) if user.institution_id else Shell.objects.none()


def shells_listed(user: Any) -> QuerySet[Shell]:
    """Return the same with what a list shows."""
    newest = Comparison.objects.filter(pairing=OuterRef("pk"), at__isnull=False).order_by("-at").values("summary")[:1]
    current = Pairing.objects.exclude(state=Pairing.State.ENDED).select_related("course__publisher").annotate(compared=Subquery(newest))
    return shells_for(user).select_related("platform__institution").prefetch_related(Prefetch("pairings", current, to_attr="current"))


def pairings_for(user: Any) -> QuerySet[Pairing]:
    """Return the pairings of somebody's shells."""
    return Pairing.objects.filter(shell__in=shells_for(user)).select_related("shell__platform__institution", "course__publisher")


def courses_for(user: Any, words: str = "") -> QuerySet[HomeworkCourse]:
    """Return the institution's homework courses that hold every word in title, code or term."""
    found = HomeworkCourse.objects.filter(publisher__institution=user.institution).select_related("publisher")
    for word in words.split():
        found = found.filter(Q(title__icontains=word) | Q(code__icontains=word) | Q(term__icontains=word))
    taken = Pairing.objects.filter(course=OuterRef("pk")).exclude(state=Pairing.State.ENDED)
    return found.annotate(paired=Exists(taken), publisher_name=F("publisher__name"))


def may_change(user: Any, shell: Shell) -> bool:
    """Say whether somebody may change things in a shell: its instructor, or the institution's administrator."""
    if user.is_staff and user.institution_id == shell.platform.institution_id:
        return True
    return ShellRole.objects.filter(shell=shell, user=user, role="instructor").exists()


def require_instructor(user: Any, shell: Shell) -> None:
    """Let pass who may change things in a shell. Raises Refused ``not_allowed``."""
    if not may_change(user, shell):
        raise Refused("not_allowed", "Only the shell's instructor may do this; an assistant may look and compare.", "Ask the instructor of the shell.", 403)
