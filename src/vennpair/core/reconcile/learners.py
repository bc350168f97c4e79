"""Which learner is which: by id, then by email; a name only ever proposes (CONTRACTS, Learners)."""

from __future__ import annotations

import unicodedata
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from difflib import SequenceMatcher

LIKE_ENOUGH = 0.8
MOST_CANDIDATES = 5


@dataclass(frozen=True, slots=True)
class Learner:
    """A learner as one side writes them; any field may be empty."""

    id: str = ""
    email: str = ""
    name: str = ""


@dataclass(frozen=True, slots=True)
class Candidate:
    """A learner of the other side who may be the same person, with the reason and a likeness of 0
    to 1; ``position`` is theirs there.
    """

    learner: Learner
    why: str
    likeness: float
    position: int = -1


@dataclass(frozen=True, slots=True)
class Open:
    """A learner about whom something is open: ``publisher_only``, ``shell_only`` or ``ambiguous``.

    ``position`` is theirs in the list of their ``side``, ``publisher`` or ``shell``; ``holds``
    says that they are matched all the same, by their id.
    """

    kind: str
    learner: Learner
    candidates: tuple[Candidate, ...] = ()
    side: str = "publisher"
    position: int = 0
    holds: bool = False


@dataclass(slots=True)
class Matching:
    """Pairs of positions (publisher's, gradebook's), by what each was matched (``id``, ``email``),
    and what stays open.
    """

    pairs: list[tuple[int, int]] = field(default_factory=list)
    by: dict[int, str] = field(default_factory=dict)
    open: list[Open] = field(default_factory=list)


def fold_id(text: str) -> str:
    """Trim and normalise an id; ``0042`` stays different from ``42``."""
    return unicodedata.normalize("NFC", text.strip())


def fold_email(text: str) -> str:
    """Trim, normalise and casefold an email."""
    return text and unicodedata.normalize(
        "NFC", unicodedata.normalize("NFC", text.strip()).casefold()
    )


def match(publisher: Sequence[Learner], gradebook: Sequence[Learner]) -> Matching:
    """Match the learners of two sides; the result is in the publisher's order."""
    by_id = _match_ids(publisher, gradebook)
    mails = (_by_email(publisher), _by_email(gradebook))
    found = dict(by_id)
    taken = set(found.values())
    undecided: tuple[set[int], set[int]] = (set(), set())
    for email, left in mails[0].items():
        right = mails[1].get(email, [])
        free = [i for i in left if i not in found], [j for j in right if j not in taken]
        if len(left) == len(right) == 1 and free[0] and free[1]:
            found[left[0]] = right[0]
            taken.add(right[0])
        elif free[0] and free[1]:
            undecided[0].update(free[0])
            undecided[1].update(free[1])
    matching = Matching(
        pairs=sorted(found.items()), by={i: "id" if i in by_id else "email" for i in found}
    )
    matching.open.extend(_disputed(publisher, gradebook, by_id, mails))
    matching.open.extend(_unmatched(publisher, gradebook, found, taken, undecided))
    return matching


def _match_ids(publisher: Sequence[Learner], gradebook: Sequence[Learner]) -> dict[int, int]:
    right = {key: j for j, learner in enumerate(gradebook) if (key := fold_id(learner.id))}
    left = {key: i for i, learner in enumerate(publisher) if (key := fold_id(learner.id))}
    return {i: right[key] for key, i in left.items() if key in right}


def _by_email(learners: Sequence[Learner]) -> dict[str, list[int]]:
    found: dict[str, list[int]] = defaultdict(list)
    for position, learner in enumerate(learners):
        if key := fold_email(learner.email):
            found[key].append(position)
    return found


