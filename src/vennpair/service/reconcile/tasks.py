"""The job bodies of this step; the queue finds this module by itself."""

from __future__ import annotations

from vennpair.service.ops.running import carries_out
from vennpair.service.reconcile.actions.carry_out_settling import carry_out_settling
from vennpair.service.reconcile.actions.compare_pairing import compare_pairing
from vennpair.service.reconcile.actions.start_settling import SETTLE

carries_out("comparison", compare_pairing)
carries_out(SETTLE, carry_out_settling)
