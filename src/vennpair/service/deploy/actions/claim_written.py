"""A link from a written cartridge is opened for the first time: now it is known where it stands."""

from __future__ import annotations

import logging

from django.db import transaction

from vennpair.gateways.http import OutsideError
from vennpair.service.activity.audit import record
from vennpair.service.api.refusals import Refused
from vennpair.service.deploy.carrying import TAG
from vennpair.service.deploy.models import Placement
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.lti.launch import Launch

log = logging.getLogger(__name__)


def claim_written(placement: Placement, message: Launch) -> None:
    """Note link and column of a placement that waited for its first launch.

    One that stands already is left as it is.
    """
    column = message.grades.lineitem if message.grades else ""
    if not column and placement.state == Placement.State.WRITTEN and placement.points is not None:
        column = _make_column(placement, message)
    with transaction.atomic():
        found = (
            Placement.objects.select_for_update(no_key=True)
            .select_related("pairing__shell__platform")
            .get(pk=placement.pk)
        )
        if found.state != Placement.State.WRITTEN:
            return
        Placement.objects.filter(pk=found.pk).update(
            state=Placement.State.PLACED,
            resource_link_id=message.resource_link_id,
            column_url=column,
        )
        go_live(found.pairing, "with the first link of a written cartridge that was opened")
        record(
            "link.claimed",
            f"'{found.title}' stands in the shell now: its link from a written cartridge was"
            " opened.",
            pairing=found.pairing,
            after={"column": column},
        )
    placement.refresh_from_db()


def _make_column(placement: Placement, message: Launch) -> str:
    """Make the column that goes with the link, where the platform made none by itself.

    Without one the link still opens.
    """
    shell = placement.pairing.shell
    if not shell.lineitems_url or v.SCOPE_LINE_ITEM not in shell.scopes or placement.points is None:
        return ""
    wanted = LineItem(
        placement.title,
        placement.points.normalize(),
        "",
        str(placement.pk),
        message.resource_link_id,
        TAG,
        placement.shown_from,
        placement.due_date,
    )
    try:
        return shell_gateway(shell).ensure_line_item(shell.lineitems_url, wanted).id
    except (OutsideError, Refused):
        log.warning("the column of placement %s was not made at its first launch", placement.pk)
        return ""
