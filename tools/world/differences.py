"""Every row of the three-way table and every finding of columns and learners, planted by really
doing what leads to it (DESIGN 7).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory

from tools.world import at_campus, at_press
from tools.world.actors import hand_in
from tools.world.hold import until
from tools.world.world import World
from vennpair.client import VennPair
from vennpair.client.schema import ChoiceRequest, Finding
from vennpair.standins.tarnfield import section

LEARNERS = section(2)[:6]
WORKED, FRESH, WITHDRAWN, HELD = (
    "Practice set 1A",
    "Unit 1 quiz",
    "Practice set 1B",
    "Practice set 2A",
)
CHANGED, MISSING, GONE, POINTLESS, UNOPENED = (
    "Practice set 2B",
    "Unit 2 quiz",
    "Practice set 3A",
    "Practice set 3B",
    "Unit 3 quiz",
)
OWN, RENAMED, TWICE = "Field trip", "Renamed", "Practice set 1A"
STRANGER, TWIN, NEWCOMER = "Ula Wade", "Rosa Delling", "Pell Garrow"
_MOST = ("send", "restore", "clear", "put_back", "make_again", "match", "leave")
MOMENT = "2027-03-01T00:00:00+00:00"

CELLS = {
    **{
        (1, WORKED): "edited",
        (2, WORKED): "cleared",
        (3, WORKED): "behind",
        (4, WORKED): "clash",
        (5, WORKED): "withdrawn",
    },
    **{
        (0, FRESH): "unsent",
        (1, FRESH): "differ",
        (2, FRESH): "gradebook_only",
        (4, FRESH): "refused",
    },
    **{(0, WITHDRAWN): "edited", (1, WITHDRAWN): "cleared", (5, HELD): "held"},
}
COLUMNS = {
    *(
        (kind, CHANGED)
        for kind in ("points_differ", "due_differs", "title_differs", "category_differs")
    ),
    *(
        ("column_missing", MISSING),
        ("item_gone", GONE),
        ("points_missing", POINTLESS),
        ("never_opened", UNOPENED),
        ("column_extra", OWN),
        ("title_ambiguous", TWICE),
    ),
}
PEOPLE = {("publisher_only", STRANGER), ("shell_only", NEWCOMER), ("ambiguous", TWIN)}


@dataclass(frozen=True, slots=True)
class Ground:
    """A shell and a homework course that are paired for this, with nothing deployed yet."""

    label: str
    context_id: str
    course: str
    pairing: str


def plant_differences(world: World, venn: VennPair, ground: Ground) -> None:
    """Deploy, let learners work, then plant each difference of ``CELLS``, ``COLUMNS`` and
    ``PEOPLE``; nothing compares yet.
    """
    _deploy(venn, ground)
    _work(world, venn, ground)
    _refuse(world, venn, ground)
    venn.change_pairing(ground.pairing, relay_on=False)
    _change_scores(world, ground)
    _change_columns(world, ground)
    _change_people(world, ground)


def address(who: int) -> str:
    """Return a learner's address."""
    return LEARNERS[who].email


def type_scores(world: World, ground: Ground, scores: list[tuple[int, str, str | None]]) -> None:
    """Type scores into the gradebook by hand, None to empty a cell."""
    rows = [(address(who), title, score) for who, title, score in scores]
    at_campus.type_scores(world, ground.context_id, rows)


def until_scores(venn: VennPair, pairing: str, seconds: float = 60, **wanted: int) -> None:
    """Wait until so many scores are in these states. Raises AssertionError with what there is."""

    def counts() -> dict[str, int]:
        return dict(venn.relay(pairing)["counts"])

    until(
        lambda: {state: counts().get(state, 0) for state in wanted} == wanted,
        lambda: f"scores in {wanted}, and there are {counts()}",
        seconds,
    )


def choose_everything(findings: Iterable[Finding]) -> list[ChoiceRequest]:
    """Return a remedy for every finding that has one, the one that does most.

    One of two accounts of the same address is matched.
    """
    chosen: list[ChoiceRequest] = []
    matched: set[str] = set()
    for each in findings:
        remedy = next((name for name in _MOST if name in each["remedies"]), None)
        candidate = each["candidates"][0]["key"] if remedy == "match" else ""
        if remedy == "match" and (not each["candidates"] or each["email"].casefold() in matched):
            remedy, candidate = "leave", ""
        matched.add(each["email"].casefold())
        if remedy is not None and each["kept"] is None:
            chosen.append({"finding": each["id"], "remedy": remedy, "candidate": candidate})
    return chosen


