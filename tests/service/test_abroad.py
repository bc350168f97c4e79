"""A platform and a publisher that keep to the standards and know nothing of ours."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from email.utils import format_datetime
from typing import Any

import pytest
from tools.world import at_service
from tools.world.browser import Browser
from tools.world.hold import until
from tools.world.world import World

from tests.conftest import Sides
from tests.service.abroad import INSTRUCTOR, LEARNER, MEMBERSHIP, Abroad, PlainPlatform
from tests.service.strict_site import AGS, LTI
from vennpair.client import Refusal, VennPair

INSTITUTION_ADMINISTRATOR = (
    "http://purl.imsglobal.org/vocab/lis/v2/institution/person#Administrator"
)
QUIZ, ESSAY, LAB = "Quiz: where rivers begin", "Essay on groundwater", "Lab 1"
HEARD_SECONDS = 2.0  # for which a word from another process may be under way on a busy machine


def link(title: str, points: float, name: str, **column: Any) -> dict[str, Any]:
    return {
        "type": "ltiResourceLink",
        "title": title,
        "url": f"https://plain.example/open/{name}",
        "custom": {"opens": name},
        "lineItem": {"scoreMaximum": points, "label": title} | column,
        "submission": {"endDateTime": "2027-02-12T23:59:00-06:00"},
    }


@pytest.fixture(scope="module")
def abroad(world: World) -> Iterator[Abroad]:
    made = Abroad(world, "Plain", PlainPlatform())
    publisher = made.publisher
    publisher.add("li-17", "Rivers, first quiz", 10)
    publisher.add("li-18", ESSAY, 20)
    publisher.add("li-19", LAB, 5)
    publisher.add("li-20", LAB, 5)
    publisher.students = {f"acc-{n}": f"learner-{n}@strict.example" for n in (1, 2, 3, 4)}
    for n in (1, 2, 3):
        for item in publisher.catalogue:
            publisher.scores[item, f"acc-{n}"] = n
    made.pair()
    yield made
    assert made.platform.complaints == []
    assert publisher.complaints == []
    made.close()


def test_what_is_picked_by_deep_linking_is_read_from_the_catalogue(abroad: Abroad) -> None:
    chosen = abroad.pick_at_publisher(
        link(QUIZ, 10, "a", resourceId="li-17"), link(ESSAY, 20, "b"), link(LAB, 5, "c")
    )
    items = {row["title"]: row for row in abroad.get(f"pairings/{abroad.pairing}/items")["results"]}
    assert (items[QUIZ]["line_item"], items[ESSAY]["line_item"]) == ("li-17", "li-18")
    assert items[LAB]["line_item"] == "", "two graded items are alike, so neither is guessed"
    abroad.put_into_shell(chosen)
    for title in (QUIZ, ESSAY, LAB):
        assert abroad.platform.open(Browser(), title, "learner-1").status == 200
    for title in (QUIZ, ESSAY, LAB):
        key = abroad.platform.column_of(title)["id"].rsplit("/", 1)[-1]
        for n in (1, 2):
            abroad.platform.cells[key, f"learner-{n}"] = {"resultScore": n, "resultMaximum": 1}
    compared, found = abroad.compare()
    kinds = {(row["item"], row["email"], row["kind"]) for row in found if row["scope"] == "cell"}
    assert compared["summary"]["kinds"] == {"agree": 4, "unsent": 2, "unread": 4}
    assert {kind for title, _, kind in kinds if title == LAB} == {"unread"}
    (column,) = [row for row in found if row["scope"] == "column" and row["kind"] == "unread"]
    assert (column["item"], column["remedies"]) == (LAB, ["tie", "leave"])
    assert {"li-19", "li-20"} <= {each["key"] for each in column["candidates"]}
    for row in found:
        if row["kind"] == "unread":
            assert not {"send", "restore", "clear"} & set(row["remedies"])
    assert abroad.refused_to_settle(compared, kinds={"unread": "clear"}) == "unknown_remedy"


def test_a_person_says_which_graded_item_a_link_is_and_its_scores_are_read(
    abroad: Abroad,
) -> None:
    compared, found = abroad.compare()
    (column,) = [row for row in found if row["scope"] == "column" and row["kind"] == "unread"]
    choice = {"finding": column["id"], "remedy": "tie", "candidate": ""}
    assert abroad.refused_to_settle(compared, findings=[choice]) == "choose"
    abroad.settle(compared, findings=[choice | {"candidate": "li-20"}])
    summary = abroad.compare()[0]["summary"]
    assert summary["kinds"] == {"agree": 6, "unsent": 3}


def test_an_item_that_the_catalogue_lost_is_not_read_and_empties_nothing(abroad: Abroad) -> None:
    lost = abroad.publisher.catalogue.pop("li-18")
    compared, found = abroad.compare()
    kinds = {row["kind"] for row in found if row["item"] == ESSAY}
    assert kinds == {"item_gone", "unread"}
    assert compared["summary"]["safe"] == 2
    abroad.publisher.catalogue["li-18"] = lost


def test_a_deleted_column_is_made_again_and_gets_its_scores_back(abroad: Abroad) -> None:
    platform = abroad.platform
    lost = platform.column_of(QUIZ)["id"].rsplit("/", 1)[-1]
    del platform.columns[lost]
    for refuses in ("_new", ""):  # it stays in sight although the first try fails
        platform.refuses = refuses
        compared, found = abroad.compare()
        (gone,) = [row for row in found if row["kind"] == "column_missing"]
        choice = {"finding": gone["id"], "remedy": "make_again", "candidate": ""}
        settled = abroad.settle(compared, findings=[choice])
        (step,) = settled["steps"]
        assert step["state"] == ("failed" if refuses else "done"), step
    made = platform.column_of(QUIZ)
    assert (made["scoreMaximum"], made["tag"], made["endDateTime"]) == (
        10,
        "vennpair",
        "2027-02-12T23:59:00-06:00",
    )
    assert made["id"].rsplit("/", 1)[-1] != lost
    assert not [row for row in abroad.compare()[1] if row["kind"] == "column_missing"]


@pytest.fixture(scope="module")
def slow(world: World) -> Iterator[Abroad]:
    """A platform that makes no columns automatically and takes half a second for each call."""
    made = Abroad(world, "Slow", PlainPlatform(8, makes_columns=False))
    made.publisher.add("li-1", QUIZ, 10)
    made.pair()
    yield made
    assert made.platform.complaints == []
    made.close()


def test_eight_first_clicks_at_once_make_one_column_and_all_launches_carry_it(
    slow: Abroad,
) -> None:
    slow.put_into_shell(slow.pick_at_publisher(link(QUIZ, 10, "a", resourceId="li-1")))
    slow.platform.pause = 0.5
    learners = list(slow.platform.people)
    with ThreadPoolExecutor(len(learners)) as threads:
        pages = list(
            threads.map(lambda who: slow.platform.open(Browser(), QUIZ, who).status, learners)
        )
    slow.platform.pause = 0.0
    assert pages == [200] * len(learners)
    assert [each["label"] for each in slow.platform.columns.values()] == [QUIZ]
    launched = slow.publisher.launched
    assert len(launched) == len(learners)
    addresses = {claims[f"{AGS}claim/endpoint"].get("lineitem") for claims in launched}
    assert len(addresses) == 1
    assert None not in addresses


def test_a_platform_that_refuses_a_column_still_opens_the_link_and_is_asked_again_later(
    world: World, slow: Abroad
) -> None:
    slow.publisher.add("li-2", ESSAY, 20)
    slow.put_into_shell(slow.pick_at_publisher(link(ESSAY, 20, "b", resourceId="li-2")))
    slow.platform.refuses = "_new"
    for who in ("learner-1", "learner-2"):
        assert slow.platform.open(Browser(), ESSAY, who).status == 200
    assert len(slow.platform.columns) == 1
    assert slow.publisher.launched[-1][f"{AGS}claim/endpoint"]["lineitem"]
    slow.platform.refuses = ""
    at_service.let_claims_age(world)
    assert slow.platform.open(Browser(), ESSAY, "learner-1").status == 200
    assert sorted(each["label"] for each in slow.platform.columns.values()) == [ESSAY, QUIZ]


def test_an_item_without_an_address_is_placed_only_with_word_of_it_and_a_pattern_helps_once(
    abroad: Abroad,
) -> None:
    publisher = abroad.publisher
    publisher.add("li-30", "Reading log", 5, dueDate="2027-03-01T23:59:00-06:00")
    made = abroad.post(f"pairings/{abroad.pairing}/catalogue")
    assert made["items"] == len(publisher.catalogue)
    items = abroad.get(f"pairings/{abroad.pairing}/items", q="Reading log")["results"]
    chosen = [row["id"] for row in items]
    told = abroad.post(f"pickings/{abroad.dialogue()}/answer", items=chosen, dry_run=True)
    (notice,) = told["notices"]
    assert (notice["code"], notice["level"]) == ("front_page", "warning")
    assert "address pattern" in notice["remedy"]
    abroad.put_into_shell(chosen)
    abroad.platform.open(Browser(), "Reading log", "learner-1")
    assert publisher.launched[-1][f"{LTI}target_link_uri"] == f"{publisher.url}/launch"
    with abroad.world.administrator() as admin:
        key = next(row["id"] for row in admin.publishers() if row["name"] == publisher.name)
        with pytest.raises(Refusal, match=r"lacks \{line_item\}"):
            admin.change_publisher(key, item_address=f"{publisher.url}/launch")
        admin.change_publisher(key, item_address=f"{publisher.url}/launch?item={{line_item}}")
    abroad.platform.open(Browser(), "Reading log", "learner-1")
    wanted = f"{publisher.url}/launch?item=li-30"
    assert publisher.launched[-1][f"{LTI}target_link_uri"] == wanted, "placed links follow"


def test_the_connection_check_passes_and_says_what_is_not_offered(abroad: Abroad) -> None:
    with abroad.world.administrator() as admin:
        key = next(row["id"] for row in admin.platforms() if row["name"] == "Plain Platform")
        steps = {row["step"]: row for row in admin.check_platform(key)}
    assert "fail" not in {row["state"] for row in steps.values()}, steps
    assert steps["service: outline"]["state"] == "skip"
    assert "does not offer" in steps["service: outline"]["message"]


def test_drift_of_columns_is_found_and_mended_where_no_links_can_be_read(abroad: Abroad) -> None:
    column = abroad.platform.column_of(ESSAY)
    column |= {"scoreMaximum": 25, "label": "Essay!", "endDateTime": "2027-02-20T12:00:00-06:00"}
    at = f"pairings/{abroad.pairing}/drifts"
    assert abroad.done(abroad.post(at))["state"] == "done"
    found = abroad.get(at)["drifts"]
    mine = {row["kind"]: row["id"] for row in found if row["title"] == ESSAY}
    assert set(mine) >= {"points", "column_title", "column_due"}
    assert not {row["kind"] for row in found} & {"link_gone", "leads_elsewhere", "hidden"}
    mended = abroad.post(f"{at}/mend", drifts=list(mine.values()), way="follow")["rollout"]
    assert abroad.done(mended["job"])["state"] == "done"
    put_back = abroad.platform.column_of(ESSAY)
    assert (put_back["scoreMaximum"], put_back["endDateTime"]) == (20, "2027-02-12T23:59:00-06:00")
    key = put_back["id"].rsplit("/", 1)[-1]
    gone = abroad.platform.columns.pop(key)
    abroad.done(abroad.post(at))
    (lost,) = [row for row in abroad.get(at)["drifts"] if row["kind"] == "column_gone"]
    mended = abroad.post(f"{at}/mend", drifts=[lost["id"]], way="follow")["rollout"]
    assert abroad.done(mended["job"])["state"] == "done"
    made = abroad.platform.column_of(ESSAY)
    assert (made["scoreMaximum"], made["resourceId"]) == (20, gone["resourceId"])
    made["resourceLinkId"] = gone["resourceLinkId"]


def test_a_learner_check_says_what_it_can_and_a_front_page_without_opening_it(
    abroad: Abroad,
) -> None:
    with abroad.world.administrator() as admin:
        name = abroad.publisher.name
        key = next(row["id"] for row in admin.publishers() if row["name"] == name)
        admin.change_publisher(key, item_address="")
    begun = abroad.post(f"pairings/{abroad.pairing}/learner-checks")
    assert abroad.done(begun["job"])["state"] == "done"
    rows = abroad.get(f"pairings/{abroad.pairing}/learner-checks/{begun['id']}")["rows"]
    codes = {row["title"]: {each["code"] for each in row["findings"]} for row in rows}
    assert codes["Reading log"] == {"front_page"}
    assert codes[ESSAY] == {"not_tried"}
    checks = {row["code"]: row for row in abroad.get(f"pairings/{abroad.pairing}/readiness")}
    assert "Reading log" in checks["addresses"]["message"]


def test_a_placement_is_taken_back_with_its_column_and_its_link_is_named(abroad: Abroad) -> None:
    placed = abroad.get(f"pairings/{abroad.pairing}/placements")["results"]
    log = next(row["id"] for row in placed if row["title"] == "Reading log")
    at = f"pairings/{abroad.pairing}/placements/take-back"
    (planned,) = abroad.post(at, placements=[log], dry_run=True)
    assert planned["by_hand"] is True
    made = abroad.post(at, placements=[log], scores="remove")
    assert abroad.done(made["job"])["state"] == "done"
    titles = {each["label"] for each in abroad.platform.columns.values()}
    assert "Reading log" not in titles
    said = abroad.get(f"pairings/{abroad.pairing}/activity")["results"]
    assert "delete these in the shell: Reading log" in str(said)


def test_a_locked_column_is_told_in_the_platform_s_words(abroad: Abroad) -> None:
    abroad.platform.locked.add(ESSAY)
    abroad.teacher._http.patch(
        f"{abroad.base}/pairings/{abroad.pairing}", json={"relay_on": True, "state": "live"}
    )
    compared, found = abroad.compare()
    unsent = next(row for row in found if (row["item"], row["kind"]) == (ESSAY, "unsent"))
    choice = {"finding": unsent["id"], "remedy": "send", "candidate": ""}
    (step,) = abroad.settle(compared, findings=[choice])["steps"]
    assert step["state"] == "failed"
    assert "locked by the registrar" in step["message"]
    abroad.platform.locked.clear()


def test_two_of_one_name_are_connected_and_told_apart(world: World, abroad: Abroad) -> None:
    twin = Abroad(world, "Plain", PlainPlatform())
    with world.administrator() as admin:
        names = [row["name"] for row in admin.platforms() if row["name"].startswith("Plain Pl")]
        assert len(set(names)) == len(names) == 2
        publishers = [row for row in admin.publishers() if row["name"].startswith("Plain Pu")]
        assert len({row["name"] for row in publishers}) == 2
        host = twin.publisher.url.partition("://")[2]
        assert any(host in row["name"] for row in publishers)
    twin.close()


def test_every_link_of_a_copied_shell_opens_its_item_after_same_course(abroad: Abroad) -> None:
    platform, opened = abroad.platform, {}
    for title in (QUIZ, ESSAY, LAB):
        platform.open(Browser(), title, "learner-1")
        opened[title] = abroad.publisher.launched[-1][f"{LTI}target_link_uri"]
    assert opened[QUIZ] == "https://plain.example/open/a"
    first = platform.course
    platform.copy("course-78")
    platform.open(abroad.teacher, **{f"{LTI}custom": {"context_id_history": first}})
    abroad.prove()
    shells = abroad.get("shells")["results"]
    shell = next(row for row in shells if row["copied"])
    made = abroad.post(f"shells/{shell['id']}/copied", choice="same", agree=True)
    abroad.pairing = made["id"]
    for title in (QUIZ, ESSAY, LAB):
        assert platform.open(Browser(), title, "learner-2").status == 200
        launched = abroad.publisher.launched[-1]
        assert launched[f"{LTI}target_link_uri"] == opened[title]
        assert launched[f"{AGS}claim/endpoint"]["lineitem"]


@pytest.fixture
def quiet(abroad: Abroad) -> Iterator[PlainPlatform]:
    """The platform, whose faults of one test are over with it."""
    people = dict(abroad.platform.people)
    yield abroad.platform
    abroad.platform.people = people
    abroad.platform.busy_until, abroad.platform.refuses = 0.0, ""


SUB = "http://purl.imsglobal.org/vocab/lis/v2/membership/"


@pytest.mark.parametrize(
    ("roles", "sees", "sent"),
    [
        ([INSTRUCTOR, f"{SUB}Instructor#TeachingAssistant"], 200, "TeachingAssistant"),
        ([f"{SUB}Instructor#PrimaryInstructor"], 200, "Instructor"),
        ([f"{MEMBERSHIP}#ContentDeveloper"], 200, "ContentDeveloper"),
        ([f"{MEMBERSHIP}#Mentor"], "not_for_mentors", ""),
        ([INSTITUTION_ADMINISTRATOR], "no_course_role", ""),
        ([], "no_course_role", ""),
        ([f"{SUB}Learner#GuestLearner"], 200, "Learner"),
    ],
)
def test_each_role_is_what_the_vocabulary_says(
    abroad: Abroad, quiet: PlainPlatform, roles: list[str], sees: int | str, sent: str
) -> None:
    who = f"somebody-{abs(hash(tuple(roles)))}"
    quiet.people[who] = roles
    before = len(abroad.publisher.launched)
    page = quiet.open(Browser(), ESSAY, who)
    if isinstance(sees, str):
        assert sees in page.text
        assert len(abroad.publisher.launched) == before
    else:
        assert page.status == sees
        assert any(role.endswith(f"#{sent}") for role in _roles_of(abroad))
    listed = {row["email"] for row in abroad.compare()[1] if row["scope"] == "learner"}
    assert (f"{who}@strict.example" in listed) == (sent == "Learner")


def _roles_of(abroad: Abroad) -> list[str]:
    return list(abroad.publisher.launched[-1][f"{LTI}roles"])


def test_who_comes_back_with_a_lesser_role_has_lost_the_greater_one(
    abroad: Abroad, quiet: PlainPlatform
) -> None:
    quiet.people["former-teacher"] = [INSTRUCTOR]
    browser = Browser()
    quiet.open(browser, "", "former-teacher")
    base = abroad.base
    assert browser._http.get(f"{base}/shells").json()["results"]
    quiet.people["former-teacher"] = [LEARNER]
    quiet.open(browser, ESSAY, "former-teacher")
    assert browser._http.get(f"{base}/shells").json().get("results", []) == []


def test_the_roster_takes_a_part_away_that_it_has_given(
    abroad: Abroad, quiet: PlainPlatform
) -> None:
    quiet.people["co-teacher"] = [INSTRUCTOR]
    browser = Browser()
    quiet.open(browser, "", "co-teacher")
    page = f"{abroad.base}/shells"
    abroad.compare()  # which reads the roster
    assert browser._http.get(page).json()["results"]
    quiet.people["co-teacher"] = [f"{SUB}Instructor#TeachingAssistant"]
    abroad.compare()
    assert browser._http.get(page).json()["results"], "an assistant may look"
    pairing = f"{abroad.base}/pairings/{abroad.pairing}"
    assert browser._http.get(pairing).json()["may_change"] is False
    del quiet.people["co-teacher"]
    abroad.compare()
    assert browser._http.get(page).json()["results"] == []
    assert abroad.get("shells")["results"], "whom no roster ever named keeps what a launch gave"


def test_a_submission_is_reviewed_from_the_gradebook_and_from_our_story(abroad: Abroad) -> None:
    platform, publisher = abroad.platform, abroad.publisher
    column = platform.column_of(ESSAY)
    claims = {
        f"{LTI}message_type": "LtiSubmissionReviewRequest",
        f"{LTI}for_user": {"user_id": "learner-2", "name": "Learner 2"},
        f"{LTI}resource_link": {"id": column["resourceLinkId"]},
        f"{AGS}claim/endpoint": {"scope": [], "lineitem": column["id"]},
    }
    page = platform.open(Browser(), **claims)
    assert page.status == 200, page.words
    told = publisher.launched[-1]
    assert told[f"{LTI}message_type"] == "LtiSubmissionReviewRequest"
    assert told[f"{LTI}target_link_uri"] == f"{publisher.url}/launch?review=1"
    assert told[f"{LTI}custom"]["view"] == "review"
    learner = told[f"{LTI}for_user"]["user_id"]
    platform.open(Browser(), ESSAY, "learner-2")
    assert publisher.launched[-1]["sub"] == learner
    assert "not_for_learners" in platform.open(Browser(), "", "learner-3", **claims).text
    assert platform.open(Browser(), "", "learner-2", **claims).status == 200
    found = next(row for row in abroad.compare()[1] if row["item"] == ESSAY and row["person"])
    at = f"pairings/{abroad.pairing}/placements/{found['placement']}/cells/{found['person']}"
    assert abroad.teacher.get(abroad.get(at)["review"]).status == 200
    assert publisher.launched[-1][f"{LTI}message_type"] == "LtiSubmissionReviewRequest"


def test_a_registration_is_answered_with_what_will_be_done(abroad: Abroad) -> None:
    tool = abroad.publisher.answered_with["https://purl.imsglobal.org/spec/lti-tool-configuration"]
    assert tool["claims"] == ["iss", "sub"]
    assert [sorted(each) for each in tool["messages"]] == [
        ["custom_parameters", "target_link_uri", "type"]
    ] * 3
    assert {each["type"]: each["target_link_uri"] for each in tool["messages"]} == {
        "LtiResourceLinkRequest": f"{abroad.publisher.url}/launch",
        "LtiDeepLinkingRequest": f"{abroad.publisher.url}/launch?picker=1",
        "LtiSubmissionReviewRequest": f"{abroad.publisher.url}/launch?review=1",
    }


def test_a_pause_that_one_call_was_asked_for_stops_reads_of_all_processes(
    abroad: Abroad, quiet: PlainPlatform
) -> None:
    quiet.busy, quiet.busy_until = "4", time.monotonic() + 4
    job = abroad.post(f"pairings/{abroad.pairing}/comparisons")["job"]  # of the worker
    until(
        lambda: [name for at, name, _ in quiet.called if at > quiet.busy_until - 4],
        lambda: quiet.called[-5:],
    )
    began = quiet.called[-1][0]
    time.sleep(HEARD_SECONDS)
    refused = abroad.teacher._http.get(f"{abroad.base}/pairings/{abroad.pairing}/readiness")
    assert refused.status_code < 500
    late = [each for each in quiet.called if began + HEARD_SECONDS < each[0] < quiet.busy_until]
    assert late == [], "the web process asked although a worker had been told to wait"
    assert abroad.done(job)["state"] == "done"


def test_a_worker_that_begins_within_a_pause_asks_nothing_before_it_is_over(
    world: World, abroad: Abroad, quiet: PlainPlatform
) -> None:
    quiet.busy, quiet.busy_until = "15", time.monotonic() + 15
    first = abroad.post(f"pairings/{abroad.pairing}/comparisons")["job"]
    until(lambda: quiet.called[-1][0] > quiet.busy_until - 15, lambda: quiet.called[-3:])
    told = quiet.called[-1][0]
    time.sleep(HEARD_SECONDS)
    world.end("worker")
    world.start_worker()
    second = abroad.post(f"pairings/{abroad.pairing}/drifts")
    assert [abroad.done(job)["state"] for job in (first, second)] == ["done", "done"]
    early = [each for each in quiet.called if told + HEARD_SECONDS < each[0] < quiet.busy_until]
    assert early == [], "the new worker was not told"


def test_a_platform_that_asks_for_a_pause_slows_every_writer_to_it_and_nobody_else(
    world: World,
    venn: VennPair,
    new_pairing: Callable[[str], tuple[Sides, str]],
    abroad: Abroad,
    quiet: PlainPlatform,
) -> None:
    _, beside = new_pairing("HYD 210-BESIDE")
    item = next(each["id"] for each in venn.items(beside, kind="graded"))
    compared, found = abroad.compare()
    chosen = next(each for each in found if "send" in each["remedies"])
    choices = [{"finding": chosen["id"], "remedy": "send", "candidate": ""}]
    world.start_worker("second")
    try:
        ends = datetime.now(UTC).replace(microsecond=0) + timedelta(seconds=12)
        left = (ends - datetime.now(UTC)).total_seconds()
        quiet.busy, quiet.busy_until = format_datetime(ends, usegmt=True), time.monotonic() + left
        at = f"pairings/{abroad.pairing}"
        settling = abroad.post(f"{at}/settlements", comparison=compared["id"], findings=choices)[
            "settlement"
        ]["job"]
        until(lambda: quiet.called[-1][0] > quiet.busy_until - left, lambda: quiet.called[-3:])
        told = quiet.called[-1][0]
        comparing = abroad.post(f"{at}/comparisons")["job"]
        venn.wait(venn.deploy(beside, [item])[0]["job"])
        assert datetime.now(UTC) < ends, "another platform's rollout waited as well"
        assert [abroad.done(job)["state"] for job in (settling, comparing)] == ["done", "done"]
        early = [each for each in quiet.called if told + HEARD_SECONDS < each[0] < quiet.busy_until]
        assert early == [], "some writer did not wait"
        written = abroad.platform.scores_of(chosen["item"])[chosen["email"].split("@")[0]]
        assert written == float(chosen["publisher"])
    finally:
        world.end("second")
