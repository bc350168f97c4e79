"""What came of a section, and of a whole set-up, in words."""

from __future__ import annotations

from collections.abc import Sequence

from vennpair.core.counting import many
from vennpair.service.set_up.actions.section_parts import counts_of
from vennpair.service.set_up.models import Section, SetUp

GOES = {
    SetUp.Scores.SUBMISSION: "scores go as learners hand in",
    SetUp.Scores.DUE: "scores go after the due date",
    SetUp.Scores.LATER: "scores wait until you turn the relay on",
}


def goes(set_up: SetUp) -> str:
    """Say which scores go, and when."""
    if set_up.way == SetUp.Way.COURSE and not set_up.total:
        return "no column, so no score goes to the gradebook"
    if set_up.way == SetUp.Way.COLUMNS or set_up.scores == SetUp.Scores.LATER:
        return GOES[SetUp.Scores(set_up.scores)]
    return f"the column '{set_up.total}' is kept up to date"


def came_of(sections: Sequence[Section], set_up: SetUp) -> str:
    """Say what came of all that was started, each with its check read along."""
    well = [each for each in sections if not each.message]
    placed = sum(counts_of(each)[0] for each in sections)
    opened = sum(
        len(check.rows)
        for each in sections
        if (check := getattr(each.checking, "learner_check", None)) is not None
    )
    words = (
        f"{many(len(well), 'section is', 'sections are')} live"
        if len(well) == len(sections)
        else f"{len(well)} of {len(sections)} sections are live"
    )
    words += f": {many(placed, 'link')} placed, {opened} opened as a learner; {goes(set_up)}"
    troubles = "; ".join(each.message for each in sections if each.message)
    return f"{words}. {troubles}".rstrip(".") if troubles else words
