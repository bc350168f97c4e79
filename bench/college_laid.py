"""A college, laid straight into the tables of a world's service: what a term leaves there. Runs
inside the service's own process (tools/world/inside.py).
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from tools.world.inside import inside

# Of the scores of a shell, each accepted by its gradebook, as bench.slow_sides has them.
_LEDGER = """
INSERT INTO relay_ledgerentry (pairing_id, placement_id, learner_id, via, timestamp, given, maximum,
  activity, grading, comment, digest, received_at)
SELECT p.pairing_id, p.id, l.id, 'push', %(now)s, (substr(l.subject, 2)::int * 7 + i.position) %% 11, 10, 'Completed',
  'FullyGraded', '', md5(p.id::text || l.id::text), %(now)s
FROM deploy_placement p JOIN content_item i ON i.id = p.item_id JOIN pair_pairing g ON g.id = p.pairing_id
  JOIN pair_learner l ON l.shell_id = g.shell_id
WHERE g.id = ANY(%(pairings)s)
"""
_CELLS = """
INSERT INTO relay_cell (pairing_id, placement_id, learner_id, state, why, reason, remedy, tries,
  again, revision, in_doubt, status_sent, sent_given, sent_maximum, sent_timestamp, sent_at,
  changed_at)
SELECT pairing_id, placement_id, learner_id, 'accepted', '', '', '', 0, '', 1, false, '', given,
  maximum, timestamp, received_at, received_at
FROM relay_ledgerentry WHERE pairing_id = ANY(%(pairings)s)
"""
_PASSAGES = """
INSERT INTO relay_passage (pairing_id, cell_id, entry_id, what, at, given, maximum, lag_ms, words)
SELECT c.pairing_id, c.id, e.id, 'accepted', e.received_at, e.given, e.maximum, 900, ''
FROM relay_cell c JOIN relay_ledgerentry e
  ON e.placement_id = c.placement_id AND e.learner_id = c.learner_id
