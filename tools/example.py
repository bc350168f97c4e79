"""make example: the whole job once, through the real command line and real launches, step
by step.
"""

from __future__ import annotations

import shlex
import sys
import time
from collections.abc import Callable
from typing import Any

from tools.demo import demo_world
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine, arrive, hand_in, sign_in, type_over
from tools.world.world import World

ITEMS = ("Practice set 1A", "Practice set 1B", "Unit 1 quiz")
LEARNER, EMAIL = "Ulf Byrne", "ulf.byrne@tarnfield.example"


class Story:
    """Counts and prints steps; a step that is not as expected ends the example."""

    def __init__(self) -> None:
        self.steps = 0

    def step(self, words: str) -> None:
        """Begin a step."""
        self.steps += 1
        print(f"\n{self.steps:2d}. {words}", flush=True)

    def expect(self, holds: bool, words: str) -> None:
        """Print what was found; end where it is not what it should be."""
        print(f"    {'as expected' if holds else 'NOT AS EXPECTED'}: {words}", flush=True)
        if not holds:
            sys.exit(1)


def main() -> None:
    """Run."""
    world, story = demo_world(), Story()
    cli = _loud(CommandLine(world))
    label, context_id, course = _fresh_sides(world, story)
    _pair_and_import(world, story, cli, label, context_id, course)
    _deploy(story, cli, label)
    _one_score(world, story, cli, label, context_id)
    _one_difference(world, story, cli, label, context_id)
    print(f"\nexample: {story.steps} steps, all as expected")


def _loud(cli: CommandLine) -> Callable[..., Any]:
    def run(*words: str) -> Any:
        print(f"    $ vennpair {shlex.join(words)}", flush=True)
        return cli.json(*words)

    run.plain = cli  # type: ignore[attr-defined]
    return run


def _fresh_sides(world: World, story: Story) -> tuple[str, str, str]:
    story.step(
        "A new shell is at Tarnfield College, and a new homework course at Kestrelbrook Press."
    )
    label = f"HYD 210-X{int(time.time()) % 100000:05d}"
    shell = at_campus.add_shell(world, label)
    course = at_press.add_course(world, label)
    story.expect(
        shell["label"] == label, f"shell {label} and course {course['title']}, {course['code']}"
    )
    return label, shell["context_id"], course["course"]


def _pair_and_import(
    world: World, story: Story, cli: Any, label: str, context_id: str, course: str
) -> None:
    story.step(
        "Maren Holt opens Venn Pair from the shell once; that signs her in and makes the shell"
        " known."
    )
    browser = arrive(world, context_id)
    story.expect(
        browser.page.status == 200 and browser.page.url.startswith(world.url("vennpair")),
        f"the launch ended at {browser.page.url}",
    )
    story.step("She signs in on the command line.")
    signed = sign_in(world, cli.plain)
    for row in cli("shells"):
        if row["label"].startswith("HYD 210-X") and row["label"] != label and row["pairing"]:
            cli("pair", row["label"], "--end")  # what an earlier example left
    story.expect(
        signed.status == 0 and any(row["label"] == label for row in cli("shells")),
        f"{label} is among her shells",
    )
    story.step("Venn Pair proposes the course that fits; she pairs the two.")
    best = cli("courses", "--shell", label, "--refresh", label)[0]
    pairing = cli("pair", label, best["id"], "--agree")
    story.expect(
        best["code"] == label and pairing["state"] == "ready",
        f"paired with {best['title']}, {best['code']}: {', '.join(best['reasons'])}",
    )
    story.step("She imports the course's cartridge from the publisher.")
    made = cli("cartridge", "import", label)
    items = cli("items", label)
    story.expect(
        made["report"]["new"] == 61 and len(items) == 63,
        f"{made['title']}: {made['job']['message']}",
    )
    graded = [item for item in items if item["kind"] == "graded"]
    story.expect(
        len(graded) == 32 and sum(bool(item["due_at"]) for item in graded) == 31,
        f"{len(graded)} graded items, one of them without a due date",
    )


def _deploy(story: Story, cli: Any, label: str) -> None:
    story.step("She deploys three items into a new folder; first she looks at the plan.")
    plan = cli("deploy", label, *ITEMS, "--folder", "Homework", "--dry-run")["shells"][0]
    story.expect(
        [each["title"] for each in plan["folders"]] == ["Homework"] and plan["columns"] == 3,
        f"the plan: a folder, {plan['make']} links, {plan['columns']} columns",
    )
    rollout = cli("deploy", label, *ITEMS, "--folder", "Homework")["rollouts"][0]
    story.expect(
        all(step["state"] == "done" for step in rollout["steps"]) and len(rollout["steps"]) == 7,
        rollout["job"]["message"],
    )
    story.step("She clicks Deploy once more.")
    again = cli("deploy", label, *ITEMS, "--folder", "Homework")
    story.expect(
        again["rollouts"] == [] and again["shells"][0]["same"] == 3,
        "all three are placed already, nothing is doubled",
    )
    story.step("She turns the relay on.")
    story.expect(cli("relay", "on", label)["on"], "scores go to the gradebook now")


def _one_score(world: World, story: Story, cli: Any, label: str, context_id: str) -> None:
    story.step(
        f"{LEARNER} opens '{ITEMS[0]}' in the shell, goes through both hops, and answers 4 of 5"
        " rightly."
    )
    browser = hand_in(world, EMAIL, context_id, ITEMS[0], 4)
    story.expect(
        "Your score: 8 of 10" in browser.page.words and "was reported" in browser.page.words,
        "the press shows 8 of 10, reported",
    )
    story.step("The score lands in the gradebook.")
    deadline = time.monotonic() + 20
    while (
        not (
            found := browser.get(f"{world.url('campus')}/shells/{context_id}/gradebook")
        ).tree.xpath("//td[normalize-space()='8']")
        and time.monotonic() < deadline
    ):
        time.sleep(0.2)
    story.expect(
        bool(found.tree.xpath("//td[normalize-space()='8']")),
        f"{LEARNER} sees 8 in the campus's gradebook",
    )
    relay = cli("relay", "status", label)
    story.expect(
        relay["received"] == 1 and relay["counts"] == {"accepted": 1},
        "one report received, one accepted",
    )
    comparison = cli("reconcile", label)
    story.expect(
        comparison["summary"]["kinds"] == {"agree": 1}, "a comparison says that both sides agree"
    )


def _one_difference(world: World, story: Story, cli: Any, label: str, context_id: str) -> None:
    story.step("Somebody types 9 over the score in the gradebook.")
    type_over(world, context_id, ITEMS[0], "9", LEARNER)
    comparison = cli("reconcile", label)
    cells = [finding for finding in comparison["findings"] if finding["scope"] == "cell"]
    story.expect(
        len(cells) == 1 and cells[0]["kind"] == "edited",
        "a comparison finds one cell, and calls it edited",
    )
    cell = cells[0]
    story.step("It says who has which value, and why.")
    story.expect(
        (cell["publisher"], cell["gradebook"], cell["sent"]) == ("8", "9", "8"),
        f"{cell['learner']}, {cell['item']}: publisher {cell['publisher']}, gradebook"
        f" {cell['gradebook']}, sent {cell['sent']}",
    )
    story.expect(
        cell["cause"].startswith("Typed over in the gradebook after our score of 8 of 10"),
        cell["cause"],
    )


if __name__ == "__main__":
    main()
