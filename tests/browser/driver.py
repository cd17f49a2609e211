"""Headless Chromium as the tests and the screenshots use it."""

from __future__ import annotations

import contextlib
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By

FLAGS = [
    "--headless=new",
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-quic",
    "--no-first-run",
    "--no-default-browser-check",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-extensions",
    "--hide-scrollbars",
    "--force-device-scale-factor=1",
    "--force-color-profile=srgb",
]


@contextlib.contextmanager
def browser(width: int = 1280, height: int = 800, *, dark: bool = False) -> Iterator[WebDriver]:
    """A fresh browser with exactly this viewport."""
    profile = tempfile.mkdtemp(prefix="neatveil-browser-")
    options = Options()
    options.binary_location = "/usr/bin/chromium"
    for flag in (*FLAGS, f"--user-data-dir={profile}"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    try:
        resize(driver, width, height)
        scheme = [{"name": "prefers-color-scheme", "value": "dark" if dark else "light"}]
        driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": scheme})
        yield driver
    finally:
        driver.quit()
        shutil.rmtree(profile, ignore_errors=True)


def keep_page(driver: WebDriver, folder: Path, name: str) -> str:
    """Keep what the browser shows: a picture, and a text with address, words and log; tells both paths."""
    folder.mkdir(parents=True, exist_ok=True)
    picture, text = folder / f"{name}.png", folder / f"{name}.txt"
    driver.save_screenshot(str(picture))
    words = driver.find_element(By.TAG_NAME, "body").text
    log = "\n".join(f"{row['level']} {row['message']}" for row in driver.get_log("browser"))
    text.write_text(f"{driver.current_url}\n\n{words}\n\n{log}\n")
    return f"{picture}\n{text}"


def forget_cookies(driver: WebDriver) -> None:
    """Signed in nowhere, whatever page is open: the driver's own way knows the open page's cookies alone."""
    driver.execute_cdp_cmd("Network.clearBrowserCookies", {})


def give_cookies(driver: WebDriver, address: str, cookies: list[dict[str, object]]) -> None:
    """Those of `WebDriver.get_cookies`, before a page of theirs is open."""
    kept = ("name", "value", "path", "httpOnly", "secure")
    rows = [{**{k: c[k] for k in kept}, "url": address} for c in cookies]
    driver.execute_cdp_cmd("Network.setCookies", {"cookies": rows})


def resize(driver: WebDriver, width: int, height: int) -> None:
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
