"""Signing in by clicks: at the college, and with a code of an authenticator app."""

from __future__ import annotations

import time
from collections.abc import Iterator

import pyotp
import pytest
from playwright.sync_api import Browser, Page, expect
from tests.service.test_signing_in import CLIENT, SECRET, Provider
from tools.world.chromium import new_page, violations
from tools.world.world import ADMINISTRATOR, INSTITUTION, PASSWORD, World

expect.set_options(timeout=60_000)


@pytest.fixture
def page(chrome: Browser) -> Iterator[Page]:
    made = new_page(chrome)
    yield made
    made.context.close()


@pytest.fixture
def provider(world: World) -> Iterator[Provider]:
    made = Provider()
    made.person = {"sub": "p-9", "email": ADMINISTRATOR, "email_verified": True}
    with world.administrator() as admin:
        yield made
        admin.remove_college_sign_in()
    made.close()


def sign_in(page: Page, world: World) -> None:
    page.goto(f"{world.url('vennpair')}/sign-in")
    page.get_by_label("User name, usually your email address").fill(ADMINISTRATOR)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in", exact=True).click()


def test_the_college_is_set_up_and_somebody_comes_in_by_it(
    world: World, page: Page, provider: Provider
) -> None:
    sign_in(page, world)
    page.get_by_role("link", name="Connections").click()
    panel = page.get_by_role("region", name="Sign-in through your college")
    panel.get_by_label("Issuer").fill(provider.url)
    panel.get_by_label("Client ID").fill(CLIENT)
    panel.get_by_label("Client secret").fill(SECRET)
    panel.get_by_role("button", name="Set it up").click()
    expect(page.get_by_role("button", name="Remove it")).to_be_visible()
    assert violations(page) == []
    page.context.clear_cookies()
    page.goto(f"{world.url('vennpair')}/sign-in")
    assert violations(page) == []
    page.get_by_role("link", name=f"Sign in at {INSTITUTION}").click()
    expect(page.get_by_role("link", name="Connections")).to_be_visible()


def test_a_code_is_set_up_asked_for_and_turned_off(world: World, page: Page) -> None:
    sign_in(page, world)
    page.get_by_role("link", name="Connections").wait_for()
    page.goto(f"{world.url('vennpair')}/access")
    page.get_by_role("button", name="Set up an app").click()
    form = page.get_by_role("region", name="Two-step sign-in")
    totp = pyotp.TOTP(form.locator("code").first.inner_text())
    page.get_by_label("Code that the app shows").fill(totp.now())
    page.get_by_role("button", name="Turn it on").click()
    recovery = form.locator("li code")
    expect(recovery).to_have_count(8)
    assert violations(page) == []
    spare = recovery.first.inner_text()
    page.get_by_role("button", name="Sign out").click()
    sign_in(page, world)
    page.get_by_label("Code from your authenticator app").fill(spare)
    assert violations(page) == []
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.get_by_role("link", name="Connections").wait_for()
    page.goto(f"{world.url('vennpair')}/access")
    page.get_by_label("Code from your app, or a recovery code").fill(totp.at(time.time() + 30))
    page.get_by_role("button", name="Turn two-step sign-in off").click()
    expect(page.get_by_role("button", name="Set up an app")).to_be_visible()


@pytest.fixture
def named(world: World) -> Iterator[str]:
    """The service at a host that has a name: browsers make no passkey for a number."""
    yield world.start_web("named", "localhost")
    world.end("named")


def test_a_passkey_is_added_signs_in_and_is_removed(page: Page, named: str) -> None:
    device = page.context.new_cdp_session(page)
    device.send("WebAuthn.enable")
    about = {"protocol": "ctap2", "transport": "usb", "automaticPresenceSimulation": True}
    device.send("WebAuthn.addVirtualAuthenticator", {"options": about})

    def by_password() -> None:
        page.goto(f"{named}/sign-in")
        page.get_by_label("User name, usually your email address").fill(ADMINISTRATOR)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in", exact=True).click()

    by_password()
    page.get_by_role("link", name="Connections").wait_for()
    page.goto(f"{named}/access")
    page.get_by_label("Name of a new one").fill("Desk key")
    page.get_by_role("button", name="Add a passkey").click()
    panel = page.get_by_role("region", name="Two-step sign-in")
    expect(panel.get_by_role("status").locator("li")).to_have_count(8)
    assert violations(page) == []
    page.get_by_label("Name of a new one").fill("The same again")
    page.get_by_role("button", name="Add a passkey").click()
    expect(page.get_by_role("alert")).to_contain_text("one of your passkeys already")
    page.get_by_role("button", name="Sign out").click()
    by_password()
    page.get_by_role("button", name="Use a passkey").click()
    page.get_by_role("link", name="Connections").wait_for()
    page.goto(f"{named}/access")
    page.get_by_role("button", name="Remove Desk key").click()
    expect(page.get_by_role("button", name="Turn two-step sign-in off")).to_have_count(0)
    expect(panel).to_contain_text("a stolen password alone is useless")
