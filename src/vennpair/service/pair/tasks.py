"""Job bodies of pairing."""

from __future__ import annotations

from contextlib import suppress

from procrastinate.contrib.django import app

from vennpair.gateways.http import OutsideError
from vennpair.service.connect.models import Publisher
from vennpair.service.kernel.jobs.queue import REFRESH_COURSES
from vennpair.service.kernel.jobs.running import carries_out
from vennpair.service.pair.actions.change_tool import TOOL, carry_out_tool
from vennpair.service.pair.actions.place_first_steps import FIRST_STEPS, carry_out_first_steps
from vennpair.service.pair.actions.refresh_courses import refresh_publisher

carries_out(FIRST_STEPS, carry_out_first_steps)
carries_out(TOOL, carry_out_tool)


@app.task(name=REFRESH_COURSES, queue="jobs")
def read_courses(publisher_id: str) -> None:
    """Read a publisher's courses again.

    Where it does not answer, the next search ten minutes later asks again.
    """
    publisher = Publisher.objects.filter(pk=publisher_id, active=True).first()
    if publisher:
        with suppress(OutsideError):
            refresh_publisher(publisher)
