"""A link that was written (into a cartridge, or an answer to the platform) is opened for the first
time: now it is known where it is.
"""

from __future__ import annotations

import logging
from datetime import timedelta
from decimal import Decimal
from uuid import UUID, uuid4

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from vennpair.core.deploy.dates import in_zone
from vennpair.gateways.http import OutsideError
from vennpair.service.content.models import Placement
from vennpair.service.deploy.hooks import column_known
from vennpair.service.deploy.models import ColumnClaim
from vennpair.service.deploy.step_handlers import TAG
from vennpair.service.kernel.errors import Refused
from vennpair.service.pair.actions.go_live import go_live
from vennpair.service.pair.consent import shell_gateway
from vennpair.service.pair.trail import record
from vennpair.standards.lti import vocabulary as v
from vennpair.standards.lti.grades import LineItem
from vennpair.standards.lti.launch import Launch

log = logging.getLogger(__name__)

LEFT = timedelta(seconds=60)  # whoever has not made its column by then is gone
AGAIN = timedelta(seconds=10)  # after a platform refused, the next click that long after tries


def claim_written(placement: Placement, message: Launch) -> None:
    """Note link and column of a placement that waited for its first launch.

    One that is there already is left as it is. Of many first clicks at once one makes the column
    (``ColumnClaim``); no other waits for it: the publisher is given our address for its scores,
    which is there whether the column is or not, and they go on once it is. A click that waited
    would hold a thread that the platform needs to fetch our keys.
    """
    with transaction.atomic():
        found = (
            Placement.objects.select_for_update(no_key=True)
            .select_related("pairing__shell__platform")
            .get(pk=placement.pk)
        )
        if found.state == Placement.State.WRITTEN:
            _note_placed(found, message)
        claim = _taken(found, message)
    if claim:
        _make(found, message, claim)
    placement.refresh_from_db()


def _note_placed(found: Placement, message: Launch) -> None:
    found.state, found.resource_link_id = Placement.State.PLACED, message.resource_link_id
    found.save(update_fields=["state", "resource_link_id"])
    go_live(found.pairing, "with the first link of a written cartridge that was opened")
    record(
        "link.claimed",
        f"'{found.title}' is in the shell now: its link from a written cartridge was opened.",
        pairing=found.pairing,
    )


def _taken(found: Placement, message: Launch) -> UUID | None:
    """Take the making of the column; None where there is one, it is not to be made, or another
    click makes it. The caller holds the placement.
    """
    if found.column_url or found.state != Placement.State.PLACED or found.points is None:
        return None
    if message.grades and message.grades.lineitem:
        _has_column(found, message.grades.lineitem)
        return None
    if not _may_make(found):
        return None
    mine, now = uuid4(), timezone.now()
    made = ColumnClaim(placement=found, holder=mine, begun_at=now)
    ColumnClaim.objects.bulk_create([made], ignore_conflicts=True)
    left = Q(failed_at=None, begun_at__lt=now - LEFT) | Q(failed_at__lt=now - AGAIN)
    ColumnClaim.objects.filter(left, placement=found).update(
        holder=mine, begun_at=now, failed_at=None
    )
    return mine if ColumnClaim.objects.filter(placement=found, holder=mine).exists() else None


def _may_make(placement: Placement) -> bool:
    shell = placement.pairing.shell
    return bool(shell.lineitems_url) and v.SCOPE_LINE_ITEM in shell.scopes


def _has_column(found: Placement, column: str) -> None:
    """Note the column in the caller's transaction; scores that came before it go there."""
    Placement.objects.filter(pk=found.pk, column_url="").update(column_url=column)
    ColumnClaim.objects.filter(placement=found).delete()
    column_known(found)


def _make(placement: Placement, message: Launch, claim: UUID) -> None:
    """Make the column that goes with the link, where the platform made none automatically.

    Without one the link still opens, and a later click tries again.
    """
    shell = placement.pairing.shell
    wanted = LineItem(
        placement.title,
        Decimal(placement.points or 0).normalize(),
        "",
        str(placement.pk),
        message.resource_link_id,
        TAG,
        placement.shown_from,
        in_zone(placement.due_at, shell.zone),
    )
    try:
        column = shell_gateway(shell).ensure_line_item(shell.lineitems_url, wanted).id
    except (OutsideError, Refused) as error:
        log.warning("no column for placement %s at its first launch: %s", placement.pk, error)
        ColumnClaim.objects.filter(placement=placement, holder=claim).update(
            failed_at=timezone.now()
        )
        return
    with transaction.atomic():
        _has_column(placement, column)
