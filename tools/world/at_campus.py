"""What tests and the demo ask of the campus and change in it past its network interface.

Titles and labels find every entry or column of the shell that has them.
"""

from __future__ import annotations

from typing import Any

from tools.world.inside import inside

Row = dict[str, Any]


@inside("campus")
def outline(context_id: str) -> list[Row]:
    """Return the entries of a shell in reading order: title, kind, depth, the folder's title,
    what learners see and when, the placement that a link of ours carries, its HTML and its version.
    """
    from vennpair.standins.campus.lti.outline import in_order
    from vennpair.standins.campus.models import Shell

    rows = in_order(Shell.objects.get(context_id=context_id))
    titles = {node.pk: node.title for node, _ in rows}
    return [
        {
            "key": node.key,
            "title": node.title,
            "kind": node.kind,
            "depth": depth,
            "folder": titles.get(node.parent_id or 0, ""),
            "visible": node.visible,
            "shown_from": node.shown_from,
            "due": node.due_at,
            "window": node.new_window,
            "placement": node.custom.get("placement", ""),
            "custom": node.custom,
            "level": node.level,
            "body": node.body,
            "version": node.version,
        }
        for node, depth in rows
    ]


@inside("campus")
def columns(context_id: str) -> list[Row]:
    """Return a gradebook's columns in its order: title, points as text, times, category, link."""
    from vennpair.standins.campus.models import Column

    found = Column.objects.filter(shell__context_id=context_id)
    return [
        {
            "title": column.label,
            "points": f"{column.maximum.normalize():f}",
            "start": column.start,
            "end": column.end,
            "category": column.category.title if column.category else "",
            "link": column.link.title if column.link else "",
        }
        for column in found.select_related("category", "link")
    ]


@inside("campus")
def scores(context_id: str, label: str = "") -> dict[tuple[str, str], str]:
    """Return every score that is there, as text, by learner's address and column's title."""
    from vennpair.standins.campus.models import Cell

    cells = Cell.objects.filter(column__shell__context_id=context_id).exclude(score=None)
    return {
        (cell.person.email, cell.column.label): str(cell.score)
        for cell in cells.select_related("person", "column")
        if label in {"", cell.column.label}
    }


@inside("campus")
def files(context_id: str) -> int:
    """Return how many files a shell keeps."""
    from vennpair.standins.campus.models import StoredFile

    return StoredFile.objects.filter(shell__context_id=context_id).count()


@inside("campus")
def edit_entry(context_id: str, title: str, /, **changes: Any) -> int:
    """Change entries as their editor would (their version moves on); return how many."""
    from django.db.models import F

    from vennpair.standins.campus.models import Node

    found = Node.objects.filter(shell__context_id=context_id, title=title)
    return int(found.update(**changes, version=F("version") + 1))


@inside("campus")
def mark_used(context_id: str, title: str) -> None:
    """A learner has opened it, which changes nothing else."""
    from vennpair.standins.campus.models import Node

    Node.objects.filter(shell__context_id=context_id, title=title).update(used=True)


@inside("campus")
def swap_links(context_id: str, one: str, two: str) -> None:
    """Let two links change their resource link ids."""
    from vennpair.standins.campus.models import Node

    first = Node.objects.get(shell__context_id=context_id, title=one)
    second = Node.objects.get(shell__context_id=context_id, title=two)
    first.resource_link_id, second.resource_link_id = (
        second.resource_link_id,
        first.resource_link_id,
    )
    first.save()
    second.save()


@inside("campus")
def change_entry(context_id: str, title: str, /, **changes: Any) -> None:
    """Change entries behind their version, which does not move on."""
    from vennpair.standins.campus.models import Node

    Node.objects.filter(shell__context_id=context_id, title=title).update(**changes)


@inside("campus")
def turn_round(context_id: str, what: str) -> None:
    """Turn the order of a shell's ``links`` or ``columns`` round."""
    from vennpair.standins.campus.models import Column, Node

    links = Node.objects.filter(shell__context_id=context_id, kind="lti_link")
    columns = Column.objects.filter(shell__context_id=context_id)
    if what == "links":
        for place, node in enumerate(links.order_by("-position")):
            Node.objects.filter(pk=node.pk).update(position=place)
    else:
        for place, column in enumerate(columns.order_by("-position")):
            Column.objects.filter(pk=column.pk).update(position=place)


@inside("campus")
def delete_entries(context_id: str, title: str, kind: str = "") -> int:
    """Delete entries with all in them, as the campus does it; return how many were found."""
    from vennpair.standins.campus.lti.outline import delete_node
    from vennpair.standins.campus.models import Node

    found = Node.objects.filter(shell__context_id=context_id, title=title)
    rows = list(found.filter(kind=kind) if kind else found)
    for node in rows:
        delete_node(node)
    return len(rows)


