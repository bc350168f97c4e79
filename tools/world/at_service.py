"""What tests ask of the service and change in it past its network interface: what would take days
to happen, what no platform can say, and what is nobody's to see.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any

from tools.world.inside import inside


@inside("vennpair")
def tick(at: datetime | None = None) -> None:
    """Do everything that is due at a moment (now, where none is named), as a worker's clock would.

    Worlds under test have no clock of their own.
    """
    from django.utils import timezone

    from vennpair.service.kernel.jobs.periodic import run_due

    run_due(at or timezone.now())


@inside("vennpair")
def change_shell(context_id: str, /, **changes: Any) -> None:
    """Change what is known of a shell: its addresses, say."""
    from vennpair.service.pair.models import Shell

    Shell.objects.filter(context_id=context_id).update(**changes)


@inside("vennpair")
def shell_field(field: str, **wanted: str) -> str:
    """Return one field of the shell that ``wanted`` finds, as text."""
    from vennpair.service.pair.models import Shell

    return str(getattr(Shell.objects.get(**wanted), field))


@inside("vennpair")
def reach_through(context_id: str, old: str, new: str) -> None:
    """Let the service reach a shell's outline and gradebook by another address."""
    from vennpair.service.pair.models import Shell

    shell = Shell.objects.get(context_id=context_id)
    shell.outline_url = shell.outline_url.replace(old, new)
    shell.lineitems_url = shell.lineitems_url.replace(old, new)
    shell.save()


@inside("vennpair")
def learner_id(context_id: str, email: str) -> str:
    """Return the service's id of a learner."""
    from vennpair.service.pair.models import Learner

    return str(Learner.objects.get(shell__context_id=context_id, email=email).pk)


@inside("vennpair")
def learner_sub(context_id: str, email: str) -> str:
    """Return the subject under which publishers know a learner."""
    from vennpair.service.pair.models import Learner

    return Learner.objects.get(shell__context_id=context_id, email=email).sub


@inside("vennpair")
def placement_id(pairing: str, title: str) -> str:
    """Return the id of a placement by its item's title."""
    from vennpair.service.content.models import Placement

    return str(Placement.objects.get(pairing_id=pairing, item__title=title).pk)


@inside("vennpair")
def give_role(label: str, username: str, role: str) -> None:
    """Change somebody's role in a shell."""
    from vennpair.service.pair.models import ShellRole

    ShellRole.objects.filter(shell__label=label, user__username=username).update(role=role)


@inside("vennpair")
def add_teacher(pairing: str, username: str, password: str, role: str = "instructor") -> None:
    """Make a person who has a part in this pairing's shell and in no other."""
    from vennpair.service.connect.models import User
    from vennpair.service.pair.models import Pairing, ShellRole

    shell = Pairing.objects.get(pk=pairing).shell
    user = User.objects.create_user(
        username, username, password, institution=shell.platform.institution
    )
    ShellRole.objects.create(shell=shell, user=user, role=role)


@inside("vennpair")
def let_claims_age(minutes: int = 5) -> None:
    """Let every claim of a column, held or failed, be that much older."""
    from datetime import timedelta

    from django.db.models import F

    from vennpair.service.deploy.models import ColumnClaim

    past = timedelta(minutes=minutes)
    ColumnClaim.objects.update(begun_at=F("begun_at") - past, failed_at=F("failed_at") - past)


@inside("vennpair")
def let_sessions_rest(username: str, hours: float) -> int:
    """Let every session of somebody be unused for so long; return how many there are."""
    from datetime import timedelta

    from django.contrib.sessions.backends.db import SessionStore
    from django.utils import timezone

    from vennpair.service.connect.models import SignedInBrowser
    from vennpair.service.connect.sessions import SEEN

    keys = list(
        SignedInBrowser.objects.filter(user__username=username).values_list(
            "session_key", flat=True
        )
    )
    for key in keys:
        store = SessionStore(key)
        store[SEEN] = (timezone.now() - timedelta(hours=hours)).isoformat()
        store.save()
    return len(keys)


