"""What both sides and our own memory tell of a pairing, as plain values.

The input of a live comparison.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from typing import Literal

from vennpair.core.content.tying import Likely
from vennpair.core.reconcile.cells import Mark

# Where the publisher's scores of an item come from in this comparison: read there, told by its own
# reports where it cannot be asked, or nobody, so that nothing is known of them.
ToldBy = Literal["publisher", "ledger", "nobody"]


@dataclass(frozen=True, slots=True)
class Person:
    """A learner of one side. ``key`` is that side's own id; ``subject`` the launch's subject where
    known.

    ``hint`` is why somebody may be on one side only, as far as the service can see it:
    ``dropped``, ``direct``, ``never_started``, ``started``, or ``other_section`` with its label in
    ``where``.
    """

    key: str
    name: str
    email: str = ""
    number: str = ""
    subject: str = ""
    hint: str = ""
    where: str = ""


@dataclass(frozen=True, slots=True)
class SentFact:
    """What we relayed and the platform accepted, or last refused; ``newest`` is the ledger's
    counting score, ``reported`` when it came.

    ``held`` says why the newest one may not go yet, empty where it may. ``settled`` says that an
    instructor sent or emptied the cell from a comparison, ``taken_back`` that the publisher's last
    report was that it has no score (AGS 2.0, 3.4.7).
    """

    mark: Mark | None
    at: datetime | None = None
    refused: str = ""
    refused_at: datetime | None = None
    newest: Decimal | None = None
    reported: datetime | None = None
    held: str = ""
    settled: bool = False
    taken_back: bool = False


@dataclass(frozen=True, slots=True)
class PublisherScore:
    """The publisher's score now; ``at`` is its own time, ``source`` where it was read."""

    mark: Mark
    at: str = ""
    source: str = "publisher"


@dataclass(slots=True)
class PlacedItem:
    """A placed item with its column as the platform shows it now; scores by each side's key of a
    learner.

    ``chosen``, by the shell's key, is what counts by a rule of ours where the publisher's own
    number follows another, or what the ledger says where the publisher cannot be read. ``in_file``:
    the gradebook was given as a file. ``category`` is what was deployed, ``column_category`` None
    where it is not known. ``told_by`` says whether ``publisher`` was read: what nobody told is not
    "no score"; ``likely`` are then the graded items that it may be.
    """

    placement: str
    title: str
    points: Decimal | None
    due_at: str = ""
    category: str = ""
    has_column: bool = True
    opened: bool = True
    column_title: str | None = None
    column_points: Decimal | None = None
    column_due: str = ""
    column_category: str | None = None
    at_publisher: bool = True
    told_by: ToldBy = "publisher"
    likely: tuple[Likely, ...] = ()
    in_file: bool = False
    resource_link: str = ""
    rounds: bool = False  # we round to the column's decimals when we send
    publisher: Mapping[str, PublisherScore] = field(default_factory=dict)
    chosen: Mapping[str, PublisherScore] = field(default_factory=dict)
    gradebook: Mapping[str, Decimal] = field(default_factory=dict)
    sent: Mapping[str, SentFact] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class LooseColumn:
    """A column of the gradebook that no placement claims.

    ``resource`` and ``link`` are the ids that it carries (AGS 2.0, 3.2).
    """

    url: str
    title: str
    resource: str = ""
    link: str = ""
