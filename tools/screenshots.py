"""make screenshots: the pictures in docs/screenshots, taken from the demo."""

from __future__ import annotations

import os
import re
import shlex
import shutil
import subprocess
import tempfile
import time
from pathlib import Path

from playwright.sync_api import Browser, Page, expect

from tools.demo import demo_world
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine, arrive
from tools.world.chromium import choose, chromium, come_in, new_page
from tools.world.cluster import ROOT
from tools.world.story import SHELL, SHELL_LABEL
from tools.world.tables import write_two_files
from tools.world.world import ADMINISTRATOR, PASSWORD, World
from vennpair.standins.foreign import write_foreign

TARGET = ROOT / "docs" / "screenshots"
VIEWS = {"placed": "deploy/placed", "changes": "deploy/changes"}


def main() -> None:
    """Take them all."""
    world = demo_world()
    TARGET.mkdir(parents=True, exist_ok=True)
    with chromium() as browser:
        _console(browser, world)
        _console(browser, world, scheme="dark", only=("reconcile",))
        _console(browser, world, width=400, only=("pair",))
        _others(browser, world)
        _connections(browser, world)
        _reports(browser, world)
        _set_up(browser, world)
    if shutil.which("xterm") and shutil.which("Xvfb") and shutil.which("import"):
        _terminal(world, "terminal-reconcile", f"vennpair reconcile '{SHELL_LABEL}'")
    else:
        print(
            "screenshots: terminals are left out; they need the Debian packages xvfb, xterm and"
            " imagemagick"
        )


def _console(
    browser: Browser,
    world: World,
    scheme: str = "light",
    width: int = 1280,
    only: tuple[str, ...] = (),
) -> None:
    page = new_page(browser, width, color_scheme=scheme)
    come_in(page, world, SHELL)
    page.wait_for_load_state("networkidle")
    base = page.url
    suffix = ("-dark" if scheme == "dark" else "") + ("-narrow" if width < 800 else "")
    for name in only or (
        "pair",
        "content",
        "deploy",
        "placed",
        "changes",
        "relay",
        "reconcile",
    ):
        page.goto(base if name == "pair" else f"{base}/{VIEWS.get(name, name)}")
        page.wait_for_load_state("networkidle")
        if name == "deploy":
            page.get_by_label("Search by title or unit").fill("unit 6")
            page.get_by_role("treeitem", name="Unit 6: Wells and springs · graded").click()
            page.get_by_role("treeitem", name=re.compile("Week 4: Groundwater")).click()
            page.wait_for_timeout(1500)
        if name == "placed":
            page.get_by_role("checkbox", name="Select all of").first.click()
            page.get_by_role("button", name="Change 4").click()
            page.get_by_text("shown → hidden").first.wait_for()
        if name == "changes":
            page.get_by_role("button", name="Check now").click()
            page.get_by_text("changed since", exact=False).first.wait_for()
        _take(page, f"{name}{suffix}")
    page.context.close()


def _others(browser: Browser, world: World) -> None:
    page = new_page(browser)
    come_in(page, world, SHELL)
    base = page.url
    page.goto(f"{base}/content")
    page.get_by_label("Cartridge to upload").set_input_files(
        {"name": "handbook.imscc", "mimeType": "application/zip", "buffer": write_foreign()}
    )
    page.get_by_role("button", name="Choose what to import").click()
    page.get_by_title("Select Arriving at the station", exact=True).click()
    page.get_by_role("treeitem", name=re.compile("How to get there")).click()
    choose(page, "Folder of the shell", "a new folder")
    page.frame_locator("iframe").get_by_text("River Tarn").wait_for()
    page.wait_for_timeout(1000)
    _take(page, "import")
    page.goto(f"{world.url('vennpair')}/")
    page.wait_for_load_state("networkidle")
    _take(page, "today")
    page.get_by_role("link", name="Operations", exact=True).click()
    page.get_by_text("Placing items").first.wait_for()
    _take(page, "operations")
    page.goto(f"{world.url('vennpair')}/agreement")
    page.get_by_role("button", name="Compare all now").click()
    page.get_by_text("comparing now").first.wait_for()
    page.get_by_text("comparing now").first.wait_for(state="hidden")
    _take(page, "agreement")
    _files(page, world)
    page.context.close()


