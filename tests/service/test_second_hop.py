"""The second hop, from us to the publisher: several tabs at once, and nobody but the browser that
began it.
"""

from __future__ import annotations

from collections.abc import Callable

import httpx
import pytest
from lxml import html
from tools.world.browser import Browser
from tools.world.world import World

from tests.conftest import Sides
from vennpair.client import VennPair
from vennpair.standins.tarnfield import section

LEARNER = section(2)[0].email
ITEMS = ("Practice set 1A", "Practice set 1B")


@pytest.fixture(scope="module")
def sides(venn: VennPair, new_pairing: Callable[[str], tuple[Sides, str]]) -> Sides:
    made, pairing = new_pairing("HYD 210-HOP")
    items = [item["id"] for item in venn.items(pairing) if item["title"] in ITEMS]
    venn.wait(venn.deploy(pairing, items)[0]["job"])
    return made


@pytest.fixture
def learner(world: World) -> Browser:
    browser = Browser()
    browser.sign_in(world.url("campus"), LEARNER)
    return browser


def begin(world: World, sides: Sides, browser: Browser, title: str) -> str:
    """Open a link up to the publisher's login.

    Return the address that the browser was sent to there.
    """
    until = f"{world.url('press')}/lti/login"
    page = browser.get(f"{world.url('campus')}/shells/{sides.context_id}")
    form = page.tree.xpath(f'//form[.//button[normalize-space()="{title}"]]')[0]
    request = browser._http.build_request(
        "POST", f"{world.url('campus')}{form.action}", data=dict(form.form_values())
    )
    for _ in range(8):
        response = browser._http.send(request)
        if response.next_request is None:
            form = httpx_form(response)
            request = browser._http.build_request("POST", form[0], data=form[1])
        elif str(response.next_request.url).startswith(until):
            return str(response.next_request.url)
        else:
            request = response.next_request
    raise AssertionError(f"the launch never reached {until}")


def httpx_form(response: httpx.Response) -> tuple[str, dict[str, str]]:
    """Return address and fields of the form that submits itself."""
    form = html.fromstring(response.text).xpath("//form[@id='go']")[0]
    return form.action, dict(form.form_values())


def test_two_links_opened_side_by_side_both_open(
    world: World, sides: Sides, learner: Browser
) -> None:
    first, second = (begin(world, sides, learner, title) for title in ITEMS)
    assert "Practice set 1A" in learner.get(first).words
    assert "Practice set 1B" in learner.get(second).words


def test_a_launch_that_was_begun_is_of_no_use_to_another_browser_or_a_second_time(
    world: World, sides: Sides, learner: Browser
) -> None:
    address = begin(world, sides, learner, ITEMS[0])
    thief = Browser()
    stolen = thief.get(address)
    assert stolen.status == 400
    assert "was not begun in this browser" in stolen.words
    assert learner.get(address).status == 200
    again = learner.get(address)
    assert again.status == 400
    assert "was used already" in again.words


def test_the_publisher_s_answer_goes_only_to_its_registered_address_and_person(
    world: World, sides: Sides, learner: Browser
) -> None:
    address = httpx.URL(begin(world, sides, learner, ITEMS[0]))
    good = {
        "scope": "openid",
        "response_type": "id_token",
        "response_mode": "form_post",
        "prompt": "none",
        "client_id": address.params["client_id"],
        "redirect_uri": f"{world.url('press')}/lti/launch",
        "login_hint": address.params["login_hint"],
        "state": "s",
        "nonce": "n",
        "lti_message_hint": address.params["lti_message_hint"],
    }
    for change, code in (
        ({"redirect_uri": "https://evil.example/"}, "bad_redirect"),
        ({"client_id": "another"}, "unknown_client"),
        ({"login_hint": "somebody-else"}, "bad_hint"),
        ({"lti_message_hint": "forged"}, "bad_state"),
        ({"response_mode": "query"}, "bad_request"),
    ):
        answer = learner._http.get(
            f"{world.url('vennpair')}/lti/platform/authorize", params=good | change
        )
        assert answer.status_code == 400
        assert f"Code {code}" in answer.text


def test_a_learner_s_link_that_was_taken_back_says_so(
    world: World, sides: Sides, learner: Browser, venn: VennPair
) -> None:
    pairing = next(each["pairing"] for each in venn.shells() if each["label"] == sides.label)
    assert pairing is not None
    venn.change_pairing(pairing, state="ended")
    page = learner.open_link(world.url("campus"), sides.context_id, ITEMS[0])
    assert page.status == 400
    assert "not connected to homework" in page.words
    assert (
        "Your instructor has not finished setting this link up, or has taken it back." in page.words
    )
