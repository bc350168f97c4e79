"""Columns in their order and categories, in one call."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vennpair.core.deploy.order import ordered
from vennpair.gateways.platform import PlatformGateway
from vennpair.service.content.models import Placement
from vennpair.standards.outline.gradebook import Gradebook


def arrange_columns(
    gateway: PlatformGateway,
    url: str,
    row: Sequence[Placement],
    new: Sequence[str],
    touched: Sequence[Placement],
    key: str,
) -> None:
    """Put ``new`` columns (addresses) among those of ``row``, and the columns of ``touched`` into
    their placements' categories; missing categories are made first, under ``key``.

    Raises OutsideError.
    """

    def change(book: Gradebook) -> Gradebook:
        order = ordered(book.columns, new, [each.column_url for each in row if each.column_url])
        category_of, known = dict(book.category_of or {}), book
        for each in touched:
            if each.column_url and each.column_url in category_of:
                category_of[each.column_url], known = category_in(
                    gateway, url, known, each.category, f"{key}-{len(known.categories)}"
                )
        return replace(
            known,
            columns=tuple(order),
            category_of={column: category_of.get(column, "") for column in order},
        )

    gateway.rearrange_gradebook(url, change)


def category_in(
    gateway: PlatformGateway, url: str, book: Gradebook, title: str, key: str
) -> tuple[str, Gradebook]:
    """Return the id of a category, empty where the title is, and the gradebook with it.

    One that is not there is made under ``key``.
    """
    if not title:
        return "", book
    found = book.category(title)
    if found is None:
        found = gateway.make_category(url, title[:200], key[:200])
        book = replace(book, categories=(*book.categories, found))
    return found.id, book
