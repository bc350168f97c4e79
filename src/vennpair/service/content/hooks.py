"""What content announces, for the apps above it (kernel/hooks.py)."""

from __future__ import annotations

from vennpair.service.kernel.hooks import Hook
from vennpair.service.pair.models import Pairing

# Due dates of a pairing's items or links are others than before; in the caller's transaction.
dates_moved: Hook[[Pairing], None] = Hook()
