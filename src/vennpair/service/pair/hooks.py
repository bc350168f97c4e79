"""What pairing announces and asks, for the apps above it (kernel/hooks.py)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db.models.expressions import Combinable

from vennpair.service.kernel.hooks import Hook
from vennpair.service.pair.models import Learner, Pairing


@dataclass(frozen=True, slots=True)
class ScoresOf:
    """How many scores of a pairing the gradebook has from us, and how many are on their way."""

    sent: int
    waiting: int


# The pairing's state or its relay was changed, in the caller's transaction.
pairing_changed: Hook[[Pairing], None] = Hook()
# The ids of learners who have come (back) into their course, in the caller's transaction.
learners_returned: Hook[[Iterable[Any]], None] = Hook()
# A pairing, an account at its publisher, and the learner who has it, in the caller's transaction.
account_matched: Hook[[Pairing, str, Learner], None] = Hook()
# What scores there are of a pairing.
scores_of: Hook[[Pairing], ScoresOf] = Hook()
# The summary of the newest comparison of the pairing of an outer query, for a list of shells.
last_comparison: Hook[[], Combinable] = Hook()
