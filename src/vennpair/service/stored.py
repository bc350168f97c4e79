"""What the JSON columns of the database hold: one shape for each, by the app and the model that
has it.

Numbers are exact decimals as text, moments ISO 8601, ids of our own UUIDs as text; a key that may
be missing is ``NotRequired``. Who writes a column makes its shape, so that mypy sees a wrong key;
what an older version wrote may lack what is ``NotRequired``.

What is kept of a dataclass has that dataclass's fields and no second shape here: ``Change`` of a
catalogue (core/content/changes.py), ``Order`` of a written cartridge (plan_delivery.py),
``PickSettings`` of a picking (standards/lti/deep_linking.py), the fields of ``Rule`` that a relay
rule changes (core/relay/rules.py), ``ReportedFinding`` of an import (standards/cartridge); a
stray's ``report`` is a score as AGS 2.0, 3.4 writes it.
Without a shape are lists of words and maps from word to word or number, which their models
describe; what a step keeps for its own undo (``before``); audit events, which say what their verb
says; and kept answers, which are whole answers of the API.
"""

from __future__ import annotations

from typing import NotRequired, Required, TypedDict

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


class ImportReport(TypedDict, total=False):
    """``Import.report``: how many items are new, changed, unchanged and gone since the import
    before, and how many entries there are, cannot be imported, and are beside the outline. Empty
    until the package is read; of a catalogue only what is ``Required``.
    """

    new: int
    changed: int
    same: int
    gone: int
    entries: Required[int]
    blocked: Required[int]
    loose: int


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


class PlacedFields(TypedDict):
    """A placement's fields as they are once its target is placed; ``points`` is null without a
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
    stands: PlacedFields


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
    """``Step.facts`` of ``link`` and ``change_link``: what is written, what is there afterwards,
    how it was, and whether a column comes with it.
    """

    write: LinkWrite
    column: NotRequired[bool]
    stands: NotRequired[PlacedFields]
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


class LinkFlaw(TypedDict):
    """What is wrong with a link, as a test learner met it, and what to do; ``level`` is error,
    warning or note.
    """

    code: str
    message: str
    remedy: str
    level: str


class CheckedLink(TypedDict):
    """One of ``LearnerCheck.rows``: whether a link opens, is seen, has its date and gives a score
    back, each yes, no or unknown.
    """

    placement: str
    title: str
    visible: str
    opens: str
    date: str
    score: str
    findings: list[LinkFlaw]


# --- pair


class PageFacts(TypedDict):
    """``ShellStep.facts`` of the page of first steps; ``access`` is code, fee or free."""

    title: str
    html: str
    access: str


class PageTaken(TypedDict):
    """``ShellStep.facts`` where that page is taken out: what was there before, empty where nothing
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
    findings by kind; ``open`` are those that nobody keeps, ``urgent`` of them no mere notes,
    ``safe`` settled with all that are safe, ``new`` not in the comparison before; ``oldest`` is
    since when the oldest urgent one is open. Empty until it is done.
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


class Circles(TypedDict):
    """``Comparison.venn``: left, both and right of items, columns and scores, and of the scores in
    the middle how many do not agree (a list of one). Empty until it is done.
    """

    items: list[int]
    columns: list[int]
    scores: list[int]
    scores_differ: list[int]


class Matrix(TypedDict):
    """``Comparison.matrix``: one of ``rows`` for each learner, in it a kind for each column or null
    where nobody has a score. Of the columns ``items`` has titles and ``placements`` our ids; of the
    learners ``learners`` has names, ``people`` the platform's ids, ``matched_by`` launch, id or
    email. Empty until it is done, and again when it is old.
    """

    items: list[str]
    placements: NotRequired[list[str]]
    learners: list[str]
    people: NotRequired[list[str]]
    matched_by: NotRequired[list[str]]
    rows: list[list[str | None]]


class SideSource(TypedDict):
    """One of ``Comparison.sources``: where and when a side (publisher, gradebook or sent) was
    read.
    """

    side: str
    name: str
    how: str
    at: str


class GivenColumn(TypedDict):
    """A column of a file: ``points`` null where it says none, scores by the learner's place."""

    title: str
    points: str | None
    scores: dict[str, str]


class GivenGradebook(TypedDict):
    """``Comparison.given``: a file that somebody gave for the gradebook; of each learner the id,
    email and name. Empty where the platform was asked.
    """

    name: str
    learners: list[list[str]]
    items: list[GivenColumn]


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
