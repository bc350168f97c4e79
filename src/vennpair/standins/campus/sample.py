"""The campus's sample data: three sections, last term's shell and its copy."""

from __future__ import annotations

from urllib.parse import quote

from vennpair.standins import tarnfield as t
from vennpair.standins.campus.lti.outline import in_order
from vennpair.standins.campus.models import (
    Column,
    Enrolment,
    Node,
    Person,
    Shell,
    SigningKey,
    new_id,
)
from vennpair.standins.keys import signing_key

UNITS = (
    "Week 1: Where rivers begin",
    "Week 2: Flow and channels",
    "Week 3: Sediment",
    "Week 4: Groundwater",
)


def seed() -> None:
    """Lay the sample data; what is there already stays.

    The key is made now: two first requests would make two.
    """
    signing_key(SigningKey)
    for number in (1, 2, 3):
        shell = make_shell(
            f"HYD 210-{number:02d}", t.TERM, context_id=f"tarnfield-hyd210-{number:02d}-s27"
        )
        enrol(shell, t.section(number))
    old = make_shell("HYD 210-01 F26", t.LAST_TERM, context_id="tarnfield-hyd210-01-f26")
    Person.objects.get_or_create(
        email=t.ADMINISTRATOR.email,
        defaults={
            "given_name": t.ADMINISTRATOR.given,
            "family_name": t.ADMINISTRATOR.family,
            "administers": True,
        },
    )
    make_shell(
        "HYD 210-01 (copy)", t.TERM, context_id="tarnfield-hyd210-copy-s27", history=old.context_id
    )


def make_shell(
    label: str, term: str, *, context_id: str, title: str = t.COURSE, history: str = ""
) -> Shell:
    """Make a shell with staff and an outline of weeks, unless it is there."""
    facts = {"label": label, "term": term, "title": title, "zone": t.ZONE, "history": history}
    shell, made = Shell.objects.get_or_create(context_id=context_id, defaults=facts)
    if not made:
        return shell
    for human, role in ((t.INSTRUCTOR, "instructor"), (t.ASSISTANT, "assistant")):
        _part(shell, human, role)
    welcome = Node.objects.create(
        shell=shell, kind="page", title="Welcome to the course", position=0
    )
    for position, unit in enumerate(UNITS, start=welcome.position + 1):
        Node.objects.create(shell=shell, kind="folder", title=unit, position=position)
    return shell


def add_trial_shell(label: str) -> dict[str, str]:
    """Make one more shell with six learners; return its ``context_id``, ``label`` and the address
    of a ``learner``.
    """
    shell = make_shell(label, t.TERM, context_id=f"tarnfield-{new_id()[:12]}")
    enrol(shell, t.section(2)[:6])
    return {
        "context_id": shell.context_id,
        "label": shell.label,
        "learner": t.section(2)[0].email,
    }


def enrol(shell: Shell, learners: tuple[t.Human, ...]) -> None:
    """Enrol learners in a shell."""
    for human in learners:
        _part(shell, human, "learner")


def _part(shell: Shell, human: t.Human, role: str) -> None:
    person, _ = Person.objects.get_or_create(
        email=human.email,
        defaults={"given_name": human.given, "family_name": human.family, "number": human.number},
    )
    Enrolment.objects.get_or_create(shell=shell, person=person, defaults={"role": role})


def copy_content(source: Shell, target: Shell) -> int:
    """Copy a shell's outline and columns into another, as a platform does between terms; no
    learners, no scores.

    Links keep their custom parameters and get ids of their own. Return how many nodes were copied.
    """
    target.nodes.all().delete()
    made: dict[int, Node] = {}
    for node, _ in in_order(source):
        history = ",".join(filter(None, (quote(node.resource_link_id), node.link_history)))
        link = new_id() if node.resource_link_id else ""
        parent = made.get(node.parent_id) if node.parent_id else None
        fields = {
            name: getattr(node, name)
            for name in (
                "kind",
                "title",
                "position",
                "visible",
                "audience",
                "url",
                "custom",
                "body",
                "identifier",
                "new_window",
                "points",
                "shown_from",
                "due_at",
                "listed",
                "level",
                "questions",
            )
        }
        made[node.pk] = Node.objects.create(
            shell=target, parent=parent, resource_link_id=link, link_history=history, **fields
        )
    for column in source.columns.all():
        link_node = made.get(column.link_id) if column.link_id else None
        Column.objects.create(
            shell=target,
            label=column.label,
            maximum=column.maximum,
            resource_id=column.resource_id,
            link=link_node,
            tag=column.tag,
            start=column.start,
            end=column.end,
        )
    target.history = ",".join(filter(None, (quote(source.context_id), source.history)))
    target.save()
    return len(made)
