"""A link opened as a test learner, down both hops: what was met, judged."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from vennpair.core.counting import many
from vennpair.core.levels import Level
from vennpair.core.reconcile.columns import fold_title

Part = Literal["opens", "visible", "date", "score"]
Verdict = Literal["yes", "no", "unknown"]


@dataclass(frozen=True, slots=True)
class Met:
    """What was met on the way to one link. ``opened`` is the placement that the first hop led to,
    empty where it led to none.

    ``stopped`` says who did not let it through, with their words; ``heading`` is the title and
    first headings of the last page, ``page`` its address. ``addressed`` says that an address of the
    item was asked for, ``alike`` how many other items opened the very same page. ``score_back`` is
    None where no score could be tried; ``score_left`` where the test score may still be there.
    """

    standing: bool = True
    hidden_by: str = ""
    not_before: str = ""
    viewed: bool = True
    opened: str = ""
    stopped: Literal["", "platform", "venn_pair", "publisher"] = ""
    words: str = ""
    heading: str = ""
    page: str = ""
    addressed: bool = True
    alike: int = 0
    date_there: str = ""
    date_wanted: str = ""
    dates_agree: bool = True
    score_back: bool | None = None
    score_words: str = ""
    score_left: bool = False


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that is wrong, with what to do."""

    code: str
    message: str
    remedy: str
    level: Level = "error"


@dataclass(slots=True)
class Walked:
    """The verdicts on one link, and what is wrong."""

    verdicts: dict[Part, Verdict] = field(default_factory=dict)
    findings: list[Finding] = field(default_factory=list)


def with_alike(mets: Mapping[str, Met], titles: Mapping[str, str]) -> dict[str, Met]:
    """Note which links opened one and the same page that names none of them, by placement: a front
    page, whatever was asked for.
    """
    pages = Counter(
        (met.page, met.heading)
        for key, met in mets.items()
        if met.opened == key and not _is_named(titles[key], met)
    )
    return {
        key: replace(met, alike=pages[met.page, met.heading] - 1)
        if met.opened == key and not _is_named(titles[key], met)
        else met
        for key, met in mets.items()
    }


def _is_named(title: str, met: Met) -> bool:
    return fold_title(title) in fold_title(met.heading)


def judge(placement: str, title: str, others: Sequence[str], met: Met) -> Walked:
    """Judge what was met.

    ``title`` is the item's at the publisher, ``others`` are those of the course's other items.
    """
    walked = Walked()
    _visible(walked, title, met)
    _opens(walked, placement, title, others, met)
    _date(walked, title, met)
    _score(walked, title, met)
    return walked


def _visible(walked: Walked, title: str, met: Met) -> None:
    walked.verdicts["visible"] = "yes"
    if not met.standing:
        walked.verdicts["visible"] = "no"
        walked.findings.append(
            Finding(
                "link_gone",
                f"'{title}' is not in the shell.",
                "Look for changes, and restore the link or take the placement back.",
            )
        )
    elif met.hidden_by:
        walked.verdicts["visible"] = "no"
        walked.findings.append(
            Finding(
                "hidden",
                f"Learners do not see '{title}': {met.hidden_by}.",
                "Show it in the shell, or deploy it as hidden if that is meant.",
            )
        )
    elif met.not_before:
        walked.verdicts["visible"] = "unknown"
        walked.findings.append(
            Finding(
                "not_yet",
                f"Learners see '{title}' only from {met.not_before}.",
                "Nothing needs to be done if that is meant.",
                "note",
            )
        )


