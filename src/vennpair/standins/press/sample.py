"""The press's sample data: Rivers and Groundwater, 3rd ed., for three sections."""

from __future__ import annotations

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

from django.utils import timezone

from vennpair.standins import tarnfield as t
from vennpair.standins.keys import signing_key
from vennpair.standins.press.lti.reports import report
from vennpair.standins.press.models import (
    Account,
    Attempt,
    Course,
    Enrolment,
    Item,
    SigningKey,
    Title,
    Unit,
    new_id,
)

TITLE = "Rivers and Groundwater, 3rd ed."
UNITS = (
    "Where rivers begin",
    "Flow and channels",
    "Sediment on the move",
    "Floods and low water",
    "Groundwater and aquifers",
    "Wells and springs",
    "Water quality",
    "Managing a catchment",
    "Putting it together",
)
# Registered directly at the press, long before the pairing, under a private address.
OTHER_ADDRESS = {
    "hugo.wexcombe@tarnfield.example": t.Human("Hugo", "Wexcombe", "hugo.w@postbox.example")
}
BOOKS = {
    "rivers-3": {
        "title": TITLE,
        "author": "Ines Calder",
        "isbn": "978-0-00-210321-4",
        "edition": "3rd",
    },
    "stones-2": {
        "title": "Stones and Soils, 2nd ed.",
        "author": "Bram Tolliver",
        "isbn": "978-0-00-110207-9",
        "edition": "2nd",
    },
}
PLACES = (
    "headwater",
    "reach",
    "confluence",
    "floodplain",
    "aquifer",
    "spring",
    "lake",
    "delta",
    "estuary",
)


def seed() -> None:
    """Lay the sample data; what is there already stays.

    The key is made now: two first requests would make two.
    """
    signing_key(SigningKey)
    for human in (t.INSTRUCTOR, t.COLLEAGUE):
        Account.objects.update_or_create(
            email=human.email,
            defaults={"given_name": human.given, "family_name": human.family, "teaches": True},
        )
    for sourced_id, fields in BOOKS.items():
        Title.objects.get_or_create(sourced_id=sourced_id, defaults=fields)
    for number in (1, 2, 3):
        make_course(f"rg3-hyd210-{number:02d}", f"HYD 210-{number:02d}", t.TERM, t.section(number))
    make_course("rg3-hyd210-01-f26", "HYD 210-01", t.LAST_TERM, ())
    make_course(
        "rg3-geo110-01",
        "GEO 110-01",
        t.TERM,
        (),
        title="Stones and Soils, 2nd ed.",
        teacher=t.COLLEAGUE,
    )
    Course.objects.filter(sourced_id="rg3-geo110-01").update(shared=True)


def make_course(
    sourced_id: str,
    code: str,
    term: str,
    learners: tuple[t.Human, ...],
    title: str = TITLE,
    teacher: t.Human = t.INSTRUCTOR,
) -> Course:
    """Make a homework course with units, items and registered learners, unless it is there."""
    course, made = Course.objects.get_or_create(
        sourced_id=sourced_id,
        defaults={
            "title": title,
            "code": code,
            "term": term,
            "book": Title.objects.filter(title=title).first(),
        },
    )
    if not made:
        return course
    _enrol(course, teacher, "teacher")
    for human in learners:
        _enrol(course, OTHER_ADDRESS.get(human.email, human), "student")
    fill(course)
    return course


def fill(course: Course) -> None:
    """Lay the book's units and items into a course."""
    _refresher(course)
    for position, topic in enumerate(UNITS, start=1):
        _unit(course, position, topic)


def _enrol(course: Course, human: t.Human, role: str) -> None:
    account, _ = Account.objects.get_or_create(
        email=human.email, defaults={"given_name": human.given, "family_name": human.family}
    )
    Enrolment.objects.create(course=course, account=account, role=role)


def _refresher(course: Course) -> None:
    unit = Unit.objects.create(course=course, title="Refresher: numbers and maps", position=0)
    for position, title in enumerate(("Units and conversions", "Reading a contour map")):
        Item.objects.create(
            unit=unit,
            sourced_id=f"{course.sourced_id}-r{position}",
            title=title,
            kind="practice",
            questions=_questions(0, 3),
            position=position,
        )