@inside("vennpair")
def let_token_end(name: str) -> int:
    """Let the tokens for scripts of this name have ended; return how many there are."""
    from datetime import timedelta

    from django.utils import timezone
    from knox.models import AuthToken

    past = timezone.now() - timedelta(seconds=1)
    return int(AuthToken.objects.filter(grant__name=name).update(expiry=past))


@inside("vennpair")
def let_waits_end() -> None:
    """Let everybody who gave wrong passwords have waited."""
    from vennpair.service.connect.models import WrongPassword

    WrongPassword.objects.update(until=None)


@inside("vennpair")
def kept_answers() -> str:
    """Return all that is kept of answers, as one text."""
    from vennpair.service.kernel.web.models import KeptAnswer

    return "\n".join(str(body) for body in KeptAnswer.objects.values_list("body", flat=True))


@inside("vennpair")
def read_roster(context_id: str) -> None:
    """Read a shell's roster now."""
    from vennpair.service.pair.actions.refresh_roster import refresh_roster
    from vennpair.service.pair.models import Shell

    refresh_roster(Shell.objects.get(context_id=context_id))


@inside("vennpair")
def change_job(job: str, old: str, new: str) -> int:
    """Let a job be in another state, as another process would; return how many were changed."""
    from vennpair.service.kernel.jobs.models import Job

    return int(Job.objects.filter(pk=job, state=old).update(state=new))


@inside("vennpair")
def let_due_ats_pass(pairing: str, title: str) -> int:
    """Let the due date of an item be now; return how many pairings were taken up for it."""
    from django.utils import timezone

    from vennpair.service.content.models import Placement
    from vennpair.service.relay.models import Cell
    from vennpair.service.relay.scheduling import take_up_relays

    now = timezone.now()
    Placement.objects.filter(pairing_id=pairing, title=title).update(due_at=now.isoformat())
    Cell.objects.filter(pairing_id=pairing, state="held").update(until=now)
    return take_up_relays(now)


@inside("vennpair")
def let_an_hour_pass(pairing: str) -> tuple[int, int]:
    """Let what waits in a pairing wait since an hour longer; return how many were told of it, by
    each of two looks.
    """
    from datetime import timedelta

    from django.db.models import F
    from django.utils import timezone

    from vennpair.service.relay.actions.raise_alarms import raise_alarms
    from vennpair.service.relay.models import Cell, PlatformPace

    hour = timedelta(minutes=61)
    Cell.objects.filter(pairing_id=pairing).update(
        since=F("since") - hour, failing_since=F("failing_since") - hour
    )
    down = PlatformPace.objects.exclude(down_since=None)
    down.update(down_since=F("down_since") - hour)
    return raise_alarms(timezone.now()), raise_alarms(timezone.now())


@inside("vennpair")
def passages(pairing: str, what: str) -> int:
    """Return how many passages of a kind a pairing has."""
    from vennpair.service.relay.models import Passage

    return Passage.objects.filter(pairing_id=pairing, what=what).count()


@inside("vennpair")
def nights_begun(pairing: str, times: list[str]) -> list[tuple[int, int]]:
    """Return how many comparisons and looks for drift would begin at each of these times, if this
    pairing were the only one; nothing of it stays.
    """
    from django.db import transaction

    from vennpair.service.deploy.actions.look_for_drift import look_by_night
    from vennpair.service.pair.models import Pairing
    from vennpair.service.reconcile.actions.compare_many import ask_for_the_night

    begun = []
    with transaction.atomic():
        Pairing.objects.filter(state="live").exclude(pk=pairing).update(state="paused")
        for at in map(datetime.fromisoformat, times):
            begun.append((ask_for_the_night(at), look_by_night(at)))
        transaction.set_rollback(True)
    return begun


@inside("vennpair")
def mornings(username: str, times: list[str]) -> list[list[tuple[str, str]]]:
    """Send the digests of each of these times; return what each told somebody."""
    from vennpair.service.connect.models import User
    from vennpair.service.kernel.audit.models import Notice
    from vennpair.service.reconcile.actions.send_digests import send_digests

    user = User.objects.get(username=username)
    told = []
    for at in times:
        Notice.objects.filter(user=user).delete()
        send_digests(datetime.fromisoformat(at))
        found = Notice.objects.filter(user=user)
        told.append([(each.sentence, each.body) for each in found])
    return told


