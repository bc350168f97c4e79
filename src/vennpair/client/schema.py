"""The objects of the service's API; made from docs/openapi.yaml by tools/schema.py.

Times are ISO 8601 text with their zone, ids and exact decimals are text; what the service leaves
out is ``NotRequired``, what it does not know is None.
"""

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypedDict

AccessEnum = Literal["code", "fee", "free"]
AccountStateEnum = Literal["none", "begun", "pending", "linked"]
AppliesEnum = Literal["visible", "shown_from", "new_window", "all"]
AudienceEnum = Literal["instructor", "everyone"]
BlankEnum = Literal[""]
CauseEnum = Literal["publisher", "sheet"]
CellEventSideEnum = Literal["publisher", "venn", "gradebook"]
ChangePairingStateEnum = Literal["live", "paused", "ended"]
CheckStateEnum = Literal["ok", "warn", "fail"]
ChoiceEnum = Literal["same", "fresh"]
ColumnEnum = Literal["none", "kept", "exported", "removed", "asked"]
ColumnOrLink = Literal["column", "link"]
DigestEnum = Literal["daily", "weekly", "never"]
DriftWay = Literal["ask", "follow", "keep"]
EntryStateEnum = Literal[
    "untouched", "waiting", "made", "updated", "same", "kept", "failed", "left_out", "removed"
]
FindingLevel = Literal["error", "warning", "note"]
FormEnum = Literal["html", "xlsx", "csv", "json", "gradebook"]
HandshakeSideEnum = Literal["ours", "theirs", "both"]
HandshakeStateEnum = Literal["ok", "fail", "skip"]
ImportStageEnum = Literal["queued", "reading", "checked", "importing", "done"]
IntoEnum = Literal["folder", "unit", "heading", "page"]
JobStateEnum = Literal[
    "proposed", "queued", "running", "waiting", "done", "failed", "cancelled", "dismissed"
]
KindEnum = Literal["shell", "item", "learner"]
KindsEnum = Literal[
    "folder",
    "page",
    "file",
    "web_link",
    "discussion",
    "assignment",
    "lti_link",
    "assessment",
    "question_bank",
]
LearnerVerdict = Literal["yes", "no", "unknown"]
MayEnum = Literal["stop", "retry", "undo"]
MendWayEnum = Literal["follow", "keep"]
MissingEnum = Literal["until_due", "ignored", "zero"]
NeedLevelEnum = Literal["urgent", "soon", "note"]
OperationStateEnum = Literal[
    "proposed", "queued", "running", "waiting", "done", "failed", "stopped", "dismissed"
]
OrderBy = Literal["publisher", "due", "unit"]
PairingState = Literal["draft", "ready", "live", "paused", "ended"]
PlacementStateEnum = Literal["planned", "written", "placed", "failed", "removed"]
PlannedEntryActionEnum = Literal["make", "update", "same", "keep", "leave_out"]
ProfileEnum = Literal["full", "thin"]
PurposeEnum = Literal["deploy", "order", "take_back", "mend", "undo"]
RelayHealth = Literal["well", "waits", "trouble", "off"]
ReviewEnum = Literal["keep", "hide", "leave_out"]
RoleEnum = Literal["administrator", "designer", "teacher"]
RolloutOrder = Literal["publisher", "due", "unit", "chosen"]
RowActionEnum = Literal["make", "change", "same", "leave_out"]
ScopeEnum = Literal["all", "category", "item"]
ScopesEnum = Literal["read", "compare", "change", "connect"]
ScoreState = Literal[
    "empty", "waiting", "sending", "accepted", "refused", "held", "clash", "withdrawn"
]
SecondFactorEnum = Literal["off"]
SetUpSectionStageEnum = Literal[
    "refused",
    "reading",
    "not_read",
    "ready",
    "running",
    "waiting",
    "live",
    "failed",
    "stopped",
    "undoing",
    "undone",
    "not_undone",
]
SettlementState = Literal["proposed", "begun", "done", "dismissed"]
ShellState = Literal["draft", "ready", "live", "paused", "ended", "unpaired"]
SourceEnum = Literal["publisher", "catalogue", "upload"]
SourceSideEnum = Literal["publisher", "gradebook", "sent"]
SpeaksEnum = Literal["lti13", "lti11"]
StatementLevel = Literal["open", "look", "well"]
StepState = Literal["planned", "done", "failed", "stopped", "left", "undone"]
TakeBackScoresEnum = Literal["ask", "keep", "export", "remove"]
TakeEnum = Literal["unsent", "differ", "gradebook_only"]
UndatedEnum = Literal["ask", "column", "link"]
ViaEnum = Literal["push", "outcomes", "pull", "file"]
WatchWayEnum = Literal["ask", "follow", "keep"]
WeightingEnum = Literal["equal", "points", "categories"]
WhatEnum = Literal[
    "accepted", "refused", "failed", "clash", "checked", "told", "again", "released", "settled"
]
WhatIsPlaced = Literal["columns", "average", "course"]
WhenScoresGo = Literal["submission", "due", "later"]


class Account(TypedDict):
    """One publisher of the institution with the user's account there.
    ``state``: ``none``, ``begun``, ``pending`` (it looks like somebody else's: confirm or
    undo) or ``linked``.
    """

    id: str | None
    publisher: str
    publisher_name: str
    state: AccountStateEnum
    account: str
    email: str
    courses: int
    linked_at: str | None
    warning: str


class Agreement(TypedDict):
    """One pairing: ``cells`` compared and how many ``agree``; ``open`` findings by kind,
    ``urgent`` of them no mere notes, ``oldest`` since when.
    ``standing`` is waiting (for its platform to have room), comparing, failed, compared or
    never; ``trouble`` says why it failed.
    """

    pairing: str
    shell: str
    course: str
    platform: str
    publisher: str
    state: PairingState
    teachers: list[str]
    standing: str
    trouble: str
    at: str | None
    cells: int
    agree: int
    urgent: int
    open: dict[str, int]
    oldest: str | None


class Answer(TypedDict):
    """What the browser posts to the platform: ``JWT`` to ``url``."""

    url: str
    token: str


class AnswerPlan(TypedDict):
    """What would be answered."""

    rows: list[Row]
    columns: int
    notices: list[PlanNotice]


class Ask(TypedDict):
    """Where the browser goes to pick at the publisher."""

    url: str


class AuditEvent(TypedDict):
    """One thing that was done; ``number`` and ``seal`` are its place in the chain, empty for
    half a minute.
    """

    id: int
    at: str
    actor: str
    who: str
    verb: str
    sentence: str
    pairing: str | None
    before: Any | None
    after: Any | None
    number: int | None
    seal: str
    request: str


class Average(TypedDict):
    """A column with a total: its title and points, which graded items and categories count, and
    how they weigh (docs/relaying.md).
    """

    id: str
    title: str
    points: str
    items: NotRequired[list[str]]
    categories: NotRequired[list[str]]
    weighting: NotRequired[WeightingEnum]
    weights: NotRequired[dict[str, str]]
    missing: NotRequired[MissingEnum]
    places: NotRequired[int]
    keeps_up: NotRequired[bool]
    column: bool
    sent_at: str | None


class AverageRequest(TypedDict):
    """A column with a total: its title and points, which graded items and categories count, and
    how they weigh (docs/relaying.md).
    """

    title: str
    points: str
    items: NotRequired[list[str]]
    categories: NotRequired[list[str]]
    weighting: NotRequired[WeightingEnum]
    weights: NotRequired[dict[str, str]]
    missing: NotRequired[MissingEnum]
    places: NotRequired[int]
    keeps_up: NotRequired[bool]


