"""A browser and a signed-in hand."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from browser.driver import browser
from browser.hand import Hand


@pytest.fixture(scope="session")
def chromium() -> Iterator[object]:
    with browser() as driver:
        yield driver


@pytest.fixture
def hand(chromium, application, password) -> Iterator[Hand]:
    """Signed in as the demo's person; the page must not have complained by the end."""
    chromium.delete_all_cookies()
    chromium.get_log("browser")
    hand = Hand(chromium, application.address)
    hand.sign_in("warden", password)
    yield hand
    assert hand.complaints() == []
