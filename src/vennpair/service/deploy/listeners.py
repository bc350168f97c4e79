"""What deploying does where a lower app asks."""

from __future__ import annotations

from vennpair.service.deploy.actions.check_as_learner import CHECK
from vennpair.service.deploy.endings import of_check, of_rollout
from vennpair.service.deploy.purging import delete_spent_exports
from vennpair.service.deploy.rollout_kind import RolloutKind
from vennpair.service.deploy.totals_kind import TotalsKind
from vennpair.service.kernel.jobs.telling import tells_of
from vennpair.service.kernel.purging import delete_spent
from vennpair.service.operations.kinds import register


def listen() -> None:
    """Listen to what concerns exports and pickings."""
    delete_spent.listen(delete_spent_exports)
    register(RolloutKind(), TotalsKind())
    tells_of(RolloutKind.name, of_rollout)
    tells_of(CHECK, of_check)
