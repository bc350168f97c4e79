"""Write chosen entries as a cartridge whose tool links point to our placements, for a platform that
imports files.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator, Sequence
from contextlib import ExitStack
from dataclasses import asdict
from typing import IO, Any

from django.db import transaction

from vennpair.core.content.choose import choose
from vennpair.core.counting import many
from vennpair.service.connect.models import User
from vennpair.service.content.actions.plan_delivery import Order, becomes_column, wish_of
from vennpair.service.content.matching_context import OWN_LAUNCH
from vennpair.service.content.models import Entry, Import, Package, Placement, Written
from vennpair.service.content.package_view import PackageView, view
from vennpair.service.content.pages import clean, member_of, references
from vennpair.service.content.storage import spooled, store_stream
from vennpair.service.kernel.errors import Refused
from vennpair.service.kernel.jobs.models import Job
from vennpair.service.kernel.jobs.running import start_job, step_done
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.standards.cartridge.writer import THIN_KINDS, Member, write_cartridge
from vennpair.standards.cartridge.writer import Entry as Line

WRITE = "write"
PIECE = 1_000_000


def start_writing(made: Import, order: Order, profile: str, actor: User) -> Written:
    """Enqueue the writing.

    Raises Refused where nothing is chosen or nothing of it fits the profile.
    """
    require_instructor(actor, made.pairing.shell)
    if not _chosen(made, order, profile):
        raise Refused(
            "nothing_chosen",
            "Nothing that was chosen can be written"
            + (" in a thin cartridge, which holds links only." if profile == "thin" else "."),
            "Choose entries, folders, kinds or words, or everything.",
            422,
        )
    with transaction.atomic():
        job = start_job(WRITE, made.pairing, actor, 2)
        written = Written.objects.create(
            import_of=made, job=job, profile=profile, order=asdict(order)
        )
        record(
            "cartridge.writing",
            f"A {profile} cartridge of '{made.title}' is being written.",
            pairing=made.pairing,
            actor=actor,
        )
    return written


def carry_out_writing(job: Job) -> str:
    """Write the file; done again it is written again, with the same placements."""
    job.done, job.total = 0, 2
    written = Written.objects.select_related(
        "import_of__pairing__shell", "import_of__package", "import_of__pairing__course"
    ).get(job=job)
    made = written.import_of
    entries = _chosen(
        made,
        Order(
            **{  # type: ignore[arg-type]  # as it was stored, field by field
                name: tuple(value) if isinstance(value, list) else value
                for name, value in written.order.items()
            }
        ),
        written.profile,
    )
    placements = _placements(made, entries)
    step_done(job, "writing the file")
    name = f"{made.pairing.course.code or 'course'}-{written.profile}.imscc".replace(
        " ", "-"
    ).replace("/", "-")
    package = Package.objects.create(pairing=made.pairing, made_by=job.made_by, filename=name)
    with ExitStack() as stack:
        source = (
            stack.enter_context(view(stack.enter_context(spooled(made.package))))
            if made.package
            else None
        )
        target = stack.enter_context(tempfile.TemporaryFile())
        lines = [_line(entry, placements, source) for entry in entries]
        write_cartridge(
            target,
            f"vennpair-{made.pairing_id}",
            made.title or made.pairing.course.title,
            made.language or "und",
            lines,
            "thin" if written.profile == "thin" else "full",
        )
        target.seek(0)
        store_stream(package, _pieces(target))
    with transaction.atomic():
        Written.objects.filter(pk=written.pk).update(package=package)
        step_done(job)
        links = sum(entry.kind == "lti_link" for entry in entries)
        words = (
            f"{many(len(entries), 'entry', 'entries')}, {links} of them links to Venn Pair,"
            f" {package.size:,} bytes"
        )
        record(
            "cartridge.written",
            f"A {written.profile} cartridge was written: {words}.",
            pairing=made.pairing,
            actor=job.made_by,
        )
    return words


def _chosen(made: Import, order: Order, profile: str) -> list[Entry]:
    """Return the entries to write: what was chosen, can be brought in and fits the profile.

    Folders only where something is in them.
    """
    entries = list(made.entries.select_related("item__placement"))
    wish = wish_of(order, entries)
    wanted = set() if wish.empty else choose(entries, wish).wanted
    kept = [
        each
        for each in entries
        if each.position in wanted
        and not each.blocked
        and (profile != "thin" or each.kind in THIN_KINDS)
        and (each.kind != "lti_link" or each.item is not None)
    ]
    holding: set[int] = set()
    for each in reversed(kept):
        if each.parent >= 0 and (each.kind != "folder" or each.position in holding):
            holding.add(each.parent)
    return [each for each in kept if each.kind != "folder" or each.position in holding]


def _placements(made: Import, entries: Sequence[Entry]) -> dict[Any, str]:
    """Return the placement of each item whose link is written.

    One that is in the shell already is written again as it is.
    """
    found: dict[Any, str] = {}
    with transaction.atomic():
        for entry in entries:
            if entry.kind != "lti_link":
                continue
            column = becomes_column(entry)
            facts = {
                "pairing": made.pairing,
                "title": entry.shown_title,
                "state": Placement.State.WRITTEN,
                "points": entry.points if column else None,
                "due_at": entry.due_at if column else "",
            }
            placement, _ = Placement.objects.get_or_create(item=entry.item, defaults=facts)
            if placement.state in {Placement.State.PLANNED, Placement.State.FAILED}:
                Placement.objects.filter(pk=placement.pk).update(**facts)
            found[entry.item_id] = str(placement.pk)
    return found


def _line(entry: Entry, placements: dict[Any, str], source: PackageView | None) -> Line:
    """Return an entry as the writer takes it."""
    facts: dict[str, Any] = {
        "id": f"e{entry.position}",
        "title": entry.shown_title,
        "kind": entry.kind,
        "depth": entry.depth,
        "audience": entry.audience,
    }
    if entry.kind == "lti_link":
        return Line(**facts, url=OWN_LAUNCH, custom={"placement": placements[entry.item_id]})
    if entry.kind == "web_link":
        return Line(**facts, url=entry.url, new_window=entry.new_window)
    if entry.kind == "folder":
        return Line(**facts)
    if source is None:
        raise Refused(
            "package_gone",
            "The package's bytes are no longer stored, and pages and files come from it.",
            "Import it again, or write a thin cartridge.",
            410,
        )
    if entry.kind in {"page", "file"}:
        return Line(**facts, files=tuple(_members(entry, source)))
    if entry.kind in {"discussion", "assignment"}:
        return Line(
            **facts,
            html=clean(source.descriptor(entry).text, lambda _: None),
            points=entry.points if entry.kind == "assignment" else None,
        )
    return Line(**facts, xml=source.raw(entry.member))


def _members(entry: Entry, source: PackageView) -> Iterator[Member]:
    """Yield an entry's own file first, then what it names or links to."""
    paths = [entry.member, *entry.files]
    if entry.kind == "page":
        paths += [member_of(each, entry.member) for each in references(source.page(entry.member))]
    for member in dict.fromkeys(found for path in paths if (found := source.find(path))):
        yield Member(member, lambda member=member: source.stream(member))  # type: ignore[misc]


def _pieces(target: IO[bytes]) -> Iterator[bytes]:
    while piece := target.read(PIECE):
        yield piece
