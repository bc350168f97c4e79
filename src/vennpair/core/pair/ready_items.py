"""Readiness of the homework: does the course fit the shell, time zones, dates, titles, what
learners can see.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from vennpair.core.counting import many
from vennpair.core.finding_words import found
from vennpair.core.pair.checks import Check, named
from vennpair.core.pair.guess import CourseFacts, fold, section, telling_words


@dataclass(frozen=True, slots=True)
class ItemsFacts:
    """Zones are IANA names, empty where a side does not say.

    Titles are those of the graded items.
    """

    shell: CourseFacts
    course: CourseFacts
    shell_zone: str = ""
    course_zone: str = ""
    titles: tuple[str, ...] = ()
    undated: tuple[str, ...] = ()
    hidden: tuple[str, ...] = ()
    unaddressed: tuple[str, ...] = ()
    differences: dict[str, int] | None = (
        None  # findings of the last comparison by kind; None before the first
    )


# Of what the last comparison found, what a shell is better not begun with.
_TOLD = (
    "edited",
    "behind",
    "unsent",
    "cleared",
    "clash",
    "differ",
    "refused",
    "points_differ",
    "due_differs",
    "column_missing",
    "item_gone",
)


def checks(facts: ItemsFacts) -> list[Check]:
    """Return the checks of the homework."""
    return [
        *_fit(facts),
        _zone(facts),
        _undated(facts),
        _same_titles(facts.titles),
        _addresses(facts),
        *_hidden(facts.hidden),
        *_compared(facts.differences),
    ]


def _fit(facts: ItemsFacts) -> list[Check]:
    shell, course = facts.shell, facts.course
    here, there = section(shell.label, shell.title), section(course.label, course.title)
    found = []
    if here and there and here != there:
        found.append(
            Check(
                "section",
                "warn",
                f"The homework course is section {there}, the shell is section {here}.",
                "Make sure that it is the right one before you deploy; end the pairing if not.",
            )
        )
    if not telling_words(shell.title) & telling_words(course.title):
        found.append(
            Check(
                "title",
                "warn",
                f"The titles have nothing in common: '{course.title}' at the publisher,"
                f" '{shell.title}' in the shell.",
                "Make sure that it is the right homework course.",
            )
        )
    if shell.term and course.term and fold(shell.term) != fold(course.term):
        found.append(
            Check(
                "term",
                "warn",
                f"The homework course is of {course.term}, the shell of {shell.term}.",
                "Last term's course brings last term's dates; copy it instead.",
            )
        )
    if not found:
        found.append(
            Check("fit", "ok", "Title, section and term fit, as far as both sides tell them.")
        )
    return found


def _zone(facts: ItemsFacts) -> Check:
    if not facts.shell_zone:
        return Check(
            "zone",
            "warn",
            "The shell does not say its time zone; the institution's is used.",
            "Check the due dates before you deploy.",
        )
    if facts.course_zone and facts.course_zone != facts.shell_zone:
        return Check(
            "zone",
            "warn",
            f"The homework course keeps time in {facts.course_zone}, the shell in"
            f" {facts.shell_zone}; a due date at midnight falls on another day.",
            "Check the due dates before you deploy; each is shown with its zone.",
        )
    return Check("zone", "ok", f"Dates are shown in the course's time zone, {facts.shell_zone}.")


def _undated(facts: ItemsFacts) -> Check:
    if facts.titles and len(facts.undated) == len(facts.titles):
        return Check(
            "undated",
            "warn",
            "No item has a due date: the homework course was probably copied without them.",
            "Set the dates at the publisher and import again, or deploy without.",
        )
    if not facts.undated:
        return Check("undated", "ok", "No item is without a due date.")
    verb = many(len(facts.undated), "item is", "items are")
    return Check(
        "undated",
        "warn",
        f"{verb} without a due date: {named(facts.undated)}.",
        "Say when you deploy whether they become columns or plain links.",
    )


def _addresses(facts: ItemsFacts) -> Check:
    if not facts.unaddressed:
        return Check("addresses", "ok", "Every item has an address that its link can open.")
    verb = many(len(facts.unaddressed), "item", "items")
    return Check(
        "addresses",
        "warn",
        f"The publisher tells no address of {verb}, so links open its front page:"
        f" {named(facts.unaddressed)}.",
        "Pick them at the publisher, import its cartridge, or enter its address pattern once under"
        " Connections.",
    )


def _same_titles(titles: tuple[str, ...]) -> Check:
    repeated = [title for title, number in Counter(titles).items() if number > 1]
    if not repeated:
        return Check("same_title", "ok", "Every item has a title of its own.")
    return Check(
        "same_title",
        "warn",
        f"Several items are called {named(repeated)}.",
        "When you deploy, a unit or a number is added to tell them apart; rename them if you like.",
    )


def _hidden(hidden: tuple[str, ...]) -> list[Check]:
    if not hidden:
        return []
    verb = many(len(hidden), "homework link is", "homework links are")
    return [
        Check(
            "hidden",
            "warn",
            f"{verb} hidden from learners in the shell, though you see"
            f" {'it' if len(hidden) == 1 else 'them'}: {named(hidden)}.",
            "Show them in the shell when the class should find them.",
        )
    ]


def _compared(differences: dict[str, int] | None) -> list[Check]:
    if differences is None:
        return []
    words = [found(kind, differences[kind]) for kind in _TOLD if differences.get(kind)]
    if not words:
        return [Check("compared", "ok", "Scores and columns agreed when last compared.")]
    return [
        Check(
            "compared",
            "warn",
            f"When last compared: {'; '.join(words)}.",
            "See each with its cause and remedy under Reconcile.",
        )
    ]
