"""How fast the console answers a press, in Chromium with its processor slowed down four times.

    python -m bench.console [--slow 4] [--presses 12]

Goal: interaction to next paint (Event Timing) under 200 ms on the tree of 2,000 items, the list of
2,000 findings and the matrix of 500 x 40. The demo's own answers are taken and multiplied on their
way to the page, so that the console draws what it would draw of a large class; nothing is written.
"""

from __future__ import annotations

import argparse
import json
from collections.abc import Callable
from statistics import median
from typing import Any

from playwright.sync_api import Page, Route
from tools.demo import demo_world
from tools.world.chromium import chromium, come_in, new_page
from tools.world.story import SHELL

ITEMS, FINDINGS, LEARNERS, COLUMNS = 2_000, 2_000, 500, 40
WATCH = """() => {
  window.__took = []
  new PerformanceObserver((list) => {
    for (const each of list.getEntries()) if (each.interactionId) window.__took.push(each.duration)
  }).observe({ type: 'event', durationThreshold: 16, buffered: false })
}"""


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--slow", type=float, default=4, help="how many times slower (default 4)")
    parser.add_argument("--presses", type=int, default=12, help="presses of each kind")
    args = parser.parse_args()
    world = demo_world()
    with chromium() as browser:
        page = new_page(browser)
        page.route("**/api/v1/pairings/*/items?*", many(_items))
        page.route("**/api/v1/pairings/*/comparisons/*/findings?*", many(_findings))
        page.route("**/api/v1/pairings/*/comparisons/*", many(grown_matrix))
        come_in(page, world, SHELL)
        page.wait_for_load_state("networkidle")
        base = page.url
        slowed = page.context.new_cdp_session(page)
        slowed.send("Emulation.setCPUThrottlingRate", {"rate": args.slow})
        for name, path, prepare, press in (
            ("tree of 2,000 items", "deploy", _tree, "ArrowDown"),
            ("tree, selecting", "deploy", _tree, " "),
            ("matrix of 500 x 40", "reconcile", _matrix_box, "ArrowRight"),
        ):
            page.goto(f"{base}/{path}")
            prepare(page)
            page.evaluate(WATCH)
            for _ in range(args.presses):
                page.keyboard.press(press)
                page.wait_for_timeout(250)
            _say(page, name)
        page.goto(f"{base}/reconcile")
        page.get_by_role("link", name="show all").or_(
            page.get_by_role("heading").first
        ).first.wait_for()
        page.wait_for_timeout(3_000)
        page.evaluate(WATCH)
        for view in ("Scatter", "The class", "Scatter", "The class"):
            page.get_by_role("tab", name=view).click()
            page.wait_for_timeout(1_500)
        _say(page, "changing the view beside 2,000 findings")


def _say(page: Page, name: str) -> None:
    took = page.evaluate("window.__took")
    if not took:
        print(f"{name}: every press was answered within 16 ms")
        return
    print(
        f"{name}: median {median(took):.0f} ms, slowest {max(took):.0f} ms of {len(took)} presses"
    )


def _tree(page: Page) -> None:
    tree = page.get_by_role("tree", name="Items of the homework course")
    tree.wait_for()
    page.wait_for_timeout(2_000)
    tree.focus()
    page.keyboard.press("ArrowDown")


def _matrix_box(page: Page) -> None:
    box = page.get_by_role("application")
    box.wait_for()
    page.wait_for_timeout(2_000)
    box.focus()


def many(grow: Callable[[Any], Any]) -> Callable[[Route], None]:
    def handle(route: Route) -> None:
        answer = route.fetch()
        if not answer.ok or "json" not in answer.headers.get("content-type", ""):
            return route.fulfill(response=answer)
        return route.fulfill(response=answer, body=json.dumps(grow(answer.json())))

    return handle


def _items(document: Any) -> Any:
    rows = document["results"]
    if not rows:
        return document
    grown = [
        {
            **rows[n % len(rows)],
            "id": f"00000000-0000-4000-8000-{n:012d}",
            "unit": f"Unit {n // 20}",
        }
        for n in range(ITEMS)
    ]
    return {"results": grown, "next": None}


def _findings(document: Any) -> Any:
    rows = document.get("results") or []
    if not rows:
        return document
    return {
        **document,
        "results": [{**rows[n % len(rows)], "id": n} for n in range(FINDINGS)],
        "next": None,
    }


def grown_matrix(document: Any) -> Any:
    matrix = document.get("matrix")
    if not matrix or not matrix["rows"]:
        return document
    wide = {
        "items": [f"Practice set {n}" for n in range(COLUMNS)],
        "placements": [f"p{n}" for n in range(COLUMNS)],
        "learners": [f"Learner {n}" for n in range(LEARNERS)],
        "people": [f"l{n}" for n in range(LEARNERS)],
        "rows": [
            [
                matrix["rows"][n % len(matrix["rows"])][m % len(matrix["items"])]
                for m in range(COLUMNS)
            ]
            for n in range(LEARNERS)
        ],
    }
    return {**document, "matrix": {**matrix, **wide}, "shares": []}


if __name__ == "__main__":
    main()