def _opens(walked: Walked, placement: str, title: str, others: Sequence[str], met: Met) -> None:
    walked.verdicts["opens"] = "unknown"
    if not met.standing or met.not_before or (met.hidden_by and met.stopped in {"", "platform"}):
        return
    if not met.viewed and not met.addressed:
        _front_page(walked, title, met)
        return
    if not met.viewed:
        walked.findings.append(
            Finding(
                "not_tried",
                f"The platform lets no tool open '{title}' as a test learner, so it was not"
                " opened.",
                "Open it once as a learner yourself.",
                "note",
            )
        )
        return
    if met.stopped:
        _stopped(walked, title, met)
    elif met.opened != placement:
        walked.verdicts["opens"] = "no"
        walked.findings.append(
            Finding(
                "wrong_item",
                f"The link '{title}' leads to another item"
                + (f" ({met.heading})." if met.heading else "."),
                "Remove the link and deploy it again, or fix the change 'leads elsewhere'.",
            )
        )
    else:
        _names(walked, title, others, met)


def _stopped(walked: Walked, title: str, met: Met) -> None:
    """Say who stopped it on its way, and whom to tell."""
    walked.verdicts["opens"] = "no"
    named, remedy = {
        "platform": (
            "the platform",
            "Open it in the shell yourself; if it stays, tell the platform's administrator.",
        ),
        "venn_pair": (
            "Venn Pair",
            "Look at the connection under Connections, and at what the words say.",
        ),
        "publisher": (
            "the publisher",
            "Try again later; if it lasts, tell the publisher's support, naming the words.",
        ),
    }[met.stopped]
    walked.findings.append(
        Finding(
            f"stopped_{met.stopped}",
            f"'{title}' does not open: {named} stopped it. {met.words}".strip(),
            remedy,
        )
    )


def _names(walked: Walked, title: str, others: Sequence[str], met: Met) -> None:
    """Judge by the page that opened: the item's own title, or that of another one."""
    page = fold_title(met.heading)
    if _is_named(title, met):
        walked.verdicts["opens"] = "yes"
    elif not met.addressed or met.alike:
        _front_page(walked, title, met)
    elif other := max(
        (
            each
            for each in others
            if each and fold_title(each) in page and fold_title(each) != fold_title(title)
        ),
        key=len,
        default="",
    ):
        walked.verdicts["opens"] = "no"
        walked.findings.append(
            Finding(
                "wrong_item",
                f"The link '{title}' opens '{other}' at the publisher.",
                "Correct at the publisher where the item leads, or match the entry to another"
                " item.",
            )
        )
    else:
        walked.findings.append(
            Finding(
                "not_named",
                f"'{title}' opens, but the page that came does not name it:"
                f" {met.heading[:120] or 'no title'}.",
                "Look once whether it is the right one.",
                "note",
            )
        )


def _front_page(walked: Walked, title: str, met: Met) -> None:
    """Say that a link opens no item, with what came in its place where it was opened."""
    page = f": {met.heading[:120] or 'no title'}" if met.viewed else ""
    others = f" So do {many(met.alike, 'other link')}." if met.alike else ""
    walked.verdicts["opens"] = "no"
    walked.findings.append(
        Finding(
            "front_page",
            f"'{title}' does not open its item but the publisher's front page{page}.{others}",
            "Pick it at the publisher, import the publisher's cartridge and match the entry, or"
            " enter the publisher's address pattern under Connections.",
        )
    )


def _date(walked: Walked, title: str, met: Met) -> None:
    walked.verdicts["date"] = "yes" if met.dates_agree else "no"
    if not met.dates_agree:
        walked.findings.append(
            Finding(
                "date_differs",
                f"The shell shows {met.date_there} as the due date of '{title}', the publisher's is"
                f" {met.date_wanted}.",
                "Fix it under 'Changes', or shift the section's dates.",
                "warning",
            )
        )


def _score(walked: Walked, title: str, met: Met) -> None:
    walked.verdicts["score"] = (
        "unknown" if met.score_back is None else "yes" if met.score_back else "no"
    )
    if met.score_back is False:
        walked.findings.append(
            Finding(
                "score_lost",
                f"A test score for '{title}' did not come back from the gradebook."
                f" {met.score_words}".strip(),
                "Look at the column in the gradebook: it may be locked, computed or gone.",
            )
        )