def _deploy(venn: VennPair, ground: Ground) -> None:
    items = {item["title"]: item["id"] for item in venn.items(ground.pairing)}
    placed = [
        items[title]
        for title in (WORKED, FRESH, WITHDRAWN, HELD, CHANGED, MISSING, GONE, POINTLESS)
    ]
    venn.wait(venn.deploy(ground.pairing, placed, folder="Homework")[0]["job"])
    with TemporaryDirectory() as folder:  # written, and never uploaded: nobody can have opened it
        venn.write_links(ground.pairing, [items[UNOPENED]], Path(folder) / "links.imscc")
    venn.change_pairing(ground.pairing, relay_on=True)
    held = next(each for each in venn.relay_rules(ground.pairing)["items"] if each["title"] == HELD)
    venn.change_rule(ground.pairing, "item", held["item"], {"when": "hand"})


def _work(world: World, venn: VennPair, ground: Ground) -> None:
    for who, learner in enumerate(LEARNERS):
        browser = hand_in(world, learner.email, ground.context_id, WORKED, 3)
        if who < 2:
            hand_in(world, learner.email, ground.context_id, WITHDRAWN, 4, browser)
    hand_in(world, address(5), ground.context_id, HELD, 2)
    until_scores(venn, ground.pairing, accepted=8, waiting=0, sending=0)


def _refuse(world: World, venn: VennPair, ground: Ground) -> None:
    """A column is locked while a score comes for it, and unlocked again."""
    at_campus.change_column(world, ground.context_id, FRESH, locked=True)
    hand_in(world, address(4), ground.context_id, FRESH, 3)
    until_scores(venn, ground.pairing, refused=1, waiting=0, sending=0)
    at_campus.change_column(world, ground.context_id, FRESH, locked=False)


def _change_scores(world: World, ground: Ground) -> None:
    type_scores(
        world,
        ground,
        [
            (1, WORKED, "9.5"),
            (2, WORKED, None),
            (4, WORKED, "1.25"),
            (1, FRESH, "3"),
            (2, FRESH, "7"),
            (0, WITHDRAWN, "2"),
            (1, WITHDRAWN, None),
        ],
    )
    for who, title, score in (
        (3, WORKED, "10"),
        (4, WORKED, "8"),
        (0, FRESH, "12"),
        (1, FRESH, "13"),
    ):
        _answer(world, ground, who, title, score)
    for who, title in ((5, WORKED), (0, WITHDRAWN), (1, WITHDRAWN)):
        _answer(world, ground, who, title, "0", delete=True)


def _answer(
    world: World, ground: Ground, who: int, title: str, score: str, *, delete: bool = False
) -> None:
    """Change a score at the press, whose report of it is lost."""
    at_press.answer(world, ground.course, address(who), title, score, lost=True, delete=delete)


def _change_columns(world: World, ground: Ground) -> None:
    shell = ground.context_id
    at_campus.change_column(
        world, shell, CHANGED, maximum=25, end=MOMENT, label=RENAMED, category=""
    )
    at_campus.delete_column(world, shell, MISSING)
    at_campus.change_column(world, shell, POINTLESS, maximum=0)
    at_campus.add_column(world, shell, OWN, "5")
    at_campus.add_column(world, shell, TWICE, "10")
    at_press.delete_item(world, ground.course, GONE)


def _change_people(world: World, ground: Ground) -> None:
    """Somebody the press alone has, somebody who never started, and an address that two accounts at
    the press share.
    """
    mark = ground.label.lower().replace(" ", "-")
    twin, newcomer = (
        f"rosa.delling.{mark}@tarnfield.example",
        f"pell.garrow.{mark}@tarnfield.example",
    )
    at_campus.enrol(world, ground.context_id, twin, "Rosa", "Delling")
    at_campus.enrol(world, ground.context_id, newcomer, "Pell", "Garrow")
    at_press.enrol(world, ground.course, twin, "Rosa", "Delling")
    at_press.enrol(world, ground.course, twin.title(), "Rosa", "Delling")
    at_press.enrol(world, ground.course, f"ula.{mark}@elsewhere.example", "Ula", "Wade")
