"""Find shells, items and learners of one's own by a few letters."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import quote

from django.db.models import Q

from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import pairings_for, shells_for

SHORTEST = 2  # letters; fewer find everything
MOST_OF_A_KIND = 8
MOST_WORDS = 6


@dataclass(frozen=True, slots=True)
class Found:
    """Something found: ``detail`` tells it from others of its name, ``link`` is where it is shown."""

    kind: str
    title: str
    detail: str
    link: str


def search(user: User, words: str) -> list[Found]:
    """Return what holds every word, at most eight of each kind, shells first; of items and learners
    words of their shell's label count too.
    """
    wanted = words.split()[:MOST_WORDS]
    if sum(map(len, wanted)) < SHORTEST:
        return []
    return [*_shells(user, wanted), *_items(user, wanted), *_learners(user, wanted)]


def _every(wanted: list[str], *fields: str) -> Q:
    """Return the condition that each word is in one of the fields, whatever its case."""
    found = Q()
    for word in wanted:
        one = Q()
        for field in fields:
            one |= Q(**{f"{field}__icontains": word})
        found &= one
    return found


def _shells(user: User, wanted: list[str]) -> list[Found]:
    current = Pairing.objects.exclude(state=Pairing.State.ENDED)
    rows = shells_for(user).filter(_every(wanted, "label", "title")).order_by("label", "pk")
    shells = list(rows[:MOST_OF_A_KIND])
    pairings = dict(current.filter(shell__in=shells).values_list("shell", "pk"))
    return [
        Found(
            "shell",
            shell.label or shell.title,
            shell.title if shell.label else "",
            f"/pairings/{pairings[shell.pk]}"
            if shell.pk in pairings
            else f"/set-up?shell={shell.pk}",
        )
        for shell in shells
    ]


def _items(user: User, wanted: list[str]) -> list[Found]:
    rows = (
        Placement.objects.placed()
        .filter(pairing__in=pairings_for(user).exclude(state=Pairing.State.ENDED).values("pk"))
        .filter(_every(wanted, "title", "pairing__shell__label"))
        .select_related("pairing__shell")
        .order_by("title", "pairing__shell__label", "pk")
    )
    return [
        Found(
            "item",
            each.title,
            each.pairing.shell.label or each.pairing.shell.title,
            f"/pairings/{each.pairing_id}/deploy/placed?q={quote(each.title)}",
        )
        for each in rows[:MOST_OF_A_KIND]
    ]


def _learners(user: User, wanted: list[str]) -> list[Found]:
    mine = pairings_for(user).exclude(state=Pairing.State.ENDED).values("shell")
    rows = (
        Learner.objects.filter(shell__in=mine, active=True)
        .filter(_every(wanted, "name", "email", "shell__label"))
        .select_related("shell")
        .order_by("name", "shell__label", "pk")[:MOST_OF_A_KIND]
    )
    current = Pairing.objects.exclude(state=Pairing.State.ENDED)
    learners = list(rows)
    pairings = dict(
        current.filter(shell__in=[each.shell_id for each in learners]).values_list("shell", "pk")
    )
    return [
        Found(
            "learner",
            each.name or each.email,
            each.shell.label or each.shell.title,
            f"/pairings/{pairings[each.shell_id]}/relay?q={quote(each.name or each.email)}",
        )
        for each in learners
        if each.shell_id in pairings
    ]
