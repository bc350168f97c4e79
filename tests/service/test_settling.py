"""Every row of the three-way table and every finding of a column, planted, found with its cause, settled, undone to the last digit."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import httpx
import pytest
from tools.house.changes import change, change_press
from tools.house.shop import CommandLine, hand_in
from tools.house.world import World

from tests.conftest import Sides
from vennpair.client import NotAllowed, Refusal, VennPair
from vennpair.standins.tarnfield import section

LEARNERS = section(2)[:6]
WORKED, FRESH, WITHDRAWN, HELD, CHANGED, MISSING, GONE = "Practice set 1A", "Unit 1 quiz", "Practice set 1B", "Practice set 2A", "Practice set 2B", "Unit 2 quiz", "Practice set 3A"
TYPED = """
from decimal import Decimal
from django.utils import timezone
for email, title, score in {rows}:
    Cell.objects.update_or_create(column=s.columns.get(label=title), person=Person.objects.get(email=email), defaults=dict(score=None if score is None else Decimal(score), by_hand=True, timestamp=timezone.now()))
"""
SHOWN = """
import json
from vennpair.standins.campus.models import *
s = Shell.objects.get(context_id='{context}')
print('ROWS' + json.dumps(dict(cells=sorted((c.person.email, c.column.label, str(c.score)) for c in Cell.objects.filter(column__shell=s).exclude(score=None).select_related('person', 'column')), columns=sorted((c.label, str(c.maximum), c.end) for c in s.columns.all()))))
"""


@pytest.fixture(scope="module")
def planted(world: World, venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> tuple[Sides, str]:
    sides, pairing = new_pairing("HYD 210-SETTLE")
    wanted = {WORKED, FRESH, WITHDRAWN, HELD, CHANGED, MISSING, GONE}
    items = [item["id"] for item in venn.items(pairing) if item["title"] in wanted]
    venn.wait(venn.deploy(pairing, items, folder="Homework")[0]["job"])
    venn.change_pairing(pairing, relay_on=True)
    held = next(each for each in venn.relay_rules(pairing)["items"] if each["title"] == HELD)
    venn.change_rule(pairing, "item", held["item"], {"when": "hand"})
    for who, learner in enumerate(LEARNERS):
        browser = hand_in(world, learner.email, sides.context_id, WORKED, 3)
        if who < 2:
            hand_in(world, learner.email, sides.context_id, WITHDRAWN, 4, browser)
    hand_in(world, LEARNERS[5].email, sides.context_id, HELD, 2)
    until_sent(venn, pairing, 8)
    venn.change_pairing(pairing, relay_on=False)
    plant(world, sides)
    return sides, pairing


def until_sent(venn: VennPair, pairing: str, count: int) -> None:
    from tests.service.test_relaying import until

    until(venn, pairing, accepted=count, waiting=0, sending=0)


def plant(world: World, sides: Sides) -> None:
    def answer(who: int, title: str, score: str, *more: str) -> None:
        world.manage("press", "answer", "--course", sides.course, "--email", LEARNERS[who].email, "--item", title, "--score", score, *more)

    typed = [(1, WORKED, "9.5"), (2, WORKED, None), (4, WORKED, "1.25"), (1, FRESH, "3"), (2, FRESH, "7"), (0, WITHDRAWN, "2"), (1, WITHDRAWN, None)]
    change(world, sides.context_id, TYPED.format(rows=[(LEARNERS[who].email, title, score) for who, title, score in typed]))
    for who, title, score in ((3, WORKED, "10"), (4, WORKED, "8"), (0, FRESH, "12"), (1, FRESH, "13"), (4, FRESH, "14")):
        answer(who, title, score, "--lost")
    for who, title in ((5, WORKED), (0, WITHDRAWN), (1, WITHDRAWN)):
        answer(who, title, "0", "--delete", "--lost")
    refused = f"from vennpair.service.relay.models import *; from vennpair.service.deploy.models import Placement; from vennpair.service.pair.models import *; p=Placement.objects.get(pairing__shell__label='{sides.label}', title='{FRESH}'); Cell.objects.create(pairing=p.pairing, placement=p, learner=Learner.objects.get(shell=p.pairing.shell, email='{LEARNERS[4].email}'), state='refused', reason='The column is locked.')"
    world.manage("vennpair", "shell", "-v", "0", "-c", refused)
    change(
        world,
        sides.context_id,
        f"column('{CHANGED}').update(maximum=25, end='2027-03-01T00:00:00+00:00', label='Renamed', category=None)\nlink('{MISSING}')\ncolumn('{MISSING}').delete()\nColumn.objects.create(shell=s, key='own', label='Field trip', maximum=5)",
    )
    change_press(world, sides.course, f"item('{GONE}').delete()")


def compared(venn: VennPair, pairing: str) -> dict[str, Any]:
    comparison = venn.compare(pairing)
    venn.wait(comparison["job"])
    return dict(venn.comparison(pairing, comparison["id"]))


def cells_of(venn: VennPair, pairing: str, comparison: str) -> dict[tuple[str, str], dict[str, Any]]:
    return {(each["email"], each["item"]): dict(each) for each in venn.findings(pairing, comparison, scope="cell")}


def shown(world: World, sides: Sides) -> Any:
    return json.loads(world.manage("campus", "shell", "-v", "0", "-c", SHOWN.format(context=sides.context_id)).rpartition("ROWS")[2])


def who(number: int, title: str) -> tuple[str, str]:
    return LEARNERS[number].email, title


def test_every_row_of_the_table_is_found_settled_and_undone(world: World, venn: VennPair, planted: tuple[Sides, str]) -> None:
    sides, pairing = planted
    before = shown(world, sides)
    first = compared(venn, pairing)
    found = cells_of(venn, pairing, first["id"])
    kinds = {key: each["kind"] for key, each in found.items()}
    assert kinds == {
        **{who(1, WORKED): "edited", who(2, WORKED): "cleared", who(3, WORKED): "behind", who(4, WORKED): "clash", who(5, WORKED): "withdrawn"},
        **{who(0, FRESH): "unsent", who(1, FRESH): "differ", who(2, FRESH): "gradebook_only", who(4, FRESH): "refused"},
        **{who(0, WITHDRAWN): "edited", who(1, WITHDRAWN): "cleared", who(5, HELD): "held"},
    }
    assert "never reported" in found[who(3, WORKED)]["cause"]
    assert "The column is locked." in found[who(4, FRESH)]["cause"]
    columns = {(each["kind"], each["item"]) for each in venn.findings(pairing, first["id"], scope="column")}
    assert columns == {("points_differ", CHANGED), ("due_differs", CHANGED), ("title_differs", CHANGED), ("category_differs", CHANGED), ("column_missing", MISSING), ("item_gone", GONE), ("column_extra", "Field trip")}
    with pytest.raises(Refusal, match="a person must choose"):
        venn.settle(pairing, first["id"], kinds={"clash": ""}, dry_run=True)
    made = [settle(venn, pairing, first["id"], safe=True)]
    kinds_left = {"clash": "send", "differ": "send", "gradebook_only": "clear", "withdrawn": "clear", **{name: "put_back" for name in ("points_differ", "due_differs", "title_differs", "category_differs")}}
    made.append(settle(venn, pairing, first["id"], kinds=kinds_left | {"column_missing": "make_again", "item_gone": "leave", "column_extra": "leave"}))
    rest = [
        {"finding": found[who(1, WORKED)]["id"], "remedy": "restore"},
        {"finding": found[who(0, WITHDRAWN)]["id"], "remedy": "clear"},
        {"finding": found[who(2, WORKED)]["id"], "remedy": "send"},
        {"finding": found[who(1, WITHDRAWN)]["id"]},
    ]
    made.append(settle(venn, pairing, first["id"], findings=rest))
    assert [set(each["counts"]) for each in made] == [{"done"}] * 3, made
    job = next(each["job"] for each in venn.rollouts(pairing) if each["purpose"] == "mend")
    venn.wait(job)
    clean = compared(venn, pairing)
    assert clean["summary"]["open"] == {"held": 1}, list(venn.findings(pairing, clean["id"]))
    assert clean["summary"]["kept"] == 3
    for each in reversed(made):
        begun = venn.undo_settlement(pairing, each["id"])["settlement"]
        assert begun is not None
        venn.wait(begun["job"])
        assert set(venn.settlement(pairing, begun["id"])["counts"]) == {"done"}
    after = shown(world, sides)
    assert after["cells"] == before["cells"]
    assert [each for each in after["columns"] if each[0] != MISSING] == before["columns"]
    again = compared(venn, pairing)
    assert {key: each["kind"] for key, each in cells_of(venn, pairing, again["id"]).items()} == kinds


def settle(venn: VennPair, pairing: str, comparison: str, **wanted: Any) -> dict[str, Any]:
    preview = venn.settle(pairing, comparison, dry_run=True, **wanted)
    begun = venn.settle(pairing, comparison, **wanted)["settlement"]
    assert begun is not None
    venn.wait(begun["job"])
    done = venn.settlement(pairing, begun["id"])
    if set(done["counts"]) == {"done"}:
        assert [(step["item"], step["learner"], step["after"]) for step in done["steps"] if step["writes"] and step["kind"] != "due_differs"] == [
            (step["item"], step["learner"], step["after"]) for step in preview["steps"] if step["writes"] and step["kind"] != "due_differs"
        ]
    return dict(done)


def test_what_moved_since_the_comparison_is_left_alone_and_a_kept_one_comes_back_when_it_moves(world: World, venn: VennPair, cli: CommandLine, planted: tuple[Sides, str]) -> None:
    sides, pairing = planted
    comparison = compared(venn, pairing)
    found = cells_of(venn, pairing, comparison["id"])
    change(world, sides.context_id, TYPED.format(rows=[(LEARNERS[3].email, WORKED, "4.5")]))
    done = settle(venn, pairing, comparison["id"], findings=[{"finding": found[who(3, WORKED)]["id"]}])
    assert done["counts"] == {"moved": 1}
    assert "become 4.5" in done["steps"][0]["message"]
    kept = cli.json("settle", sides.label, "--learner", LEARNERS[1].email, "--item", WORKED)
    assert [step["remedy"] for step in kept["steps"]] == ["keep"]
    quiet = compared(venn, pairing)
    assert [each["kept"] is not None for each in venn.findings(pairing, quiet["id"], item=WORKED, learner=f"{LEARNERS[1].given} {LEARNERS[1].family}")] == [True]
    change(world, sides.context_id, TYPED.format(rows=[(LEARNERS[1].email, WORKED, "9.75")]))
    loud = compared(venn, pairing)
    (moved,) = [each for each in venn.findings(pairing, loud["id"], scope="cell", item=WORKED) if each["email"] == LEARNERS[1].email]
    assert (moved["kept"], moved["new"]) == (None, True)
    told = cli("cell", sides.label, "--learner", LEARNERS[1].email, "--item", WORKED, "--note", "She showed me the paper.")
    assert told.status == 0, told.err
    assert "She showed me the paper." in told.out
    assert "leave the gradebook as it is" in told.out


def test_an_assistant_proposes_and_an_instructor_carries_it_out(world: World, venn: VennPair, cli: CommandLine, planted: tuple[Sides, str]) -> None:
    sides, pairing = planted
    role = "from vennpair.service.pair.models import ShellRole; r=ShellRole.objects.get(shell__label='{}', user__username='maren.holt@tarnfield.example'); r.role='{}'; r.save()"
    comparison = compared(venn, pairing)
    world.manage("vennpair", "shell", "-v", "0", "-c", role.format(sides.label, "assistant"))
    try:
        made = venn.settle(pairing, comparison["id"], kinds={"differ": "send"})["settlement"]
        assert made is not None
        assert (made["state"], made["job"]) == ("proposed", None)
        with pytest.raises(NotAllowed):
            venn.carry_out(pairing, made["id"])
    finally:
        world.manage("vennpair", "shell", "-v", "0", "-c", role.format(sides.label, "instructor"))
    done = cli.json("settlements", "carry-out", sides.label)
    assert (done["id"], done["counts"]) == (made["id"], {"done": 1})
    with pytest.raises(Refusal, match="no proposal any more"):
        venn.dismiss(pairing, made["id"])


def test_reports_say_the_same_as_the_comparison(world: World, venn: VennPair, cli: CommandLine, planted: tuple[Sides, str], tmp_path: Any) -> None:
    sides, _ = planted
    for name in ("r.html", "r.xlsx", "r.csv", "r.json"):
        ran = cli("reconcile", sides.label, "--report", str(tmp_path / name), *(["--plot", str(tmp_path / "p.png")] if name == "r.json" else []))
        assert ran.status == 0, ran.err
    document = json.loads((tmp_path / "r.json").read_text())
    assert f"{document['counts']['cells'] - document['counts']['agree']} of {document['counts']['cells']} scores do not agree" in (tmp_path / "r.html").read_text()
    assert (tmp_path / "p.png").read_bytes().startswith(b"\x89PNG")
    assert len((tmp_path / "r.csv").read_text().splitlines()) == len(document["findings"]) + 1
    stranger = httpx.get(f"{world.url('vennpair')}/api/v1/pairings/{planted[1]}/comparisons/00000000-0000-0000-0000-000000000000/report?as=html")
    assert stranger.status_code in {401, 403}
