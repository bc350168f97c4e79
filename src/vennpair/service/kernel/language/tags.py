"""``{% say "Due" %}`` and ``{{ text|said }}`` in templates: in the language of the request."""

from __future__ import annotations

from django.template import Library
from django.utils.translation import get_language

from vennpair.service.kernel.language.spoken import ENGLISH, say

register = Library()


@register.filter
def said(text: str) -> str:
    """Return a text in the language of the request."""
    return say(str(text), get_language() or ENGLISH)


@register.simple_tag(name="say")
def say_sentence(sentence: str, **parts: object) -> str:
    """Return a sentence with its parts filled in, in the language of the request."""
    return said(sentence.format(**parts))


@register.simple_tag
def language() -> str:
    """Return the tag of the language of the request, for ``lang``."""
    return get_language() or ENGLISH
