"""Read a publisher's homework courses and titles again."""

from __future__ import annotations

import time
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from vennpair.core.failures import Failure
from vennpair.core.pair.guess import fold, section
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.connect.models import Institution, Publisher
from vennpair.service.kernel.jobs.queue import REFRESH_COURSES, enqueue
from vennpair.service.pair.models import MAKING, HomeworkCourse, Title
from vennpair.standards.oneroster.objects import Class

FRESH = timedelta(minutes=10)
LOOK_SECONDS = 10
BATCH = 1_000
_READ = [
    "title",
    "code",
    "term",
    "section",
    "author",
    "isbn",
    "shared",
    "timezone",
    "learners",
    "gone",
    "search",
    "folded_title",
    "seen_at",
]

_looked: dict[Any, float] = {}


def refresh_courses(
    institution: Institution, *, force: bool = False
) -> list[tuple[Publisher, Failure]]:
    """Read the courses of publishers that were never asked, or of all with ``force``; older lists
    are read in the background.

    Return which publishers could not be read and why: one that is down keeps no other's courses
    away.
    """
    unread: list[tuple[Publisher, Failure]] = []
    # People search as they type: whether a list is due need not be asked at every letter.
    if not force and time.monotonic() < _looked.get(institution.pk, 0.0) + LOOK_SECONDS:
        return unread
    _looked[institution.pk] = time.monotonic()
    due = (
        Publisher.objects.filter(institution=institution, active=True)
        .exclude(oneroster_url="")
        .filter(Q(courses_read_at=None) | Q(courses_read_at__lt=timezone.now() - FRESH))
    )
    for publisher in (
        Publisher.objects.filter(institution=institution, active=True).exclude(oneroster_url="")
        if force
        else due
    ):
        if force or publisher.courses_read_at is None:
            try:
                refresh_publisher(publisher)
            except OutsideError as error:
                unread.append((publisher, error.failure))
        else:
            enqueue(REFRESH_COURSES, lock=f"courses:{publisher.pk}", publisher_id=str(publisher.pk))
    return unread


def refresh_publisher(publisher: Publisher) -> None:
    """Read one publisher; a course that it no longer lists is marked, never deleted.

    Raises OutsideError.
    """
    # Noted first, so that one that does not answer is not asked again by every search.
    Publisher.objects.filter(pk=publisher.pk).update(courses_read_at=timezone.now())
    note_features(publisher)
    gateway = publisher_gateway(publisher)
    classes = gateway.classes()
    titles = gateway.titles() if "titles" in publisher.features else []
    now = timezone.now()
    rows = [
        HomeworkCourse(
            publisher=publisher, sourced_id=each.sourced_id, seen_at=now, **course_fields(each)
        )
        for each in classes
    ]
    with transaction.atomic():
        HomeworkCourse.objects.bulk_create(
            rows,
            batch_size=BATCH,
            update_conflicts=True,
            unique_fields=["publisher", "sourced_id"],
            update_fields=_READ,
        )
        HomeworkCourse.objects.filter(publisher=publisher, seen_at__lt=now).exclude(
            sourced_id__startswith=MAKING
        ).update(gone=True)
        kept = [
            Title(
                publisher=publisher,
                key=each.id,
                title=each.title[:300],
                author=each.author[:300],
                isbn=each.isbn[:40],
                edition=each.edition[:60],
            )
            for each in titles
        ]
        Title.objects.bulk_create(
            kept,
            batch_size=BATCH,
            update_conflicts=True,
            unique_fields=["publisher", "key"],
            update_fields=["title", "author", "isbn", "edition"],
        )
        Title.objects.filter(publisher=publisher).exclude(
            key__in=[each.id for each in titles]
        ).delete()


def note_features(publisher: Publisher) -> None:
    """Ask a publisher what of course provisioning it offers, where it was never asked."""
    if publisher.provisioning_url and not publisher.features:
        try:
            publisher.features = list(publisher_gateway(publisher).features())
        except OutsideError:
            # the connection check tells an administrator why; without it nothing more is offered
            return
        Publisher.objects.filter(pk=publisher.pk).update(features=publisher.features)


def course_fields(each: Class) -> dict[str, Any]:
    """Return what is kept of a OneRoster class.

    What the standard has no field for comes in its metadata.
    """
    metadata = each.metadata or {}
    learners = metadata.get("learners")
    term = str(metadata.get("term") or each.term)[:100]
    author, isbn = str(metadata.get("author") or "")[:300], str(metadata.get("isbn") or "")[:40]
    number = section(each.class_code, each.title)
    words = (
        each.title,
        each.class_code,
        term,
        f"section {number}" if number else "",
        author,
        isbn,
        isbn.replace("-", ""),
        *each.subjects,
    )
    return {
        "title": each.title[:300],
        "code": each.class_code[:100],
        "term": term,
        "section": number,
        "author": author,
        "isbn": isbn,
        "shared": bool(metadata.get("shared")),
        "timezone": str(metadata.get("timezone") or "")[:60],
        "learners": learners if isinstance(learners, int) else None,
        "gone": False,
        "search": fold(" ".join(words))[:2000],
        "folded_title": fold(each.title)[:300],
    }
