"""How a lower app lets a higher one know or answer something without importing it.

The lower app declares a hook and calls it; the higher one listens, in its ``listeners.py``.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, ParamSpec, TypeVar

Asked = ParamSpec("Asked")
Answer = TypeVar("Answer")


class Hook(Generic[Asked, Answer]):
    """Something that is announced or asked. ``listeners`` are called in the order of the apps, in
    the caller's transaction.
    """

    def __init__(self) -> None:
        self.listeners: list[Callable[Asked, Answer]] = []

    def listen(self, listener: Callable[Asked, Answer]) -> None:
        """Call this from now on."""
        if listener not in self.listeners:
            self.listeners.append(listener)

    def __call__(self, *args: Asked.args, **kwargs: Asked.kwargs) -> list[Answer]:
        """Call all who listen, and return what they answer."""
        return [listener(*args, **kwargs) for listener in self.listeners]