class AverageRow(TypedDict):
    """One learner's total and its arithmetic: each item's score of its points, then the steps to
    the number.
    """

    learner: str
    score: str | None
    arithmetic: list[str]


class BeginAccountRequest(TypedDict):
    """At which publisher."""

    publisher: str


class BegunAccount(TypedDict):
    """The address to open in the browser that is signed in to Venn Pair."""

    open: str
    account: Account


class Bucket(TypedDict):
    """Scores received and accepted in one stretch of time; the lag is of the accepted ones."""

    at: str
    received: int
    accepted: int
    lag_ms: float | None
    most_ms: float | None


class Candidate(TypedDict):
    """Somebody of the other side who may be the same person.
    ``key`` names them when a match is chosen.
    """

    key: NotRequired[str]
    name: str
    email: str
    why: str
    likeness: float


class CardRow(TypedDict):
    """One of our values, to copy into the other side's form."""

    name: str
    label: str
    value: str
    help: str


class Catalogue(TypedDict):
    """One reading of the publisher's catalogue, and what had changed since the one before."""

    at: str
    items: int
    changes: list[Change]
    words: str


class CellEvent(TypedDict):
    """One thing that happened: ``side`` is publisher, venn or gradebook.
    A score where it brought one.
    """

    at: str
    side: CellEventSideEnum
    what: str
    score: str | None
    points: str | None
    share: float | None
    words: str


class CellStory(TypedDict):
    """Everything that is known of one cell, the oldest first, and what is there by the last
    comparison. ``review`` opens what the learner handed in, empty where the publisher shows
    it not.
    """

    item: str
    learner: str
    points: str | None
    kind: str
    review: str
    events: list[CellEvent]
    notes: list[Note]


class Change(TypedDict):
    """One change of an item at the publisher: new, renamed, moved, points, date, withdrawn or
    back.
    """

    key: str
    kind: str
    title: str
    before: str
    after: str


class ChangeRuleRequest(TypedDict):
    """``changes`` replaces what the scope said before; empty takes it back.
    ``key``: the category's title or the item's id.
    """

    scope: ScopeEnum
    key: NotRequired[str]
    changes: dict[str, Any]
    dry_run: NotRequired[bool]


class Chart(TypedDict):
    """Stretches of ``minutes`` from ``since`` until ``until``; empty ones are left out."""

    since: str
    until: str
    minutes: int
    buckets: list[Bucket]


class Check(TypedDict):
    """One readiness check."""

    code: str
    state: CheckStateEnum
    message: str
    remedy: str


class CheckFinding(TypedDict):
    """One thing that is wrong with a link."""

    code: str
    message: str
    remedy: str
    level: FindingLevel


class CheckRow(TypedDict):
    """What was met at one link: yes, no or unknown."""

    placement: str
    title: str
    opens: LearnerVerdict
    visible: LearnerVerdict
    date: LearnerVerdict
    score: LearnerVerdict
    findings: list[CheckFinding]


class ChoiceRequest(TypedDict):
    """One finding, its remedy (empty: the default), and for a match the candidate's key."""

    finding: int
    remedy: NotRequired[str]
    candidate: NotRequired[str]


class ChooseFirstStepsRequest(TypedDict):
    """How access is paid, and whether the page is placed in the shell."""

    access: AccessEnum
    place: NotRequired[bool]


class CodeRequest(TypedDict):
    """A code of the app."""

    code: str


class CollegeSignIn(TypedDict):
    """The institution's OpenID provider; empty fields where there is none.
    ``redirect_uri`` is what the provider must know of us.
    """

    issuer: str
    client_id: str
    active: bool
    redirect_uri: str


class CollegeWay(TypedDict):
    """A college at which people sign in, and the address that begins it."""

    name: str
    address: str


class CompareAll(TypedDict):
    """How many pairings are being compared, a few of one platform at a time."""

    asked: int


class Comparison(TypedDict):
    """The same with the matrix; ``shares`` has for each learner and column two shares of the
    points, publisher first.
    """

    id: str
    at: str | None
    job: Job
    file: str
    summary: Summary | None
    venn: Venn | None
    sources: list[Source]
    matrix: Matrix | None
    shares: list[list[list[float | None]]]


class ComparisonLine(TypedDict):
    """One comparison in a list; summary and venn are null until it is done."""

    id: str
    at: str | None
    job: Job
    file: str
    summary: Summary | None
    venn: Venn | None
    sources: list[Source]


class ConfirmMatchRequest(TypedDict):
    """Which account is which learner."""

    student: str
    learner: str


class Consent(TypedDict):
    """What is read and written, and who agreed to it, when."""

    agreed: bool
    by: str
    at: str | None
    reads: list[Use]
    writes: list[Use]


class Consequences(TypedDict):
    """What a change of state does to links, columns and scores, in sentences."""

    state: PairingState
    consequences: list[str]


class Copied(TypedDict):
    """What a shell was copied from; null where it was not."""

    copied: bool
    shell: str
    course: str
    publisher: str
    links: int
    ways: list[Way]


class Course(TypedDict):
    """A homework course.
    ``fit`` (0 to 1) and ``reasons`` say how well it suits the shell asked for; ``mine`` that
    one teaches it.
    """

    id: str
    title: str
    author: str
    isbn: str
    code: str
    section: str
    term: str
    learners: int | None
    publisher: str
    paired: bool
    mine: bool
    shared: bool
    offers: list[str]
    fit: float
    reasons: list[str]


class Day(TypedDict):
    """One day in the institution's time zone."""

    date: str
    received: int
    delivered: int


class Delivery(TypedDict):
    """A delivery with its job, and in words what became of it."""

    id: str
    folder: str
    undoes: str | None
    made_at: str
    words: str
    job: Job


class DeliveryPlan(TypedDict):
    """All that will happen, before it does.
    ``points`` of an entry are those of its column, null where it gets none.
    """

    folder: str
    new_folder: str
    counts: dict[str, Any]
    columns: int
    entries: list[PlannedEntry]


class Difference(TypedDict):
    """A field that will change."""

    field: str
    before: str
    after: str
    cause: CauseEnum


class Drift(TypedDict):
    """One drift: what changed, where, who is likely to have done it, and what it breaks."""

    id: str
    placement: str
    kind: str
    side: str
    level: FindingLevel
    title: str
    before: str
    after: str
    who: str
    breaks: str


class Entry(TypedDict):
    """A row of the outline: what it is, what was understood of it, and what became of it.
    ``points`` is exact text.
    """

    id: str
    position: int
    parent: int
    depth: int
    kind: str
    title: str
    shown_title: str
    naming: str
    naming_reason: str
    unit: str
    audience: str
    url: str
    new_window: bool
    custom: dict[str, str]
    questions: dict[str, int]
    line_item: str
    points: str | None
    due_at: str
    category: str
    reason: str
    group: str
    trouble: str
    trouble_message: str
    trouble_remedy: str
    blocked: bool
    state: EntryStateEnum
    message: str
    node: str


class Event(TypedDict):
    """One thing that was done."""

    id: int
    at: str
    actor: str
    verb: str
    sentence: str
    before: Any | None
    after: Any | None


class Export(TypedDict):
    """The scores of a column that was taken back."""

    id: str
    title: str
    made_at: str