@inside("vennpair")
def mail_of(username: str, language: str, sentence: str, body: str) -> tuple[str, str]:
    """Send somebody who chose a language a notice by mail; return its subject and text."""
    from django.core import mail
    from django.test.utils import override_settings

    from vennpair.service.connect.models import User
    from vennpair.service.kernel.audit.models import Notice
    from vennpair.service.kernel.audit.tasks import send_notice

    user = User.objects.get(username=username)
    before, user.language = user.language, language
    user.save(update_fields=["language"])
    notice = Notice.objects.create(user=user, sentence=sentence, body=body, link="/operations")
    mail.outbox = []
    with override_settings(EMAIL_BACKEND="django.core.mail.backends.locmem.EmailBackend"):
        send_notice(str(notice.pk))
    user.language = before
    user.save(update_fields=["language"])
    return str(mail.outbox[0].subject), str(mail.outbox[0].body)


@inside("vennpair")
def age_comparisons(pairing: str) -> list[tuple[bool, bool, int]]:
    """Let a pairing's comparisons be most of a year old, purge, and return of the two newest
    whether findings and matrix are there, and how many cells are counted.
    """
    from datetime import timedelta

    from django.utils import timezone

    from vennpair.service.kernel.purging import purge
    from vennpair.service.reconcile.models import Comparison

    mine = Comparison.objects.done().filter(pairing_id=pairing)
    keys = list(mine.values_list("pk", flat=True)[:2])
    mine.update(at=timezone.now() - timedelta(days=300))
    Comparison.objects.filter(pk=keys[0]).update(at=timezone.now() - timedelta(days=250))
    purge()
    found = [Comparison.objects.get(pk=key) for key in keys]
    return [(each.findings.exists(), each.matrix != {}, each.summary["cells"]) for each in found]


@inside("vennpair")
def age_a_launch() -> tuple[bool, bool]:
    """Make two states of launches, let one be two days old, purge; return whether each is there."""
    from datetime import timedelta

    from django.utils import timezone

    from vennpair.service.connect.models import Platform
    from vennpair.service.kernel.purging import purge
    from vennpair.service.lti.models import LaunchState

    platform = Platform.objects.order_by("pk")[0]
    old, new = (LaunchState.objects.create(platform=platform) for _ in range(2))
    LaunchState.objects.filter(pk=old.pk).update(made=timezone.now() - timedelta(days=2))
    purge()
    there = [LaunchState.objects.filter(pk=each.pk).exists() for each in (old, new)]
    return there[0], there[1]


@inside("vennpair")
def lay_live_pairing(
    url: str, context_id: str, label: str, publisher: str, columns: dict[str, Any]
) -> dict[str, Any]:
    """Lay a live pairing with a placement for every column of a strict gradebook.

    ``columns`` says the points of each; return the ids of pairing, placements by column and
    learners by subject.
    """
    from vennpair.service.connect.models import Platform, Publisher, User
    from vennpair.service.content.models import Item, Placement
    from vennpair.service.pair.actions.refresh_roster import refresh_roster
    from vennpair.service.pair.models import Consent, HomeworkCourse, Pairing, Shell, ShellRole

    at = f"{url}/api/{context_id}"
    user = User.objects.get(username="maren.holt@tarnfield.example")
    shell = Shell.objects.create(
        platform=Platform.objects.get(issuer=url),
        context_id=context_id,
        title="Strict",
        label=label,
        timezone="America/Chicago",
        lineitems_url=f"{at}/lineitems",
        memberships_url=f"{at}/members",
    )
    course = HomeworkCourse.objects.create(
        publisher=Publisher.objects.get(name=publisher),
        sourced_id=f"of-{context_id}",
        title="Strict",
        code=label,
    )
    Consent.objects.create(shell=shell, user=user)
    ShellRole.objects.create(shell=shell, user=user, role="instructor")
    pairing = Pairing.objects.create(
        shell=shell, course=course, state="live", relay_on=True, made_by=user
    )
    refresh_roster(shell)
    placements: dict[str, str] = {}
    for column, points in columns.items():
        item = Item.objects.create(
            pairing=pairing,
            key=column,
            title=column,
            shown_title=column,
            kind="graded",
            position=len(placements),
            points=points,
            line_item=column,
        )
        placed = Placement.objects.create(
            pairing=pairing,
            item=item,
            state="placed",
            title=column,
            points=points,
            column_url=f"{at}/lineitems/{column}",
        )
        placements[column] = str(placed.pk)
    learners = {each.subject: each.sub for each in shell.learners.all()}
    return {"pairing": str(pairing.pk), "placements": placements, "learners": learners}


