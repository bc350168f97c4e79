"""The job body of setting up; the queue finds this module by itself."""

from __future__ import annotations

from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.pair.actions.pair_course import SET_UP
from vennpair.service.set_up.actions.set_up import set_up

carries_out(SET_UP, set_up)
