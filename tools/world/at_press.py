"""What tests and the demo ask of the press and change in it past its network interface."""

from __future__ import annotations

from typing import Any

from tools.world.inside import inside


@inside("press")
def change_item(course: str, title: str, /, **changes: Any) -> int:
    """Change items of a homework course; return how many."""
    from vennpair.standins.press.models import Item

    return int(Item.objects.filter(unit__course__sourced_id=course, title=title).update(**changes))


@inside("press")
def delay_item(course: str, title: str, days: int) -> None:
    """Move an item's due date."""
    from datetime import timedelta

    from vennpair.standins.press.models import Item

    item = Item.objects.get(unit__course__sourced_id=course, title=title)
    assert item.due is not None
    item.due += timedelta(days=days)
    item.save()


@inside("press")
def delete_item(course: str, title: str) -> None:
    """Delete items of a homework course."""
    from vennpair.standins.press.models import Item

    Item.objects.filter(unit__course__sourced_id=course, title=title).delete()


@inside("press")
def add_item(course: str, title: str, *, points: int, category: str = "") -> None:
    """Add a graded item at the end of a course's first unit."""
    from vennpair.standins.press.models import Item, Unit

    unit = Unit.objects.filter(course__sourced_id=course).order_by("position")[0]
    Item.objects.create(
        unit=unit,
        sourced_id=f"{course}-{title.casefold().replace(' ', '-')}",
        title=title,
        kind="graded",
        category=category,
        points=points,
        position=99,
    )


@inside("press")
def graded_titles(course: str) -> list[str]:
    """Return the titles of a course's graded items in its order."""
    from vennpair.standins.press.models import Item

    found = Item.objects.filter(unit__course__sourced_id=course, kind="graded")
    return list(found.order_by("unit__position", "position").values_list("title", flat=True))


@inside("press")
def change_course(course: str, /, **changes: Any) -> None:
    """Change a homework course."""
    from vennpair.standins.press.models import Course

    Course.objects.filter(sourced_id=course).update(**changes)


@inside("press")
def enrol(course: str, email: str, given_name: str, family_name: str) -> str:
    """Register somebody new at the press and enrol them; return their account's id."""
    from vennpair.standins.press.models import Account, Course, Enrolment

    account = Account.objects.create(email=email, given_name=given_name, family_name=family_name)
    Enrolment.objects.create(
        course=Course.objects.get(sourced_id=course), account=account, role="student"
    )
    return str(account.sourced_id)


@inside("press")
def end_enrolment(course: str, email: str) -> None:
    """Take somebody out of a homework course."""
    from vennpair.standins.press.models import Enrolment

    Enrolment.objects.filter(course__sourced_id=course, account__email=email).delete()


@inside("press")
def keys_toward_us() -> tuple[str, str, str, str]:
    """Return the press's key id, its private key, its client id at us and our token address."""
    from vennpair.standins.press.models import Platform, SigningKey

    key, platform = SigningKey.objects.get(), Platform.objects.order_by("id")[0]
    return key.kid, key.pem, platform.client_id, platform.token_url


@inside("press")
def api_client() -> tuple[str, str]:
    """Return client id and secret of the first reader of the press's OneRoster."""
    from vennpair.standins.press.models import ApiClient

    client = ApiClient.objects.order_by("id")[0]
    return client.client_id, client.secret


@inside("press")
def add_course(code: str) -> dict[str, str]:
    """Make a homework course with six learners; return ``course`` (its id), ``title``, ``code``."""
    from vennpair.standins.press.sample import add_trial_course

    return add_trial_course(code)


@inside("press")
def answer(
    course: str,
    email: str,
    title: str,
    score: str,
    *,
    lost: bool = False,
    regrade: bool = False,
    delete: bool = False,
) -> None:
    """Let somebody answer an item, or a teacher change or take back their newest answer.

    What is ``lost`` is never reported.
    """
    from vennpair.standins.press.sample import answer_item

    answer_item(course, email, title, score, lost=lost, regrade=regrade, delete=delete)


@inside("press")
def keyed_platform() -> dict[str, str]:
    """Make a key and secret for a platform that launches by LTI 1.1; return them with the address
    to launch.
    """
    from django.conf import settings

    from vennpair.standins.press.models import KeyedPlatform

    made = KeyedPlatform.objects.create()
    return {
        "key": made.key,
        "shared_secret": made.secret,
        "launch_url": f"{settings.BASE_URL}/lti/launch-by-key",
    }
