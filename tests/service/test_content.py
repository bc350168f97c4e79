"""Imports: chosen in part and in whole, once, whatever is killed meanwhile.

Recognised, undone, written, uploaded.
"""

from __future__ import annotations

import signal
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine
from tools.world.browser import Browser
from tools.world.hold import hold
from tools.world.world import INSTRUCTOR, World

from tests.conftest import Sides
from tests.standards.packages import package
from vennpair.client import Refusal, VennPair
from vennpair.client.schema import Package
from vennpair.standards.cartridge import read_cartridge
from vennpair.standards.cartridge.writer import Entry, write_cartridge

NewPairing = Callable[[str], tuple[Sides, str]]


@pytest.fixture(scope="module")
def cartridges(world: World, new_pairing: NewPairing) -> tuple[Sides, str, Path]:
    """A pairing, and the press's cartridge of its course, full and thin, beside a foreign one."""
    sides, pairing = new_pairing("HYD 210-CTR")
    folder = world.home / "cartridges"
    world.manage("press", "write_cartridges", sides.course, str(folder))
    return sides, pairing, folder


def standing(world: World, sides: Sides) -> list[tuple[str, ...]]:
    """Return depth, title, kind and visibility of what is in the campus's shell, and how many
    columns and files.
    """
    rows = at_campus.outline(world, sides.context_id)
    columns = at_campus.columns(world, sides.context_id)
    names = [each["title"] for each in columns]
    in_order = names == [row["title"] for row in rows if row["title"] in set(names)]
    files = at_campus.files(world, sides.context_id)
    return [
        *((str(row["depth"]), row["title"], row["kind"], str(row["visible"])) for row in rows),
        (f"GRADEBOOK {in_order}",),
        (f"COLUMNS {len(columns)} FILES {files}",),
    ]


def read(venn: VennPair, pairing: str, file: Path) -> str:
    made = venn.start_import(pairing, venn.send_package(pairing, file)["id"])
    venn.wait(made["job"])
    return made["id"]


def bring(venn: VennPair, pairing: str, made: str, **order: Any) -> str:
    return venn.wait(venn.deliver(pairing, made, **order)["job"], seconds=120)["message"]


def last(venn: VennPair, pairing: str, made: str) -> str:
    """Return the operation that brought an import in last."""
    delivery = venn.last_delivery(pairing, made)
    assert delivery is not None
    return delivery["job"]["id"]


def take_out(venn: VennPair, pairing: str, made: str) -> str:
    """Undo it; return what came of that, in words."""
    undoing = venn.undo_operation(last(venn, pairing, made))
    return venn.wait(venn.job(undoing["id"]))["message"]


def test_a_foreign_package_with_troubles_comes_in_as_far_as_it_can_and_goes_out_again(
    world: World, venn: VennPair, cartridges: tuple[Sides, str, Path]
) -> None:
    sides, pairing, folder = cartridges
    before, items = standing(world, sides), len(list(venn.items(pairing)))
    made = read(venn, pairing, folder / "field-station-foreign.imscc")
    entries = {each["shown_title"]: each for each in venn.entries(pairing, made)}
    assert {each["trouble"] for each in entries.values() if each["blocked"]} == {
        "unknown_tool",
        "missing_file",
        "bad_xml",
        "missing_resource",
        "unsupported_resource",
    }
    assert entries["What did you see?"]["naming"] == "proposed"
    assert {"Field notes", "Field notes (2)"} <= set(entries)
    assert len(list(venn.items(pairing))) == items  # nothing of this publisher is in it
    plan = venn.plan_delivery(pairing, made, everything=True, folder="Handbook")
    assert plan["new_folder"] == "Handbook"
    assert plan["counts"] == {"make": 14, "update": 0, "same": 0, "keep": 0, "leave_out": 5}
    assert standing(world, sides) == before
    brought = bring(venn, pairing, made, everything=True, folder="Handbook")
    assert brought == "14 made, 5 left out"
    assert ("1", "Refresher: reading a map", "folder", "True") in standing(world, sides)
    first = last(venn, pairing, made)
    hiding = {"everything": True, "review": "hide", "folder": "Handbook"}
    assert venn.plan_delivery(pairing, made, **hiding)["counts"]["update"] == 3
    bring(venn, pairing, made, **hiding)
    after = standing(world, sides)
    assert ("1", "Refresher: reading a map", "folder", "False") in after
    titles = [row[1] for row in after[len(before) - 2 : -2]]
    assert titles[:6] == [
        "Handbook",
        "Arriving at the station",
        "How to get there",
        "On the first day",
        "Field notes",
        "Field notes (2)",
    ]
    assert next(row for row in after if row[1] == "Key to the map quiz")[3] == "False"
    seen = Browser()
    seen.sign_in(world.url("campus"), INSTRUCTOR)
    shell = seen.get(f"{world.url('campus')}/shells/{sides.context_id}")
    page = seen.get(
        world.url("campus") + shell.tree.xpath("//a[text()='How to get there']/@href")[0]
    )
    assert "alert" not in page.text
    for link in (
        page.tree.xpath("//img/@src")[0],
        *page.tree.xpath("//a[contains(@href, '/files/') or text()='field notes']/@href"),
    ):
        assert (
            seen.get(link if link.startswith("http") else world.url("campus") + link).status == 200
        )
    taken = venn.wait(venn.job(venn.undo_operation(first)["id"]))["message"]
    assert taken == "14 taken out"
    assert standing(world, sides)[:-2] == before[:-2]