def _unit(course: Course, number: int, topic: str) -> None:
    unit = Unit.objects.create(course=course, title=f"Unit {number}: {topic}", position=number)
    due = datetime(2027, 1, 22, 23, 59, tzinfo=ZoneInfo(t.ZONE)) + timedelta(weeks=number - 1)
    rows: list[tuple[str, str, dict[str, Any]]] = [
        (
            "reading",
            f"Reading {number}: {topic}",
            {"text": f"This reading introduces {topic.lower()} along the invented River Tarn."},
        ),
        (
            "video",
            f"Video {number}: a walk along the {PLACES[number - 1]}",
            {"url": f"https://media.kestrelbrook.example/rivers/{number}"},
        ),
        (
            "graded",
            f"Practice set {number}A",
            _graded("Practice", 10, due - timedelta(days=3), number, 5),
        ),
        (
            "graded",
            f"Practice set {number}B",
            _graded("Practice", 10, due - timedelta(days=1), number + 1, 4),
        ),
        ("graded", f"Unit {number} quiz", _graded("Quizzes", 20, due, number + 2, 8)),
        ("notes", f"Teaching notes {number}", {"text": "Answers and hints for teachers."}),
    ]
    if number in {2, 5}:  # two items of one title, as real courses have them
        rows.append(
            ("graded", "Field sketch", _graded("Projects", 15, due + timedelta(days=2), number, 3))
        )
    if number == 6:  # an item without a due date
        rows.append(
            (
                "graded",
                "Essay outline: a well in dry years",
                _graded("Projects", 25, None, number, 5),
            )
        )
    if number == 9:
        rows += [
            ("graded", title, _graded("Projects", 40, due + timedelta(days=4), start, 8))
            for start, title in enumerate(("Term review", "Field project report"))
        ]
    for position, (kind, title, fields) in enumerate(rows):
        Item.objects.create(
            unit=unit,
            sourced_id=f"{course.sourced_id}-u{number}i{position}",
            title=title,
            kind=kind,
            position=position,
            **fields,
        )


def _graded(
    category: str, points: int, due: datetime | None, start: int, count: int
) -> dict[str, Any]:
    return {
        "category": category,
        "points": Decimal(points),
        "due": due,
        "questions": _questions(start, count),
    }


def _questions(start: int, count: int) -> list[dict[str, Any]]:
    """Return small sums about flow; ``right`` is the position of the right choice."""
    made = []
    for number in range(count):
        width, speed = 4 + (start + number) % 5, 1 + number % 3
        right = (start + number) % 3
        choices = [width * speed + (choice - right) * 2 for choice in range(3)]
        text = (
            f"A channel is {width} m wide and 1 m deep; the water moves at {speed} m/s. What is the"
            " discharge?"
        )
        made.append(
            {"text": text, "choices": [f"{choice} m³/s" for choice in choices], "right": right}
        )
    return made


def add_trial_course(code: str) -> dict[str, str]:
    """Make one more course with six learners; return its ``course`` id, ``title`` and ``code``."""
    course = make_course(f"rg3-{new_id()[:8]}", code, t.TERM, t.section(2)[:6])
    return {"course": course.sourced_id, "title": course.title, "code": course.code}


def answer_item(
    course: str,
    email: str,
    title: str,
    score: str,
    *,
    lost: bool = False,
    regrade: bool = False,
    delete: bool = False,
) -> None:
    """Make an attempt, or change or take back the newest one, and report it unless it is ``lost``.

    Raises LookupError where there is nobody or nothing of that name, or the report was refused.
    """
    item = Item.objects.filter(unit__course__sourced_id=course, title=title).first()
    account = Account.objects.filter(email=email).first()
    if item is None or account is None:
        raise LookupError("the item is not in the course, or the account does not exist")
    made = Attempt.objects.filter(item=item, account=account, deleted=False).order_by("-at")
    attempt = (
        made.first()
        if regrade or delete
        else Attempt(item=item, account=account, at=timezone.now())
    )
    if attempt is None:
        raise LookupError("there is no answer to change")
    attempt.score, attempt.deleted = Decimal(score), delete
    attempt.regraded = timezone.now() if attempt.pk else None
    attempt.save()
    if not lost:
        report(attempt)
        if attempt.trouble:
            raise LookupError(attempt.trouble)
