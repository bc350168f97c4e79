"""What a learner does first, to hand out or to place in the shell as a page: by how access
is paid.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from html import escape
from typing import Literal

Access = Literal["code", "fee", "free"]
ACCESS: dict[str, str] = {
    "code": "with an access code",
    "fee": "by a course fee",
    "free": "at no cost",
}


@dataclass(frozen=True, slots=True)
class FirstSteps:
    """A page: its title, its paragraphs as plain text, and the steps in order. ``language`` is a
    BCP 47 tag where it is not English.
    """

    title: str
    intro: str
    steps: tuple[str, ...]
    warning: str
    language: str = ""

    def told(self, say: Callable[[str], str], language: str) -> FirstSteps:
        """Return the page in another language; ``say`` puts a text into it."""
        steps = tuple(map(say, self.steps))
        return FirstSteps(say(self.title), say(self.intro), steps, say(self.warning), language)

    @property
    def text(self) -> str:
        """Return it as plain text, to paste into a message."""
        numbered = "\n".join(f"{number}. {step}" for number, step in enumerate(self.steps, start=1))
        return f"{self.title}\n\n{self.intro}\n\n{numbered}\n\n{self.warning}\n"

    @property
    def html(self) -> str:
        """Return it as HTML, everything escaped."""
        steps = "".join(f"<li>{escape(step)}</li>" for step in self.steps)
        page = (
            f"<h1>{escape(self.title)}</h1><p>{escape(self.intro)}</p><ol>{steps}</ol>"
            f"<p><strong>{escape(self.warning)}</strong></p>"
        )
        return f'<div lang="{escape(self.language)}">{page}</div>' if self.language else page


def first_steps(
    access: Access, publisher: str, title: str, shell: str, first_link: str = ""
) -> FirstSteps:
    """Write the page for one course; ``first_link`` is the title of the link to open first, if one
    is placed.
    """
    opening = (
        f"Open '{first_link}' in this course."
        if first_link
        else "Open the first homework link in this course."
    )
    pay = {
        "code": (
            (
                f"The first time, {publisher} asks for your access code: enter it, or choose"
                " temporary access if you do not have it yet."
            ),
            "Keep the code's receipt; you need the code once, not for every link.",
        ),
        "fee": (
            (
                f"Access is part of your course fee: if {publisher} asks for a code or a payment,"
                " stop and write to your instructor."
            ),
        ),
        "free": (
            (
                f"Access costs you nothing: if {publisher} asks for a code or a payment, stop and"
                " write to your instructor."
            ),
        ),
    }[access]
    return FirstSteps(
        title=f"First steps: your homework in {shell}",
        intro=(
            f"Your homework, {title}, is at {publisher} and opens from the links in this course."
            f" Access is paid {ACCESS[access]}."
            if access != "free"
            else (
                f"Your homework, {title}, is at {publisher} and opens from the links in this"
                " course. It costs you nothing."
            )
        ),
        steps=(
            f"Go to this course, {shell}, and stay signed in with your college account.",
            (
                f"{opening} It takes you to {publisher} and knows who you are; if your browser"
                " blocks it, allow cookies and pop-ups for this course or open the link in a new"
                " window."
            ),
            *pay,
            "Hand in your work there. Your score comes back to this course's gradebook automatically.",
        ),
        warning=(
            f"Do not register at {publisher} by yourself with a course address or course key from"
            " an earlier term or handout: you would have a second account, and your scores would"
            " not arrive here."
        ),
    )
