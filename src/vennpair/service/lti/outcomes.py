"""The Basic Outcomes service for publishers that launch by key and secret (LTI 1.1.1, 6): scores
into the ledger.
"""

from __future__ import annotations

import time
from decimal import Decimal

from django.conf import settings
from django.core import signing
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from vennpair.service.connect.models import Publisher
from vennpair.service.connect.secrets import unseal
from vennpair.service.content.models import NOT_SCORED, Placement
from vennpair.service.lti.models import UsedNonce
from vennpair.service.lti.publisher_launch import RESULT_SALT
from vennpair.service.pair.models import Learner
from vennpair.service.relay.actions.receive_score import receive_score
from vennpair.service.relay.models import Cell, LedgerEntry
from vennpair.standards.lti.errors import LtiError
from vennpair.standards.lti.grades import Score
from vennpair.standards.lti.outcomes import (
    OutcomeRequest,
    check_body,
    oauth_header,
    read_outcome,
    write_outcome,
)
from vennpair.standards.lti.shared_key import verify_header

LARGEST_BODY = 100_000
MEDIA = "application/xml"


@csrf_exempt
@require_POST
def outcomes(request: HttpRequest) -> HttpResponse:
    """Take, read or clear one score.

    A request that is refused says why in the standard's own envelope.
    """
    asked: OutcomeRequest | None = None
    try:
        publisher = _sender(request)
        asked = read_outcome(request.body)
        placement, learner = _cell(publisher, asked)
    except LtiError as error:
        code = "unsupported" if error.code == "unsupported" else "failure"
        return HttpResponse(
            write_outcome(asked, code, error.message),
            status=401 if error.code in {"bad_signature", "expired", "replayed"} else 200,
            content_type=MEDIA,
        )
    if asked.operation == "readResult":
        cell = (
            Cell.objects.filter(placement=placement, learner=learner)
            .exclude(sent_given=None)
            .first()
        )
        share = None
        if cell and cell.sent_given is not None and cell.sent_maximum:
            share = cell.sent_given / cell.sent_maximum
        return HttpResponse(write_outcome(asked, "success", "Read.", share), content_type=MEDIA)
    # The standard names no time of the score: when it arrived is the best there is.
    receive_score(
        placement,
        learner,
        Score(
            str(learner.pk),
            timezone.now(),
            asked.score,
            Decimal(1) if asked.score is not None else None,
        ),
        LedgerEntry.Via.OUTCOMES,
    )
    return HttpResponse(write_outcome(asked, "success", "Taken."), content_type=MEDIA)


def _sender(request: HttpRequest) -> Publisher:
    """Return who sent a request, after its signature, age and nonce were checked."""
    if len(request.body) > LARGEST_BODY:
        raise LtiError("bad_outcome", "The request is too large.")
    header = oauth_header(request.headers.get("Authorization", ""))
    now = int(time.time())
    check_body(header, request.body)
    known = Publisher.objects.filter(
        key=header.get("oauth_consumer_key") or "-", speaks=Publisher.Speaks.LTI_1_1, active=True
    )
    refused = LtiError("bad_signature", "This key is not known here.", "LTI 1.1.1, 4.3")
    for publisher in known:  # two colleges may have been given the same key; the secret tells which
        try:
            verify_header(
                f"{settings.BASE_URL}{request.path}", header, unseal(publisher.shared_secret), now
            )
        except LtiError as error:
            refused = error
            continue
        try:
            with transaction.atomic():
                UsedNonce.objects.create(publisher=publisher, value=header["oauth_nonce"][:255])
        except IntegrityError:
            raise LtiError("replayed", "This request was sent before.", "RFC 5849, 3.3") from None
        return publisher
    raise refused


def _cell(publisher: Publisher, asked: OutcomeRequest) -> tuple[Placement, Learner]:
    try:
        facts = signing.loads(asked.sourced_id, salt=RESULT_SALT)
    except signing.BadSignature:
        raise LtiError(
            "bad_outcome", "This sourcedId was not given by Venn Pair.", "LTI 1.1.1, 6.1.1"
        ) from None
    placement = (
        Placement.objects.filter(pk=facts["placement"], pairing__course__publisher=publisher)
        .exclude(NOT_SCORED)
        .select_related("pairing")
        .first()
    )
    learner = (
        Learner.objects.filter(sub=facts["learner"], shell_id=placement.pairing.shell_id).first()
        if placement
        else None
    )
    if placement is None or learner is None:
        raise LtiError("bad_outcome", "This link takes no scores.", "LTI 1.1.1, 6.1.1")
    return placement, learner
