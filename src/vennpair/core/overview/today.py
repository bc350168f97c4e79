"""What needs somebody today: each need with what happened, what to do, and where."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Final

MOST = 500  # needs that are named one by one, as of an administrator of a large college


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of need: ``one`` and ``many`` are its sentences (``{n}``, ``{name}``), ``link`` is the
    console's address (``{pairing}``, ``{shell}``).
    """

    level: str
    one: str
    many: str
    remedy: str
    link: str


# In the order of their urgency: first what keeps scores from learners.
KINDS: Final[dict[str, Kind]] = {
    "platform_down": Kind(
        "urgent",
        "{name} does not answer.",
        "{name} does not answer.",
        "Scores wait and are sent as soon as it answers. Nothing is lost.",
        "/agreement",
    ),
    "scores_refused": Kind(
        "urgent",
        "The gradebook refused 1 score.",
        "The gradebook refused {n} scores.",
        "Read why, fix the cause, then send again.",
        "/pairings/{pairing}/relay?state=refused",
    ),
    "scores_clash": Kind(
        "urgent",
        "1 score meets a grade that somebody typed.",
        "{n} scores meet grades that somebody typed.",
        "Choose which grade counts.",
        "/pairings/{pairing}/relay?state=clash",
    ),
    "scores_late": Kind(
        "urgent",
        "1 score has waited for more than an hour.",
        "{n} scores have waited for more than an hour.",
        "See what they wait for.",
        "/pairings/{pairing}/relay?state=waiting",
    ),
    "operation_failed": Kind(
        "urgent",
        "{name} failed.",
        "{n} operations failed.",
        "See which steps failed, then retry them.",
        "/operations?state=failed",
    ),
    "shell_copied": Kind(
        "urgent",
        "The shell is a copy: its homework links do not open yet.",
        "The shell is a copy: its homework links do not open yet.",
        "Point its links at a homework course.",
        "/shells/{shell}/copied",
    ),
    "differences": Kind(
        "soon",
        "1 difference needs a decision.",
        "{n} differences need a decision.",
        "Choose for each cause which side is right.",
        "/pairings/{pairing}/reconcile",
    ),
    "proposed": Kind(
        "soon",
        "1 proposal waits for your decision.",
        "{n} proposals wait for your decision.",
        "Look at it, then carry it out or dismiss it.",
        "/operations?state=proposed",
    ),
    "changes": Kind(
        "soon",
        "1 setting changed since the items were placed.",
        "{n} settings changed since the items were placed.",
        "Fix or accept each change.",
        "/pairings/{pairing}/deploy/changes",
    ),
    "unpaired": Kind(
        "soon",
        "1 shell has no homework course yet.",
        "{n} shells have no homework course yet.",
        "Set them up together.",
        "/set-up",
    ),
    "not_ready": Kind(
        "soon",
        "The pairing is not ready yet.",
        "The pairing is not ready yet.",
        "See what is missing.",
        "/pairings/{pairing}",
    ),
    "nothing_placed": Kind(
        "soon",
        "Nothing is placed in the shell yet.",
        "Nothing is placed in the shell yet.",
        "Choose what goes where.",
        "/pairings/{pairing}/deploy",
    ),
    "paused": Kind(
        "note",
        "The pairing is paused: scores are kept and wait.",
        "The pairing is paused: scores are kept and wait.",
        "Resume it when you are ready.",
        "/pairings/{pairing}",
    ),
    "relay_off": Kind(
        "note",
        "The relay is off: no score is sent.",
        "The relay is off: no score is sent.",
        "Turn it on when you are ready.",
        "/pairings/{pairing}",
    ),
}
_RANK = {code: place for place, code in enumerate(KINDS)}
_FOREVER = datetime.max.replace(tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class Need:
    """One line of the start page. ``shell`` is its label, empty where it is of several; ``name`` is
    what the sentence names; ``since`` is when it began, None where nobody knows.
    """

    code: str
    count: int = 1
    shell: str = ""
    pairing: str = ""
    shell_id: str = ""
    name: str = ""
    since: datetime | None = None

    @property
    def level(self) -> str:
        """Return ``urgent``, ``soon`` or ``note``."""
        return KINDS[self.code].level

    @property
    def what(self) -> str:
        """Return what happened, as a sentence."""
        kind = KINDS[self.code]
        words = kind.one if self.count == 1 else kind.many
        return words.format(n=self.count, name=self.name)

    @property
    def remedy(self) -> str:
        """Return what to do."""
        return KINDS[self.code].remedy

    @property
    def link(self) -> str:
        """Return where in the console it is done."""
        return KINDS[self.code].link.format(pairing=self.pairing, shell=self.shell_id)


def in_order(needs: Iterable[Need]) -> list[Need]:
    """Return the most urgent first; among equals what began first, then by the shell's label."""
    return sorted(
        needs, key=lambda each: (_RANK[each.code], each.since or _FOREVER, each.shell, -each.count)
    )
