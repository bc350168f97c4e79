"""Read a publisher's homework courses again."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from vennpair.service.connect.models import Institution, Publisher
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.pair.models import HomeworkCourse

FRESH = timedelta(minutes=10)


def refresh_courses(institution: Institution, *, force: bool = False) -> None:
    """Read the courses of every publisher whose list is older than ten minutes. Raises OutsideError."""
    for publisher in Publisher.objects.filter(institution=institution).exclude(oneroster_url=""):
        newest = publisher.courses.order_by("-seen_at").first()
        if force or newest is None or newest.seen_at < timezone.now() - FRESH:
            _refresh(publisher)


def _refresh(publisher: Publisher) -> None:
    classes = publisher_gateway(publisher).classes()
    with transaction.atomic():
        for each in classes:
            metadata = each.metadata or {}
            learners = metadata.get("learners")
            fields = {"title": each.title[:300], "code": each.class_code[:100], "term": str(metadata.get("term") or each.term)[:100], "learners": learners if isinstance(learners, int) else None}
            HomeworkCourse.objects.update_or_create(publisher=publisher, sourced_id=each.sourced_id, defaults=fields)