WHERE c.pairing_id = ANY(%(pairings)s)
"""


@inside("vennpair")
def lay_shells(
    first: int, count: int, learners: int, columns: int, sides: str, issuer: str
) -> list[tuple[str, str]]:
    """Lay shells that are paired and live, on ten platforms of which the last, ``issuer``,
    launches, with learners, columns and a score in each cell; return the launching shells'
    contexts, each with one of its placements.
    """
    from django.db import connection
    from django.utils import timezone

    from vennpair.service.connect.models import Publisher, User
    from vennpair.service.content.models import Item, Placement
    from vennpair.service.pair.models import (
        Consent,
        HomeworkCourse,
        Learner,
        Pairing,
        Shell,
        ShellRole,
    )

    now = timezone.now() - timedelta(days=3)
    admin, publisher = User.objects.get(is_staff=True), Publisher.objects.get(name="Bench Press")
    teachers, made = list(User.objects.filter(username__startswith="teacher")), []
    platforms, launching = _platforms(sides, issuer), []
    for number in range(first, first + count):
        platform = platforms[number % len(platforms)]
        at = f"{sides}/s/{number}"
        shell = Shell.objects.create(
            platform=platform,
            context_id=f"bench-{number}",
            title=f"Rivers, section {number}",
            label=f"BENCH-{number:05}",
            timezone="America/Chicago",
            lineitems_url=f"{at}/lineitems",
            memberships_url=f"{at}/members",
            roster_at=timezone.now(),
        )
        course = HomeworkCourse.objects.create(
            publisher=publisher, sourced_id=f"bench-{number}", title=shell.title, code=shell.label
        )
        pairing = Pairing.objects.create(
            shell=shell, course=course, state="live", relay_on=True, made_by=admin
        )
        Consent.objects.create(shell=shell, user=admin)
        teacher = teachers[number // 5 % len(teachers)]
        ShellRole.objects.create(shell=shell, user=teacher, role="instructor")
        Learner.objects.bulk_create(
            Learner(
                shell=shell,
                subject=f"u{each}",
                sub=f"a{each}",
                name=f"Learner {number} {each}",
                email=f"l{each}@tarnfield.example",
            )
            for each in range(learners)
        )
        items = Item.objects.bulk_create(
            Item(
                pairing=pairing,
                key=f"i{each}",
                title=f"Item {each}",
                shown_title=f"Item {each}",
                kind="graded",
                position=each,
                points=10,
            )
            for each in range(columns)
        )
        Placement.objects.bulk_create(
            Placement(
                pairing=pairing,
                item=item,
                state="placed",
                title=item.title,
                points=10,
                place=item.position,
                column_url=f"{at}/lineitems/col{item.position}",
            )
            for item in items
        )
        made.append(pairing.pk)
        if platform.issuer == issuer:
            launching.append((shell.context_id, str(pairing.placements.order_by("place")[0].pk)))
    with connection.cursor() as cursor:
        for statement in (_LEDGER, _CELLS, _PASSAGES):
            cursor.execute(statement, {"now": now, "pairings": made})
        cursor.execute("ANALYZE")
    return launching


def _platforms(sides: str, issuer: str) -> list[Any]:
    from vennpair.service.connect.models import Institution, Platform

    college = Institution.objects.order_by("pk")[0]
    Platform.objects.filter(issuer=issuer).update(token_url=f"{sides}/token")
    found = list(Platform.objects.filter(name__startswith="Bench").order_by("pk"))
    made = found or [
        Platform.objects.create(
            institution=college,
            name=f"Bench {number}",
            issuer=f"{sides}/{number}",
            client_id=f"bench-{number}",
            deployment_ids=["d"],
            authorization_url=f"{sides}/authorize",
            token_url=f"{sides}/token",
            jwks_url=f"{sides}/jwks",
        )
        for number in range(9)
    ]
    return [*made, Platform.objects.get(issuer=issuer)]


@inside("vennpair")
def lay_people(count: int, sides: str) -> None:
    """Lay the publisher of a college and its teachers."""
    from vennpair.service.connect.models import Institution, Publisher, User
    from vennpair.service.connect.secrets import seal

    college = Institution.objects.order_by("pk")[0]
    Publisher.objects.create(
        institution=college,
        name="Bench Press",
        login_url=f"{sides}/login",
        launch_url=f"{sides}/launch",
        redirect_uris=[f"{sides}/launch"],
        oneroster_url=f"{sides}/roster",
        oneroster_token_url=f"{sides}/token",
        oneroster_client_id="bench",
        oneroster_secret=seal("bench"),
    )
    User.objects.bulk_create(
        User(username=f"teacher{number}", institution=college) for number in range(count)
    )


@inside("vennpair")
def teacher_token(username: str) -> str:
    """Return a token of a teacher."""
    from knox.models import AuthToken

    from vennpair.service.connect.models import User

    _, token = AuthToken.objects.create(User.objects.get(username=username))
    return str(token)


@inside("vennpair")
def standing() -> dict[str, Any]:
    """Return how many cells wait, the newest lags, comparisons that are done, and table sizes."""
    from django.db import connection

    from vennpair.service.kernel.jobs.models import Job
    from vennpair.service.relay.models import Cell, Passage

    waiting = Cell.objects.filter(state__in=["waiting", "sending"]).count()
    lags = Passage.objects.filter(what="accepted").order_by("-id")
    jobs = Job.objects.filter(kind="comparison")
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT relname, pg_total_relation_size(oid) FROM pg_class WHERE relkind = 'r'"
            " AND relname ~ '^(relay|content|deploy|pair|reconcile|activity|lti|ops|procrastinate)_'"
            " ORDER BY 2 DESC LIMIT 6"
        )
        sizes = dict(cursor.fetchall())
        cursor.execute("SELECT pg_database_size(current_database())")
        sizes["database"] = cursor.fetchone()[0]
    return {
        "waiting": waiting,
        "lags": sorted(lags.values_list("lag_ms", flat=True)[:2_000]),
        "compared": jobs.filter(state="done").count(),
        "failed": jobs.filter(state="failed").count(),
        "sizes": sizes,
    }


@inside("vennpair")
def compare_every(count: int) -> None:
    """Ask for the nightly comparison of so many pairings, as a night does."""
    from vennpair.service.connect.models import User
    from vennpair.service.pair.models import Pairing
    from vennpair.service.reconcile.actions.start_comparison import start_comparison

    admin = User.objects.get(is_staff=True)
    chosen = Pairing.objects.filter(course__sourced_id__startswith="bench-")
    for pairing in chosen.select_related("shell__platform__institution").order_by("pk")[:count]:
        start_comparison(pairing, admin)
