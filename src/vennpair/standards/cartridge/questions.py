"""The questions of a QTI 1.2 assessment or question bank, for somebody to look through before
importing them.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from decimal import Decimal

from lxml import etree

from vennpair.standards.cartridge.descriptors import item_metadata, question_kind, weight_of
from vennpair.standards.cartridge.xml import Element, child, local

_PROMPT, _CHOICES = "presentation", "response_label"


@dataclass(frozen=True, slots=True)
class Question:
    """One question: its kind in the profile (``multiple_choice``, ``essay`` …), prompt and choices
    as they are written (may be HTML).
    """

    title: str
    kind: str
    prompt: str
    choices: tuple[str, ...]
    points: Decimal | None


def read_questions(root: Element, most: int) -> list[Question]:
    """Return the first ``most`` questions of an assessment or bank (CC 1.x QTI profile)."""
    found = []
    for element in root.iter("{*}item"):
        fields = item_metadata(element)
        presentation = child(element, _PROMPT)
        prompt, choices = _texts(presentation) if presentation is not None else ("", ())
        found.append(
            Question(
                element.get("title", ""), question_kind(fields), prompt, choices, weight_of(fields)
            )
        )
        if len(found) == most:
            break
    return found


def only_questions(root: Element, numbers: Collection[int]) -> bytes:
    """Return an assessment or bank with the questions of these numbers alone, counted from 1 in the
    order of ``read_questions``; everything else of it stays.
    """
    for number, element in enumerate(list(root.iter("{*}item")), start=1):
        parent = element.getparent()
        if number not in numbers and parent is not None:
            parent.remove(element)
    return etree.tostring(root, xml_declaration=True, encoding="utf-8")


def _texts(presentation: Element) -> tuple[str, tuple[str, ...]]:
    """Tell the prompt from the choices: a text within a response label is a choice."""
    prompt: list[str] = []
    choices: list[str] = []
    for element in presentation.iter("{*}mattext"):
        inside = any(
            local(each) == _CHOICES for each in element.iterancestors() if isinstance(each.tag, str)
        )
        (choices if inside else prompt).append("".join(element.itertext()).strip())
    return "\n".join(filter(None, prompt)), tuple(choices)
