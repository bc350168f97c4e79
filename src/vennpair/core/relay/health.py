"""Is all well with a relay?

One word, one sentence, and what to do; for somebody who has ten seconds.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Literal

from vennpair.core.counting import many

Health = Literal["well", "waits", "trouble", "off"]


@dataclass(frozen=True, slots=True)
class Standing:
    """What is known of a pairing's relay. ``counts``: cells by state; ``held``: held cells by what
    they wait for.

    ``unreported``: scores that the comparison of ``compared`` found at the publisher, and of which
    no report has come.
    """

    on: bool
    live: bool
    counts: Mapping[str, int]
    held: Mapping[str, int]
    received: int = 0
    unclaimed: int = 0
    oldest: datetime | None = None  # since when the oldest waiting score waits
    patience: timedelta = timedelta(hours=1)
    pause: str = ""  # why the platform is not written to now, with until when
    down: bool = False
    unreported: int = 0
    compared: str = ""


@dataclass(frozen=True, slots=True)
class Verdict:
    """``level``: ``well``, ``waits``, ``trouble`` or ``off``.

    ``act``: what a button does: ``on``, ``see_refused``, ``see_unreported``, ``release``, ``match``
    or nothing.
    """

    level: Health
    sentence: str
    remedy: str = ""
    act: str = ""


def judge(standing: Standing, now: datetime) -> Verdict:
    """Return the verdict; what needs a person goes before what mends itself.

    Scores that are held are counted in the sentence, whatever else it says.
    """
    if found := _in_trouble(standing, now) or _without_an_owner(standing):
        off = _turned_off(standing)
        kept = sum(standing.held.values())
        held = f" {_scores(kept)} held." if kept else ""
        return off or replace(found, sentence=found.sentence + held)
    return _turned_off(standing) or _held_by_hand(standing) or _well(standing)


def _turned_off(standing: Standing) -> Verdict | None:
    kept = sum(standing.held.values())
    if not standing.live:
        return Verdict(
            "off",
            f"The pairing is not live, so no score goes to the gradebook. {_scores(kept)} kept.",
            "Make it live on the Pair page; nothing is lost meanwhile.",
        )
    if not standing.on:
        return Verdict(
            "off",
            f"The relay is OFF: no score goes to the gradebook. {_scores(kept)} kept.",
            "Turn it on; what is kept then goes by your rules.",
            "on",
        )
    return None


def _in_trouble(standing: Standing, now: datetime) -> Verdict | None:
    refused, clash = standing.counts.get("refused", 0), standing.counts.get("clash", 0)
    waiting = _waiting(standing)
    if refused or clash:
        parts = [f"{_scores(refused)} refused by the platform"] if refused else []
        parts += [f"{_scores(clash)} kept back, as somebody typed another value"] if clash else []
        return Verdict(
            "trouble",
            f"{' and '.join(parts)}.",
            "Read why below, then fix it there or send again.",
            "see_refused",
        )
    if waiting and standing.oldest is not None and now - standing.oldest > standing.patience:
        since = span(now - standing.oldest)
        return Verdict(
            "trouble",
            f"{_scores(waiting)} waiting, the oldest for {since}. {standing.pause}".strip(),
            "Nothing is lost; all go once the platform answers. If it lasts, tell your"
            " administrator.",
        )
    if standing.down or standing.pause:
        return Verdict(
            "waits",
            f"{_scores(waiting)} waiting. {standing.pause}".strip(),
            "Nothing to do: they are sent automatically.",
        )
    return _unreported(standing) if standing.unreported else None


def _unreported(standing: Standing) -> Verdict:
    one = standing.unreported == 1
    missing = "1 score was" if one else f"{standing.unreported} scores were"
    return Verdict(
        "trouble",
        f"{missing} never reported: the comparison of {standing.compared} found"
        f" {'it' if one else 'them'} at the publisher.",
        "All that was reported is in the gradebook. Send these from the Reconcile page; if it"
        " happens again, have the publisher's results read at set intervals too.",
        "see_unreported",
    )


def _without_an_owner(standing: Standing) -> Verdict | None:
    if not standing.unclaimed:
        return None
    reports = many(standing.unclaimed, "report is of an account", "reports are of accounts")
    return Verdict(
        "waits",
        f"{reports} that nobody in the shell has.",
        "Say on the Pair page who they are; their scores then go.",
        "match",
    )


def _held_by_hand(standing: Standing) -> Verdict | None:
    held = sum(standing.held.get(why, 0) for why in ("hand", "late", "no_due"))
    if not held:
        return None
    return Verdict(
        "waits",
        f"{_scores(held)} held until you release {'it' if held == 1 else 'them'}.",
        "Look at them below, then release them.",
        "release",
    )


def _well(standing: Standing) -> Verdict:
    if waiting := _waiting(standing):
        return Verdict("well", f"{_scores(waiting)} on the way.", "Nothing to do.")
    if not standing.received:
        return Verdict(
            "well",
            "The relay is on; no score has come yet.",
            "The first one appears here within seconds of a learner handing in.",
        )
    later = sum(standing.held.get(why, 0) for why in ("due", "daily"))
    chosen = f" {_scores(later)} held for later, as you chose." if later else ""
    return Verdict(
        "well", f"Every score that may go is in the gradebook.{chosen}", "Nothing to do."
    )


def _waiting(standing: Standing) -> int:
    return standing.counts.get("waiting", 0) + standing.counts.get("sending", 0)


def span(length: timedelta) -> str:
    """Return a length of time in words that fit its size."""
    minutes = int(length.total_seconds() // 60)
    if minutes < 1:
        return "less than a minute"
    if minutes < 120:
        return f"{minutes} minute{'' if minutes == 1 else 's'}"
    hours, days = minutes // 60, minutes // (24 * 60)
    return f"{hours} hours" if days < 2 else f"{days} days"


def _scores(count: int) -> str:
    return f"{count} score{' is' if count == 1 else 's are'}"
