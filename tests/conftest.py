"""One world of real processes for all tests that need it: campus, press, service, worker,
PostgreSQL.
"""

from __future__ import annotations

from collections.abc import Callable, Generator, Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import httpx
import pytest
from hypothesis import HealthCheck, settings
from playwright.sync_api import Browser as Chromium
from playwright.sync_api import Error as PlaywrightError
from playwright.sync_api import Page
from tools.world import at_campus, at_press
from tools.world.actors import CommandLine, arrive, sign_in
from tools.world.asked import never_asked
from tools.world.browser import Browser
from tools.world.chromium import chromium
from tools.world.cluster import RUN
from tools.world.world import INSTRUCTOR, PASSWORD, World

from vennpair.client import VennPair

# How long an example takes says nothing while another test keeps the machine busy. Of one tree two
# runs say the same: other examples are searched for by bench/fuzz.py.
settings.register_profile(
    "ours", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("ours")
# Whom to trust is loaded once and not for each of thousands of calls: that takes longer than they
# do.
httpx._transports.default.create_ssl_context = cache(httpx.create_ssl_context)  # type: ignore[attr-defined]
EXAMPLES = Path(__file__).parent / "examples"
ASKED = "asked.txt"
LOG_TAIL = 3_000  # characters
PURE = {"core", "standards", "gateways", "client", "workshop"}


def pytest_sessionstart(session: pytest.Session) -> None:
    """Forget what an earlier run asked."""
    if not hasattr(session.config, "workerinput"):
        for file in RUN.glob(f"test-*/{ASKED}"):
            file.unlink()


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Begin with what needs a world, as it takes longest; what is pure fills the end.

    Files come in random order (pytest-randomly), and so do the tests of a pure one. The tests of a
    file that needs a world share what they lay there and tell one story: they keep its order.
    """
    first: dict[Path, int] = {}
    for place, item in enumerate(items):
        first.setdefault(item.path, place)
    written = {item: place for place, item in enumerate(sorted(items, key=_line))}
    shuffled = {item: place for place, item in enumerate(items)}

    def place(item: pytest.Item) -> tuple[bool, int, int]:
        pure = item.path.parent.name in PURE
        return pure, first[item.path], (shuffled if pure else written)[item]

    items.sort(key=place)


def _line(item: pytest.Item) -> tuple[str, int, tuple[int, ...]]:
    """Return where a test is written, and which of its parameters it has."""
    path, line, _ = item.reportinfo()
    indices = (
        item.callspec.indices.values()
        if isinstance(item, pytest.Function) and hasattr(item, "callspec")
        else ()
    )
    return str(path), line or 0, tuple(indices)


def pytest_sessionfinish(session: pytest.Session) -> None:
    """Let a whole run fail where an operation of the API was never asked with success."""
    config = session.config
    chosen = config.option.keyword or config.option.markexpr
    whole = config.args_source is pytest.Config.ArgsSource.TESTPATHS and not chosen
    if not whole or hasattr(config, "workerinput") or session.exitstatus:
        return
    if missing := never_asked(RUN.glob(f"test-*/{ASKED}")):
        reporter = config.pluginmanager.get_plugin("terminalreporter")
        reporter.write_line("No test asked these with success:", red=True)
        for operation in missing:
            reporter.write_line(f"  {operation}", red=True)
        session.exitstatus = pytest.ExitCode.TESTS_FAILED


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(
    item: pytest.Item,
) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """Say with a failed test what its pages showed, and what the service wrote last."""
    report = yield
    if report.failed and isinstance(item, pytest.Function):
        for name, value in item.funcargs.items():
            if isinstance(value, Page) and not value.is_closed():
                report.sections.append((f"{name} at {value.url}", _words(value)))
            elif isinstance(value, World):
                log = (value.home / "vennpair.log").read_text("utf-8", "replace")
                report.sections.append(("the service wrote last", log[-LOG_TAIL:]))
    return report


def _words(page: Page) -> str:
    try:
        return page.inner_text("body", timeout=5_000)
    except PlaywrightError as error:
        return str(error)


@pytest.fixture(scope="session")
def world(worker_id: str) -> Iterator[World]:
    """A freshly laid world of this worker's own; its processes end with the tests.

    Nothing begins in it unless a test asks: links are not opened as a learner after each of dozens
    of rollouts, and its clock does not run (``at_service.tick``).
    """
    made = World(
        f"test-{worker_id}",
        kept=False,
        VENNPAIR_CHECK_AS_LEARNER="false",
        VENNPAIR_PERIODIC="false",
        VENNPAIR_ASKED_FILE=str(RUN / f"test-{worker_id}" / ASKED),
    )
    made.start(fresh=True)
    arrive(made, "tarnfield-hyd210-02-s27")
    yield made
    made.stop()


@pytest.fixture(scope="session")
def chrome() -> Iterator[Chromium]:
    """One browser for all tests of this worker; each opens pages in a context of its own."""
    with chromium() as browser:
        yield browser


@pytest.fixture(scope="session")
def cli(world: World) -> CommandLine:
    """The command line, signed in as the instructor."""
    line = CommandLine(world)
    assert sign_in(world, line).status == 0
    return line


@pytest.fixture(scope="session")
def venn(world: World) -> Iterator[VennPair]:
    """The client, signed in as the instructor."""
    with VennPair(world.url("vennpair")) as stranger:
        token = stranger.sign_in(INSTRUCTOR, PASSWORD)["token"]
    with VennPair(world.url("vennpair"), token) as client:
        yield client


@pytest.fixture
def no_account(venn: VennPair) -> None:
    """Let the instructor have no account linked at any publisher, whatever ran before."""
    for each in venn.accounts():
        if each["id"]:
            venn.undo_account(each["id"])


@dataclass(frozen=True)
class Sides:
    """A shell and a homework course made for one test."""

    label: str
    context_id: str
    course: str


@pytest.fixture(scope="session")
def new_sides(world: World) -> Callable[[str], Sides]:
    """Make a fresh shell with six learners, known to the service, and a homework course of the same
    section.
    """

    made: set[str] = set()

    def make(label: str) -> Sides:
        assert label not in made, f"{label} is the shell of another test; take a label of your own"
        made.add(label)
        shell, course = at_campus.add_shell(world, label), at_press.add_course(world, label)
        teacher = Browser()  # the world's own arrival set the password already
        teacher.sign_in(world.url("campus"), INSTRUCTOR)
        page = teacher.open_link(world.url("campus"), shell["context_id"])
        assert page.status == 200, f"{label} did not open: {page.words[:300]}"
        return Sides(label, shell["context_id"], course["course"])

    return make


def paired(venn: VennPair, sides: Sides) -> str:
    """Pair a shell with its course and read nothing of it; return the pairing's id."""
    shell = next(each for each in venn.shells() if each["label"] == sides.label)
    course = next(
        each for each in venn.courses(sides.label, refresh=True) if each["code"] == sides.label
    )
    return str(venn.pair(shell["id"], course["id"], agree=True)["id"])


@pytest.fixture(scope="session")
def new_pairing(
    new_sides: Callable[[str], Sides], venn: VennPair
) -> Callable[[str], tuple[Sides, str]]:
    """Make a pairing whose content is imported; return its sides and id."""

    def make(label: str) -> tuple[Sides, str]:
        sides = new_sides(label)
        pairing = paired(venn, sides)
        venn.wait(venn.start_import(pairing)["job"])
        return sides, pairing

    return make