@inside("campus")
def add_entry(
    context_id: str, kind: str, title: str, *, folder: str = "", body: str = "", position: int = 0
) -> None:
    """Add an entry by hand, in a folder or at the top."""
    from vennpair.standins.campus.models import Node, Shell

    shell = Shell.objects.get(context_id=context_id)
    parent = Node.objects.get(shell=shell, title=folder) if folder else None
    Node.objects.create(
        shell=shell, parent=parent, kind=kind, title=title, body=body, position=position
    )


@inside("campus")
def change_column(context_id: str, label: str, /, **changes: Any) -> int:
    """Change columns; return how many. A category is given by its title, empty for none."""
    from vennpair.standins.campus.models import Category, Column, Shell

    if "category" in changes:
        shell, title = Shell.objects.get(context_id=context_id), changes.pop("category")
        changes["category"] = (
            Category.objects.get_or_create(shell=shell, title=title)[0] if title else None
        )
    return int(Column.objects.filter(shell__context_id=context_id, label=label).update(**changes))


@inside("campus")
def delete_column(context_id: str, label: str) -> None:
    """Delete columns with their scores."""
    from vennpair.standins.campus.models import Column

    Column.objects.filter(shell__context_id=context_id, label=label).delete()


@inside("campus")
def add_column(context_id: str, label: str, maximum: str, *, resource_id: str = "") -> None:
    """Add a column by hand, which belongs to no link."""
    from vennpair.standins.campus.models import Column, Shell

    shell = Shell.objects.get(context_id=context_id)
    Column.objects.create(shell=shell, label=label, maximum=maximum, resource_id=resource_id)


@inside("campus")
def type_scores(context_id: str, rows: list[tuple[str, str, str | None]]) -> None:
    """Type scores by hand: learner's address, column's title, score (None empties the cell).

    Of two columns of one title, the one that was there first is meant.
    """
    from decimal import Decimal

    from django.utils import timezone

    from vennpair.standins.campus.models import Cell, Column, Person

    for email, label, score in rows:
        found = Column.objects.filter(shell__context_id=context_id, label=label).order_by("id")
        typed = {
            "score": None if score is None else Decimal(score),
            "by_hand": True,
            "timestamp": timezone.now(),
        }
        person = Person.objects.get(email=email)
        Cell.objects.update_or_create(column=found[0], person=person, defaults=typed)


@inside("campus")
def enrol(context_id: str, email: str, given_name: str, family_name: str) -> None:
    """Enrol a learner, registered at the college first where they are new."""
    from vennpair.standins.campus.models import Enrolment, Person, Shell

    name = {"given_name": given_name, "family_name": family_name}
    person, _ = Person.objects.get_or_create(email=email, defaults=name)
    shell = Shell.objects.get(context_id=context_id)
    Enrolment.objects.create(shell=shell, person=person, role="learner")


@inside("campus")
def end_enrolments(context_id: str, email: str = "") -> None:
    """Take learners out of a shell: one, or all."""
    from vennpair.standins.campus.models import Enrolment

    found = Enrolment.objects.filter(shell__context_id=context_id, role="learner")
    (found.filter(person__email=email) if email else found).delete()


@inside("campus")
def change_enrolment(context_id: str, email: str, /, **changes: Any) -> None:
    """Change somebody's part in a shell: role, active."""
    from vennpair.standins.campus.models import Enrolment

    found = Enrolment.objects.filter(shell__context_id=context_id, person__email=email)
    found.update(**changes)


@inside("campus")
def change_person(email: str, /, **changes: Any) -> None:
    """Change what the college knows of somebody."""
    from vennpair.standins.campus.models import Person

    Person.objects.filter(email=email).update(**changes)


@inside("campus")
def forget_histories(context_id: str) -> None:
    """Let a copied shell not know from where it and its links were copied."""
    from vennpair.standins.campus.models import Node, Shell

    Shell.objects.filter(context_id=context_id).update(history="")
    Node.objects.filter(shell__context_id=context_id).update(link_history="")


@inside("campus")
def add_shell(label: str) -> dict[str, str]:
    """Make a shell with six learners; return ``context_id``, ``label`` and a ``learner``."""
    from vennpair.standins.campus.sample import add_trial_shell

    return add_trial_shell(label)


@inside("campus")
def begin_import(context_id: str, cartridge: bytes, seconds: float) -> str:
    """Begin to import a cartridge that takes so many seconds; return its key."""
    from django.core.files.uploadedfile import SimpleUploadedFile

    from vennpair.standins.campus.lti.imports import begin_import
    from vennpair.standins.campus.models import Shell

    file = SimpleUploadedFile("slow.imscc", cartridge)
    return begin_import(Shell.objects.get(context_id=context_id), file, seconds).key


@inside("campus")
def copy_shell(source: str, target: str) -> None:
    """Copy a shell's content into another, as a platform does between terms."""
    from vennpair.standins.campus.models import Shell
    from vennpair.standins.campus.sample import copy_content

    copy_content(Shell.objects.get(context_id=source), Shell.objects.get(context_id=target))
