"""The job bodies of this step; the queue finds this module by itself."""

from __future__ import annotations

from vennpair.service.ops.running import carries_out
from vennpair.service.reconcile.actions.compare_pairing import compare_pairing

carries_out("comparison", compare_pairing)
