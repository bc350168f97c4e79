"""Take back what a set-up did in a section."""

from __future__ import annotations

from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.deploy.actions.average_column import remove_average
from vennpair.service.deploy.models import Step
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.operations.kinds import kind_of
from vennpair.service.pair.actions.change_pairing import change_state, turn_relay
from vennpair.service.pair.models import Pairing
from vennpair.service.set_up.actions.section_parts import placed_of, run_part, section_of
from vennpair.service.set_up.models import Section


def carry_out_undoing(job: Job) -> str:
    """Take back what the set-up did in a section, in the opposite order. Where links stay, as
    learners have worked on them, the relay and the pairing stay too: scores go on.

    Raises OutsideError, Refused.
    """
    section = section_of(job.undoes) if job.undoes else Section.objects.get(undoing=job)
    pairing, actor = section.paired, section.set_up.made_by
    stays = 0
    for part in (section.tool, section.page):
        stays += _undo(part, actor)
    stays += _remove_total(section, actor)
    for part in (section.bringing, section.taking, section.mending, section.placing):
        stays += _undo(part, actor)
    everything = pairing.placements.placed().count() if section.paired_here else 0
    if links := everything or len(placed_of(section)):
        return (
            f"{many(links, 'link stays', 'links stay')} in {section.name}, as learners have worked"
            " there or somebody placed them since; so its relay and its pairing stay too"
        )
    if section.relay_turned and pairing.relay_on:
        turn_relay(pairing, False, actor)
    if section.paired_here and pairing.state != Pairing.State.ENDED:
        change_state(pairing, Pairing.State.ENDED, actor)
    words = f"{section.name} is as it was before the set-up"
    return (
        f"{words}, except {many(stays, 'part')} that stays: see the operations" if stays else words
    )


def _remove_total(section: Section, actor: User) -> int:
    """Take the column with a total back, unless it holds scores; return how many stay."""
    if section.total is None:
        return 0
    try:
        remove_average(section.total, actor)
    except Refused as refused:
        if refused.code != "has_scores":
            raise
        return 1
    return 0


def _undo(part: Job | None, actor: User) -> int:
    """Undo one part; return how many of its writes stay."""
    if part is None:
        return 0
    undone = part.undone_by.exclude(state=Job.State.FAILED).first()
    kind = kind_of(part)
    if undone is None:
        if not kind.steps(part).filter(state=Step.State.DONE).exists():
            return 0
        try:
            undone = kind.undo(part, actor)
        except Refused as refused:
            if refused.code in {"nothing_to_do", "not_undone"}:
                return 1
            raise
    run_part(undone)
    return kind.steps(undone).exclude(state=Step.State.DONE).count()
