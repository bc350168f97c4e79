"""The invented people of Tarnfield College, and the course they share (DESIGN 10)."""

from __future__ import annotations

from dataclasses import dataclass

TERM, LAST_TERM = "Spring 2027", "Fall 2026"
ZONE = "America/Chicago"
COURSE = "Rivers and Groundwater"


@dataclass(frozen=True, slots=True)
class Human:
    """An invented person; ``number`` is the college's own."""

    given: str
    family: str
    email: str
    number: str = ""


def _human(given: str, family: str, number: int, plain: str = "") -> Human:
    address = plain or f"{given}.{family}".lower().replace(" ", "")
    return Human(given, family, f"{address}@tarnfield.example", f"T{number:05d}")


INSTRUCTOR = _human("Maren", "Holt", 101)
COLLEAGUE = _human("Edwin", "Sallow", 102)
ASSISTANT = _human("Tobias", "Quell", 103)
ADMINISTRATOR = _human("Orla", "Penhale", 100)
STAFF = (INSTRUCTOR, COLLEAGUE, ASSISTANT)

_NAMES = (
    "Ada Brook|Ben Croft|Cara Finch|Dov Hale|Edda Moor|Finn Stroud|Gwen Tolland|Hugo Wexcombe|Isla"
    " Marl|Jory Penn|Kezia Loam|Lorcan Weir|Mina Sedge|Nico Tarn|Odile Ford|Perrin Shale|Quilla"
    " Reed|Rufus Delve|Saskia Ness|Tamsin Rill|Ulf Byrne|Vesna Karst|Wim Polder|Xenia Quay|Yusuf"
    " Beck|Zora Firth|Anselm Gill|Bryony Holm|Cato Inver|Delia Jetty|Emrys Knoll|Fenna Leat|Gethin"
    " Mere|Hester Nook|Idris Ooze|Junia Pool|Kit Quarry|Leda Ravine|Milo Strand|Neva Torrent|Orin"
    " Upwell|Petra Vale|Rhoda Wash|Silas Yarrow|Thea Ashlar|Una Basin|Viktor Canal|Wilma Dune|Yann"
    " Estuary|Zelda Fen|Arlo Gravel|Bettina Heath|Corin Islet|Dagny Jarn|Elio Kelp|Frida"
    " Levee|Gideon Marsh|Hanne Narrow|Ivo Oxbow|Jana Pebble"
)
# Three whose names are written with letters beyond ASCII, as any class has them.
_SPECIAL = {
    "Odile Ford": ("Odile", "Föhrde", "odile.foehrde"),
    "Vesna Karst": ("Vesna", "Kršinić", "vesna.krsinic"),
    "Yusuf Beck": ("يوسف", "بكري", "yusuf.bakri"),
}


def _learners() -> tuple[Human, ...]:
    people = []
    for position, name in enumerate(_NAMES.split("|")):
        given, family, plain = _SPECIAL.get(name, (*name.split(" "), ""))
        people.append(_human(given, family, 2001 + position, plain))
    return tuple(people)


LEARNERS = _learners()


def section(number: int) -> tuple[Human, ...]:
    """Return the twenty learners of section 1, 2 or 3."""
    return LEARNERS[(number - 1) * 20 : number * 20]
