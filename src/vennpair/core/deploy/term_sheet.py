"""A term sheet: what should be in a term's shells, as a file that is kept, compared and run.

The fields of a rollout's sheet are described in ``sheet.py`` and taken from there; the JSON Schema
in docs/ is made from these models.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from decimal import Decimal
from typing import Any, Literal, get_type_hints

from pydantic import BaseModel, ConfigDict, Field, ValidationError, create_model

from vennpair.core.content.groups import Treatment
from vennpair.core.deploy.sheet import LONGEST_SHIFT, Graded, Sheet, description_of
from vennpair.core.deploy.ways import Way

# What only makes sense where something is placed once: a term sheet is always compared with all.
_NOT_KEPT = {"update", "move", "after", "after_text", "shift_days", "folders"}


class BadTermSheet(Exception):
    """A sheet that cannot be read as one; ``troubles`` names each place and what is wrong there."""

    def __init__(self, troubles: list[str]) -> None:
        super().__init__("; ".join(troubles))
        self.troubles = troubles


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


class ItemWishes(_Strict):
    """What one item gets that others do not."""

    title: str | None = Field(None, max_length=2000, description="its title in the shell")
    becomes: Graded | None = Field(None, description="a link with a column, or a link only")
    points: Decimal | None = Field(None, gt=0, description="where the publisher states none")
    due_at: str | None = Field(
        None, description="where the publisher states none, like 2027-03-12T23:59; never shifted"
    )
    category: str | None = Field(None, max_length=200)
    visible: bool | None = Field(None, description="learners see it")
    shown_from: str | None = Field(None, description="shown from this time on; shifted with dates")
    new_window: bool | None = None
    folder: str | None = Field(None, max_length=255, description="its own folder, by title")


class SectionOf(_Strict):
    """One shell."""

    shell: str = Field(min_length=1, description="label, title or id of the shell")
    course: str = Field(
        "", description="code, title or id of its homework course; empty: the one that fits"
    )
    shift_days: int | None = Field(
        None, ge=-LONGEST_SHIFT, le=LONGEST_SHIFT, description="days by which its dates move"
    )
    folders: dict[str, str] = Field(
        default_factory=dict, description="folder of each unit, where others have another one"
    )
    without: list[str] = Field(default_factory=list, description="items that it does not get")
    item: dict[str, ItemWishes] = Field(
        default_factory=dict, description="what single items get here only, by title"
    )


class _Whole(_Strict):
    """What holds for the whole term."""

    term: str = Field("", description="a name for people, such as Spring 2027")
    start: date | None = Field(
        None, description="a day of the term's first week: dates move there by whole weeks"
    )
    scores: Literal["submission", "due", "later"] = Field(
        "submission", description="when scores go: as learners hand in, after the due date, not yet"
    )
    access: Literal["", "code", "fee", "free"] = Field(
        "", description="how learners pay; places the first-steps page"
    )
    navigation: bool = Field(
        False,
        description="learners find Venn Pair in the navigation, with a page of their homework",
    )
    way: Way = Field(
        "columns",
        description="a column for each graded item, links with one average column, or one link to"
        " the course; where items are named, they are placed",
    )
    total: str = Field(
        "", max_length=255, description="title of a column with a total, kept up by the relay"
    )
    columns_shown: bool = Field(True, description="learners see the scores of new columns at once")
    readings: bool = Field(
        False, description="readings and videos come along, in the folders of their units"
    )
    review: Treatment = Field(
        "keep", description="units that repeat or are optional: like others, hidden, or left out"
    )
    items: list[str] = Field(
        default_factory=list,
        description="items by title, or 'unit / title' where several have it; none and no units:"
        " every graded item",
    )
    units: list[str] = Field(
        default_factory=list, description="units of which everything that can be placed is"
    )
    folders: dict[str, str] = Field(default_factory=dict, description="folder of each unit")
    item: dict[str, ItemWishes] = Field(
        default_factory=dict, description="what single items get that others do not, by title"
    )
    section: list[SectionOf] = Field(min_length=1, description="the shells")


def _described() -> dict[str, Any]:
    """Return the fields of a rollout's sheet that hold for a term, as they are described there."""
    kinds = get_type_hints(Sheet)
    return {
        each.name: (
            kinds[each.name],
            Field("unit" if each.name == "into" else each.default, description=said.help),
        )
        for each, said in description_of()
        if each.name not in _NOT_KEPT
    }


TermSheet = create_model("TermSheet", __base__=_Whole, **_described())
KEPT_FIELDS = tuple(_described())


def read_term_sheet(document: Mapping[str, Any]) -> _Whole:
    """Return a sheet as it was read from TOML or JSON. Raises BadTermSheet."""
    try:
        return TermSheet.model_validate(_plain(document))
    except ValidationError as error:
        raise BadTermSheet(
            [
                f"{'.'.join(map(str, each['loc'])) or 'the sheet'}: {_said(each)}"
                for each in error.errors()
            ]
        ) from error


def json_schema() -> dict[str, Any]:
    """Return the JSON Schema by which editors complete and check a sheet."""
    return TermSheet.model_json_schema() | {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Venn Pair term sheet",
    }


def _said(error: Any) -> str:
    if error["type"] == "extra_forbidden":
        return "a sheet does not have this key"
    if error["type"] == "missing":
        return "it is missing"
    return str(error["msg"])[:1].lower() + str(error["msg"])[1:]


def _plain(value: Any) -> Any:
    """Return TOML's dates and times as ISO text, as JSON has them."""
    if isinstance(value, Mapping):
        return {str(key): _plain(each) for key, each in value.items()}
    if isinstance(value, list):
        return [_plain(each) for each in value]
    return value.isoformat() if isinstance(value, date | datetime) else value
