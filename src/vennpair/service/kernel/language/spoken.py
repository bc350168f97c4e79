"""Which language a request asks for, and its answers in it."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Any

import polib
from django.utils.translation import get_language
from rest_framework.renderers import JSONRenderer

from vennpair.service.kernel.language.catalogue import Catalogue

ENGLISH = "en"
# The fields of answers that hold sentences. What people named themselves is never among them.
SENTENCES = frozenset(
    [
        "act",
        "arithmetic",
        "attention",
        "because",
        "breaks",
        "by_hand",
        "cause",
        "choices",
        "consequences",
        "detail",
        "does",
        "finding",
        "guesses",
        "help",
        "how",
        "learners_see",
        "lost",
        "message",
        "naming_reason",
        "note",
        "prompt",
        "publisher_trouble",
        "pull_trouble",
        "purpose",
        "reason",
        "reasons",
        "refused",
        "remedies",
        "remedy",
        "says",
        "sentence",
        "standing",
        "stage",
        "text",
        "then",
        "travels",
        "trouble",
        "trouble_message",
        "trouble_remedy",
        "warning",
        "warnings",
        "what",
        "who",
        "why",
        "why_not",
        "words",
    ]
)
# The fields that hold a value of either side: numbers with units are said, titles never.
VALUES = frozenset(["before", "after"])


@cache
def catalogue(language: str) -> Catalogue | None:
    """Return the sentences of a language (``es``), None where there are none of it."""
    file = files("vennpair.service.kernel.language") / language / "sentences.po"
    if not language.isalpha() or not file.is_file():
        return None
    entries = polib.pofile(file.read_text("utf-8"), encoding="utf-8")
    return Catalogue((entry.msgid, entry.msgstr) for entry in entries if entry.msgstr)


def say(text: str, language: str) -> str:
    """Return what the service says in a language (a BCP 47 tag, empty for English)."""
    known = catalogue(language.partition("-")[0].lower() or ENGLISH)
    return known.say(text) if known else text


class SpokenRenderer(JSONRenderer):
    """JSON whose sentences are in the language that the request asks for (RFC 9110, 12.5.4)."""

    def render(
        self,
        data: Any,
        accepted_media_type: str | None = None,
        renderer_context: Mapping[str, Any] | None = None,
    ) -> bytes:
        """Return the answer."""
        known = catalogue((get_language() or ENGLISH).partition("-")[0])
        return super().render(
            _spoken(data, known) if known else data, accepted_media_type, renderer_context
        )


def _spoken(data: Any, known: Catalogue, sentence: bool = False) -> Any:
    if isinstance(data, str):
        return known.say(data) if sentence else data
    if isinstance(data, Mapping):
        return {
            key: known.value(value)
            if key in VALUES and isinstance(value, str)
            else _spoken(value, known, key in SENTENCES)
            for key, value in data.items()
        }
    if isinstance(data, list | tuple):
        return [_spoken(each, known, sentence) for each in data]
    return data
