"""What JSON columns of the database hold: a shape for each kind of step, for what placements and
items remember, for the order before a rollout, and for a comparison's summary and candidates.

Numbers are exact decimals as text, moments ISO 8601, ids of our own UUIDs as text; a key that may be
missing is ``NotRequired``. Who writes a column makes its shape, so that mypy sees a wrong key; what
an older version wrote may lack what is ``NotRequired``.

Not here: a comparison's matrix, circles, sources and given files, the rows of a check as learner,
and an import's findings and counts (the API's serializers describe those); plain lists and maps;
what a step keeps for its own undo (``before``); audit events, which say what their verb says; and
kept answers, which are whole answers of the API.
"""

from __future__ import annotations

from typing import NotRequired, TypedDict

# --- content


class CatalogueSays(TypedDict):
    """``Item.catalogue``: what the publisher's catalogue last told of an item; empty where a
    package brought it and no catalogue told of it yet. ``place`` is its category there, that is
    its unit; ``attempts`` says which attempt counts and what is reported.
    """

    title: str
    points: str
    due_at: str
    place: str
    attempts: NotRequired[dict[str, str]]


class PublisherSays(TypedDict):
    """``Placement.seen``: what the publisher said of the item when its link was placed or brought
    up to date; empty until then. ``points`` is empty where it has none. ``page`` is the page whose
    text opens the link, ``kept`` what of the shell was kept as it is, by the drift's kind.
    """

    title: str
    points: str
    due_at: str
    category: str
    page: NotRequired[str]
    kept: NotRequired[dict[str, str]]


class DeliveryFolder(TypedDict):
    """``DeliveryStep.facts`` of a folder that is made or removed."""

    title: str


class DeliveryHidden(TypedDict):
    """``DeliveryStep.facts`` of an entry that is only hidden from learners."""

    hides: bool


class DeliveryLeft(TypedDict):
    """``DeliveryStep.facts`` of an entry that is left: the action that was planned for it."""

    why: str


# --- deploy


class Stands(TypedDict):
    """A placement's fields as they are once its target stands; ``points`` is null without a
    column, ``shift_days`` by how many days its date was moved, ``folder`` the folder's title where
    it changes.
    """

    title: str
    points: str | None
    due_at: str
    category: str
    visible: bool
    shown_from: str
    new_window: bool
    shift_days: int
    seen: PublisherSays
    folder: NotRequired[str]


class LinkBefore(TypedDict):
    """How a link was before it was changed; ``folder`` is the shell's id of its folder."""

    title: str
    visible: bool
    new_window: bool
    shown_from: str
    due_at: str
    folder: str
    stands: Stands


class LinkWrite(TypedDict, total=False):
    """What is written at a link (docs/shell-outline.md). ``kind`` is lti_link or web_link;
    ``listed`` is false where only a page opens it, ``level`` how deep a heading indents it.
    """

    kind: str
    url: str
    custom: dict[str, str]
    title: str
    folder: str
    visible: bool
    new_window: bool
    shown_from: str
    due_at: str
    listed: bool
    level: int
    audience: str


class ColumnWrite(TypedDict):
    """What is written at a column (AGS 2.0, 3.1)."""

    title: str
    points: str
    due_at: str
    shown_from: str


class FolderStep(TypedDict):
    """``Step.facts`` of a folder that is made: ``key`` names it until the shell gave it an id,
    ``parent`` is the id or key of the folder around it.
    """

    key: str
    title: str
    parent: str


class LinkStep(TypedDict):
    """``Step.facts`` of ``link`` and ``change_link``: what is written, what stands afterwards, how
    it was, and whether a column comes with it.
    """

    write: LinkWrite
    column: NotRequired[bool]
    stands: NotRequired[Stands]
    was: NotRequired[LinkBefore]


class ColumnStep(TypedDict):
    """``Step.facts`` of ``column`` and ``change_column``."""

    write: ColumnWrite


