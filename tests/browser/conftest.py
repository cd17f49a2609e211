"""A browser and a signed-in hand; what a failing test leaves of its page."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from browser.driver import browser, forget_cookies, give_cookies, keep_page
from browser.visitor import Visitor
from selenium.common.exceptions import WebDriverException

LEFT = Path(__file__).resolve().parents[2] / "var" / "failed-tests"


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item, call):
    """A failing test leaves a picture of its page and the page's log."""
    report = yield
    driver = item.funcargs.get("chromium") if hasattr(item, "funcargs") else None
    if report.when == "call" and report.failed and driver is not None:
        try:
            left = keep_page(driver, LEFT, re.sub(r"[^\w-]+", "_", item.name))
        except WebDriverException as error:
            left = f"The page could not be kept: {error}"
        report.sections.append(("The page as it was", left))
    return report


@pytest.fixture(scope="session")
def chromium() -> Iterator[object]:
    with browser() as driver:
        yield driver


@pytest.fixture(scope="session")
def known() -> list[dict[str, object]]:
    """The cookies of the demo's person, once that one has signed in."""
    return []


@pytest.fixture
def visitor(chromium, application, password, known) -> Iterator[Visitor]:
    """Signed in as the demo's person; the page must not have complained by the end.

    By the form the first time, and again where a test has ended the session; else as a browser that is
    opened again.
    """
    forget_cookies(chromium)
    chromium.get_log("browser")
    visitor = Visitor(chromium, application.address)
    give_cookies(chromium, application.address, known)
    if not (known and visitor.is_signed_in()):
        visitor.sign_in("warden", password)
        known[:] = chromium.get_cookies()
    yield visitor
    assert visitor.complaints() == []