class FileComparison(TypedDict):
    """What two files have in common: counts as in the contract, the Venn, the class, and every
    finding.
    """

    summary: dict[str, int]
    venn: dict[str, list[int]]
    matrix: Matrix
    findings: list[FileFinding]


class FileFinding(TypedDict):
    """One difference; numbers are exact decimals as text, absent ones empty."""

    scope: str
    finding: str
    level: FindingLevel
    learner: str
    email: str
    item: str
    publisher: str
    publisher_points: str
    gradebook: str
    gradebook_points: str
    cause: str


class Finding(TypedDict):
    """One difference, its cause in a sentence, and the remedies offered; ``default`` is empty
    where a person must choose.
    ``since``: when a comparison first found it so; ``new``: the one before did not; ``kept``:
    when somebody decided to leave it.
    """

    id: int
    scope: str
    kind: str
    level: str
    side: str
    placement: str | None
    person: str | None
    item: str
    learner: str
    email: str
    publisher: str | None
    publisher_points: str | None
    publisher_at: str
    source: str
    gradebook: str | None
    gradebook_points: str | None
    sent: str | None
    scaled: str | None
    cause: str
    because: str
    read: bool
    remedies: list[str]
    default: str
    candidates: list[Candidate]
    since: str | None
    new: bool
    kept: str | None


class FirstSteps(TypedDict):
    """What learners are told first; ``html`` is safe to show.
    ``chosen`` is how access is paid, as last chosen; ``job`` places the page, where that was
    asked for.
    """

    access: AccessEnum
    chosen: str
    title: str
    text: str
    html: str
    job: Job | None


class FolderGuess(TypedDict):
    """The folder guessed for a unit; ``node`` is its id where it is there already."""

    unit: str
    folder: str
    node: str
    why: str


class FolderOrder(TypedDict):
    """A folder's entries as they are and as they will be, by title."""

    folder: str
    now: list[str]
    then: list[str]


class Found(TypedDict):
    """Something found: a shell, an item or a learner."""

    kind: KindEnum
    title: str
    detail: str
    link: str


class GoOnRequest(TypedDict):
    """Which way, and the agreement that the shell is read and written."""

    choice: ChoiceEnum
    agree: NotRequired[bool]


class GradebookFileRequest(TypedDict):
    """A gradebook as a file, in the place of the platform's: tidy CSV, OneRoster 1.2 set, or
    wide with a layout.
    """

    gradebook: NotRequired[str]
    layout: NotRequired[str]
    class_id: NotRequired[str]


class Handshake(TypedDict):
    """One step of a connection check."""

    step: str
    state: HandshakeStateEnum
    message: str
    remedy: str
    side: HandshakeSideEnum | BlankEnum


class Health(TypedDict):
    """Whether the service works."""

    status: str
    waiting_jobs: int


class Import(TypedDict):
    """An import with its job and its report.
    ``stage`` is queued, reading, checked, importing or done. ``counts`` has how many of each
    kind the package holds, ``report`` how many items are new, changed, the same or gone, and
    how many entries are blocked or lie beside the outline; both are empty until it is read.
    """

    id: str
    source: str
    stage: ImportStageEnum
    filename: str
    title: str
    version: str
    profile: str
    counts: dict[str, int]
    findings: list[ImportFinding]
    report: dict[str, int]
    made_at: str
    kept: bool
    standing: bool
    job: Job


class ImportFinding(TypedDict):
    """What was found wrong with a package; ``where`` is a place in it, as a file's name."""

    code: str
    level: FindingLevel
    where: NotRequired[str]
    message: str
    remedy: NotRequired[str]


class Invitation(TypedDict):
    """Whether a registration has come in."""

    id: str
    side: str
    used_at: str | None
    expires: str
    publisher: str | None
    platform: str | None


class InvitationLink(TypedDict):
    """A one-time link, shown this once, for the platform's page that registers tools by an
    address.
    """

    link: str
    expires: str


class InvitePlatformRequest(TypedDict):
    """What to call the platform that will register."""

    name: NotRequired[str]


class InvitePublisherRequest(TypedDict):
    """Where the publisher's tool begins its registration, and what to call it."""

    registration_url: str
    name: NotRequired[str]


class Item(TypedDict):
    """An item with whether it is in the shell: ``placed``, ``planned``, ``failed`` or ``no``.
    ``points`` is exact text.
    """

    id: str
    title: str
    shown_title: str
    kind: str
    unit: str
    position: int
    audience: str
    points: str | None
    due_at: str
    category: str
    line_item: str
    reason: str
    subjects: list[str]
    placed: str
    folder: str
    column: bool


class ItemRule(TypedDict):
    """What holds for one item with a column, in words, and which attempt the publisher counts
    where it tells.
    """

    placement: str
    item: str
    title: str
    category: str
    words: str
    publisher_counts: str
    own: dict[str, Any]
    held: int


class Job(TypedDict):
    """Work under way: ``done`` of ``total`` steps, and a message for people."""

    id: str
    kind: str
    pairing: str
    state: JobStateEnum
    done: int
    total: int
    message: str
    remedy: str
    made_at: str
    ended_at: str | None


class Key(TypedDict):
    """A signing key of ours; ``signs`` marks the one in use."""

    kid: str
    made_at: str
    signs_from: str
    ends_at: str | None
    signs: bool


class Lag(TypedDict):
    """From a report's arrival to the platform's acceptance, in milliseconds."""

    median_ms: float | None
    most_ms: float | None


class LearnerCheck(TypedDict):
    """One check with its rows."""

    id: str
    job: Job
    made_at: str
    rows: list[CheckRow]


class LearnerRow(TypedDict):
    """A learner of the shell."""

    id: str
    name: str
    email: str


class LedgerEntry(TypedDict):
    """One report of the publisher, and how it came."""

    id: int
    via: ViaEnum
    timestamp: str
    submitted_at: str | None
    received_at: str
    given: str | None
    maximum: str | None
    activity: str
    grading: str
    comment: str


class LookRequest(TypedDict):
    """A wide table to look at."""

    file: str


class MadePasskey(TypedDict):
    """The passkey, and recovery codes where it is the first second factor, shown this once."""

    passkey: Passkey
    recovery: list[str]


class MadeToken(TypedDict):
    """The token, shown this once."""

    token: str
    id: str
    expires: str


class Match(TypedDict):
    """A match that somebody confirmed."""

    id: int
    student: str
    name: str
    email: str
    learner: LearnerRow
    confirmed_by: str
    confirmed_at: str


class MatchCandidate(TypedDict):
    """A learner who may be the account's owner, and why."""

    learner: LearnerRow
    why: str
    likeness: float


class MatchRequest(TypedDict):
    """The graded item that a link opens; null for none."""

    item: str | None


class Matches(TypedDict):
    """What is open and what was confirmed."""

    open: list[OpenAccount]
    confirmed: list[Match]


class Matrix(TypedDict):
    """The kinds of all cells: one row a learner, one column an item; null where nobody has a
    score.
    ``placements`` and ``people`` are the ids of columns and rows, ``matched_by`` how each
    learner was matched: launch, id or email.
    """

    items: list[str]
    placements: NotRequired[list[str]]
    learners: list[str]
    people: NotRequired[list[str]]
    matched_by: NotRequired[list[str]]
    rows: list[list[str | None]]


class Me(TypedDict):
    """Who is signed in."""

    username: str
    name: str
    institution: str
    administrator: bool
    designer: bool
    notices: int
    has_password: bool
    second_factor: bool
    authenticator_app: bool
    digest: DigestEnum
    language: str
    on_hold: str


