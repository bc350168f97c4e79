"""The job bodies of this step; the queue finds this module by itself."""

from __future__ import annotations

from vennpair.service.deploy.actions.carry_out_rollout import carry_out_rollout
from vennpair.service.ops.running import carries_out

carries_out("rollout", carry_out_rollout)
