"""Reporting scores to the platform (AGS 2.0)."""

from __future__ import annotations

import json
import time
import uuid

import httpx
from django.utils import timezone

from vennpair.standards.lti.grades import Score, write_score
from vennpair.standards.lti.tokens import token_request
from vennpair.standards.lti.vocabulary import MEDIA_SCORE, SCOPE_SCORE
from vennpair.standins.fetch import trusted
from vennpair.standins.keys import signing_key
from vennpair.standins.press.lti.outcomes import report_by_key
from vennpair.standins.press.models import (
    Attempt,
    Destination,
    KeyedDestination,
    Platform,
    SigningKey,
)


def report(attempt: Attempt) -> None:
    """Report one attempt; what goes wrong is written on it, and it can be reported again."""
    destination = (
        Destination.objects.filter(item=attempt.item, account=attempt.account)
        .select_related("platform")
        .first()
    )
    keyed = (
        KeyedDestination.objects.filter(item=attempt.item, account=attempt.account)
        .select_related("platform")
        .first()
    )
    if keyed is not None:
        attempt.trouble = report_by_key(attempt, keyed)
        attempt.reported = None if attempt.trouble else timezone.now()
    elif destination is None:
        attempt.trouble = (
            "Nobody launched this item from a course, so there is nowhere to report to."
        )
    else:
        attempt.trouble = _send(attempt, destination)
        attempt.reported = None if attempt.trouble else timezone.now()
    attempt.save()


def _send(attempt: Attempt, destination: Destination) -> str:
    when = attempt.regraded or attempt.at
    given, points = (None, None) if attempt.deleted else (attempt.score, attempt.item.points)
    score = Score(destination.sub, when, given, points, submitted=attempt.at)
    path, mark, query = destination.line_item.partition("?")
    try:
        with httpx.Client(timeout=10, verify=trusted()) as client:
            headers = {
                "Authorization": f"Bearer {_token(client, destination.platform)}",
                "Content-Type": MEDIA_SCORE,
            }
            client.post(
                f"{path}/scores{mark}{query}",
                content=json.dumps(write_score(score)),
                headers=headers,
            ).raise_for_status()
    except httpx.HTTPError as error:
        return f"The platform did not take the score: {error}"[:300]
    return ""


def _token(client: httpx.Client, platform: Platform) -> str:
    form = token_request(
        platform.client_id,
        platform.token_url,
        [SCOPE_SCORE],
        signing_key(SigningKey),
        now=int(time.time()),
        token_id=uuid.uuid4().hex,
    )
    return str(client.post(platform.token_url, data=form).raise_for_status().json()["access_token"])