class MendRequest(TypedDict):
    """Which drifts, and how: follow the publisher and what was deployed, or keep what the shell
    has.
    """

    drifts: list[str]
    way: MendWayEnum


class Mended(TypedDict):
    """The rollout that writes to the shell; null where nothing has to be written."""

    rollout: WholeRollout | None


class Name(TypedDict):
    """An entry's name before and after."""

    id: str
    before: str
    after: str


class Need(TypedDict):
    """Something that needs somebody: ``what`` happened and what to do, and where. ``level`` is
    urgent, soon or note; ``since`` when it began, where that is known.
    """

    code: str
    level: NeedLevelEnum
    count: int
    shell: str
    name: str
    what: str
    remedy: str
    link: str
    since: str | None


class NewAnswerRequest(TypedDict):
    """Which items, and how."""

    into: NotRequired[IntoEnum]
    folder: NotRequired[str]
    folders: NotRequired[dict[str, str]]
    graded: NotRequired[ColumnOrLink]
    undated: NotRequired[UndatedEnum]
    category: NotRequired[str]
    by: NotRequired[RolloutOrder]
    after: NotRequired[str]
    after_text: NotRequired[str]
    visible: NotRequired[bool]
    shown_from: NotRequired[str]
    shown_before: NotRequired[int | None]
    new_window: NotRequired[bool]
    pattern: NotRequired[str]
    longest: NotRequired[int]
    update: NotRequired[bool]
    move: NotRequired[bool]
    shift_days: NotRequired[int | None]
    applies: NotRequired[list[AppliesEnum]]
    wishes: NotRequired[dict[str, WishRequest]]
    items: list[str]
    dry_run: NotRequired[bool]


class NewCheckRequest(TypedDict):
    """Which placements to open; none named: all that are there."""

    placements: NotRequired[list[str]]


class NewDeliveryRequest(TypedDict):
    """The choice, the folder (title or id.
    Empty is the top), and whether graded links with points and a date get a column.
    """

    everything: NotRequired[bool]
    entries: NotRequired[list[str]]
    kinds: NotRequired[list[KindsEnum]]
    words: NotRequired[str]
    review: NotRequired[ReviewEnum]
    folder: NotRequired[str]
    columns: NotRequired[bool]
    questions: NotRequired[dict[str, list[int]]]
    dry_run: NotRequired[bool]


class NewFactor(TypedDict):
    """A key for an authenticator app, shown this once: as text, and as a picture (SVG)."""

    key: str
    picture: str


class NewFolder(TypedDict):
    """A folder that will be made."""

    key: str
    title: str
    parent: str


class NewImportRequest(TypedDict):
    """Where the content comes from: the publisher's cartridge, its catalogue, or a ``package``
    that was sent before.
    """

    source: NotRequired[SourceEnum]
    package: NotRequired[str]


class NewNoteRequest(TypedDict):
    """A note on a cell."""

    placement: str
    learner: str
    text: str


class NewOrderRequest(TypedDict):
    """How to order: ``by`` for all folders or one (its id).
    Or ``entries`` of one folder, moved ``after`` another (an id, ``start``, empty: the end).
    """

    by: NotRequired[OrderBy]
    folder: NotRequired[str]
    entries: NotRequired[list[str]]
    after: NotRequired[str]
    gradebook: NotRequired[bool]
    dry_run: NotRequired[bool]


class NewPackageRequest(TypedDict):
    """A file to be sent.
    ``fingerprint`` is the sender's own word for it, by which a broken upload is found again.
    """

    filename: str
    size: int
    fingerprint: NotRequired[str]


class NewPairingRequest(TypedDict):
    """Which shell with which course; or let the publisher make one: of a ``title``, as a
    ``copy_of`` or ``section_of`` a course.
    """

    shell: str
    course: NotRequired[str]
    title: NotRequired[str]
    copy_of: NotRequired[str]
    section_of: NotRequired[str]
    name: NotRequired[str]
    share: NotRequired[bool]
    agree: NotRequired[bool]


class NewPasskeyRequest(TypedDict):
    """A passkey that a browser made."""

    name: str
    passkey: dict[str, Any]


class NewPlatformRequest(TypedDict):
    """The platform's values, entered by hand."""

    name: str
    issuer: str
    client_id: str
    deployment_ids: NotRequired[list[str]]
    authorization_url: str
    token_url: str
    jwks_url: str
    token_audience: NotRequired[str]


class NewPublisherRequest(TypedDict):
    """A publisher; with a name alone its card is reserved, so that the publisher can be given
    our values first.
    """

    name: str
    speaks: NotRequired[SpeaksEnum]
    login_url: NotRequired[str]
    launch_url: NotRequired[str]
    redirect_uris: NotRequired[list[str]]
    jwks_url: NotRequired[str]
    custom: NotRequired[dict[str, str]]
    item_address: NotRequired[str]
    gets_numbers: NotRequired[bool]
    picker_url: NotRequired[str]
    review_url: NotRequired[str]
    key: NotRequired[str]
    shared_secret: NotRequired[str]
    oneroster_url: NotRequired[str]
    oneroster_token_url: NotRequired[str]
    oneroster_client_id: NotRequired[str]
    oneroster_secret: NotRequired[str]
    provisioning_url: NotRequired[str]
    active: NotRequired[bool]


class NewRolloutRequest(TypedDict):
    """Which items of the pairing's course, into which shells, and how."""

    into: NotRequired[IntoEnum]
    folder: NotRequired[str]
    folders: NotRequired[dict[str, str]]
    graded: NotRequired[ColumnOrLink]
    undated: NotRequired[UndatedEnum]
    category: NotRequired[str]
    by: NotRequired[RolloutOrder]
    after: NotRequired[str]
    after_text: NotRequired[str]
    visible: NotRequired[bool]
    shown_from: NotRequired[str]
    shown_before: NotRequired[int | None]
    new_window: NotRequired[bool]
    pattern: NotRequired[str]
    longest: NotRequired[int]
    update: NotRequired[bool]
    move: NotRequired[bool]
    shift_days: NotRequired[int | None]
    applies: NotRequired[list[AppliesEnum]]
    wishes: NotRequired[dict[str, WishRequest]]
    items: list[str]
    sections: NotRequired[list[SectionRequest]]
    dry_run: NotRequired[bool]


class NewSetUpRequest(TypedDict):
    """Which shells, and the agreement that each is read and written."""

    sections: list[WantedSectionRequest]
    agree: NotRequired[bool]


class NewTokenRequest(TypedDict):
    """What the token is for, what it may, and for how many days."""

    name: str
    scopes: list[ScopesEnum]
    days: NotRequired[int]


class NewWrittenRequest(TypedDict):
    """The choice, and the profile of the cartridge to write."""

    everything: NotRequired[bool]
    entries: NotRequired[list[str]]
    kinds: NotRequired[list[KindsEnum]]
    words: NotRequired[str]
    review: NotRequired[ReviewEnum]
    profile: NotRequired[ProfileEnum]


class Node(TypedDict):
    """A folder or entry of the shell's outline."""

    id: str
    title: str
    kind: str
    folder: str
    depth: int
    visible: bool
    audience: str
    column: str
    due_at: str
    shown_from: str


class Note(TypedDict):
    """A word that somebody left on a cell."""

    id: int
    placement: str
    learner: str
    item: str
    learner_name: str
    text: str
    author: NotRequired[str]
    at: str


class Notice(TypedDict):
    """A word to the user that something is ready or needs them.
    ``link`` leads to it in the console.
    """

    id: int
    at: str
    sentence: str
    link: str
    read_at: str | None


