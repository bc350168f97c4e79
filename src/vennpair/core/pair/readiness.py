"""The checks that a pairing must pass, each with what is wrong and what to do."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Literal

State = Literal["ok", "warn", "fail"]


@dataclass(frozen=True, slots=True)
class Check:
    """One check: ``ok``, ``warn`` (works, but look) or ``fail`` (must be mended first)."""

    code: str
    state: State
    message: str
    remedy: str = ""


@dataclass(frozen=True, slots=True)
class PairingFacts:
    """What the checks look at."""

    can_read_roster: bool
    can_write_columns: bool
    can_write_outline: bool
    shell_zone: str
    publisher_answers: bool
    strangers: tuple[str, ...] = ()
    item_titles: tuple[str, ...] = ()
    undated: tuple[str, ...] = ()


def readiness(facts: PairingFacts) -> list[Check]:
    """Return all checks, those that fail first."""
    checks = [
        _service("roster", facts.can_read_roster, "the list of learners", "Names and Roles"),
        _service("columns", facts.can_write_columns, "gradebook columns and scores", "Assignment and Grade Services"),
        _service("outline", facts.can_write_outline, "folders and links", "the Shell Outline protocol"),
        _publisher(facts.publisher_answers),
        _zone(facts.shell_zone),
        _named("strangers", facts.strangers, "registered at the publisher under an address that the shell does not know", "Compare the pairing: Venn Pair proposes who it is, and you confirm."),
        _named("undated", facts.undated, "without a due date", "Say when you deploy whether they become columns or plain links."),
        _same_titles(_repeated(facts.item_titles)),
    ]
    order = {"fail": 0, "warn": 1, "ok": 2}
    return sorted(checks, key=lambda check: order[check.state])


def _service(code: str, works: bool, what: str, service: str) -> Check:
    if works:
        return Check(code, "ok", f"The platform lets Venn Pair use {what}.")
    remedy = f"Ask the platform's administrator to allow {service} for Venn Pair, then open Venn Pair from the shell again."
    return Check(code, "fail", f"The platform does not let Venn Pair use {what}.", remedy)


def _publisher(answers: bool) -> Check:
    if answers:
        return Check("publisher", "ok", "The publisher answers.")
    return Check("publisher", "fail", "The publisher does not answer at the moment.", "Try again in a few minutes; nothing is lost.")


def _zone(zone: str) -> Check:
    if zone:
        return Check("zone", "ok", f"Dates are shown in the course's time zone, {zone}.")
    return Check("zone", "warn", "The shell does not say its time zone; the institution's is used.", "Check the due dates before you deploy.")


def _named(code: str, names: tuple[str, ...], what: str, remedy: str) -> Check:
    noun = "learner" if code == "strangers" else "item"
    if not names:
        return Check(code, "ok", f"No {noun} is {what}.")
    shown = ", ".join(names[:5]) + (f" and {len(names) - 5} more" if len(names) > 5 else "")
    count = f"1 {noun} is" if len(names) == 1 else f"{len(names)} {noun}s are"
    return Check(code, "warn", f"{count} {what}: {shown}.", remedy)


def _same_titles(titles: tuple[str, ...]) -> Check:
    if not titles:
        return Check("same_title", "ok", "Every item has a title of its own.")
    return Check("same_title", "warn", f"Several items are called {', '.join(titles[:5])}.", "When you deploy, each gets a telling addition; rename them if you like.")


def _repeated(titles: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(title for title, count in Counter(titles).items() if count > 1)
