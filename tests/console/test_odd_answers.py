"""Every page where the service answers as the schema says and not as the demo does: with all that may
be there, with nothing that may be absent, with refusals, and with refusals of some parts.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from zlib import crc32

import httpx
import pytest
from playwright.sync_api import Browser, Route
from tests.client.schema_service import ID, REFUSED, Service
from tests.conftest import Sides
from tests.console.test_console import PAGES, PLACES
from tools.world.chromium import come_in, follow, new_page, quiet, shown
from tools.world.world import World

OTHERS = (
    *("connections", f"set-ups/{ID}", f"pick/{ID}"),
    *(f"shells/{ID}/copied", f"shells/{ID}/pair", f"pairings/{ID}/content/imports/{ID}"),
)
EVERY = (*(f"pairings/{ID}{each}" for each in PAGES), *PLACES, *OTHERS)
NO_WORDS = re.compile(r"undefined|NaN|\[object|Invalid Date|\bnull\b")
REFUSES: dict[str, Callable[[str], bool]] = {
    "refused": lambda operation: True,
    "half refused": lambda operation: crc32(operation.encode()) % 2 == 1,
}


@pytest.mark.parametrize("how", ["full", "bare", "refused", "half refused"])
def test_every_page_shows_whatever_the_service_may_answer(
    how: str, world: World, chrome: Browser, new_sides: Callable[[str], Sides]
) -> None:
    page, troubles = new_page(chrome), list[str]()
    come_in(page, world, new_sides(f"HYD 210-{how.upper()}").context_id)
    shown(page)
    quiet(page)
    silent: list[tuple[str, list[str]]] = []
    service = Service(full=how != "bare", refused=REFUSES.get(how, lambda _: False))

    def answer(route: Route) -> None:
        asked = route.request
        if asked.url.endswith(("/me", "/sign-in/ways")):
            route.continue_()  # who it is stays known
            return
        content = (asked.post_data or "").encode()
        given = service(
            httpx.Request(asked.method, asked.url, headers=asked.headers, content=content)
        )
        route.fulfill(status=given.status_code, headers=dict(given.headers), body=given.content)

    page.route("**/api/v1/**", answer)
    page.on("pageerror", lambda error: troubles.append(str(error)))
    for address in EVERY:
        service.asked.clear()
        follow(page, f"{world.url('vennpair')}/{address}")
        words = page.inner_text("body")
        assert not troubles, (address, troubles)
        assert not NO_WORDS.search(words), (address, words)
        lacking = set(filter(service.refused, service.asked))
        if lacking and not (REFUSED["detail"] in words and REFUSED["remedy"] in words):
            silent.append((address, sorted(lacking)))
    page.context.close()
    assert not silent, "shown as if there were nothing"
