"""The demo's story: each planted trouble is named, by the comparison or by the readiness, with its
cause.
"""

from __future__ import annotations

from typing import Any

import pytest
from tools.world.actors import CommandLine
from tools.world.story import SHELL_LABEL, plant
from tools.world.world import World

from vennpair.standins.tarnfield import section


@pytest.fixture(scope="module")
def planted(world: World, cli: CommandLine) -> CommandLine:
    told: list[str] = []
    plant(world, told.append)
    assert len(told) == 5
    return cli


def _found(comparison: dict[str, Any], kind: str, **facts: str) -> list[dict[str, Any]]:
    return [
        each
        for each in comparison["findings"]
        if each["kind"] == kind and all(each[name] == value for name, value in facts.items())
    ]


def test_every_planted_difference_is_named_with_its_cause(planted: CommandLine) -> None:
    comparison = planted.json("reconcile", SHELL_LABEL)
    (typed,) = _found(comparison, "edited", learner="Ada Brook", item="Practice set 1A")
    assert (typed["publisher"], typed["gradebook"], typed["sent"]) == ("4", "9", "4")
    assert typed["cause"].startswith("Typed over in the gradebook after our score of 4 of 10 on ")
    (points,) = _found(comparison, "points_differ", item="Unit 1 quiz")
    assert (points["publisher"], points["gradebook"], points["level"]) == ("20", "25", "error")
    (lost,) = _found(comparison, "behind", learner="Cara Finch")
    assert "never reported" in lost["cause"]
    (unsent,) = _found(comparison, "unsent", learner="Edda Moor")
    assert "never reported" in unsent["cause"]
    (emptied,) = _found(comparison, "cleared", learner="Dov Hale")
    assert "emptied" in emptied["cause"]
    (entered,) = _found(comparison, "gradebook_only", learner="Gwen Tolland")
    assert "entered there" in entered["cause"]
    (elsewhere,) = _found(comparison, "publisher_only")
    assert (elsewhere["learner"], elsewhere["email"]) == ("Hugo Wexcombe", "hugo.w@postbox.example")
    assert elsewhere["candidates"][0]["email"] == "hugo.wexcombe@tarnfield.example"
    assert [each["item"] for each in _found(comparison, "column_extra")] == ["Field trip report"]
    rest = [each for each in _found(comparison, "edited") if each["item"] != "Practice set 1A"]
    assert {each["item"] for each in rest} == {"Unit 1 quiz"}
    assert all("column now has 25 points instead of 20" in each["cause"] for each in rest)


def test_the_counts_of_the_figure_add_up(planted: CommandLine) -> None:
    comparison = planted.json("reconcile", SHELL_LABEL)
    left, both, right = comparison["venn"]["scores"]
    assert (
        left + both + right
        == comparison["summary"]["cells"]
        == sum(comparison["summary"]["kinds"].values())
    )
    assert comparison["venn"]["columns"][1] == comparison["summary"]["columns"] == 10
    assert comparison["venn"]["columns"][2] == 1
    assert comparison["venn"]["items"][1] == 10


def test_what_is_no_difference_of_scores_is_named_by_the_readiness(planted: CommandLine) -> None:
    status = planted.json("status", SHELL_LABEL)
    checks = {check["code"]: check["message"] for check in status["readiness"]}
    assert "Essay outline: a well in dry years" in checks["undated"]
    assert "Hugo Wexcombe" in checks["strangers"]
    for planted_trouble in (
        "changed in the gradebook",
        "1 newer score that never reached the gradebook",
        "1 score emptied",
        "1 column with other points",
    ):
        assert planted_trouble in checks["compared"]
    assert "Field sketch" in checks["same_title"]
    assert "Hugo Wexcombe" in checks["strangers"]
    assert set(status["relay"]["counts"]) == {"accepted"}


def test_the_shells_page_puts_first_what_needs_attention(planted: CommandLine) -> None:
    shell = next(each for each in planted.json("shells") if each["label"] == SHELL_LABEL)
    assert shell["attention"] == "23 scores did not agree when last compared"


def test_no_learner_is_in_a_log_of_the_service(world: World, planted: CommandLine) -> None:
    assert planted.json("reconcile", SHELL_LABEL)
    logs = "".join(
        (world.home / f"{name}.log").read_text(errors="replace") for name in ("vennpair", "worker")
    )
    assert logs
    for learner in section(1):
        assert learner.email not in logs
        assert f"{learner.given} {learner.family}" not in logs