def test_importing_again_updates_what_changed_and_doubles_nothing(
    world: World, venn: VennPair, new_pairing: NewPairing, tmp_path: Path
) -> None:
    sides, pairing = new_pairing("HYD 210-AGAIN")

    def write(third: str, text: str) -> Path:
        entries = [
            Entry("f", "Reader", "folder"),
            Entry("a", "First", "page", 1, html="<p>one</p>"),
            Entry("b", "Second", "page", 1, html=text),
            Entry("c", third, "web_link", 1, url="https://a.example/"),
        ]
        with (tmp_path / "reader.imscc").open("wb") as target:
            write_cartridge(target, "reader", "Reader", "en", entries)
        return tmp_path / "reader.imscc"

    made = read(venn, pairing, write("Third", "<p>two</p>"))
    assert bring(venn, pairing, made, words="first") == "2 made"  # the folder around it comes along
    assert bring(venn, pairing, made, everything=True) == "2 made, 2 there already"
    first = standing(world, sides)
    assert [row[1] for row in first[-6:-2]] == ["Reader", "First", "Second", "Third"]
    newer = read(venn, pairing, write("Third, renamed", "<p>two, longer</p>"))
    plan = venn.plan_delivery(pairing, newer, everything=True)
    assert [row["action"] for row in plan["entries"]] == ["same", "same", "update", "update"]
    at_campus.edit_entry(world, sides.context_id, "Third", title="Mine")
    plan = venn.plan_delivery(pairing, newer, everything=True)
    assert [row["action"] for row in plan["entries"]] == ["same", "same", "update", "keep"]
    assert "changed in the shell since" in plan["entries"][3]["why"]
    assert (
        bring(venn, pairing, newer, everything=True)
        == "1 updated, 2 there already, 1 kept as changed in the shell"
    )
    assert [row[1] for row in standing(world, sides)[-6:-2]] == [
        "Reader",
        "First",
        "Second",
        "Mine",
    ]
    newest = read(venn, pairing, write("Third, renamed again", "<p>two, longer still</p>"))
    plan = venn.plan_delivery(pairing, newest, everything=True)
    assert [row["action"] for row in plan["entries"]] == [
        "same",
        "same",
        "update",
        "keep",
    ]  # still known as changed by hand
    at_campus.mark_used(world, sides.context_id, "First")
    reasons = {
        row["title"]: row["why"] for row in venn.plan_operation_undo(last(venn, pairing, made))
    }
    assert reasons == {
        "Second": "it was changed in the shell since",
        "Third": "it was changed in the shell since",
    }
    with pytest.raises(Refusal) as caught:
        bring(venn, pairing, newer, everything=True)
    assert caught.value.code == "nothing_to_do"


