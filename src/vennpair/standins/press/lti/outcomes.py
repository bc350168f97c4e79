"""Reporting scores by Basic Outcomes (LTI 1.1.1, 6)."""

from __future__ import annotations

import uuid
from xml.sax.saxutils import escape

import httpx
from oauthlib.oauth1 import Client

from vennpair.standards.lti.outcomes import NAMESPACE
from vennpair.standins.fetch import trusted
from vennpair.standins.press.models import Attempt, KeyedDestination


def report_by_key(attempt: Attempt, destination: KeyedDestination) -> str:
    """Send one score as a share of 1; return what went wrong, or nothing."""
    share = attempt.score / attempt.item.points if attempt.item.points else attempt.score
    body = (
        '<?xml version="1.0" encoding="UTF-8"?><imsx_POXEnvelopeRequest'
        f' xmlns="{NAMESPACE}"><imsx_POXHeader><imsx_POXRequestHeaderInfo><imsx_version>V1.0</imsx_version>'
        f"<imsx_messageIdentifier>{uuid.uuid4().hex}</imsx_messageIdentifier></imsx_POXRequestHeaderInfo></imsx_POXHeader><imsx_POXBody><replaceResultRequest><resultRecord>"
        f"<sourcedGUID><sourcedId>{escape(destination.result)}</sourcedId></sourcedGUID><result><resultScore><language>en</language><textString>{share.normalize():f}</textString></resultScore></result>"
        "</resultRecord></replaceResultRequest></imsx_POXBody></imsx_POXEnvelopeRequest>"
    )
    client = Client(destination.platform.key, client_secret=destination.platform.secret)
    url, headers, signed = client.sign(
        destination.url, "POST", body, {"Content-Type": "application/xml"}
    )
    try:
        response = httpx.post(url, content=signed, headers=headers, timeout=10, verify=trusted())
    except httpx.HTTPError as error:
        return f"The platform did not take the score: {error}"[:300]
    return (
        ""
        if "<imsx_codeMajor>success</imsx_codeMajor>" in response.text
        else f"The platform did not take the score: {response.text[:200]}"
    )
