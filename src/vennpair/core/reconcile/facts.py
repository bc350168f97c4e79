"""What both sides and our own memory tell of a pairing, as plain values; the input of a live comparison."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal

from vennpair.core.reconcile.cells import Mark


@dataclass(frozen=True, slots=True)
class Person:
    """A learner of one side. ``key`` is that side's own id; ``subject`` the launch's subject where known."""

    key: str
    name: str
    email: str = ""
    number: str = ""
    subject: str = ""


@dataclass(frozen=True, slots=True)
class SentFact:
    """What we relayed and the platform accepted, or last refused; ``newest`` is the ledger's counting score.

    ``held`` says why the newest one may not go yet, empty where it may.
    """

    mark: Mark | None
    at: datetime | None = None
    refused: str = ""
    newest: Decimal | None = None
    held: str = ""


@dataclass(frozen=True, slots=True)
class PublisherScore:
    """The publisher's score now; ``at`` is its own time."""

    mark: Mark
    at: str = ""


@dataclass(slots=True)
class PlacedItem:
    """A placed item with its column as the platform shows it now; scores by each side's key of a learner.

    ``chosen``, by the shell's key, is what counts by a rule of ours where the publisher's own number follows another.
    """

    placement: str
    title: str
    points: Decimal | None
    due_at: str = ""
    has_column: bool = True
    column_title: str | None = None
    column_points: Decimal | None = None
    column_due: str = ""
    at_publisher: bool = True
    rounds: bool = False  # we round to the column's decimals when we send
    publisher: Mapping[str, PublisherScore] = field(default_factory=dict)
    chosen: Mapping[str, PublisherScore] = field(default_factory=dict)
    gradebook: Mapping[str, Decimal] = field(default_factory=dict)
    sent: Mapping[str, SentFact] = field(default_factory=dict)
