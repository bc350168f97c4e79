"""A link from a written cartridge is opened for the first time: now it is known where it stands."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.activity.audit import record
from vennpair.service.deploy.models import Placement
from vennpair.service.pair.actions.go_live import go_live
from vennpair.standards.lti.launch import Launch


def claim_written(placement: Placement, message: Launch) -> None:
    """Note link and column of a placement that waited for its first launch; one that stands already is left as it is."""
    with transaction.atomic():
        found = Placement.objects.select_for_update().select_related("pairing__shell__platform").get(pk=placement.pk)
        if found.state != Placement.State.WRITTEN:
            return
        column = message.grades.lineitem if message.grades else ""
        Placement.objects.filter(pk=found.pk).update(state=Placement.State.PLACED, resource_link_id=message.resource_link_id, column_url=column)
        go_live(found.pairing, "with the first link of a written cartridge that was opened")
        record("link.claimed", f"'{found.title}' stands in the shell now: its link from a written cartridge was opened.", pairing=found.pairing, after={"column": column})
    placement.refresh_from_db()
