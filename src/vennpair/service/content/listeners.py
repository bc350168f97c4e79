"""What content does where a lower app asks."""

from __future__ import annotations

from vennpair.service.content.delivery_kind import DeliveryKind, TakingOutKind
from vennpair.service.content.endings import of_delivery, of_import
from vennpair.service.content.purging import delete_spent_packages
from vennpair.service.kernel.jobs.telling import tells_of
from vennpair.service.kernel.purging import delete_spent
from vennpair.service.operations.kinds import register


def listen() -> None:
    """Listen to what concerns packages."""
    delete_spent.listen(delete_spent_packages)
    register(DeliveryKind(), TakingOutKind())
    tells_of("import", of_import)
    tells_of(DeliveryKind.name, of_delivery)