class Oldest(TypedDict):
    """The score that has waited longest."""

    since: str
    learner: str
    item: str
    state: str
    reason: str


class OpenAccount(TypedDict):
    """An account at the publisher whose owner only a person can name."""

    student: str
    name: str
    email: str
    candidates: list[MatchCandidate]


class OpenedRegistration(TypedDict):
    """The address to open in a browser; the publisher's page registers itself with us by it.
    Good once.
    """

    open: str
    invitation: str
    expires: str


class Operation(TypedDict):
    """What was, is or will be written outside, as one thing: ``done`` of ``total`` steps, how
    many steps are in which state, and what may be done with it. ``subject`` is the id of its
    rollout, delivery or settlement, ``link`` where the console shows that.
    """

    id: str
    kind: str
    says: str
    pairing: str
    shell: str
    state: OperationStateEnum
    done: int
    total: int
    message: str
    remedy: str
    made_by: str
    made_at: str
    ended_at: str | None
    batch: str | None
    undoes: str | None
    undone: bool
    counts: dict[str, int]
    may: list[MayEnum]
    subject: str
    link: str


class OperationStep(TypedDict):
    """One write: what it does to what, what was there before and what is there afterwards where
    that is a value, and what came of it. ``left``: nothing was written on purpose.
    """

    does: str
    title: str
    state: StepState
    message: str
    before: str | None
    after: str | None


class Options(TypedDict):
    """What a browser is given to make or to ask a passkey, as Web Authentication 5.1.8 and 5.1.9
    write it.
    """

    options: dict[str, Any]


class Orders(TypedDict):
    """What ordering changes."""

    folders: list[FolderOrder]
    columns_now: list[str]
    columns_then: list[str]


class OwnWishesRequest(TypedDict):
    """What holds in one shell only; items are the first section's."""

    folders: NotRequired[dict[str, str]]
    wishes: NotRequired[dict[str, WishRequest]]
    without: NotRequired[list[str]]


class Package(TypedDict):
    """A package: its parts have ``part_bytes`` each but the last.
    ``received`` are the numbers of those that arrived.
    """

    id: str
    filename: str
    size: int
    complete: bool
    part_bytes: int
    received: list[int]


class PairRequest(TypedDict):
    """One shell with one course."""

    shell: str
    course: str


class PairedCourse(TypedDict):
    """The homework course of a pairing."""

    id: str
    title: str
    code: str
    term: str
    publisher: str


class PairedShell(TypedDict):
    """The shell of a pairing; ``timezone`` is the course's, else the institution's."""

    id: str
    title: str
    label: str
    timezone: str
    platform: str


class Pairing(TypedDict):
    """One shell joined to one homework course.
    ``set_up`` is the job that sets it up, where there was one.
    """

    id: str
    state: PairingState
    relay_on: bool
    access: str
    shell: PairedShell
    course: PairedCourse
    made_at: str
    ended_at: str | None
    may_change: bool
    set_up: Job | None


class Passage(TypedDict):
    """What became of a score at one moment."""

    id: int
    at: str
    what: WhatEnum
    given: str | None
    maximum: str | None
    entry: int | None
    lag_ms: int | None
    words: str


class Passkey(TypedDict):
    """A passkey: what its owner called it, when it was made and last used."""

    id: int
    name: str
    made_at: str
    used_at: NotRequired[str | None]


class PasswordRequest(TypedDict):
    """A new password."""

    password: str


class PatchedChangePairingRequest(TypedDict):
    """What to change; what is left out stays.
    An ended pairing is taken up again by ``paused``, within 30 days.
    """

    state: NotRequired[ChangePairingStateEnum]
    relay_on: NotRequired[bool]


class PatchedChangePersonRequest(TypedDict):
    """A person's role in the institution, and whether they are blocked; what is left out stays."""

    role: NotRequired[RoleEnum]
    second_factor: NotRequired[SecondFactorEnum]
    blocked: NotRequired[bool]


class PatchedChangePlatformRequest(TypedDict):
    """What to change; what is left out stays. Issuer and client id are who it is and cannot
    change.
    """

    name: NotRequired[str]
    deployment_ids: NotRequired[list[str]]
    authorization_url: NotRequired[str]
    token_url: NotRequired[str]
    jwks_url: NotRequired[str]
    token_audience: NotRequired[str]
    active: NotRequired[bool]


class PatchedChangePublisherRequest(TypedDict):
    """The publisher's values; what is left out stays.
    Secrets are stored encrypted and never shown again.
    """

    name: NotRequired[str]
    speaks: NotRequired[SpeaksEnum]
    login_url: NotRequired[str]
    launch_url: NotRequired[str]
    redirect_uris: NotRequired[list[str]]
    jwks_url: NotRequired[str]
    custom: NotRequired[dict[str, str]]
    item_address: NotRequired[str]
    gets_numbers: NotRequired[bool]
    picker_url: NotRequired[str]
    review_url: NotRequired[str]
    key: NotRequired[str]
    shared_secret: NotRequired[str]
    oneroster_url: NotRequired[str]
    oneroster_token_url: NotRequired[str]
    oneroster_client_id: NotRequired[str]
    oneroster_secret: NotRequired[str]
    provisioning_url: NotRequired[str]
    active: NotRequired[bool]


class PatchedChangeToolRequest(TypedDict):
    """What to change; with ``dry_run`` only the warning comes back."""

    on: NotRequired[bool]
    navigation: NotRequired[bool]
    position: NotRequired[int]
    audience: NotRequired[AudienceEnum]
    etag: NotRequired[str]
    dry_run: NotRequired[bool]


class PatchedRelaySettingRequest(TypedDict):
    """After how many minutes a waiting score raises the alarm.
    Every how many minutes results are read, 0 where the publisher reports.
    """

    alarm_minutes: NotRequired[int]
    pull_minutes: NotRequired[int]


class PatchedScheduleRequest(TypedDict):
    """Whether it is compared every night, and until when the grades are to be submitted."""

    nightly: NotRequired[bool]
    grades_due: NotRequired[str | None]


class PatchedWishRequest(TypedDict):
    """What one wishes; what is left out stays."""

    digest: NotRequired[DigestEnum]
    language: NotRequired[str]


class Person(TypedDict):
    """Somebody of the institution who has signed in or launched."""

    id: int
    username: str
    name: str
    role: str
    blocked: bool
    second_factor: bool
    last_login: str | None


class Picking(TypedDict):
    """What a platform asks for and takes back.
    ``pairing`` is null while the shell is not paired.
    """

    id: str
    pairing: str | None
    shell: str
    platform: str
    multiple: bool
    columns: bool
    types: list[str]
    answered_at: str | None


class Placement(TypedDict):
    """A link as it was deployed."""

    id: str
    item: str
    item_title: str
    unit: str
    state: PlacementStateEnum
    title: str
    folder: str
    folder_id: str
    place: int
    entry_id: str
    column: bool
    points: str | None
    due_at: str
    category: str
    visible: bool
    shown_from: str
    new_window: bool
    shift_days: int


class Plan(TypedDict):
    """All that will happen in one shell, item by item in its order. ``lost``: items that this
    section's course does not have.
    ``unread``: the section's homework course was not read yet, so nothing is known of it.
    """

    pairing: str
    shell: str
    zone: str
    shift_days: int | None
    folders: list[NewFolder]
    rows: list[Row]
    make: int
    change: int
    same: int
    columns: int
    categories: list[str]
    notices: list[PlanNotice]
    lost: list[str]
    unread: bool
    page_html: str