def test_hiding_writes_nothing_over_what_was_changed_and_is_undone(
    world: World, venn: VennPair, new_pairing: NewPairing, tmp_path: Path
) -> None:
    sides, pairing = new_pairing("HYD 210-HIDE")

    def write(text: str) -> Path:
        entries = [
            Entry("f", "Refresher: units", "folder"),
            Entry("a", "Units", "page", 1, html=text),
            Entry("b", "Chart", "web_link", 1, url="https://a.example/"),
        ]
        with (tmp_path / "units.imscc").open("wb") as target:
            write_cartridge(target, "units", "Units", "en", entries)
        return tmp_path / "units.imscc"

    made = read(venn, pairing, write("<p>one</p>"))
    assert bring(venn, pairing, made, everything=True) == "3 made"
    at_campus.edit_entry(world, sides.context_id, "Units", title="My units")
    before = standing(world, sides)
    assert bring(venn, pairing, made, everything=True, review="hide") == "3 updated"
    hidden = [row for row in standing(world, sides) if row not in before]
    assert [(row[1], row[3]) for row in hidden] == [
        ("Refresher: units", "False"),
        ("My units", "False"),
        ("Chart", "False"),
    ]
    newer = read(venn, pairing, write("<p>one, longer</p>"))
    plan = venn.plan_delivery(pairing, newer, everything=True)
    assert [row["action"] for row in plan["entries"]] == ["same", "keep", "same"]
    hiding = last(venn, pairing, made)
    assert [(row["title"], row["shows"]) for row in venn.plan_operation_undo(hiding)] == [
        ("Refresher: units", True),
        ("Units", True),
        ("Chart", True),
    ]
    undone = venn.wait(venn.job(venn.undo_operation(hiding)["id"]))
    assert undone["message"] == "3 shown to learners again"
    assert standing(world, sides) == before


