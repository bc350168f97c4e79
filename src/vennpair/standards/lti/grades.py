"""Assignment and Grade Services 2.0: line items, scores, results, and paging by Link header."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Any

from vennpair.standards.lti.errors import LtiError
from vennpair.standards.numbers import read_json_number

Json = dict[str, Any]
ACTIVITY = ("Initialized", "Started", "InProgress", "Submitted", "Completed")
GRADING = ("FullyGraded", "Pending", "PendingManual", "Failed", "NotReady")


@dataclass(frozen=True, slots=True)
class LineItem:
    """A gradebook column (AGS 2.0, 3.2). ``id`` is its URL, empty before it is made."""

    label: str
    score_maximum: Decimal
    id: str = ""
    resource_id: str = ""
    resource_link_id: str = ""
    tag: str = ""
    start: str = ""
    end: str = ""
    released: bool | None = (
        # whether learners see its scores (gradesReleased); None where the platform does not say
        None
    )


@dataclass(frozen=True, slots=True)
class Score:
    """One score publication (AGS 2.0, 3.4). ``given`` is None where the learner has no score (yet).

    ``submitted`` is when the attempt was handed in (the score's ``submission``), where the sender
    tells.
    """

    user_id: str
    timestamp: datetime
    given: Decimal | None
    maximum: Decimal | None
    activity: str = "Completed"
    grading: str = "FullyGraded"
    comment: str = ""
    submitted: datetime | None = None


@dataclass(frozen=True, slots=True)
class Result:
    """The gradebook's value for one learner in one column (AGS 2.0, 3.3)."""

    user_id: str
    score: Decimal | None
    maximum: Decimal
    comment: str = ""


def write_line_item(item: LineItem) -> Json:
    """Return the JSON of a line item; empty fields are left out."""
    fields = {
        "id": item.id,
        "label": item.label,
        "resourceId": item.resource_id,
        "resourceLinkId": item.resource_link_id,
        "tag": item.tag,
        "startDateTime": item.start,
        "endDateTime": item.end,
    }
    released = {} if item.released is None else {"gradesReleased": item.released}
    return (
        {"scoreMaximum": number(item.score_maximum)}
        | {key: value for key, value in fields.items() if value}
        | released
    )


def read_line_item(document: Json, *, lenient: bool = False) -> LineItem:
    """Read a line item. Raises LtiError ``bad_line_item`` (AGS 2.0, 3.2.9: label, scoreMaximum >
    0).

    ``lenient`` reads what a gradebook really holds: a column without a title, or one whose maximum
    is 0 or missing, which is 0 then.
    """
    if not isinstance(document, dict) or (
        not lenient and (not isinstance(document.get("label"), str) or not document["label"])
    ):
        raise LtiError("bad_line_item", "A line item needs a label.", "AGS 2.0, 3.2.9")
    maximum = _decimal(
        document.get("scoreMaximum"), "bad_line_item", "scoreMaximum", strictly=not lenient
    )
    if lenient:
        maximum = max(maximum or Decimal(0), Decimal(0))
    elif maximum is None or maximum <= 0:
        raise LtiError(
            "bad_line_item", "A line item needs a scoreMaximum greater than 0.", "AGS 2.0, 3.2.9"
        )
    names = {
        "id": "id",
        "resource_id": "resourceId",
        "resource_link_id": "resourceLinkId",
        "tag": "tag",
        "start": "startDateTime",
        "end": "endDateTime",
    }
    released = document.get("gradesReleased")
    texts = {ours: str(document.get(theirs) or "") for ours, theirs in names.items()}
    return LineItem(
        label=str(document.get("label") or ""),
        score_maximum=maximum,
        released=released if isinstance(released, bool) else None,
        **texts,
    )


def write_score(score: Score) -> Json:
    """Return the JSON of a score; a missing score leaves both numbers out (AGS 2.0, 3.4.4)."""
    document: Json = {
        "userId": score.user_id,
        "timestamp": score.timestamp.isoformat(timespec="microseconds"),
        "activityProgress": score.activity,
        "gradingProgress": score.grading,
    }
    if score.given is not None and score.maximum is not None:
        document |= {"scoreGiven": number(score.given), "scoreMaximum": number(score.maximum)}
    document |= (
        {"submission": {"submittedAt": score.submitted.isoformat()}} if score.submitted else {}
    )
    return document | ({"comment": score.comment} if score.comment else {})


def read_score(document: Json) -> Score:
    """Read a score publication.

    Raises LtiError ``bad_score`` naming the field (AGS 2.0, 3.4.1 to 3.4.9).
    """
    if (
        not isinstance(document, dict)
        or not isinstance(document.get("userId"), str)
        or not document["userId"]
    ):
        raise LtiError("bad_score", "The score names no userId.", "AGS 2.0, 3.4.7")
    activity, grading = document.get("activityProgress"), document.get("gradingProgress")
    if activity not in ACTIVITY:
        raise LtiError(
            "bad_score", "activityProgress is not one of the standard's values.", "AGS 2.0, 3.4.5"
        )
    if grading not in GRADING:
        raise LtiError(
            "bad_score", "gradingProgress is not one of the standard's values.", "AGS 2.0, 3.4.6"
        )
    given = _decimal(document.get("scoreGiven"), "bad_score", "scoreGiven", strictly=True)
    maximum = _decimal(document.get("scoreMaximum"), "bad_score", "scoreMaximum", strictly=True)
    if given is not None and (given < 0 or maximum is None or maximum <= 0):
        raise LtiError(
            "bad_score",
            "A scoreGiven must not be negative and needs a scoreMaximum greater than 0.",
            "AGS 2.0, 3.4.4",
        )
    comment = str(document.get("comment") or "")
    submission = document.get("submission")
    submitted = submission.get("submittedAt") if isinstance(submission, dict) else None
    return Score(
        document["userId"],
        read_time(document.get("timestamp")),
        given,
        maximum,
        activity,
        grading,
        comment,
        read_time(submitted) if submitted else None,
    )


def write_result(result: Result, line_item_url: str) -> Json:
    """Return the JSON of a result (AGS 2.0, 3.3)."""
    document: Json = {
        "id": f"{line_item_url}/results/{result.user_id}",
        "scoreOf": line_item_url,
        "userId": result.user_id,
    }
    document["resultMaximum"] = number(result.maximum)
    if result.score is not None:
        document["resultScore"] = number(result.score)
    return document | ({"comment": result.comment} if result.comment else {})


def read_result(document: Json) -> Result:
    """Read a result; a maximum left out means 1 (AGS 2.0, 3.3.3). Raises LtiError
    ``bad_result``.
    """
    if not isinstance(document, dict) or not document.get("userId"):
        raise LtiError("bad_result", "The result names no userId.", "AGS 2.0, 3.3.5")
    score = _decimal(document.get("resultScore"), "bad_result", "resultScore")
    maximum = _decimal(document.get("resultMaximum"), "bad_result", "resultMaximum")
    return Result(
        str(document["userId"]),
        score,
        Decimal(1) if maximum is None else maximum,
        str(document.get("comment") or ""),
    )


def read_time(text: object) -> datetime:
    """Read an ISO 8601 time that names its zone. Raises LtiError ``bad_score`` (AGS 2.0, 3.4.8)."""
    try:
        moment = datetime.fromisoformat(text) if isinstance(text, str) else None
    except ValueError:
        moment = None
    if moment is None or moment.tzinfo is None:
        raise LtiError(
            "bad_score", "The timestamp is not an ISO 8601 time with a zone.", "AGS 2.0, 3.4.8"
        )
    return moment


def number(value: Decimal) -> int | float:
    """Return the JSON number of a decimal: whole where it is whole."""
    return int(value) if value == value.to_integral_value() else float(value)


def next_page(link_header: str) -> str:
    """Return the URL of the next page named by a Link header (RFC 8288), or an empty string."""
    for part in re.findall(r"<([^>]*)>([^<]*)", link_header or ""):
        if re.search(r';\s*rel="?next"?(\s*[;,]|\s*$)', part[1]):
            return str(part[0])
    return ""


def _decimal(value: object, code: str, name: str, *, strictly: bool = False) -> Decimal | None:
    try:
        return read_json_number(value, strictly=strictly)
    except ValueError as error:
        raise LtiError(code, f"{name} is not a number: {error}.", "AGS 2.0") from None
