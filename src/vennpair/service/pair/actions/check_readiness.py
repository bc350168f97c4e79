"""Check what a pairing needs, now: services, the publisher, learners, dates, titles."""

from __future__ import annotations

from vennpair.core.pair.readiness import Check, PairingFacts, readiness
from vennpair.gateways.http import OutsideError
from vennpair.service.connect.outside import publisher_gateway
from vennpair.service.pair.actions.refresh_roster import refresh_roster
from vennpair.service.pair.models import Pairing
from vennpair.standards.lti import vocabulary as v


def check_readiness(pairing: Pairing) -> list[Check]:
    """Return all checks; a side that does not answer is itself a finding, not an error."""
    shell = pairing.shell
    items = list(pairing.items.filter(kind="graded", gone=False))
    strangers, answers, roster = _strangers(pairing)
    return readiness(
        PairingFacts(
            can_read_roster=roster,
            can_write_columns=bool(shell.lineitems_url) and v.SCOPE_LINE_ITEM in shell.scopes and v.SCOPE_SCORE in shell.scopes,
            can_write_outline=bool(shell.outline_url) and v.SCOPE_OUTLINE in shell.scopes,
            shell_zone=shell.timezone,
            publisher_answers=answers,
            strangers=strangers,
            item_titles=tuple(item.title for item in items),
            undated=tuple(item.shown_title for item in items if not item.due_date),
        )
    )


def _strangers(pairing: Pairing) -> tuple[tuple[str, ...], bool, bool]:
    """Return who is registered at the publisher under an unknown address, and whether each side answered."""
    try:
        known = {learner.email.casefold() for learner in refresh_roster(pairing.shell)} if pairing.shell.memberships_url else set()
        roster = bool(pairing.shell.memberships_url)
    except OutsideError:
        known, roster = set(), False
    try:
        students = publisher_gateway(pairing.course.publisher).students(pairing.course.sourced_id)
    except OutsideError:
        return (), False, roster
    unknown = tuple(f"{each.given_name} {each.family_name}" for each in students if each.email.casefold() not in known and not each.lti_sub)
    return (unknown if roster else ()), True, roster
