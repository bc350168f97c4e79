"""Leave a note on a cell, or take it away."""

from __future__ import annotations

from django.db import transaction

from vennpair.service.connect.models import User
from vennpair.service.content.models import Placement
from vennpair.service.pair.models import Learner, Pairing
from vennpair.service.pair.queries import require_instructor
from vennpair.service.pair.trail import record
from vennpair.service.reconcile.models import Note


def leave_note(
    pairing: Pairing, placement: Placement, learner: Learner, text: str, actor: User
) -> Note:
    """Leave a note; whoever sees the cell may."""
    with transaction.atomic():
        made = Note.objects.create(
            pairing=pairing, placement=placement, learner=learner, text=text.strip(), author=actor
        )
        record(
            "note.left",
            f"A note was left on {learner.name}, {placement.title}.",
            pairing=pairing,
            actor=actor,
            after={"text": made.text},
        )
    return made


def take_note_away(note: Note, actor: User) -> None:
    """Take a note away: its author, or an instructor. Raises Refused."""
    if note.author_id != actor.pk:
        require_instructor(actor, note.pairing.shell)
    with transaction.atomic():
        record(
            "note.removed",
            f"A note on {note.learner.name}, {note.placement.title} was taken away.",
            pairing=note.pairing,
            actor=actor,
            before={"text": note.text},
        )
        note.delete()
