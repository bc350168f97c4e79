"""Sending notices by mail, and sealing the trail."""

from __future__ import annotations

from django.conf import settings
from django.core.mail import send_mail
from django.utils import timezone
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from vennpair.gateways.hold import why_held
from vennpair.service.kernel.audit.models import Notice
from vennpair.service.kernel.audit.sealing import seal_trail
from vennpair.service.kernel.jobs.periodic import every, moment
from vennpair.service.kernel.jobs.queue import SEND_NOTICE
from vennpair.service.kernel.language.spoken import say


@app.task(name=SEND_NOTICE, queue="jobs", retry=RetryStrategy(max_attempts=5, exponential_wait=4))
def send_notice(notice_id: str) -> None:
    """Send one notice, once."""
    notice = Notice.objects.select_related("user").filter(pk=notice_id, mailed_at=None).first()
    if notice is None or why_held():  # of a hold, too, nothing comes afterwards
        return
    why = (
        "You get this because you teach with Venn Pair. How often it comes is set under your"
        " name there."
        if notice.body
        else "You get this because you set it up in Venn Pair."
    )
    language = notice.user.language
    words = (say(each, language) for each in (notice.body or notice.sentence, why))
    body = f"\n\n{settings.BASE_URL}{notice.link}\n\n".join(words)
    subject = say(notice.sentence, language)[:120]
    send_mail(subject, body, settings.MAIL_FROM, [notice.user.email])
    Notice.objects.filter(pk=notice.pk).update(mailed_at=timezone.now())


@every("* * * * *")
@app.task(queue="jobs", queueing_lock="seal")
def seal(timestamp: int) -> None:
    """Put into the chain what was written since."""
    seal_trail(moment(timestamp))
