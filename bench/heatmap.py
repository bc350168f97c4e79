"""The matrix of a class as our own drawing, beside the chart library's heat map.

    python -m bench.heatmap [--slow 4] [--presses 12]

500 learners by 40 columns, both in the same Chromium with its processor slowed down four times:
from a click to the next paint for drawing all of it, from an arrow key to the next paint for moving
on by one cell, and what the page holds in memory afterward. Ours is the console's, on the demo.
"""

from __future__ import annotations

import argparse
from statistics import median

from playwright.sync_api import Browser, Page
from tools.demo import demo_world
from tools.world.chromium import chromium, come_in, new_page
from tools.world.cluster import ROOT
from tools.world.story import SHELL

from bench.console import COLUMNS, LEARNERS, WATCH, grown_matrix, many

LIBRARY = ROOT / "console/node_modules/echarts/dist/echarts.min.js"
PAGE = "<button>draw</button><div id=chart tabindex=0 style='width:1100px;height:620px'></div>"
# As near to ours as the library comes: a colour for each kind, names at both edges, both edges
# scroll, and what lies under the pointer or is reached by keys is said.
DRAW = """([rows, columns]) => {
  const named = (what, count) => Array.from({ length: count }, (_, n) => `${what} ${n}`)
  const data = []
  for (let y = 0; y < rows; y += 1)
    for (let x = 0; x < columns; x += 1) data.push([x, y, (x * 7 + y * 3) % 8])
  let chart, at = 0
  document.querySelector('button').onclick = () => {
    chart = echarts.init(document.querySelector('#chart'))
    chart.on('finished', () => (window.__finished ??= performance.now()))
    window.__clicked = performance.now()
    chart.setOption({
      animation: false, aria: { enabled: true }, tooltip: {},
      xAxis: { type: 'category', data: named('Practice set', columns), position: 'top' },
      yAxis: { type: 'category', data: named('Learner', rows), inverse: true },
      dataZoom: [{ type: 'inside', yAxisIndex: 0, start: 0, end: 6 }, { yAxisIndex: 0, end: 6 }],
      visualMap: { type: 'piecewise', min: 0, max: 7, show: false },
      series: [{ type: 'heatmap', data, emphasis: { itemStyle: { borderWidth: 2 } } }],
    })
  }
  document.querySelector('#chart').onkeydown = () => {
    chart.dispatchAction({ type: 'downplay', seriesIndex: 0, dataIndex: at })
    at += 1
    chart.dispatchAction({ type: 'highlight', seriesIndex: 0, dataIndex: at })
    chart.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: at })
  }
}"""


def main() -> None:
    """Run."""
    parser = argparse.ArgumentParser(
        description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--slow", type=float, default=4, help="how many times slower (default 4)")
    parser.add_argument("--presses", type=int, default=12, help="presses of each kind")
    args = parser.parse_args()
    with chromium() as browser:
        _ours(browser, args.slow, args.presses)
        _library(browser, args.slow, args.presses)


def _ours(browser: Browser, slow: float, presses: int) -> None:
    page = new_page(browser)
    page.route("**/api/v1/pairings/*/comparisons/*", many(grown_matrix))
    come_in(page, demo_world(), SHELL)
    page.goto(f"{page.url}/reconcile?view=scatter")
    page.get_by_role("tab", name="The class").wait_for()
    page.wait_for_load_state("networkidle")
    _slow_down(page, slow)
    page.evaluate(WATCH)
    page.get_by_role("tab", name="The class").click()
    page.get_by_role("application").wait_for()
    page.wait_for_timeout(3_000)
    _say(page, "ours, drawn")
    page.get_by_role("application").focus()
    _press(page, presses)
    _say(page, "ours, one cell on")
    page.context.close()


def _library(browser: Browser, slow: float, presses: int) -> None:
    page = browser.new_page()
    page.set_content(PAGE)
    page.add_script_tag(path=str(LIBRARY))
    page.evaluate(DRAW, [LEARNERS, COLUMNS])
    _slow_down(page, slow)
    page.evaluate(WATCH)
    page.get_by_role("button").click()
    page.wait_for_function("window.__finished")
    page.wait_for_timeout(3_000)
    _say(page, "heat map, drawn")
    whole = page.evaluate("window.__finished - window.__clicked")
    print(f"heat map, all of it there: {whole:.0f} ms")
    page.locator("#chart").focus()
    _press(page, presses)
    _say(page, "heat map, one cell on")
    page.close()


def _slow_down(page: Page, slow: float) -> None:
    slowed = page.context.new_cdp_session(page)
    slowed.send("Emulation.setCPUThrottlingRate", {"rate": slow})


def _press(page: Page, presses: int) -> None:
    page.evaluate("() => { window.__took.length = 0 }")
    for _ in range(presses):
        page.keyboard.press("ArrowRight")
        page.wait_for_timeout(400)


def _say(page: Page, name: str) -> None:
    took = page.evaluate("window.__took") or [0]
    held = page.evaluate("performance.memory.usedJSHeapSize") / 1e6
    print(f"{name}: median {median(took):.0f} ms, slowest {max(took):.0f} ms; {held:.0f} MB held")


if __name__ == "__main__":
    main()