class PlanNotice(TypedDict):
    """Something about one item that one should know before it happens; ``error`` keeps it out."""

    code: str
    level: FindingLevel
    item: str
    title: str
    message: str
    remedy: str


class PlannedDrift(TypedDict):
    """A change in the shell that would be put right."""

    placement: str
    kind: str
    title: str
    before: str
    after: str
    who: str


class PlannedEntry(TypedDict):
    """One entry with what will be done: make, update, same, keep or leave_out."""

    id: str
    title: str
    kind: str
    depth: int
    action: PlannedEntryActionEnum
    visible: bool
    points: str | None
    why: str
    remedy: str


class Plans(TypedDict):
    """The plan for every shell."""

    shells: list[Plan]


class Platform(TypedDict):
    """A course platform at which we are registered as a tool."""

    id: str
    name: str
    issuer: str
    client_id: str
    deployment_ids: list[str]
    asked_deployments: list[str]
    authorization_url: str
    token_url: str
    jwks_url: str
    token_audience: str
    product: str
    how: str
    active: bool
    launched_at: str | None
    shells: int


class PlatformHealth(TypedDict):
    """How one platform takes scores: open or paused and why, calls at once, what waits, and the
    last day's accepted, refused and failed sendings.
    """

    platform: str
    name: str
    open: bool
    pause: str
    at_once: int
    waiting: int
    oldest: str | None
    accepted: int
    refused: int
    failed: int
    lag: Lag
    live: int
    off: int


class Preview(TypedDict):
    """A look at an entry; ``html`` is harmless, ``files`` come along with it."""

    kind: str
    title: str
    html: str
    url: str
    custom: dict[str, str]
    new_window: bool
    questions: list[Question]
    files: list[str]
    vendor: str


class ProofRequest(TypedDict):
    """A code of the app, a recovery code, or the answer of a passkey to a challenge of ours."""

    code: NotRequired[str]
    passkey: NotRequired[dict[str, Any]]


class Publisher(TypedDict):
    """A publisher; secrets are never shown, only whether there is one.
    ``card`` is what it must know of us.
    """

    id: str
    name: str
    speaks: SpeaksEnum
    how: str
    active: bool
    can_launch: bool
    login_url: str
    launch_url: str
    redirect_uris: list[str]
    jwks_url: str
    custom: dict[str, str]
    item_address: str
    gets_numbers: bool
    picker_url: str
    review_url: str
    key: str
    has_shared_secret: bool
    oneroster_url: str
    oneroster_token_url: str
    oneroster_client_id: str
    has_oneroster_secret: bool
    provisioning_url: str
    features: list[str]
    courses: int
    card: dict[str, str]


class Question(TypedDict):
    """One question of an assessment; prompt and choices are harmless HTML."""

    title: str
    kind: str
    prompt: str
    choices: list[str]
    points: str | None


class Queued(TypedDict):
    """How many scores the gradebook shows otherwise, shows as they are, and could not be read;
    how many were queued, or would be.
    ``newer`` counts scores of the publisher that nobody had reported: they are taken first.
    ``publisher_trouble`` says why it could not be asked.
    """

    differ: int
    same: int
    unread: int
    queued: int
    newer: int
    publisher_trouble: str


class Recovery(TypedDict):
    """Recovery codes, each good once instead of one of the app; shown this once."""

    recovery: list[str]


class RegistrationRequest(TypedDict):
    """What the platform's administrator page gives: its configuration address and a registration
    token.
    """

    openid_configuration: str
    registration_token: NotRequired[str]
    name: NotRequired[str]


class Relay(TypedDict):
    """The relay of a pairing: on or off, whether all is well, cells by state, held ones by what
    they wait for.
    """

    on: bool
    state: PairingState
    verdict: RelayVerdict
    counts: dict[str, int]
    held: dict[str, int]
    received: int
    unclaimed: int
    oldest: Oldest | None
    lag: Lag
    pause: str
    setting: RelaySetting


class RelaySetting(TypedDict):
    """After how many minutes a waiting score raises the alarm.
    Every how many minutes results are read, 0 where the publisher reports.
    """

    alarm_minutes: NotRequired[int]
    pull_minutes: NotRequired[int]
    pulled_at: str | None
    pull_trouble: str


class RelayVerdict(TypedDict):
    """Whether all is well (``well``, ``waits``, ``trouble``, ``off``), in a sentence, with what
    to do; ``act`` is what one press may do about it.
    """

    level: RelayHealth
    sentence: str
    remedy: str
    act: str


class ReleaseRequest(TypedDict):
    """Which items, all where none is named.
    ``early`` also lets go what is held for a due date or a time of day.
    """

    placements: NotRequired[list[str]]
    early: NotRequired[bool]
    dry_run: NotRequired[bool]


class Released(TypedDict):
    """How many scores were let go, or would be."""

    released: int


class Removal(TypedDict):
    """A placed link that would be taken back, and why."""

    placement: str
    title: str
    why: str


class RenameRequest(TypedDict):
    """New names by entry id; or ``entries`` and a ``pattern`` with {title}, {unit}, {kind},
    {number}.
    """

    names: NotRequired[dict[str, str]]
    entries: NotRequired[list[str]]
    pattern: NotRequired[str]
    dry_run: NotRequired[bool]


class Reversal(TypedDict):
    """What undoing would do with one thing; ``why`` says why it stays. ``shows``: it is in the
    shell already, and learners see it again.
    """

    title: str
    does: str
    why: str
    shows: bool


class Rollout(TypedDict):
    """A rollout with its job; those of several shells share a ``batch``."""

    id: str
    batch: str | None
    pairing: str
    shell: str
    purpose: PurposeEnum
    folder: str
    job: Job
    made_at: str
    failed: int
    undone: bool


class Root(TypedDict):
    """A change of a column that explains cells: its kind, what both sides say of it, and how
    many cells agree once it is mended.
    """

    kind: str
    item: str
    cells: int
    publisher: str | None
    gradebook: str | None


class Row(TypedDict):
    """What becomes of one item: make, change, same or leave_out."""

    item: str
    action: RowActionEnum
    target: Target
    folder: str
    folder_title: str
    differences: list[Difference]


class RuleOutcome(TypedDict):
    """The rule that results, in words, and how many scores are decided again."""

    scope: str
    key: str
    changes: dict[str, Any]
    words: str
    cells: int


class Rules(TypedDict):
    """The rule for all, what categories change of it, and what results for each item."""

    changes: dict[str, Any]
    words: str
    attempts: bool
    categories: dict[str, dict[str, Any]]
    items: list[ItemRule]


class Schedule(TypedDict):
    """Whether it is compared every night, and until when the grades are to be submitted."""

    nightly: NotRequired[bool]
    grades_due: NotRequired[str | None]


class Score(TypedDict):
    """One learner's score in one column: its state, why, since when it waits and until when."""

    id: int
    placement: str
    item: str
    learner_id: str
    learner: str
    email: str
    state: ScoreState
    why: str
    reason: str
    remedy: str
    reported: str | None
    points: str | None
    reported_at: str | None
    sent: str | None
    sent_at: str | None
    since: str | None
    until: str | None
    tries: int
    changed_at: str


class ScoreFileRequest(TypedDict):
    """A tidy CSV, a OneRoster 1.2 set or a wide table with its layout.
    ``as_of`` is when it was exported, now unless named.
    """

    file: str
    layout: NotRequired[str]
    class_id: NotRequired[str]
    as_of: NotRequired[str]
    dry_run: NotRequired[bool]


