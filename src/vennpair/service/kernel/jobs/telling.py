"""Telling whoever began something that it has ended, and what to do now."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from vennpair.service.kernel.audit.notify import notify
from vennpair.service.kernel.jobs.models import UNFINISHED, Job


@dataclass(frozen=True, slots=True)
class Ending:
    """Where the console shows what has ended, what to do next where it went well, and what was
    done, where the job's own words leave that open.
    """

    link: str
    following: str = ""
    what: str = ""


Tells = Callable[[Job], Ending | None]
_tells: dict[str, Tells] = {}
_parts: list[Callable[[Job], bool]] = []
MOST_NAMED = 3  # of jobs that were asked for together


def tells_of(kind: str, ending: Tells) -> None:
    """Let the end of each job of a kind be told, unless ``ending`` says of one that it is not worth
    it.
    """
    _tells[kind] = ending


def parts_are(is_part: Callable[[Job], bool]) -> None:
    """Let nothing be told of jobs that are part of something which tells of itself."""
    _parts.append(is_part)


def others_of(job: Job) -> list[Job]:
    """Return the jobs of the same kind that were asked for together with this one, locked in one
    order, so that of two which end at once only one is the last. Call it inside the transaction.
    """
    if job.batch is None:
        return []
    together = Job.objects.filter(batch=job.batch, kind=job.kind).order_by("pk")
    locked = together.select_for_update(of=("self",), no_key=True)
    return [each for each in locked.select_related("pairing__shell") if each.pk != job.pk]


def tell(job: Job, others: list[Job]) -> bool:
    """Leave a notice where a job has ended and was the last of those asked for together; in the
    transaction that ends it. Say whether its end is told, now or with the last one.
    """
    ending = _tells[job.kind](job) if job.kind in _tells and job.made_by is not None else None
    if ending is None or any(is_part(job) for is_part in _parts):
        return False
    if any(each.state in UNFINISHED for each in others):
        return True
    every = sorted([*others, job], key=_name)
    sentences = [_sentence(each, ending.what) for each in every]
    well = all(each.state == Job.State.DONE for each in every)
    following = f" {ending.following}" if well and ending.following else ""
    said, more = " ".join(sentences[:MOST_NAMED]), len(sentences) - MOST_NAMED
    if more > 0:
        said = f"{said} And {more} more."
    body = "\n".join([*sentences, following.strip()])
    notify(job.made_by, f"{said}{following}", ending.link, job.pairing, body)
    return True


def _name(job: Job) -> str:
    return str(job.pairing.shell.label or job.pairing.shell.title)


def _sentence(job: Job, what: str) -> str:
    done = f"{what}: " if what and job.state == Job.State.DONE else ""
    words = f"{_name(job)}: {done}{job.message.rstrip('.')}."
    return f"{words} {job.remedy}" if job.remedy else words
