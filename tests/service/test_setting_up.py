"""Consent, the tool's place, account links, courses made and copied, copied shells, matches, ending
and undoing.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import datetime
from typing import Any

import httpx
import pytest
from tools.world import at_campus, at_press
from tools.world.browser import Browser
from tools.world.hold import until_job
from tools.world.world import INSTRUCTOR, PUBLISHER, World

from tests.conftest import Sides
from vennpair.client import NotAllowed, Refusal, VennPair
from vennpair.client.schema import Job
from vennpair.standins.tarnfield import COLLEAGUE, section

NewSides = Callable[[str], Sides]
NewPairing = Callable[[str], tuple[Sides, str]]


def shell_of(venn: VennPair, label: str) -> Any:
    return next(each for each in venn.shells() if each["label"] == label)


def course_of(venn: VennPair, code: str) -> Any:
    return next(each for each in venn.courses(code, refresh=True) if each["code"] == code)


def refused(code: str, act: Callable[[], Any]) -> Refusal:
    with pytest.raises(Refusal) as caught:
        act()
    assert caught.value.code == code, caught.value.message
    assert caught.value.remedy
    return caught.value


@pytest.fixture(scope="module")
def linked(world: World, venn: VennPair) -> Browser:
    """The instructor's browser, their account at the press linked."""
    browser = come_in(world)
    publisher = next(each for each in venn.accounts() if each["publisher_name"] == PUBLISHER)
    link_account(browser, venn, publisher["publisher"], INSTRUCTOR)
    return browser


def come_in(world: World) -> Browser:
    """Open Venn Pair as the instructor, in a browser of one's own."""
    browser = Browser()
    browser.sign_in(world.url("campus"), INSTRUCTOR)
    browser.open_link(world.url("campus"), "tarnfield-hyd210-02-s27")
    return browser


def link_account(browser: Browser, venn: VennPair, publisher: str, email: str) -> Any:
    """Begin a link, sign in at the press as somebody, and come back."""
    browser.get(venn.link_account(publisher)["open"])
    if browser.page.tree.xpath(f"//form[.//input[@value='{email}']]"):
        browser.submit(f"//form[.//input[@value='{email}']]")
    return next(each for each in venn.accounts() if each["publisher"] == publisher)


def test_nothing_is_read_or_written_before_somebody_agrees_and_after_they_withdraw(
    venn: VennPair, new_sides: NewSides
) -> None:
    sides = new_sides("HYD 210-CON")
    shell, course = shell_of(venn, sides.label), course_of(venn, sides.label)
    assert {row["code"] for row in venn.consent(shell["id"])["reads"]} == {
        "roster",
        "columns",
        "outline",
    }
    assert "agree" in refused("consent_needed", lambda: venn.pair(shell["id"], course["id"])).remedy
    pairing = venn.pair(shell["id"], course["id"], agree=True)["id"]
    assert venn.consent(shell["id"])["by"] == "Maren Holt"
    venn.wait(venn.start_import(pairing)["job"])
    items = [item["id"] for item in venn.items(pairing, kind="graded")][:1]
    venn.wait(venn.deploy(pairing, items)[0]["job"])
    assert venn.pairing(pairing)["state"] == "live"
    venn.withdraw(shell["id"])
    assert venn.pairing(pairing)["state"] == "paused"
    refused("consent_needed", lambda: venn.plan(pairing, items))
    refused("consent_needed", lambda: venn.change_pairing(pairing, state="live"))
    assert {check["code"]: check["state"] for check in venn.readiness(pairing)}["consent"] == "fail"
    venn.agree(shell["id"])
    assert venn.change_pairing(pairing, state="live")["state"] == "live"


