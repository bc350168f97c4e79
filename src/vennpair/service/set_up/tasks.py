"""The job bodies of setting up; the queue finds this module."""

from __future__ import annotations

from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.pair.actions.pair_course import SET_UP
from vennpair.service.set_up.actions.carry_out_section import carry_out_section
from vennpair.service.set_up.actions.set_up import set_up
from vennpair.service.set_up.actions.start_set_up import SECTION, UNDO_SECTION
from vennpair.service.set_up.actions.undo_section import carry_out_undoing

carries_out(SET_UP, set_up)
carries_out(SECTION, carry_out_section)
carries_out(UNDO_SECTION, carry_out_undoing)
