"""Pair a shell with a homework course: one that is there, or one that the publisher makes
for it.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import IntegrityError, transaction

from vennpair.core.pair.guess import fold
from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.running import start_job
from vennpair.service.pair.actions.agree import agree
from vennpair.service.pair.actions.link_account import may_copy
from vennpair.service.pair.consent import agreed, consent_needed
from vennpair.service.pair.models import MAKING, AccountLink, HomeworkCourse, Pairing, Shell, Title
from vennpair.service.pair.queries import HAS_LINKS, require_instructor
from vennpair.service.pair.trail import record

SET_UP = "set_up"
# How a new course comes to be, and the feature of course provisioning that it takes.
WAYS = {"title": "create", "copy_of": "copy", "section_of": "sections"}


def pair_course(
    shell: Shell,
    course: HomeworkCourse,
    actor: User,
    *,
    agreeing: bool = False,
    sharing: bool = False,
) -> Pairing:
    """Make the pairing, in state ``ready``. Raises Refused where consent is missing or either side
    is paired already.

    ``sharing`` says that one means to share a course with another shell, where its publisher allows
    that.
    """
    with _pairing_of(shell, actor, agreeing):
        HomeworkCourse.objects.select_for_update().get(pk=course.pk)
        if course.gone:
            raise Refused(
                "course_gone",
                f"The publisher no longer lists {course.title}, {course.code}.",
                "Choose another course, or ask its instructor.",
            )
        _require_free(course, sharing)
        pairing = _make(shell, course, actor, Pairing.State.READY, {})
        if old := old_pairing(shell):
            pairing.copied_from = old
            pairing.save(update_fields=["copied_from"])
            start_job(SET_UP, pairing, actor)
    return pairing


def pair_new(
    shell: Shell,
    way: str,
    source: Title | HomeworkCourse,
    actor: User,
    *,
    name: str = "",
    agreeing: bool = False,
) -> Pairing:
    """Let the publisher make a course and pair with it, in state ``draft`` until it is there.

    ``way`` is ``title`` (a new course of an adopted title), ``copy_of`` or ``section_of`` (another
    course). Raises Refused where the publisher does not offer it, or no account is linked.
    """
    publisher, link = source.publisher, _who_makes(way, source, actor)
    with _pairing_of(shell, actor, agreeing):
        key = source.key if isinstance(source, Title) else source.sourced_id
        code = shell.label or shell.title[:60]
        course = HomeworkCourse.objects.create(
            publisher=publisher,
            sourced_id=f"{MAKING}{uuid.uuid4()}",
            title=source.title,
            code=code,
            search=fold(f"{source.title} {code}"),
            folded_title=fold(source.title),
        )
        pairing = _make(
            shell,
            course,
            actor,
            Pairing.State.DRAFT,
            {"way": way, "source": key, "name": name, "teacher": link.account_id},
        )
        pairing.copied_from = old_pairing(shell)
        pairing.save(update_fields=["copied_from"])
        start_job(SET_UP, pairing, actor)
    return pairing


def _who_makes(way: str, source: Title | HomeworkCourse, actor: User) -> AccountLink:
    """Return the account at the publisher by which a course is made. Raises Refused as ``pair_new``."""
    publisher = source.publisher
    if WAYS[way] not in publisher.features:
        raise Refused(
            "not_offered",
            f"{publisher.name} does not let Venn Pair make courses in this way.",
            "Make the course at the publisher, then choose it here.",
        )
    link = AccountLink.objects.filter(
        user=actor, publisher=publisher, state=AccountLink.State.LINKED
    ).first()
    if link is None:
        raise Refused(
            "account_needed",
            f"{publisher.name} must know whose course it is, and your account there is not linked"
            " yet.",
            "Link it once under Accounts.",
        )
    if way != "title" and isinstance(source, HomeworkCourse) and not may_copy(link, source):
        raise Refused(
            "not_shared",
            f"{source.title}, {source.code}, is a colleague's and not shared.",
            f"Ask its instructor to share it at {publisher.name}, or create a course from the title.",
        )
    return link


def _require_free(course: HomeworkCourse, sharing: bool) -> None:
    """Let pass a course that nobody uses yet, or that one means to share.

    Raises Refused ``course_paired``.
    """
    other = (
        Pairing.objects.filter(course=course)
        .exclude(state=Pairing.State.ENDED)
        .select_related("shell")
        .first()
    )
    if other is None or (sharing and may_share(course)):
        return
    allowed = "sharing" in course.publisher.features
    remedy = (
        "If the two shells are taught as one, share it: add --share. Else choose another section."
        if allowed
        else "Choose another section, or end the other pairing first."
    )
    raise Refused(
        "course_paired",
        f"{course.title}, {course.code}, is paired with another shell already,"
        f" {other.shell.label or other.shell.title}.",
        remedy,
    )


def may_share(course: HomeworkCourse, besides: Pairing | None = None) -> bool:
    """Say whether one more shell may be paired with a course: nobody is yet, or its publisher
    allows sharing.
    """
    others = (
        Pairing.objects.filter(course=course)
        .exclude(state=Pairing.State.ENDED)
        .exclude(pk__in=[besides.pk] if besides else [])
    )
    return "sharing" in course.publisher.features or not others.exists()


def old_pairing(shell: Shell) -> Pairing | None:
    """Return the pairing whose links a shell holds: an ended one of its own, else that of the shell
    it was copied from.
    """
    placed = Pairing.objects.filter(HAS_LINKS)
    own = placed.filter(shell=shell, state=Pairing.State.ENDED).order_by("-made_at").first()
    if own:
        return own
    for context_id in shell.history:
        found = (
            placed.filter(shell__platform=shell.platform, shell__context_id=context_id)
            .order_by("-made_at")
            .first()
        )
        if found:
            return found
    return None


def contexts_before(pairing: Pairing) -> list[str]:
    """Return under which ids the pairing's publisher knew the courses that its shell was copied
    from, the most recent first.
    """
    shell = pairing.shell
    if not shell.history:
        return []
    found = Pairing.objects.filter(
        course__publisher=pairing.course.publisher_id,
        shell__platform=shell.platform_id,
        shell__context_id__in=shell.history,
    ).values_list("shell__context_id", "pk", "made_at")
    rank = {context_id: place for place, context_id in enumerate(dict.fromkeys(shell.history))}
    rows = sorted(found, key=lambda row: (rank[row[0]], -row[2].timestamp()))
    return [str(pk) for _, pk, _ in rows]


@contextmanager
def _pairing_of(shell: Shell, actor: User, agreeing: bool) -> Iterator[None]:
    """A transaction in which one pairing of a shell is made.

    The second of two at once learns of the first.
    """
    require_instructor(actor, shell)
    try:
        with transaction.atomic():
            if agreeing:
                agree(shell, actor)
            elif not agreed(shell):
                raise consent_needed(shell)
            yield
    except IntegrityError:
        raise _taken(shell) from None


def _make(
    shell: Shell, course: HomeworkCourse, actor: User, state: str, plan: dict[str, str]
) -> Pairing:
    pairing = Pairing.objects.create(
        shell=shell, course=course, state=state, made_by=actor, plan=plan
    )
    label, title, code = shell.label or shell.title, course.title, course.code
    sentence = {
        "": f"{label} was paired with a homework course: {title}, {code}.",
        "title": f"{label} was given a new homework course: {title}, {code}.",
        "copy_of": f"{label} was given a copy of a homework course: {title}, {code}.",
        "section_of": f"{label} was given a new section of a homework course: {title}, {code}.",
    }[plan.get("way", "")]
    record(
        "pairing.made",
        sentence,
        pairing=pairing,
        actor=actor,
        after={"course": course.sourced_id, **plan},
    )
    return pairing


def _taken(shell: Shell) -> Refused:
    current = (
        Pairing.objects.filter(shell=shell)
        .exclude(state=Pairing.State.ENDED)
        .select_related("course")
        .first()
    )
    with_whom = f", with {current.course.title}, {current.course.code}" if current else ""
    return Refused(
        "shell_paired",
        f"This shell is paired already{with_whom}.",
        "Use that pairing, or end it first.",
    )
