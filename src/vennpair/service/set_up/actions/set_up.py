"""Carry out a set-up: let the publisher make the course, read it, import its content, point links
that are there.
"""

from __future__ import annotations

from django.db import transaction

from vennpair.core.counting import many
from vennpair.core.pair.guess import fold
from vennpair.service.connect.gateways import publisher_gateway
from vennpair.service.content.actions.adopt_links import adopt_links
from vennpair.service.content.actions.carry_out_import import STEPS, import_content
from vennpair.service.content.models import Import
from vennpair.service.kernel.audit.notify import notify
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import step_done
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.actions.refresh_courses import course_fields
from vennpair.service.pair.models import HomeworkCourse, Pairing
from vennpair.service.pair.trail import record
from vennpair.service.set_up.actions.check_readiness import check_readiness
from vennpair.service.set_up.models import Section


def set_up(job: Job) -> str:
    """Do what is not done yet; again after a crash makes nothing twice.

    Raises OutsideError, Refused.
    """
    pairing = Pairing.objects.select_related(
        "shell__platform__institution", "course__publisher", "made_by"
    ).get(pk=job.pairing_id)
    job.done, job.total = 0, STEPS + 3
    named = _make_course(job, pairing) if pairing.plan_open else ""
    step_done(job, "the homework course is there")
    made, _ = Import.objects.get_or_create(
        job=job, defaults={"pairing": pairing, "source": "publisher"}
    )
    import_content(job, pairing, made)
    adopted, lost = adopt_links(pairing)
    step_done(job, "pointing the links that are there")
    check_readiness(pairing, pairing.made_by)
    pairing.refresh_from_db(fields=["state"])
    if adopted:
        go_live(pairing, "with the links that were there", job.made_by)
    words = (
        f"{pairing.shell.label or pairing.shell.title} is set up with {pairing.course.title},"
        f" {pairing.course.code}"
    )
    if named:
        words += f"; {named}"
    if adopted or lost:
        words += f"; {many(adopted, 'link was', 'links were')} pointed at it" + (
            f", {lost} found no item" if lost else ""
        )
    with transaction.atomic():
        step_done(job, "checked")
        record("set_up.done", f"{words}.", pairing=pairing, actor=job.made_by)
        if pairing.made_by and not Section.objects.filter(reading=job).exists():
            rest = (
                "."
                if pairing.state != Pairing.State.DRAFT
                else ", but not ready yet: see its readiness."
            )
            notify(pairing.made_by, f"{words}{rest}", f"/pairings/{pairing.pk}", pairing)
    return words


def _make_course(job: Job, pairing: Pairing) -> str:
    """Let the publisher make the course; the job's id is the key, so that it makes one. Return what
    is to be said of its name, where it got another than was asked for.
    """
    course, plan = pairing.course, pairing.plan
    gateway = publisher_gateway(course.publisher)
    asked = {
        plan["way"]: plan["source"],
        "code": course.code,
        "name": plan.get("name") or course.title,
        "teacher": plan.get("teacher", ""),
    }
    made = gateway.make_course(
        str(job.pk), **{name: value for name, value in asked.items() if value}
    )
    found = next((each for each in gateway.classes() if each.sourced_id == made), None)
    with transaction.atomic():
        # A background reading may have listed the new course in the meantime: its row gives way to
        # ours.
        HomeworkCourse.objects.filter(publisher=course.publisher, sourced_id=made).exclude(
            pk=course.pk
        ).delete()
        course.sourced_id = made
        for name, value in (course_fields(found) if found else {}).items():
            setattr(course, name, value)
        course.save()
        record(
            "course.made",
            f"{course.publisher.name} made {course.title}, {course.code}.",
            pairing=pairing,
            actor=job.made_by,
            after={"course": made},
        )
    wanted = str(plan.get("name") or "")
    if not wanted or found is None or fold(found.title) == fold(wanted):
        return ""
    return f"{course.publisher.name} did not take the name '{wanted}': rename the course there"