def _set_up(browser: Browser, world: World) -> None:
    """Two sections that were just opened, as far as the plan; they are unpaired again."""
    labels = ("HYD 210-07", "HYD 210-08")
    shells = []
    for label in labels:
        shells.append(at_campus.add_shell(world, label)["context_id"])
        at_press.add_course(world, label)
        arrive(world, shells[-1])
    with world.administrator() as administrator:
        list(administrator.courses(labels[0], refresh=True))
    page = new_page(browser)
    come_in(page, world, shells[0])
    page.get_by_role("button", name="I agree: pair").click()
    page.get_by_role("heading", name="What will happen").wait_for()
    page.set_viewport_size({"width": 1280, "height": 1400})
    _take(page, "set-up")
    page.get_by_role("button", name="Unpair them").click()
    page.get_by_role("dialog").get_by_role("button", name="Unpair them").click()
    page.get_by_text("Everything was undone.").wait_for()
    page.context.close()


def _files(page: Page, world: World) -> None:
    publisher, gradebook = write_two_files()
    page.goto(f"{world.url('vennpair')}/files")
    page.get_by_label("The publisher’s scores").first.set_input_files(
        {"name": "kestrelbrook.csv", "mimeType": "text/csv", "buffer": publisher}
    )
    page.get_by_label("The gradebook").first.set_input_files(
        {"name": "tarnfield-gradebook.csv", "mimeType": "text/csv", "buffer": gradebook}
    )
    page.get_by_role("button", name="Examine it").click()
    page.get_by_text("Correct what is wrong").wait_for()
    page.get_by_role("button", name="Compare").click()
    page.get_by_text("scores do not agree").wait_for()
    page.set_viewport_size({"width": 1280, "height": 1400})
    _take(page, "files")


def _reports(browser: Browser, world: World) -> None:
    """What a comparison is taken away as: the page and the plot."""
    line = CommandLine(world)
    with tempfile.TemporaryDirectory() as folder:
        ran = line(
            "reconcile",
            SHELL_LABEL,
            "--report",
            f"{folder}/report.html",
            "--plot",
            str(TARGET / "plot.png"),
        )
        if ran.status > 1:  # 1 says that it found something
            raise SystemExit(f"screenshots: {ran.err}")
        page = new_page(browser)
        page.goto(f"file://{folder}/report.html")
        _take(page, "report")
        page.context.close()


def _connections(browser: Browser, world: World) -> None:
    page = new_page(browser)
    page.goto(f"{world.url('vennpair')}/connections")
    page.locator("input").first.fill(ADMINISTRATOR)
    page.locator("input[type=password]").fill(PASSWORD)
    page.locator("button[type=submit]").click()
    checks = page.get_by_role("button", name="Check the connection")
    checks.first.wait_for()
    for check in checks.all():
        check.click()
    page.get_by_text("Last opened").wait_for()
    page.get_by_text("Offered:").wait_for()
    _take(page, "connections")
    page.context.close()


def _take(page: Page, name: str) -> None:
    """Take a page once nothing of it is still being read, however slow the machine is."""
    expect(page.locator(".going, .loading")).to_have_count(0, timeout=60_000)
    page.evaluate("window.scrollTo(0, 0)")
    page.wait_for_timeout(300)
    page.screenshot(path=TARGET / f"{name}.png")


def _terminal(world: World, name: str, command: str) -> None:
    """Run a command in a terminal window on a screen of its own, and take the window."""
    display = ":87"
    environment = os.environ | {
        "DISPLAY": display,
        "VENNPAIR_SESSION": str(world.home / "session.json"),
        "PATH": f"{ROOT / '.venv' / 'bin'}:{os.environ['PATH']}",
    }
    screen = subprocess.Popen(
        ["Xvfb", display, "-screen", "0", "1280x800x24"],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    with tempfile.TemporaryDirectory() as folder:
        done = Path(folder) / "done"
        shown = (
            f"printf '$ %s\\n' {shlex.quote(command.replace(str(ROOT) + '/', ''))}; {command};"
            f" touch {done}; sleep 30"
        )
        time.sleep(1)
        window = subprocess.Popen(
            [
                "xterm",
                "-fa",
                "DejaVu Sans Mono",
                "-fs",
                "10",
                "-geometry",
                "158x48+0+0",
                "-bg",
                "#15171e",
                "-fg",
                "#ebe8e1",
                "-e",
                "bash",
                "-c",
                shown,
            ],
            env=environment,
        )
        deadline = time.monotonic() + 30
        while not done.exists() and time.monotonic() < deadline:
            time.sleep(0.2)
        time.sleep(0.5)
        subprocess.run(
            ["import", "-window", "root", str(TARGET / f"{name}.png")], env=environment, check=True
        )
        window.terminate()
        screen.terminate()
        window.wait()
        screen.wait()


if __name__ == "__main__":
    main()
