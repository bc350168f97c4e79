"""One real object of every kind that an address of the API can name, all of one pairing."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from tools.world.inside import inside

Ids = dict[str, str]
_NAMES = {
    "pairing_pk": "pairings",
    "import_pk": "imports",
    "comparison_pk": "comparisons",
    "placement": "placements",
    "token_key": "tokens",
}


def address(path: str, ids: Mapping[str, str], second: Mapping[str, str] | None = None) -> str:
    """Fill in an address of the schema; ``second`` gives the ids behind the pairing's own."""

    def fill(found: re.Match[str]) -> str:
        behind, name = found[1], found[2]
        if name == "number":
            return f"{behind}/0"
        kind = _NAMES.get(name, behind)
        own = kind in {"pairings", "shells"} or second is None
        return f"{behind}/{(ids if own else second or ids)[kind]}"

    return re.sub(r"([\w-]+)/\{(\w+)\}", fill, path)


@inside("vennpair")
def lay_objects(pairing: str, owner: str) -> Ids:
    """Lay one object of each kind in a pairing whose content is imported; return their ids by the
    part of the address that they come after.
    """
    from django.utils import timezone

    from vennpair.service.connect.models import Invitation, Passkey, Publisher, User
    from vennpair.service.content import models as content
    from vennpair.service.deploy import models as deploy
    from vennpair.service.kernel.jobs.models import Job
    from vennpair.service.pair import models as pair
    from vennpair.service.pair.actions.refresh_roster import refresh_roster
    from vennpair.service.reconcile import models as reconcile
    from vennpair.service.relay import models as relay
    from vennpair.service.set_up.models import SetUp

    found = pair.Pairing.objects.select_related("shell__platform__institution", "course").get(
        pk=pairing
    )
    user, shell = User.objects.get(username=owner), found.shell
    if not shell.learners.exists():
        refresh_roster(shell)
    now = timezone.now()
    learner = shell.learners.exclude(matches__course=found.course).order_by("pk")[0]

    def job(kind: str, state: str = "done") -> Job:
        return Job.objects.create(kind=kind, pairing=found, made_by=user, state=state)

    made = found.imports.order_by("made_at")[0]
    item = found.items.filter(kind="graded", placement=None).order_by("position")[0]
    placed = deploy.Placement.objects.create(
        pairing=found, item=item, state="placed", title=item.title, points=10
    )
    package = content.Package.objects.create(
        pairing=found, made_by=user, filename="x.imscc", size=1, complete=False
    )
    comparison = reconcile.Comparison.objects.create(
        pairing=found, job=job("comparison")
    )  # it has no result, as one that failed has none
    score = relay.Cell.objects.create(
        pairing=found, placement=placed, learner=learner, state="held", why="hand", since=now
    )
    publisher = Publisher.objects.get(pk=found.course.publisher_id)
    content.Delivery.objects.create(import_of=made, job=job("delivery"))
    picking = deploy.Picking.objects.create(
        side="platform",
        shell=shell,
        user=user,
        settings={"return_url": "https://campus.example/picked", "accept_types": ["link"]},
    )
    invitation = Invitation.objects.create(
        digest=f"of-{package.pk}",
        side="platform",
        institution=shell.platform.institution,
        made_by=user,
        expires=now,
    )
    passkey = Passkey.objects.create(
        user=user, name="Lost", credential=f"of-{package.pk}", public_key=b"", made_at=now
    )
    objects: dict[str, Any] = {
        "passkeys": passkey,
        "pairings": found,
        "shells": shell,
        "imports": made,
        "entries": made.entries.order_by("position")[0],
        "packages": package,
        "placements": placed,
        "cells": learner,
        "scores": score,
        "comparisons": comparison,
        "rollouts": (rollout := deploy.Rollout.objects.create(pairing=found, job=job("rollout"))),
        "operations": rollout.job,
        "learner-checks": deploy.LearnerCheck.objects.create(pairing=found, job=job("check")),
        "exports": deploy.ColumnExport.objects.create(
            pairing=found, placement=placed, title="Kept", text="a,b"
        ),
        "averages": deploy.AverageColumn.objects.create(pairing=found, title="Mean", points=10),
        "settlements": reconcile.Settlement.objects.create(
            pairing=found, comparison=comparison, made_by=user, job=job("settle", "proposed")
        ),
        "notes": reconcile.Note.objects.create(
            pairing=found, placement=placed, learner=learner, text="Seen.", author=user
        ),
        "matches": pair.LearnerMatch.objects.create(
            learner=learner, course=found.course, student=f"s-{package.pk}", confirmed_by=user
        ),
        "jobs": job("comparison"),
        "set-ups": SetUp.objects.create(made_by=user),
        "pickings": picking,
        "accounts": pair.AccountLink.objects.get_or_create(user=user, publisher=publisher)[0],
        "platforms": shell.platform,
        "publishers": publisher,
        "invitations": invitation,
        "people": User.objects.create_user(
            f"extra-{package.pk}@tarnfield.example", institution=shell.platform.institution
        ),
    }
    return {kind: str(each.pk) for kind, each in objects.items()} | {"number": "0"}
