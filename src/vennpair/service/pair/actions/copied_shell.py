"""A shell that was copied from another: what it came from, and the two ways on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vennpair.service.connect.models import User
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.change_pairing import change_state
from vennpair.service.pair.actions.link_account import may_copy
from vennpair.service.pair.actions.pair_course import may_share, old_pairing, pair_course, pair_new
from vennpair.service.pair.models import AccountLink, Pairing, Shell


@dataclass(frozen=True, slots=True)
class Way:
    """``same`` or ``fresh``; where it is not open, ``why`` says so, else what it does. ``needs``
    is ``account`` where linking one's account would open it.
    """

    choice: str
    open: bool
    why: str
    needs: str = ""


@dataclass(frozen=True, slots=True)
class Copied:
    """``old`` is the pairing whose links the shell holds."""

    old: Pairing
    links: int
    ways: tuple[Way, ...]


def look_at_copy(shell: Shell, user: Any) -> Copied | None:
    """Return what a shell was copied from, or None where it was not, or from nothing that was
    paired.
    """
    old = old_pairing(shell)
    if old is None or old.shell_id == shell.pk:
        return None
    links = old.placements.placed().count()
    return Copied(old, links, (_same(old), _fresh(old, user)))


def go_on(shell: Shell, choice: str, actor: User, *, agreeing: bool) -> Pairing:
    """Pair a copied shell and point its links; nothing of the old shell's learners crosses over.

    Raises Refused.
    """
    copied = look_at_copy(shell, actor)
    if copied is None:
        raise Refused(
            "not_copied",
            "This shell was not copied from one that is paired.",
            "Choose its homework course yourself.",
        )
    way = next(each for each in copied.ways if each.choice == choice)
    if not way.open:
        raise Refused("not_offered", way.why, "Choose the other way, or another homework course.")
    course = copied.old.course
    if choice == "fresh":
        return pair_new(shell, "copy_of", course, actor, agreeing=agreeing)
    if not may_share(course) and copied.old.state != Pairing.State.ENDED:
        change_state(copied.old, "ended", actor)
    return pair_course(shell, course, actor, agreeing=agreeing, sharing=True)


def _same(old: Pairing) -> Way:
    name = f"{old.course.title}, {old.course.code}"
    if old.course.gone:
        return Way("same", False, f"The publisher no longer lists {name}.")
    if old.state == Pairing.State.ENDED or "sharing" in old.course.publisher.features:
        return Way("same", True, f"Use {name} for this shell too.")
    others = (
        Pairing.objects.filter(course=old.course)
        .exclude(pk=old.pk)
        .exclude(state=Pairing.State.ENDED)
    )
    if others.exists():
        return Way("same", False, f"{name} is paired with another shell as well.")
    return Way(
        "same",
        True,
        f"Use {name} for this shell; its pairing with {old.shell.label or old.shell.title} is ended"
        " by this. All scores there stay, and it can be undone for 30 days.",
    )


def _fresh(old: Pairing, user: Any) -> Way:
    publisher = old.course.publisher
    if "copy" not in publisher.features:
        return Way(
            "fresh",
            False,
            f"{publisher.name} does not let Venn Pair copy courses: copy it there, then choose the"
            " copy here.",
        )
    link = AccountLink.objects.filter(
        user=user, publisher=publisher, state=AccountLink.State.LINKED
    ).first()
    if link is None:
        return Way(
            "fresh",
            False,
            f"{publisher.name} must know whose copy it is: link your account there first, once,"
            " under Accounts.",
            "account",
        )
    if not may_copy(link, old.course):
        return Way("fresh", False, "The course is a colleague's and not shared with you.")
    return Way(
        "fresh",
        True,
        f"{publisher.name} makes a copy of {old.course.title}, {old.course.code}, without learners"
        " and scores.",
    )