class PageStep(TypedDict):
    """``Step.facts`` of ``page``: the links that its text opens, by their placements' ids, the
    words of each, and the text behind which they come.
    """

    page: str
    placements: list[str]
    words: NotRequired[dict[str, str]]
    after: NotRequired[str]


class OrderStep(TypedDict):
    """``Step.facts`` of ``order``: a folder's entries from first to last, by the shell's ids."""

    folder: str
    children: list[str]


class GradebookStep(TypedDict):
    """``Step.facts`` of ``gradebook``: the columns from left to right, by their addresses."""

    columns: list[str]


class RemoveFolderStep(TypedDict):
    """``Step.facts`` of ``remove_folder``: the shell's id of a folder that we made."""

    node: str
    title: str


class TotalStep(TypedDict):
    """``Step.facts`` of ``total``: one learner's total for a column of totals; ``subject`` is the
    platform's id of the learner, ``learner`` ours.
    """

    column: str
    title: str
    learner: str
    subject: str
    given: str
    maximum: str


class OrderBefore(TypedDict):
    """``Rollout.before``: how folders and gradebook were ordered, for an undo; the gradebook only
    where it changed. Empty where a rollout orders nothing.
    """

    folders: dict[str, list[str]]
    gradebook: NotRequired[list[str]]


# --- pair


class PageFacts(TypedDict):
    """``ShellStep.facts`` of the page of first steps; ``access`` is code, fee or free."""

    title: str
    html: str
    access: str


class PageTaken(TypedDict):
    """``ShellStep.facts`` where that page is taken out: what stood before, empty where nothing
    did.
    """

    title: str
    was: dict[str, str]


# --- reconcile


class Root(TypedDict):
    """A change of a column that explains cells, and how many."""

    kind: str
    item: str
    cells: int
    publisher: str | None
    gradebook: str | None


class Summary(TypedDict):
    """``Comparison.summary``: counts of matched learners and columns, of cells with a score, and of
    findings by kind; ``open`` are those that nobody keeps, ``urgent`` of them no mere notes, ``safe``
    settled with all that are safe, ``new`` not in the comparison before; ``oldest`` is since when
    the oldest urgent one stands. Empty until it is done.
    """

    learners: int
    columns: int
    cells: int
    kinds: dict[str, int]
    others: dict[str, int]
    open: dict[str, int]
    kept: int
    urgent: int
    safe: int
    new: int
    roots: list[Root]
    oldest: str | None


class FoundCandidate(TypedDict):
    """``Finding.candidates``: who or what of the other side may be the same; the likeliest first,
    ``likeness`` from 0 to 1.
    """

    key: str
    name: str
    email: str
    why: str
    likeness: float


class PublisherReport(TypedDict):
    """A score as the publisher would have reported it; ``at`` is empty where it told no time."""

    given: str
    maximum: str
    at: str


class ScoreWrite(TypedDict):
    """``SettleStep.facts`` where a score is written or a cell emptied (``given`` null); ``points``
    are the column's, ``report`` what the publisher never reported.
    """

    given: str | None
    maximum: str | None
    points: NotRequired[str | None]
    report: NotRequired[PublisherReport | None]


class ColumnPutBack(TypedDict):
    """``SettleStep.facts`` where a column gets back what the publisher says of it."""

    to: str | None


class ColumnClaimed(TypedDict):
    """``SettleStep.facts`` and ``memory`` where a column is taken for a link: its address, then the
    address before.
    """

    column: str


class ItemTied(TypedDict):
    """``SettleStep.facts`` and ``memory`` where a link gets a graded item: its sourced id, then the
    one before.
    """

    line_item: str


class LearnerMatched(TypedDict):
    """``SettleStep.facts`` where two are one person: the account at the publisher, our id of the
    learner. Its ``memory`` is the id of the match.
    """

    account: str
    learner: str
