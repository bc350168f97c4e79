"""The life of a pairing, and what each change of it does to links, columns and scores."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

UNDO = timedelta(days=30)
_NEXT = {
    "draft": {"ready", "ended"},
    "ready": {"live", "draft", "ended"},
    "live": {"paused", "ended"},
    "paused": {"live", "ended"},
    "ended": {"paused"},
}


@dataclass(frozen=True, slots=True)
class Stock:
    """What hangs on a pairing: links and columns placed, scores accepted by the gradebook, scores
    that wait.
    """

    links: int = 0
    columns: int = 0
    sent: int = 0
    waiting: int = 0
    shell: str = "the shell"
    course: str = "the homework course"


def may_become(state: str, target: str) -> bool:
    """Say whether a pairing in ``state`` may go to ``target``."""
    return target in _NEXT[state]


def may_undo(ended_at: datetime | None, now: datetime) -> bool:
    """Say whether an end can still be undone."""
    return ended_at is not None and now < ended_at + UNDO


def relays(state: str) -> bool:
    """Say whether scores are sent in this state; in all others they are kept and wait."""
    return state == "live"


def consequences(target: str, stock: Stock, now: datetime) -> list[str]:
    """Say in sentences what happens to links, columns and scores when a pairing becomes
    ``target``.
    """
    if target == "paused":
        return _paused(stock)
    if target == "ended":
        return _ended(stock, (now + UNDO).date().isoformat())
    if target == "live":
        links = count(stock.links, "link")
        return [
            f"{links} lead to the homework again.",
            (
                f"{count(stock.waiting, 'score')} that {'waits' if stock.waiting == 1 else 'wait'}"
                f" {'is' if stock.waiting == 1 else 'are'} sent, if the relay is on."
            ),
        ]
    return []


def _paused(stock: Stock) -> list[str]:
    links, columns, waiting = _counted(stock)
    return [
        (
            f"{links} in {stock.shell} {stay(stock.links)} where {they(stock.links)}"
            f" {are(stock.links)}; a learner who opens one reads that the homework is paused."
        ),
        (
            f"{columns} and the {count(stock.sent, 'score')} in"
            f" {they(stock.columns, 'it', 'them')} stay as they are."
        ),
        (
            "Scores that the publisher reports are kept and wait; they are sent when you"
            f" resume.{waiting}"
        ),
    ]


def _ended(stock: Stock, until: str) -> list[str]:
    links, columns, waiting = _counted(stock)
    return [
        (
            f"{links} {stay(stock.links)} in {stock.shell} but"
            f" {they(stock.links, 'leads', 'lead')} nowhere from then on; hide or remove"
            f" {they(stock.links, 'it', 'them')} there, or pair again and"
            f" {they(stock.links, 'it is', 'they are')} pointed right."
        ),
        (
            f"{columns} and the {count(stock.sent, 'score')} in"
            f" {they(stock.columns, 'it', 'them')} stay in the gradebook; nothing is deleted on"
            " either side."
        ),
        f"No more scores are sent.{waiting}",
        (
            f"{stock.shell} and {stock.course} can be paired again, with each other or with"
            " something else."
        ),
        f"You can undo this until {until}.",
    ]


def _counted(stock: Stock) -> tuple[str, str, str]:
    """Return the links, the columns, and the sentence of the scores that wait."""
    waiting = (
        f" {count(stock.waiting, 'score')} that {'waits' if stock.waiting == 1 else 'wait'} now"
        f" {'is' if stock.waiting == 1 else 'are'} kept too."
        if stock.waiting
        else ""
    )
    return count(stock.links, "link"), count(stock.columns, "column"), waiting


def count(number: int, noun: str) -> str:
    """Return a count with its noun."""
    return f"{number} {noun}{'' if number == 1 else 's'}"


def they(number: int, one: str = "it", many: str = "they") -> str:
    """Return the word that fits the number."""
    return one if number == 1 else many


def are(number: int) -> str:
    """Return ``is`` or ``are``."""
    return they(number, "is", "are")


def stay(number: int) -> str:
    """Return ``stays`` or ``stay``."""
    return they(number, "stays", "stay")
