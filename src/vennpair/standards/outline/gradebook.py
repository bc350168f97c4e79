"""The gradebook's part of the Shell Outline protocol: the order of columns, and their categories
(docs/shell-outline.md, Gradebook).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Json = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Category:
    """A group of columns; weights and drop rules stay the platform's own."""

    id: str
    title: str


@dataclass(frozen=True, slots=True)
class Gradebook:
    """The columns' line item URLs in the gradebook's order, the category id of each (empty: none),
    and the categories.

    ``etag`` stands for this state of all of it, empty where the platform does not tell.
    """

    columns: tuple[str, ...] = ()
    category_of: dict[str, str] | None = None
    categories: tuple[Category, ...] = ()
    etag: str = ""

    def title_of(self, column: str) -> str:
        """Return the title of a column's category, empty where it has none."""
        wanted = (self.category_of or {}).get(column, "")
        return next((each.title for each in self.categories if each.id == wanted), "")

    def category(self, title: str) -> Category | None:
        """Return the category of a title, however its letters are cased."""
        return next(
            (each for each in self.categories if each.title.casefold() == title.casefold()), None
        )


def write_gradebook(book: Gradebook) -> Json:
    """Return the JSON of a gradebook's order."""
    named = book.category_of or {}
    return {
        "columns": [{"column": each, "category": named.get(each, "")} for each in book.columns],
        "categories": [{"id": each.id, "title": each.title} for each in book.categories],
    }


def read_category(document: Json) -> Category:
    """Read a category. Raises ValueError where id or title is missing."""
    if not isinstance(document, dict) or not document.get("id") or not document.get("title"):
        raise ValueError("a category lacks its id or title")
    return Category(str(document["id"]), str(document["title"]))


def read_gradebook(document: Json) -> Gradebook:
    """Read a gradebook's order. Raises ValueError."""
    rows = document.get("columns") if isinstance(document, dict) else None
    if not isinstance(rows, list) or not all(
        isinstance(row, dict) and row.get("column") for row in rows
    ):
        raise ValueError("the gradebook holds no list 'columns'")
    categories = document.get("categories") or []
    if not isinstance(categories, list):
        raise ValueError("the gradebook's 'categories' are not a list")
    named = {str(row["column"]): str(row.get("category") or "") for row in rows}
    return Gradebook(
        tuple(named),
        named,
        tuple(read_category(each) for each in categories),
        str(document.get("etag") or ""),
    )