class ScoreStory(TypedDict):
    """The same, with every report and everything that was done with it, the oldest first."""

    id: int
    placement: str
    item: str
    learner_id: str
    learner: str
    email: str
    state: ScoreState
    why: str
    reason: str
    remedy: str
    reported: str | None
    points: str | None
    reported_at: str | None
    sent: str | None
    sent_at: str | None
    since: str | None
    until: str | None
    tries: int
    changed_at: str
    ledger: list[LedgerEntry]
    passages: list[Passage]


class SectionPlan(TypedDict):
    """What will happen in one section: in a sentence, and item by item. ``shift`` is proposed,
    in days; it is used where ``start`` was given.
    """

    shell: str
    name: str
    sentence: str
    shift: int
    folders: list[FolderGuess]
    plan: Plan | None
    writes: bool
    removals: list[Removal]
    drifts: list[PlannedDrift]
    settings: list[Setting]
    total: str
    review: int
    readings: int
    message: str
    remedy: str
    there: int
    brings: int


class SectionRequest(TypedDict):
    """A shell that the rollout goes to as well, with what is its own.
    Left out: as the sheet says.
    """

    pairing: str
    shift_days: NotRequired[int | None]
    folder: NotRequired[str]
    folders: NotRequired[dict[str, str]]


class SendAgainRequest(TypedDict):
    """Which scores: of learners, items (placements), a category, or all.
    ``force`` also sends what the gradebook shows, or what somebody typed over.
    """

    learners: NotRequired[list[str]]
    placements: NotRequired[list[str]]
    category: NotRequired[str | None]
    force: NotRequired[bool]
    dry_run: NotRequired[bool]


class SetCollegeSignInRequest(TypedDict):
    """The provider, and what it gave us as its client; a secret that is left out stays."""

    issuer: str
    client_id: str
    secret: NotRequired[str]
    active: NotRequired[bool]


class SetUp(TypedDict):
    """A set-up with its sections, in the order in which they were named."""

    id: str
    made_at: str
    started_at: str | None
    scores: WhenScoresGo
    access: str
    navigation: bool
    way: WhatIsPlaced
    total: str
    words: str
    sections: list[SetUpSection]


class SetUpPlan(TypedDict):
    """The plan of every section."""

    sections: list[SectionPlan]


class SetUpRow(TypedDict):
    """A set-up in a list: the labels of its shells."""

    id: str
    made_at: str
    started_at: str | None
    shells: list[str]


class SetUpSection(TypedDict):
    """One shell of a set-up: ``stage`` is refused, reading, not_read, ready, running, waiting,
    live, failed, stopped, undoing, undone or not_undone; ``job`` says more, ``message`` and
    ``remedy`` why it is refused. ``troubles`` counts steps that were not done and links that
    do not open well.
    """

    shell: str
    name: str
    pairing: str | None
    course: str
    stage: SetUpSectionStageEnum
    message: str
    remedy: str
    troubles: int
    job: Job | None


class SetUpWishesRequest(TypedDict):
    """What is wanted: the fields of a sheet (into folders by unit where nothing is said), and
    what goes on after placing.
    """

    into: NotRequired[IntoEnum]
    folder: NotRequired[str]
    folders: NotRequired[dict[str, str]]
    graded: NotRequired[ColumnOrLink]
    undated: NotRequired[UndatedEnum]
    category: NotRequired[str]
    by: NotRequired[RolloutOrder]
    after: NotRequired[str]
    after_text: NotRequired[str]
    visible: NotRequired[bool]
    shown_from: NotRequired[str]
    shown_before: NotRequired[int | None]
    new_window: NotRequired[bool]
    pattern: NotRequired[str]
    longest: NotRequired[int]
    update: NotRequired[bool]
    move: NotRequired[bool]
    shift_days: NotRequired[int | None]
    applies: NotRequired[list[AppliesEnum]]
    wishes: NotRequired[dict[str, WishRequest]]
    items: NotRequired[list[str]]
    shifts: NotRequired[dict[str, int]]
    start: NotRequired[str | None]
    own: NotRequired[dict[str, OwnWishesRequest]]
    complete: NotRequired[bool]
    scores: NotRequired[WhenScoresGo]
    access: NotRequired[AccessEnum | BlankEnum]
    navigation: NotRequired[bool]
    way: NotRequired[WhatIsPlaced]
    total: NotRequired[str]
    readings: NotRequired[bool]
    columns_shown: NotRequired[bool]
    review: NotRequired[ReviewEnum]


class Setting(TypedDict):
    """Something of the pairing that would change: relay, scores or access."""

    what: str
    before: str
    after: str


class SettleRequest(TypedDict):
    """What to settle of a comparison: all safe cells, whole kinds by one remedy each, single
    findings.
    """

    comparison: str
    safe: NotRequired[bool]
    kinds: NotRequired[dict[str, str]]
    findings: NotRequired[list[ChoiceRequest]]
    dry_run: NotRequired[bool]


class SettleStep(TypedDict):
    """One finding being settled: ``before`` is what was in the gradebook, ``after`` what is
    there now, or will be.
    """

    scope: str
    kind: str
    remedy: str
    item: str
    learner: str
    publisher: str | None
    before: str | None
    after: str | None
    words: str
    writes: bool
    state: StepState
    message: str
    done_at: str | None


class Settlement(TypedDict):
    """The same with every step."""

    id: str
    state: SettlementState
    made_by: NotRequired[str]
    made_at: str
    carried_by: NotRequired[str]
    job: Job | None
    undoes: str | None
    undone: bool
    counts: dict[str, int]
    steps: list[SettleStep]


class SettlementLine(TypedDict):
    """One settlement: how many findings came to what, and how many of them write to the
    gradebook.
    """

    id: str
    state: SettlementState
    made_by: NotRequired[str]
    made_at: str
    carried_by: NotRequired[str]
    job: Job | None
    undoes: str | None
    undone: bool
    counts: dict[str, int]


class SettlementPreview(TypedDict):
    """What would be written, step by step; ``writes`` counts those that change the gradebook.
    ``id`` is set once it is under way.
    """

    steps: list[SettleStep]
    writes: int
    settlement: SettlementLine | None


class SeveralRequest(TypedDict):
    """The shells to guess for, or the pairs to make."""

    shells: NotRequired[list[str]]
    pairs: NotRequired[list[PairRequest]]
    agree: NotRequired[bool]


class SeveralRow(TypedDict):
    """A shell with its course: guessed (``pairing`` null), paired, or refused with why."""

    shell: str
    label: str
    course: str | None
    course_name: str
    reasons: list[str]
    pairing: str | None
    refused: str


class Shell(TypedDict):
    """A shell that the user teaches, with its current pairing's id and state where there is one.
    ``copied`` says that it came from another shell and is not paired yet.
    """

    id: str
    title: str
    label: str
    timezone: str
    platform: str
    pairing: str | None
    state: ShellState
    course: str
    attention: str
    copied: bool
    ended: str | None
    opened_at: str


class ShellTool(TypedDict):
    """The tool's place as it was looked at; ``warning`` says what the change asked for would
    break, ``job`` carries it out.
    ``by_hand`` where no service is offered.
    """

    offered: bool
    on: bool | None
    navigation: bool | None
    position: int | None
    audience: str
    etag: str
    links: int
    by_hand: list[str]
    opened_at: str
    warning: str
    job: Job | None


