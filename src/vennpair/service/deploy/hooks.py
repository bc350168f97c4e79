"""What deploying announces, for the apps above it (kernel/hooks.py)."""

from __future__ import annotations

from vennpair.service.content.models import Placement
from vennpair.service.kernel.hooks import Hook

# A placement has a column that was not known before, and its scores may go; in the caller's
# transaction.
column_known: Hook[[Placement], None] = Hook()
# A placement has a new, empty column, in the caller's transaction.
column_made: Hook[[Placement], None] = Hook()