def test_killing_the_worker_midway_ends_in_the_same_shell_as_an_undisturbed_run(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    ends = []
    slain = ((7, "drop"), (20, "before"), (15, "after"))
    for label, kills in (("HYD 210-CALM", ()), ("HYD 210-SLAIN", slain)):
        sides, pairing = new_pairing(label)
        made = next(venn.imports(pairing))["id"]
        world.end("worker")
        delivery = venn.deliver(pairing, made, everything=True, folder="Course")
        for after, moment in kills:
            with hold(world, "campus", "POST", "/entries$", after=after, hold=moment) as held:
                world.start_worker()
                held.wait()
                world.end("worker", signal.SIGKILL)
        world.start_worker()
        assert "71 made" in venn.wait(delivery["job"], seconds=120)["message"]
        ends.append(standing(world, sides))
    assert ends[0][:-1] == ends[1][:-1]
    assert ends[1][-2:] == [("GRADEBOOK True",), ("COLUMNS 31 FILES 0",)]


def test_an_import_is_stopped_and_taken_up_again(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-HALT")
    made = next(venn.imports(pairing))["id"]
    world.end("worker", signal.SIGKILL)
    try:
        delivery = venn.deliver(pairing, made, everything=True)
        venn.stop_import(pairing, made)
        with pytest.raises(Refusal) as caught:
            venn.deliver(pairing, made, everything=True)
        assert caught.value.code == "delivery_running"
    finally:
        world.start_worker()
    with pytest.raises(Refusal) as caught:
        venn.wait(delivery["job"])
    assert caught.value.code == "job_cancelled"
    assert {each["state"] for each in venn.entries(pairing, made)} == {"untouched"}
    with pytest.raises(Refusal) as caught:
        venn.stop_import(pairing, made)
    assert caught.value.code == "nothing_running"
    assert bring(venn, pairing, made, kinds=["web_link"]) == "18 made"  # nine, each in its folder
    assert sum("web_link" in row for row in standing(world, sides)) == 9


@pytest.mark.parametrize("profile", ["thin", "full"])
def test_a_written_cartridge_is_uploaded_in_the_platform_and_its_links_are_known_when_opened(
    world: World,
    cli: CommandLine,
    venn: VennPair,
    new_pairing: NewPairing,
    tmp_path: Path,
    profile: str,
) -> None:
    sides, pairing = new_pairing(f"HYD 210-W{profile[0]}")
    options = ["--thin"] if profile == "thin" else []
    assert (
        cli(
            "cartridge",
            "write",
            sides.label,
            str(tmp_path / "w.imscc"),
            "--folder",
            "Unit 2: Flow",
            *options,
        ).status
        == 0
    )
    cartridge = read_cartridge(tmp_path / "w.imscc", known_hosts=frozenset({"127.0.0.1"}))
    assert (cartridge.version, cartridge.profile) == ("1.3", profile)
    kinds = [row.kind for row in cartridge.outline]
    assert kinds == (
        ["folder", "web_link", *["lti_link"] * 4]
        if profile == "thin"
        else ["folder", "page", "web_link", *["lti_link"] * 3, "page", "lti_link"]
    )
    assert all(
        row.resource and set(row.resource.descriptor.custom) == {"placement"}
        for row in cartridge.outline
        if row.kind == "lti_link"
    )
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    with (tmp_path / "w.imscc").open("rb") as file:
        done = teacher.upload(f"{world.url('campus')}/shells/{sides.context_id}/cartridge", file)
    assert "w.imscc: completed" in done.words
    assert list(venn.items(pairing, placed="true")) == []
    teacher.open_link(world.url("campus"), sides.context_id, "Unit 2 quiz")
    assert "Unit 2 quiz" in teacher.page.words
    assert [item["shown_title"] for item in venn.items(pairing, placed="true")] == ["Unit 2 quiz"]
    ours = read(
        venn, pairing, tmp_path / "w.imscc"
    )  # our own links are known again, not taken for the publisher's
    plan = venn.plan_delivery(pairing, ours, words="quiz")
    assert plan["entries"][-1]["action"] == "same"


def test_names_and_matches_are_corrected_and_kept(
    venn: VennPair, cartridges: tuple[Sides, str, Path]
) -> None:
    _, pairing, folder = cartridges
    made = read(venn, pairing, folder / "rivers-full.imscc")
    links = [each for each in venn.entries(pairing, made, kind="web_link")][:2]
    shown = venn.rename_entries(
        pairing,
        made,
        entries=[each["id"] for each in links],
        pattern="{number}: {title} ({unit})",
        dry_run=True,
    )
    assert shown[1]["after"] == "2: Video 2: a walk along the reach (Unit 2: Flow and channels)"
    assert (
        next(venn.entries(pairing, made, kind="web_link"))["shown_title"] == links[0]["shown_title"]
    )
    venn.rename_entries(pairing, made, names={links[0]["id"]: "Film 1"})
    set_a = next(venn.entries(pairing, made, q="Practice set 1A"))
    assert set_a["reason"] == "the custom parameter item"
    quiz = next(item for item in venn.items(pairing, q="Unit 9 quiz"))
    assert venn.match_entry(pairing, made, set_a["id"], quiz["id"])["points"] == "20"
    again = read(venn, pairing, folder / "rivers-full.imscc")
    assert next(venn.entries(pairing, again, kind="web_link"))["shown_title"] == "Film 1"
    kept = next(venn.entries(pairing, again, q="Practice set 1A"))
    assert (kept["line_item"].endswith("u9i4"), kept["reason"]) == (
        True,
        "the instructor's correction",
    )
    venn.match_entry(
        pairing,
        again,
        kept["id"],
        next(item for item in venn.items(pairing, q="Practice set 1B"))["id"],
    )
    for pattern in ("{nope}", "{title", "{unit.x}", " "):
        with pytest.raises(Refusal):
            venn.rename_entries(pairing, made, entries=[links[0]["id"]], pattern=pattern)


def test_previews_are_harmless(venn: VennPair, cartridges: tuple[Sides, str, Path]) -> None:
    _, pairing, folder = cartridges
    made = read(venn, pairing, folder / "field-station-foreign.imscc")
    by_title = {each["title"]: each["id"] for each in venn.entries(pairing, made)}
    page = venn.preview(pairing, made, by_title["How to get there"])
    assert "River Tarn" in page["html"]
    assert not [word for word in ("<script", "onload", "alert", "<img src") if word in page["html"]]
    assert page["files"] == [
        "pages/way.html",
        "pages/img/dot.png",
        "pages/notes one.html",
        "data/depth.csv",
    ]
    quiz = venn.preview(pairing, made, by_title["Map quiz"])
    assert [(each["kind"], each["choices"], each["points"]) for each in quiz["questions"]] == [
        ("multiple_choice", ["a ford", "a spring"], "2")
    ] * 3
    link = venn.preview(pairing, made, by_title["Tide tables"])
    assert (link["url"], link["new_window"]) == ("https://tides.saltmarsh.example/", True)


def test_chosen_questions_of_a_quiz_arrive_and_can_be_edited_there(
    world: World, venn: VennPair, cli: CommandLine, cartridges: tuple[Sides, str, Path]
) -> None:
    sides, pairing, folder = cartridges
    made = read(venn, pairing, folder / "field-station-foreign.imscc")
    by_title = {each["title"]: each["id"] for each in venn.entries(pairing, made)}
    words = ["cartridge", "bring", sides.label, "--import", made, "--entry", "Map quiz"]
    refused = cli(*words, "--questions", "Map quiz=one")
    assert (refused.status, "--questions 'Map quiz=1,3-5'" in refused.err) == (2, True)
    brought = cli.json(*words, "--questions", "Map quiz=1,3", "--into", "Quizzes")
    assert brought["delivery"]["job"]["state"] == "done", by_title
    outline = at_campus.outline(world, sides.context_id)
    quiz = [row for row in outline if row["title"] == "Map quiz"][-1]
    teacher = Browser()
    teacher.sign_in(world.url("campus"), INSTRUCTOR)
    address = f"{world.url('campus')}/shells/{sides.context_id}/pages/{quiz['key']}"
    page = teacher.get(address)
    assert len(page.tree.xpath("//form[@id='quiz']/ol/li")) == 2
    assert "4 points" in page.words, "what the chosen ones are worth together"
    teacher.submit("//form[@id='quiz']", **{"prompt-0": "Where does it rise?", "points-0": "3"})
    prompts = teacher.get(address).tree.xpath("//input[starts-with(@name, 'prompt-')]/@value")
    assert prompts[0] == "Where does it rise?"
    assert len(prompts) == 2


def test_a_broken_upload_goes_on_where_it_was(
    venn: VennPair, cartridges: tuple[Sides, str, Path], tmp_path: Path
) -> None:
    _, pairing, _ = cartridges
    file = tmp_path / "large.imscc"
    file.write_bytes(b"\x50" * 9_000_000)
    arrived: list[int] = []

    def break_off(done: int, total: int) -> None:
        arrived.append(done)
        if len(arrived) == 2:
            raise ConnectionError

    with pytest.raises(ConnectionError):
        venn.send_package(pairing, file, break_off)
    sent: list[str] = []
    venn._http.event_hooks["request"] = [lambda request: sent.append(request.url.path)]
    package = venn.send_package(pairing, file)
    venn._http.event_hooks["request"] = []
    assert package["complete"]
    assert [path.rsplit("/", 1)[-1] for path in sent[1:]] == ["2"]  # the first two were there
    made = venn.start_import(pairing, package["id"])
    with pytest.raises(Refusal, match="not a zip"):
        venn.wait(made["job"])
    refused = venn.import_of(pairing, made["id"])
    assert ([each["code"] for each in refused["findings"]], refused["kept"]) == (
        ["not_a_zip"],
        False,
    )  # nothing of it is stored


def test_half_an_upload_or_a_wrong_part_is_refused(
    venn: VennPair, cartridges: tuple[Sides, str, Path]
) -> None:
    _, pairing, _ = cartridges
    path = f"/pairings/{pairing}/packages"
    begun = venn._post(Package, path, {"filename": "x.imscc", "size": 5_000_000})
    for call, code in (
        (lambda: venn.start_import(pairing, begun["id"]), "upload_incomplete"),
        (
            lambda: venn._call(
                Package,
                "PUT",
                f"/pairings/{pairing}/packages/{begun['id']}/parts/1",
                content=b"short",
                extra={"Content-Type": "application/octet-stream"},
            ),
            "bad_part",
        ),
        (
            lambda: venn._call(
                Package,
                "PUT",
                f"/pairings/{pairing}/packages/{begun['id']}/parts/7",
                content=b"short",
                extra={"Content-Type": "application/octet-stream"},
            ),
            "bad_part",
        ),
        (
            lambda: venn._post(Package, path, {"filename": "x.imscc", "size": 10**13}),
            "too_large",
        ),
    ):
        with pytest.raises(Refusal) as caught:
            call()
        assert caught.value.code == code


def test_uploads_have_a_share_and_a_corrected_part_takes_the_place_of_the_first(
    venn: VennPair, new_pairing: NewPairing
) -> None:
    _, pairing = new_pairing("HYD 210-SHARE")
    path, octets = f"/pairings/{pairing}/packages", {"Content-Type": "application/octet-stream"}
    begun = venn._post(Package, path, {"filename": "x.imscc", "size": 5})
    parts = f"{path}/{begun['id']}/parts/0"
    for data in (b"wrong", b"right", b"right"):
        assert venn._call(Package, "PUT", parts, content=data, extra=octets)["complete"]
    assert venn._http.get(f"{path}/{begun['id']}/content").content == b"right"
    made = venn.start_import(pairing, begun["id"])
    with pytest.raises(Refusal, match=r"read already|Not found|no longer stored"):
        venn._call(Package, "PUT", parts, content=b"later", extra=octets)
    with pytest.raises(Refusal):  # it is no cartridge
        venn.wait(made["job"])
    for number in range(5):
        asked = {"filename": f"{number}.imscc", "size": 2_400_000_000}
        if number < 4:
            venn._post(Package, path, asked)
            continue
        with pytest.raises(Refusal, match="find no room") as caught:
            venn._post(Package, path, asked)
        assert (caught.value.status, caught.value.code) == (413, "no_room")


def test_the_catalogue_tells_what_changed(
    world: World, venn: VennPair, new_pairing: NewPairing
) -> None:
    sides, pairing = new_pairing("HYD 210-CAT")
    assert venn.refresh_catalogue(pairing)["words"] == "nothing changed"
    first, second, third = at_press.graded_titles(world, sides.course)[:3]
    at_press.change_item(world, sides.course, first, title="Opening practice", points=12)
    at_press.delay_item(world, sides.course, second, days=2)
    at_press.change_item(world, sides.course, second, category="Quizzes")
    at_press.delete_item(world, sides.course, third)
    at_press.add_item(world, sides.course, "Extra field day", points=5, category="Projects")
    found = {(each["kind"], each["title"]) for each in venn.refresh_catalogue(pairing)["changes"]}
    assert found == {
        ("renamed", "Opening practice"),
        ("points", "Opening practice"),
        ("date", "Practice set 1B"),
        ("moved", "Practice set 1B"),
        ("withdrawn", "Unit 1 quiz"),
        ("new", "Extra field day"),
    }
    titles = {item["shown_title"]: item for item in venn.items(pairing)}
    assert "Unit 1 quiz" not in titles
    assert (titles["Opening practice"]["points"], titles["Extra field day"]["kind"]) == (
        "12",
        "graded",
    )
    assert venn.refresh_catalogue(pairing)["changes"] == []
    assert len(venn.catalogue(pairing)) == 3
    made = venn.start_import(pairing, catalogue=True)
    assert venn.wait(made["job"])["message"].endswith("items of the catalogue")
    assert bring(venn, pairing, made["id"], words="extra field") == "2 made"
    assert standing(world, sides)[-3][1:3] == ("Extra field day", "lti_link")


def test_hostile_and_foreign_packages_are_named_by_the_command_line_before_anything_is_sent(
    cli: CommandLine, cartridges: tuple[Sides, str, Path], tmp_path: Path
) -> None:
    sides, _, folder = cartridges
    bad = tmp_path / "bad.imscc"
    bad.write_bytes(package(**{"../x": "y"}))
    refused = cli("cartridge", "import", sides.label, str(bad), "--format", "json")
    assert (refused.status, "unsafe_path" in refused.err) == (3, True)
    looked = cli(
        "cartridge", "import", sides.label, str(folder / "field-station-foreign.imscc"), "--dry-run"
    )
    assert (looked.status, "missing_file" in looked.out) == (1, True)
    assert cli("cartridge", "bring", sides.label).status == 2
    assert cli("cartridge", "import", sides.label, str(tmp_path / "none.imscc")).status == 3