@inside("vennpair")
def queries_of_comparing(pairing: str) -> int:
    """Compare a pairing here and now; return how many queries it took, reading included."""
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    from vennpair.service.kernel.jobs.models import Job
    from vennpair.service.pair.models import Pairing
    from vennpair.service.reconcile.actions.compare_pairing import compare_pairing
    from vennpair.service.reconcile.models import Comparison

    found = Pairing.objects.select_related("shell__platform__institution", "course__publisher").get(
        pk=pairing
    )
    job = Job.objects.create(kind="comparison", pairing=found, state="running")
    Comparison.objects.create(pairing=found, job=job)
    with CaptureQueriesContext(connection) as counted:
        compare_pairing(job)
    Job.objects.filter(pk=job.pk).update(state="done")
    return len(counted)


@inside("vennpair")
def sweep_relays() -> int:
    """Take up what has come due, as the clock does each minute; return how many pairings."""
    from django.utils import timezone

    from vennpair.service.relay.scheduling import take_up_relays

    return take_up_relays(timezone.now())


@inside("vennpair")
def lose_a_lock() -> tuple[bool, bool]:
    """Hold a lock, renew the connection under it; return whether it was believed before, and was
    not believed afterwards.
    """
    from django.db import connection

    from vennpair.service.kernel.jobs.locks import LockLost, only_one, require_held

    with only_one("tried by a test"):
        require_held()
        connection.close()
        connection.ensure_connection()
        try:
            require_held()
        except LockLost:
            return True, True
    return True, False


@inside("vennpair")
def note_starts(job: str, starts: int) -> None:
    """Let a job have been begun so often without getting on, as if each had killed its worker."""
    from vennpair.service.kernel.jobs.models import Job

    Job.objects.filter(pk=job).update(starts=starts, stood_at=0, state=Job.State.RUNNING)


@inside("vennpair")
def forget_answer(key: str) -> tuple[bool, int]:
    """Lose the answer kept for a key, as a process does that ends before it gives it; return
    whether it is known that it was done, and how many such answers there were.
    """
    from vennpair.service.kernel.web.models import KeptAnswer

    rows = KeptAnswer.objects.filter(key=key)
    return rows.get().acted, rows.update(status=None, body=None)


@inside("vennpair")
def claim_answer(key: str, like: str) -> None:
    """Let a request with another key have been begun, by a process that ended before it did it."""
    from vennpair.service.kernel.web.models import KeptAnswer

    kept = KeptAnswer.objects.get(key=like)
    KeptAnswer.objects.create(user=kept.user, key=key, fingerprint=kept.fingerprint)


@inside("vennpair")
def seal_everything() -> tuple[int, str] | None:
    """Seal all events, and return where the chain of the world's institution is broken."""
    from datetime import timedelta

    from django.utils import timezone

    from tools.world.world import INSTITUTION
    from vennpair.service.connect.models import Institution
    from vennpair.service.kernel.audit.sealing import first_break, seal_trail

    seal_trail(timezone.now() + timedelta(hours=1))
    return first_break(Institution.objects.get(name=INSTITUTION).pk)


@inside("vennpair")
def forge_event(number: int) -> tuple[int, str] | None:
    """Change a sentence of the trail in the database; return what is found, and put it back."""
    from tools.world.world import INSTITUTION
    from vennpair.service.connect.models import Institution
    from vennpair.service.kernel.audit.models import Event
    from vennpair.service.kernel.audit.sealing import first_break

    institution = Institution.objects.get(name=INSTITUTION)
    rows = Event.objects.filter(institution=institution, number=number)
    sentence = rows.get().sentence
    rows.update(sentence="Nothing happened.")
    try:
        return first_break(institution.pk)
    finally:
        rows.update(sentence=sentence)