class ShowColumnsRequest(TypedDict):
    """Which columns, all where none is named, and whether learners are to see them."""

    placements: NotRequired[list[str]]
    shown: bool


class ShownColumn(TypedDict):
    """What came of one column: ``done``, ``unknown`` where the platform has no such thing,
    ``failed`` with why.
    """

    placement: str
    title: str
    result: str
    reason: str


class SignInRequest(TypedDict):
    """Who signs in."""

    username: str
    password: str
    code: NotRequired[str]
    passkey: NotRequired[dict[str, Any]]
    session: NotRequired[bool]


class SignOutRequest(TypedDict):
    """Whether to sign out in every browser and end every token."""

    everywhere: NotRequired[bool]


class Source(TypedDict):
    """Where one side was read, and when: ``side`` is publisher, gradebook or sent."""

    side: SourceSideEnum
    name: str
    how: str
    at: str


class Started(TypedDict):
    """The rollouts that were started, one a shell."""

    rollouts: list[WholeRollout]


class Statement(TypedDict):
    """Whether the grades are ready, in a sentence, and why; what is open comes first."""

    ready: bool
    sentence: str
    lines: list[StatementLine]
    schedule: Schedule


class StatementLine(TypedDict):
    """One line: ``level`` is open, look or well.
    ``page`` is where to act, below the pairing's own address in the console.
    """

    level: StatementLevel
    what: str
    sentence: str
    remedy: str
    page: str


class Step(TypedDict):
    """One outside write of a rollout."""

    kind: str
    title: str
    state: StepState
    message: str


class Stray(TypedDict):
    """A report for an account that nobody in the shell is known to have."""

    id: str
    item: str
    account: str
    name: str
    email: str
    given: str | None
    received_at: str


class Suggestion(TypedDict):
    """A first layout, and what of it was guessed."""

    layout: str
    guesses: list[str]


class Summary(TypedDict):
    """Counts: matched learners and columns, cells with a score, cells and other findings by
    kind.
    ``open`` counts the findings of every kind that nobody keeps as they are, ``urgent`` those
    of them that are no mere notes, ``new`` those that the comparison before did not have;
    ``oldest`` is since when the oldest urgent one is open. ``roots``: single changes that
    explain many cells.
    """

    learners: int
    columns: int
    cells: int
    kinds: dict[str, int]
    others: dict[str, int]
    open: NotRequired[dict[str, int]]
    kept: NotRequired[int]
    urgent: NotRequired[int]
    safe: NotRequired[int]
    new: NotRequired[int]
    oldest: NotRequired[str | None]
    roots: NotRequired[list[Root]]


class TakeBackRequest(TypedDict):
    """Which placements, and what becomes of columns that hold scores."""

    placements: list[str]
    scores: NotRequired[TakeBackScoresEnum]
    dry_run: NotRequired[bool]


class TakenFile(TypedDict):
    """What the file holds, how many learners were matched, and how many scores are new or
    changed.
    """

    learners: int
    matched: int
    items: int
    scores: int
    changed: int
    words: str


class TakingBack(TypedDict):
    """What taking one placement back means; ``column``: none, kept, exported, removed, or asked.
    ``by_hand``: no tool can delete its link, so somebody has to in the shell.
    """

    placement: str
    title: str
    scores: int
    column: ColumnEnum
    by_hand: bool


class Target(TypedDict):
    """A link as it is to be in the shell; with a column where ``points`` is not null."""

    title: str
    points: str | None
    due_at: str
    category: str
    visible: bool
    shown_from: str
    new_window: bool


class Title(TypedDict):
    """An adopted title; ``can_create`` says whether its publisher makes a course of it here,
    ``why_not`` why it does not.
    """

    id: str
    title: str
    author: str
    isbn: str
    edition: str
    publisher: str
    can_create: bool
    why_not: str


class Today(TypedDict):
    """What needs somebody today, across all their shells, most urgent first; ``more`` needs are
    not listed. ``days`` are the last fourteen.
    """

    needs: list[Need]
    more: int
    shells: int
    live: int
    waiting: int
    days: list[Day]


class Token(TypedDict):
    """A token, shown this once; empty where a browser was signed in by its session."""

    token: str
    expires: str
    name: str


class TokenRow(TypedDict):
    """A token of one's own; its value was shown once."""

    id: str
    name: str
    scopes: list[str]
    made_at: str
    expires: str
    used_at: NotRequired[str | None]


class Travel(TypedDict):
    """One thing: whether it travels, how, and what to do by hand."""

    what: str
    travels: str
    how: str
    by_hand: str


class Travels(TypedDict):
    """The route that rollouts of this pairing take and why, and what travels between its sides."""

    route: str
    why: str
    rows: list[Travel]


class TwoFilesRequest(TypedDict):
    """Two tables of scores: tidy CSV, OneRoster 1.2 set, or wide with a layout, which is used
    for whichever is wide.
    ``form`` asks for a report, or with ``gradebook`` for the gradebook file with only the
    cells changed that ``take`` names.
    """

    publisher: str
    gradebook: str
    layout: NotRequired[str]
    class_id: NotRequired[str]
    form: NotRequired[FormEnum]
    take: NotRequired[list[TakeEnum]]


class UndoOperationRequest(TypedDict):
    """Whether only to say what undoing would do."""

    dry_run: NotRequired[bool]


class Use(TypedDict):
    """One thing that is read or written, and what for."""

    code: str
    what: str
    purpose: str


class Venn(TypedDict):
    """Left, both and right of the figure.
    ``scores_differ`` is how many in the middle do not agree.
    """

    items: list[int]
    columns: list[int]
    scores: list[int]
    scores_differ: list[int]


class WantedSectionRequest(TypedDict):
    """A shell, and the course to pair it with: left out, the one that fits; or the publisher
    makes one, of a ``title``, as a ``copy_of`` or ``section_of`` a course. Unused where the
    shell is paired already.
    """

    shell: str
    course: NotRequired[str | None]
    share: NotRequired[bool]
    title: NotRequired[str | None]
    copy_of: NotRequired[str | None]
    section_of: NotRequired[str | None]
    name: NotRequired[str]


class Watch(TypedDict):
    """How drift is met, when it was last looked for, and what was found then."""

    way: WatchWayEnum
    looked_at: str | None
    drifts: list[Drift]


class Way(TypedDict):
    """A way on for a copied shell."""

    choice: ChoiceEnum
    open: bool
    why: str
    needs: str


class WayRequest(TypedDict):
    """How drift is met from now on: ask, follow or keep."""

    way: DriftWay


class WholeRollout(TypedDict):
    """The same with every step."""

    id: str
    batch: str | None
    pairing: str
    shell: str
    purpose: PurposeEnum
    folder: str
    job: Job
    made_at: str
    failed: int
    undone: bool
    steps: list[Step]


class WishRequest(TypedDict):
    """What is wanted of one item instead of what holds for all; left out: nothing else.
    Points and date count where the publisher has none.
    """

    title: NotRequired[str]
    becomes: NotRequired[ColumnOrLink]
    points: NotRequired[str | None]
    due_at: NotRequired[str]
    category: NotRequired[str]
    visible: NotRequired[bool]
    shown_from: NotRequired[str]
    new_window: NotRequired[bool]
    folder: NotRequired[str]
    words: NotRequired[str]


class Written(TypedDict):
    """A cartridge that was written; ``package`` is where its bytes can be had, null until it is
    done.
    """

    id: str
    profile: str
    package: str | None
    filename: NotRequired[str]
    size: NotRequired[int]
    job: Job