def _disputed(
    publisher: Sequence[Learner],
    gradebook: Sequence[Learner],
    by_id: dict[int, int],
    mails: tuple[dict[str, list[int]], dict[str, list[int]]],
) -> list[Open]:
    """Pairs whose id and email point to different people: the id's match holds, and it is said."""
    found = []
    for i, j in sorted(by_id.items()):
        others = [k for k in mails[1].get(fold_email(publisher[i].email), []) if k != j]
        rivals = [k for k in mails[0].get(fold_email(gradebook[j].email), []) if k != i]
        if fold_email(publisher[i].email) == fold_email(gradebook[j].email) or not (
            others or rivals
        ):
            continue
        named = [gradebook[k] for k in others] or [publisher[k] for k in rivals]
        candidates = tuple(Candidate(each, "the same email, but another id", 1.0) for each in named)
        found.append(Open("ambiguous", publisher[i], candidates, "publisher", i, holds=True))
    return found


def _unmatched(
    publisher: Sequence[Learner],
    gradebook: Sequence[Learner],
    found: dict[int, int],
    taken: set[int],
    undecided: tuple[set[int], set[int]],
) -> list[Open]:
    left = [i for i in range(len(publisher)) if i not in found]
    right = [j for j in range(len(gradebook)) if j not in taken]
    names = _NameIndex(gradebook, right), _NameIndex(publisher, left)
    rows = []
    for i in left:
        kind = "ambiguous" if i in undecided[0] else "publisher_only"
        rows.append(Open(kind, publisher[i], names[0].candidates(publisher[i]), "publisher", i))
    for j in right:
        kind = "ambiguous" if j in undecided[1] else "shell_only"
        rows.append(Open(kind, gradebook[j], names[1].candidates(gradebook[j]), "shell", j))
    return rows


class _NameIndex:
    """Finds likely matches without comparing everybody with everybody."""

    def __init__(self, learners: Sequence[Learner], positions: Iterable[int]) -> None:
        self._learners = learners
        self._blocks: dict[str, set[int]] = defaultdict(set)
        for position in positions:
            for key in _keys(learners[position]):
                self._blocks[key].add(position)

    def candidates(self, learner: Learner) -> tuple[Candidate, ...]:
        positions = sorted(set().union(*(self._blocks.get(key, set()) for key in _keys(learner))))
        found = [
            replace(like, position=position)
            for position in positions
            if (like := _compare(learner, self._learners[position]))
        ]
        return tuple(sorted(found, key=lambda each: -each.likeness)[:MOST_CANDIDATES])


def _keys(learner: Learner) -> set[str]:
    keys = {"name:" + word[:3] for word in _words(learner.name)}
    if email := fold_email(learner.email):
        keys |= {"mail:" + email, "name:" + email[:3]}
    if number := fold_id(learner.id).lstrip("0"):
        keys.add("id:" + number)
    return keys


def _compare(one: Learner, other: Learner) -> Candidate | None:
    email = fold_email(one.email)
    if email and email == fold_email(other.email):
        return Candidate(other, "the same email, which more than one learner has", 1.0)
    number = fold_id(one.id).lstrip("0")
    if number and number == fold_id(other.id).lstrip("0"):
        return Candidate(other, "the same id but for leading zeros", 0.95)
    left, right = _words(one.name), _words(other.name)
    if not left or not right:
        return None
    if left == right:
        return Candidate(other, "the same name", 0.9)
    if sorted(left) == sorted(right):
        return Candidate(other, "the same name in another order", 0.88)
    if left[-1] == right[-1] and left[0][0] == right[0][0] and 1 in (len(left[0]), len(right[0])):
        return Candidate(other, "the same family name and initial", 0.8)
    likeness = SequenceMatcher(None, " ".join(left), " ".join(right), autojunk=False).ratio()
    return (
        Candidate(other, "a similar name", round(likeness * 0.9, 2))
        if likeness >= LIKE_ENOUGH
        else None
    )


def _words(name: str) -> list[str]:
    """Split a name into words without case, diacritics and punctuation."""
    spread = unicodedata.normalize("NFKD", name.casefold())
    bare = "".join(
        each if each.isalnum() else " " for each in spread if not unicodedata.combining(each)
    )
    return bare.split()