def test_the_tool_is_turned_off_with_a_warning_and_links_then_do_not_open(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-TOO")
    shell = shell_of(venn, sides.label)["id"]
    venn.wait(
        venn.deploy(pairing, [next(item["id"] for item in venn.items(pairing, kind="graded"))])[0][
            "job"
        ]
    )
    looked = venn.shell_tool(shell)
    assert (looked["on"], looked["audience"], looked["links"]) == (True, "instructor", 1)
    assert (
        "1 homework link in this shell goes dead"
        in venn.change_shell_tool(shell, on=False, dry_run=True)["warning"]
    )
    assert venn.shell_tool(shell)["on"], "a dry run changes nothing"
    asked = venn.change_shell_tool(shell, on=False, position=2, etag=looked["etag"])
    job = venn.wait(asked["job"])
    assert job["message"].endswith("was changed: turned off, moved to place 3")
    changed = venn.shell_tool(shell)
    assert (changed["on"], changed["position"]) == (False, 2)
    refused("outside_stale", lambda: venn.change_shell_tool(shell, on=True, etag=looked["etag"]))
    assert {check["code"]: check["state"] for check in venn.readiness(pairing)}["tool"] == "fail"
    learner = Browser()
    learner.sign_in(world.url("campus"), section(2)[0].email)
    assert (
        "turned off in this course"
        in learner.open_link(world.url("campus"), sides.context_id, "Practice set 1A").words
    )
    (step,) = venn.operation_steps(job["id"])
    assert (step["before"], step["after"]) == (
        f"turned on, moved to place {looked['position'] + 1}",
        "turned off, moved to place 3",
    )
    venn.wait(venn.change_shell_tool(shell, audience="everyone")["job"])
    refused("nothing_to_do", lambda: venn.undo_operation(job["id"]))  # changed since, by us
    later = next(row for row in venn.operations() if row["kind"] == "tool")
    venn.wait(venn.undo_operation(later["id"]))
    venn.wait(venn.undo_operation(job["id"]))
    put_back = venn.shell_tool(shell)
    assert [put_back[name] for name in ("on", "position", "audience")] == [
        looked[name] for name in ("on", "position", "audience")
    ]
    assert learner.open_link(world.url("campus"), sides.context_id, "Practice set 1A").status == 200


@pytest.mark.usefixtures("no_account")
def test_an_account_is_linked_once_and_a_browser_signed_in_as_somebody_else_is_noticed(
    world: World, venn: VennPair
) -> None:
    publisher = next(
        each["publisher"] for each in venn.accounts() if each["publisher_name"] == PUBLISHER
    )
    browser = come_in(world)
    browser.get(world.url("press"))
    browser.submit(f"//form[.//input[@value='{COLLEAGUE.email}']]")
    wrong = link_account(browser, venn, publisher, COLLEAGUE.email)
    assert (wrong["state"], wrong["account"]) == ("pending", "Edwin Sallow")
    assert "signed in there as Edwin Sallow" in wrong["warning"]
    assert venn.look_for_account(wrong["id"])["state"] == "pending"
    assert venn.confirm_account(wrong["id"])["state"] == "linked"
    venn.undo_account(wrong["id"])
    browser.get(world.url("press"))
    browser.submit("//form[@action='/sign-out']")
    right = link_account(browser, venn, publisher, INSTRUCTOR)
    assert (right["state"], right["account"], right["warning"]) == ("linked", "Maren Holt", "")
    assert right["courses"] >= 3
    assert {each["mine"] for each in venn.courses("HYD 210-02", mine=True)} == {True}
    venn.undo_account(right["id"])
    assert (
        next(each for each in venn.accounts() if each["publisher"] == publisher)["state"] == "none"
    )


def test_an_account_link_begun_by_one_is_not_finished_by_another(
    world: World, venn: VennPair
) -> None:
    publisher = next(
        each["publisher"] for each in venn.accounts() if each["publisher_name"] == PUBLISHER
    )
    begun = venn.link_account(publisher)["open"]
    other = Browser()
    other.sign_in(world.url("campus"), "tobias.quell@tarnfield.example")
    other.open_link(world.url("campus"), "tarnfield-hyd210-02-s27")
    assert "begun by somebody else" in other.get(begun).words
    answer = other._http.post(
        f"{world.url('vennpair')}/lti/platform/account", data={"JWT": "a.b.c", "nonce": "guessed"}
    )
    assert "Code bad_state" in answer.text
    assert (
        next(each for each in venn.accounts() if each["publisher"] == publisher)["state"] == "begun"
    )


def test_a_course_is_made_copied_or_given_a_section_and_the_shell_is_ready(
    venn: VennPair, new_sides: NewSides, linked: Browser
) -> None:
    title = next(each for each in venn.titles("calder rivers"))
    assert title["can_create"]
    shells = [shell_of(venn, new_sides(f"HYD 210-NEW{number}").label) for number in (1, 2, 3)]
    made = venn.pair_new(shells[0]["id"], "title", title["id"], agree=True)
    assert (made["state"], made["set_up"] is not None) == ("draft", True)
    venn.wait(made["set_up"] or pytest.fail("no job"))
    ready = venn.pairing(made["id"])
    assert (ready["state"], ready["course"]["code"]) == ("ready", "HYD 210-NEW1")
    assert len(list(venn.items(made["id"]))) == 63
    assert any("is set up with" in each["sentence"] for each in venn.notices())
    for shell, way in ((shells[1], "copy_of"), (shells[2], "section_of")):
        copied = venn.pair_new(shell["id"], way, ready["course"]["id"], agree=True)
        venn.wait(copied["set_up"] or pytest.fail("no job"))
        assert venn.pairing(copied["id"])["state"] == "ready"
        assert venn.pairing(copied["id"])["course"]["id"] != ready["course"]["id"]


def test_making_needs_the_account_and_a_colleague_s_course_must_be_shared(
    venn: VennPair, new_sides: NewSides, linked: Browser
) -> None:
    shell = shell_of(venn, new_sides("HYD 210-SHA").label)["id"]
    shared = next(each for each in venn.courses("stones"))
    assert (shared["shared"], shared["mine"]) == (True, False)
    venn.wait(
        venn.pair_new(shell, "copy_of", shared["id"], agree=True)["set_up"] or pytest.fail("no job")
    )
    account = next(each for each in venn.accounts() if each["publisher_name"] == PUBLISHER)
    other = shell_of(venn, new_sides("HYD 210-SHB").label)["id"]
    venn.undo_account(account["id"] or "")
    assert (
        "Link it once"
        in refused(
            "account_needed",
            lambda: venn.pair_new(other, "title", next(venn.titles())["id"], agree=True),
        ).remedy
    )
    assert shell_of(venn, "HYD 210-SHB")["pairing"] is None
    link_account(linked, venn, account["publisher"], INSTRUCTOR)


def test_a_copied_shell_is_known_and_its_links_are_pointed_without_touching_it(
    world: World, venn: VennPair, new_pairing: NewPairing, new_sides: NewSides, linked: Browser
) -> None:
    old, pairing = new_pairing("HYD 210-OLD")
    items = [item["id"] for item in venn.items(pairing, kind="graded")][:3]
    venn.wait(venn.deploy(pairing, items, folder="Week 1")[0]["job"])
    for label, choice in (("HYD 210-CPA", "same"), ("HYD 210-CPB", "fresh")):
        made = at_campus.add_shell(world, label)
        at_campus.copy_shell(world, old.context_id, made["context_id"])
        learner = Browser()
        learner.sign_in(world.url("campus"), made["learner"])
        assert (
            "Code copied_link"
            in learner.open_link(world.url("campus"), made["context_id"], "Practice set 1A").words
        )
        linked.sign_in(world.url("campus"), INSTRUCTOR)
        assert linked.open_link(world.url("campus"), made["context_id"]).url.endswith("/copied")
        shell = shell_of(venn, label)
        assert (shell["copied"], shell["attention"]) == (
            True,
            "copied from another course: its homework links do not open yet",
        )
        found = venn.copied(shell["id"])
        assert (found["links"], [way["why"] for way in found["ways"] if not way["open"]]) == (3, [])
        before = at_campus.outline(world, made["context_id"])
        new = venn.go_on(shell["id"], choice, agree=True)
        done = venn.wait(new["set_up"] or pytest.fail("no job"))
        assert "3 links were pointed at it" in done["message"]
        assert at_campus.outline(world, made["context_id"]) == before, "the shell was not touched"
        assert venn.pairing(new["id"])["state"] == "live"
        assert (
            venn.pairing(new["id"])["course"]["id"] == venn.pairing(pairing)["course"]["id"]
        ) == (choice == "same")
        assert (
            learner.open_link(world.url("campus"), made["context_id"], "Practice set 1A").status
            == 200
        )
        assert venn.relay(new["id"])["received"] == 0, "nothing of the old learners crosses over"
        _dates_of_last_term_are_moved(world, venn, shell["id"], made["context_id"])


def _dates_of_last_term_are_moved(
    world: World, venn: VennPair, shell: str, context_id: str
) -> None:
    """What a copied shell shows is what the pairing knows, so moving its dates moves them."""
    ends = {row["title"]: row["end"] for row in at_campus.columns(world, context_id)}
    begun = venn.wait_for_set_up(venn.begin_set_up([(shell, None)])["id"])
    pairing = begun["sections"][0]["pairing"]
    items = [each["item"] for each in venn.placements(pairing)]
    wishes: dict[str, Any] = {"items": items, "update": True, "shift_days": 364, "scores": "later"}
    plan = venn.plan_set_up(begun["id"], **wishes)[0]
    assert (plan["there"], plan["plan"]["make"]) == (3, 0)
    fields = {
        change["field"]: change["before"][:10]
        for row in plan["plan"]["rows"]
        for change in row["differences"]
    }
    assert set(fields) == {"due_at"}
    assert fields["due_at"] in {end[:10] for end in ends.values()}
    venn.start_set_up(begun["id"], **wishes)
    done = venn.wait_for_set_up(begun["id"])
    assert done["sections"][0]["stage"] == "live", done["sections"][0]
    now = {row["title"]: row["end"] for row in at_campus.columns(world, context_id)}
    moved = {
        (datetime.fromisoformat(now[title]).date() - datetime.fromisoformat(end).date()).days
        for title, end in ends.items()
    }
    assert moved == {364}


def test_several_shells_are_guessed_and_paired_and_one_refused_keeps_none_back(
    venn: VennPair, new_sides: NewSides
) -> None:
    labels = ("HYD 211-51", "HYD 211-52")
    for label in labels:
        new_sides(label)
    venn.courses("", refresh=True)
    shells = [shell_of(venn, label)["id"] for label in labels]
    rows = venn.guess_several(shells)
    assert [row["course_name"].split(", ")[-2] for row in rows] == list(labels)
    assert {row["pairing"] for row in rows} == {None}
    pairs = [(row["shell"], row["course"] or "") for row in rows]
    done = venn.pair_several([pairs[0], (pairs[1][0], pairs[0][1])], agree=True)
    assert done[0]["pairing"]
    assert (done[1]["pairing"], "paired with another shell already" in done[1]["refused"]) == (
        None,
        True,
    )
    shared = venn.pair(pairs[1][0], pairs[0][1], share=True, agree=True)
    checks = {check["code"]: check["state"] for check in venn.readiness(shared["id"])}
    assert checks["shared_course"] == "ok"


def test_two_people_pairing_one_shell_at_once_make_one_pairing(
    world: World, venn: VennPair, new_sides: NewSides
) -> None:
    sides, other = new_sides("HYD 210-TW1"), new_sides("HYD 210-TW2")
    shell, courses = (
        shell_of(venn, sides.label)["id"],
        [course_of(venn, each.label)["id"] for each in (sides, other)],
    )
    venn.agree(shell)
    outcomes: list[str] = []

    def pair(course: str) -> None:
        with VennPair(
            world.url("vennpair"), venn._http.headers["authorization"].removeprefix("Bearer ")
        ) as mine:
            try:
                outcomes.append(mine.pair(shell, course)["state"])
            except Refusal as error:
                outcomes.append(error.code)

    threads = [threading.Thread(target=pair, args=(course,)) for course in courses]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["ready", "shell_paired"]


def test_ending_is_foreseen_undone_and_a_new_pairing_takes_the_links_over(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-END")
    venn.wait(
        venn.deploy(pairing, [next(item["id"] for item in venn.items(pairing, kind="graded"))])[0][
            "job"
        ]
    )
    assert (
        "1 link stays in HYD 210-END but leads nowhere from then on"
        in venn.consequences(pairing, "ended")[0]
    )
    assert venn.pairing(pairing)["state"] == "live", "looking changes nothing"
    learner = Browser()
    learner.sign_in(world.url("campus"), section(2)[0].email)
    venn.change_pairing(pairing, state="paused")
    assert (
        "paused the homework"
        in learner.open_link(world.url("campus"), sides.context_id, "Practice set 1A").words
    )
    venn.change_pairing(pairing, state="ended")
    assert shell_of(venn, sides.label)["ended"] == pairing
    assert venn.change_pairing(pairing, state="paused")["state"] == "paused"
    venn.change_pairing(pairing, state="ended")
    course = course_of(venn, sides.label)
    again = venn.pair(shell_of(venn, sides.label)["id"], course["id"])
    done = venn.wait(again["set_up"] or pytest.fail("no job"))
    assert "1 link was pointed at it" in done["message"]
    assert learner.open_link(world.url("campus"), sides.context_id, "Practice set 1A").status == 200
    refused("shell_paired", lambda: venn.change_pairing(pairing, state="paused"))


def test_an_account_under_another_address_is_matched_by_word_only_and_can_be_taken_back(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-MAT")
    name = section(2)[5]
    at_press.end_enrolment(world, sides.course, name.email)
    at_press.enrol(world, sides.course, "private@postbox.example", name.given, name.family)
    account = next(
        each for each in venn.matches(pairing)["open"] if each["email"] == "private@postbox.example"
    )
    assert {check["code"]: check["state"] for check in venn.readiness(pairing)}[
        "strangers"
    ] == "warn"
    roster = next(
        each["learner"] for each in account["candidates"] if each["learner"]["email"] == name.email
    )
    match = venn.confirm_match(pairing, account["student"], roster["id"])
    refused(
        "matched_already", lambda: venn.confirm_match(pairing, account["student"], roster["id"])
    )
    assert venn.matches(pairing)["open"] == []
    assert {check["code"]: check["state"] for check in venn.readiness(pairing)}["strangers"] == "ok"
    venn.undo_match(pairing, match["id"])
    assert len(venn.matches(pairing)["open"]) == 1


def place_page(venn: VennPair, pairing: str, access: str) -> Job:
    job = venn.choose_first_steps(pairing, access, place=True)["job"]
    assert job is not None
    return venn.wait(job)


def test_first_steps_are_placed_once_as_a_page_that_learners_can_read(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-STE")
    assert venn.first_steps(pairing, "fee")["title"] == "First steps: your homework in HYD 210-STE"
    first, second = (place_page(venn, pairing, access) for access in ("free", "fee"))
    assert (first["message"][-23:], second["message"][-23:]) == (
        "at the top of the shell",
        " was brought up to date",
    )

    def pages() -> list[dict[str, Any]]:
        rows = at_campus.outline(world, sides.context_id)
        return [row for row in rows if row["title"].startswith("First steps")]

    (placed,) = pages()
    learner = Browser()
    learner.sign_in(world.url("campus"), section(2)[0].email)
    page = learner.get(f"{world.url('campus')}/shells/{sides.context_id}/pages/{placed['key']}")
    assert "Access is part of your course fee" in page.words
    assert {check["code"]: check["state"] for check in venn.readiness(pairing)}[
        "first_steps"
    ] == "ok"
    for job, does in ((second, "put back as it was"), (first, "take out")):
        assert [row["does"] for row in venn.plan_operation_undo(job["id"])] == [does]
        until_job(venn, venn.undo_operation(job["id"])["id"], "done")
    assert pages() == []


def test_a_token_does_what_it_was_made_for_and_no_more(world: World, venn: VennPair) -> None:
    made = venn.make_token("nightly look", ["read"], 2)
    with VennPair(world.url("vennpair"), made["token"]) as looking:
        assert list(looking.shells())
        with pytest.raises(NotAllowed) as caught:
            looking.agree(next(looking.shells())["id"])
        assert caught.value.code == "scope_missing"
        with pytest.raises(NotAllowed):
            looking.make_token("wider", ["change"])
        with pytest.raises(NotAllowed, match="'compare'"):
            looking.compare_all()
        comparing = venn.make_token("nightly comparison", ["read", "compare"], 2)
        with VennPair(world.url("vennpair"), comparing["token"]) as nightly:
            nightly.compare_all()
            with pytest.raises(NotAllowed, match="'change'"):
                nightly.agree(next(nightly.shells())["id"])
        venn.revoke_token(made["id"])
        with pytest.raises(NotAllowed):
            looking.me()


def test_a_designer_sets_up_for_others_and_an_institution_keeps_an_administrator(
    world: World, venn: VennPair
) -> None:
    with world.administrator() as admin:
        people = {each["name"]: each for each in admin.people()}
        with pytest.raises(Refusal) as caught:
            admin.change_person(
                next(each["id"] for each in people.values() if each["role"] == "administrator"),
                "teacher",
            )
        assert caught.value.code == "last_administrator"
        with pytest.raises(NotAllowed):
            list(venn.people())
        assert admin.change_person(people["Maren Holt"]["id"], "designer")["role"] == "designer"
        assert len(list(venn.shells())) == len(list(admin.shells())), (
            "a designer sees every shell of the institution"
        )
        admin.change_person(people["Maren Holt"]["id"], "teacher")


def test_a_slow_or_silly_publisher_leaves_the_search_as_it_was(
    world: World, venn: VennPair
) -> None:
    with world.administrator() as admin:
        made = admin.add_publisher(
            name="Silly Press",
            oneroster_url=f"{world.url('campus')}/nowhere",
            oneroster_token_url=world.url("campus"),
            oneroster_client_id="x",
            oneroster_secret="y",
        )
        before = {each["id"] for each in venn.courses("HYD 210-02")}
        unread = {each["publisher"]: each["message"] for each in venn.read_courses_again()}
        assert "does not let Venn Pair" in unread["Silly Press"]
        admin.change_publisher(made["id"], active=False)
    assert {each["id"] for each in venn.courses("HYD 210-02")} == before


def test_an_unknown_way_or_several_at_once_are_refused(world: World, venn: VennPair) -> None:
    url, headers = f"{world.url('vennpair')}/api/v1/pairings", dict(venn._http.headers)
    shell = next(venn.shells())["id"]
    both = httpx.post(url, json={"shell": shell, "course": shell, "title": shell}, headers=headers)
    assert (both.status_code, both.json()["code"]) == (400, "invalid")
    assert "exactly one" in both.json()["detail"]


def test_a_copy_is_known_by_its_links_where_the_platform_tells_no_history(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    old, pairing = new_pairing("HYD 210-HIS")
    venn.wait(
        venn.deploy(pairing, [next(item["id"] for item in venn.items(pairing, kind="graded"))])[0][
            "job"
        ]
    )
    made = at_campus.add_shell(world, "HYD 210-HIC")
    at_campus.copy_shell(world, old.context_id, made["context_id"])
    at_campus.forget_histories(world, made["context_id"])
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    page = teacher.open_link(world.url("campus"), made["context_id"], "Practice set 1A")
    assert page.url.endswith("/copied"), (
        "a link that carries another shell's placement tells where it came from"
    )
    assert venn.copied(shell_of(venn, "HYD 210-HIC")["id"])["links"] == 1


def test_a_shared_course_is_compared_by_each_shell_s_own_learners(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    _, pairing = new_pairing("HYD 210-MER")
    other = at_campus.add_shell(world, "HYD 210-MES")
    at_campus.end_enrolments(world, other["context_id"])
    nell = "nell.quarrier@tarnfield.example"
    at_campus.enrol(world, other["context_id"], nell, "Nell", "Quarrier")
    come_in(world).open_link(world.url("campus"), other["context_id"])
    shared = venn.pair(
        shell_of(venn, "HYD 210-MES")["id"],
        venn.pairing(pairing)["course"]["id"],
        agree=True,
        share=True,
    )["id"]
    venn.wait(venn.start_import(shared)["job"])
    venn.wait(
        venn.deploy(shared, [next(item["id"] for item in venn.items(shared, kind="graded"))])[0][
            "job"
        ]
    )
    learner = Browser()
    learner.sign_in(world.url("campus"), "nell.quarrier@tarnfield.example")
    assert (
        learner.open_link(world.url("campus"), other["context_id"], "Practice set 1A").status == 200
    )
    venn.readiness(shared)
    begun = venn.compare(pairing)
    venn.wait(begun["job"])
    names = {
        finding["learner"]
        for finding in venn.findings(pairing, begun["id"])
        if finding["kind"] == "publisher_only"
    }
    assert "Nell Quarrier" not in names
