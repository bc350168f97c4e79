"""Basic Outcomes 1.1: one score as plain XML, for publishers that launch by key and secret."""

from __future__ import annotations

import base64
import hashlib
import hmac
from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from urllib.parse import unquote
from xml.sax.saxutils import escape

from lxml import etree

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.numbers import read_number

NAMESPACE = "http://www.imsglobal.org/services/ltiv1p1/xsd/imsoms_v1p0"
OPERATIONS = ("replaceResult", "readResult", "deleteResult")


@dataclass(frozen=True, slots=True)
class OutcomeRequest:
    """One request: ``operation`` of OPERATIONS, the sourcedid given at launch, and for a
    replacement the share 0 to 1.
    """

    operation: str
    message_id: str
    sourced_id: str
    score: Decimal | None = None


def read_outcome(body: bytes) -> OutcomeRequest:
    """Read a request.

    Raises LtiError ``bad_outcome`` or ``unsupported`` (Basic Outcomes 1.1; LTI 1.1.1, 6).
    """
    try:
        root = etree.fromstring(
            body,
            etree.XMLParser(
                resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False
            ),
        )
    except etree.XMLSyntaxError as error:
        raise LtiError("bad_outcome", "The body is not XML.", "LTI 1.1.1, 6.1") from error
    if root.getroottree().docinfo.doctype:
        raise LtiError(
            "bad_outcome", "The body must not declare a document type.", "LTI 1.1.1, 6.1"
        )
    ns = {"o": NAMESPACE}
    operation = next(
        (
            name
            for name in OPERATIONS
            if root.find(f"o:imsx_POXBody/o:{name}Request", ns) is not None
        ),
        "",
    )
    message_id = root.findtext(
        "o:imsx_POXHeader/o:imsx_POXRequestHeaderInfo/o:imsx_messageIdentifier", "", ns
    ).strip()
    if not operation:
        raise LtiError(
            "unsupported",
            "Only replaceResult, readResult and deleteResult are offered.",
            "LTI 1.1.1, 6.1",
        )
    record = f"o:imsx_POXBody/o:{operation}Request/o:resultRecord/"
    sourced_id = root.findtext(f"{record}o:sourcedGUID/o:sourcedId", "", ns).strip()
    if not sourced_id:
        raise LtiError("bad_outcome", "The request names no sourcedId.", "LTI 1.1.1, 6.1.1")
    score = (
        _score(root.findtext(f"{record}o:result/o:resultScore/o:textString", "", ns).strip())
        if operation == "replaceResult"
        else None
    )
    return OutcomeRequest(operation, message_id[:200], sourced_id, score)


def write_outcome(
    request: OutcomeRequest | None, code: str, words: str, score: Decimal | None = None
) -> bytes:
    """Return the answer; ``code`` is ``success``, ``failure`` or ``unsupported``, ``score`` what a
    read gives.
    """
    operation = request.operation if request else "unknown"
    result = (
        f"<result><resultScore><language>en</language><textString>{'' if score is None else format(score, 'f')}</textString></resultScore></result>"
        if operation == "readResult" and code == "success"
        else ""
    )
    inner = f"<{operation}Response>{result}</{operation}Response>" if code == "success" else ""
    return (
        '<?xml version="1.0" encoding="UTF-8"?><imsx_POXEnvelopeResponse'
        f' xmlns="{NAMESPACE}"><imsx_POXHeader><imsx_POXResponseHeaderInfo>'
        f"<imsx_version>V1.0</imsx_version><imsx_messageIdentifier>{escape(request.message_id if request else '')}-answer</imsx_messageIdentifier>"
        f"<imsx_statusInfo><imsx_codeMajor>{code}</imsx_codeMajor><imsx_severity>{'status' if code == 'success' else 'error'}</imsx_severity>"
        f"<imsx_description>{escape(words)}</imsx_description><imsx_messageRefIdentifier>{escape(request.message_id if request else '')}</imsx_messageRefIdentifier>"
        f"<imsx_operationRefIdentifier>{operation}</imsx_operationRefIdentifier></imsx_statusInfo></imsx_POXResponseHeaderInfo></imsx_POXHeader>"
        f"<imsx_POXBody>{inner}</imsx_POXBody></imsx_POXEnvelopeResponse>"
    ).encode()


def oauth_header(header: str) -> dict[str, str]:
    """Return the parameters of an ``Authorization: OAuth`` header (RFC 5849, 3.5.1).

    Raises LtiError ``bad_message``.
    """
    kind, _, rest = header.partition(" ")
    if kind.lower() != "oauth":
        raise LtiError("bad_message", "The request is not signed by OAuth 1.0.", "LTI 1.1.1, 6.1")
    found: dict[str, str] = {}
    for part in rest.split(","):
        name, mark, value = part.strip().partition("=")
        if not mark or name in found:
            raise LtiError(
                "bad_message", "The Authorization header cannot be read.", "RFC 5849, 3.5.1"
            )
        found[unquote(name)] = unquote(value.strip('"'))
    return found


def check_body(header: Mapping[str, str], body: bytes) -> None:
    """Check the body's hash, which the signature covers. Raises LtiError ``bad_signature``."""
    # the standard fixes SHA-1
    wanted = base64.b64encode(hashlib.sha1(body).digest()).decode()  # noqa: S324
    if not hmac.compare_digest(wanted, header.get("oauth_body_hash", "")):
        raise LtiError(
            "bad_signature", "The body is not the one that was signed.", "LTI 1.1.1, 4.3"
        )


def _score(text: str) -> Decimal:
    try:
        score = read_number(text)
    except ValueError:
        score = None
    if score is None:
        raise LtiError("bad_outcome", "The score is not a number.", "LTI 1.1.1, 6.1.1")
    if not 0 <= score <= 1:
        raise LtiError("bad_outcome", "The score must lie between 0.0 and 1.0.", "LTI 1.1.1, 6.1.1")
    return score
