"""Readiness of the two sides: consent, services and scopes, the tool in the shell, the publisher,
its courses.
"""

from __future__ import annotations

from dataclasses import dataclass

from vennpair.core.pair.checks import Check


@dataclass(frozen=True, slots=True)
class ServiceFacts:
    """``tool_on`` and ``tool_audience`` are None and empty where the platform has no outline
    service.
    """

    agreed: bool
    can_read_roster: bool
    can_write_columns: bool
    can_write_outline: bool
    publisher: str
    publisher_answers: bool
    course_there: bool
    tool_on: bool | None = None
    tool_audience: str = ""
    shared_with: tuple[str, ...] = ()
    sharing_allowed: bool = False


def checks(facts: ServiceFacts) -> list[Check]:
    """Return the checks of both sides' services."""
    return [
        _consent(facts.agreed),
        _service("roster", facts.can_read_roster, "the list of learners", "Names and Roles"),
        _service(
            "columns",
            facts.can_write_columns,
            "gradebook columns and scores",
            "Assignment and Grade Services",
        ),
        _outline(facts.can_write_outline),
        *([_tool(facts.tool_on, facts.tool_audience)] if facts.tool_on is not None else []),
        _publisher(facts),
        *([_shared(facts)] if facts.shared_with else []),
    ]


def _consent(agreed: bool) -> Check:
    if agreed:
        return Check(
            "consent", "ok", "An instructor agreed that Venn Pair reads and writes this shell."
        )
    return Check(
        "consent",
        "fail",
        "No instructor has agreed that Venn Pair reads and writes this shell, so it does neither.",
        "Agree under Pair.",
    )


def _service(code: str, works: bool, what: str, service: str) -> Check:
    if works:
        return Check(code, "ok", f"The platform lets Venn Pair use {what}.")
    remedy = (
        f"Ask the platform's administrator to allow {service} for Venn Pair, then open Venn Pair"
        " from the shell again."
    )
    return Check(code, "fail", f"The platform does not let Venn Pair use {what}.", remedy)


def _outline(works: bool) -> Check:
    if works:
        return Check("outline", "ok", "The platform lets Venn Pair place folders and links.")
    remedy = (
        "Place links by hand from the platform's own page for adding content, or ask its"
        " administrator whether it offers the Shell Outline protocol."
    )
    return Check(
        "outline",
        "warn",
        "The platform does not let Venn Pair place folders and links; scores and comparisons work"
        " without it.",
        remedy,
    )


def _tool(on: bool, audience: str) -> Check:
    if not on:
        return Check(
            "tool",
            "fail",
            "Venn Pair is turned off in this shell: homework links in it do not open.",
            "Turn it on under Pair.",
        )
    seen = (
        "Learners see it in the navigation; it shows them nothing"
        if audience == "everyone"
        else "Only instructors see it in the navigation; learners need only the homework links"
    )
    return Check(
        "tool",
        "warn" if audience == "everyone" else "ok",
        f"Venn Pair is turned on in this shell. {seen}.",
        "Show it to instructors only, under Pair." if audience == "everyone" else "",
    )


def _publisher(facts: ServiceFacts) -> Check:
    if not facts.publisher_answers:
        return Check(
            "publisher",
            "fail",
            f"{facts.publisher} does not answer at the moment.",
            "Try again in a few minutes; nothing is lost.",
        )
    if not facts.course_there:
        return Check(
            "publisher",
            "fail",
            f"{facts.publisher} no longer lists this homework course.",
            "Ask its instructor whether it was closed; pair with another one, and the links are"
            " pointed at that.",
        )
    return Check("publisher", "ok", f"{facts.publisher} answers and lists the course.")


def _shared(facts: ServiceFacts) -> Check:
    others = ", ".join(facts.shared_with)
    if facts.sharing_allowed:
        return Check(
            "shared_course",
            "ok",
            f"The homework course is shared with {others}; each shell only sees its own learners.",
        )
    return Check(
        "shared_course",
        "fail",
        f"The homework course is paired with {others} too, and {facts.publisher} does not allow"
        " sharing.",
        "Pair one of the shells with a section of its own.",
    )
