"""What a person does on the page: find by what is written, click, type, drag, wait for what they see."""

from __future__ import annotations

import time
from base64 import b64decode, b64encode
from collections.abc import Callable
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray
from selenium.common.exceptions import StaleElementReferenceException, WebDriverException
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

T = TypeVar("T")
# Long, so that a busy machine fails nothing; only what is wrong waits to the end.
PATIENCE = 90.0


def until(what: Callable[[], T], why: str, seconds: float = PATIENCE) -> T:
    """The first true answer of ``what``; AssertionError that says why after so long."""
    deadline = time.monotonic() + seconds
    while True:
        try:
            answer = what()
        except (StaleElementReferenceException, WebDriverException):
            answer = None
        if answer:
            return answer
        assert time.monotonic() < deadline, f"waited {seconds} s: {why}"
        time.sleep(0.05)


class Visitor:
    """One person at one browser."""

    def __init__(self, driver: WebDriver, address: str) -> None:
        self.driver = driver
        self.address = address

    def open(self, path: str = "") -> None:
        self.driver.get(self.address + path)

    def sign_in(self, name: str, password: str) -> None:
        self.open()
        self.type_into("Name", name)
        self.type_into("Password", password)
        self.click("Sign in")
        until(lambda: self.seen("Projects"), "the list of projects")

    def is_signed_in(self) -> bool:
        """Opens the list of projects, or the form that asks who it is."""
        self.open()
        until(lambda: self.seen("Projects") or self.seen("Password"), "a page")
        return self.seen("Projects")

    # --- finding ---------------------------------------------------------------------------

    def all(self, css: str) -> list[WebElement]:
        return self.driver.find_elements(By.CSS_SELECTOR, css)

    def one(self, css: str) -> WebElement:
        return until(lambda: next(iter(self.all(css)), None), f"no {css}")

    def recipe_told(self) -> None:
        """The recipe follows the chosen layer within a frame or two."""
        until(lambda: not self.all("aside[aria-busy=true]"), "the recipe is still of another layer")

    def seen(self, text: str) -> bool:
        return text in self.driver.find_element(By.TAG_NAME, "body").text

    def wait_for(self, text: str, seconds: float = PATIENCE) -> None:
        until(lambda: self.seen(text), f"{text!r} is not on the page", seconds)

    def named(self, name: str) -> WebElement:
        """The control with that accessible name or text, visible."""

        text = _quoted(name)
        exact = (
            f"//*[@aria-label={text}] | //button[normalize-space(.)={text}] | //a[normalize-space(.)={text}]"
        )
        # sections, menus and lists go on after the name
        begins = (
            f"//button[@aria-expanded][starts-with(normalize-space(.),{text})] | "
            f"//*[@role='menuitem'][contains(normalize-space(.),{text})] | "
            f"//*[@role='option'][starts-with(normalize-space(.),{text})]"
        )

        self.recipe_told()

        def find() -> WebElement | None:
            rows = [r for x in (exact, begins) for r in self.driver.find_elements(By.XPATH, x)]
            return next((r for r in rows if r.is_displayed()), None)

        return until(find, f"nothing named {name!r}")

    def field(self, label: str) -> WebElement:
        """The input that belongs to a label."""
        self.recipe_told()

        def find() -> WebElement | None:
            for row in self.driver.find_elements(
                By.XPATH, f"//label[.//text()[normalize-space(.)={_quoted(label)}]]"
            ):
                target = row.get_attribute("for")
                inside = row.find_elements(By.CSS_SELECTOR, "input")
                found = self.all(f"[id='{target}']") if target else inside
                if found:
                    return found[0]
            labelled = self.all(f"input[aria-label='{label}']")
            return labelled[0] if labelled else None

        return until(find, f"no field {label!r}")

    # --- doing -----------------------------------------------------------------------------

    def click(self, name: str) -> None:
        def press() -> bool:
            control = self.named(name)
            if not control.is_enabled():  # a click would do nothing, without a word
                return False
            control.click()
            return True

        until(press, f"{name!r} cannot be clicked")

    def within(self, css: str, name: str) -> WebElement:
        """The button of those words that can be pressed, inside one part of the page."""
        self.recipe_told()

        def find() -> WebElement | None:
            rows = self.all(f"{css} button")
            return next((b for b in rows if b.text == name and b.is_enabled()), None)

        return until(find, f"no button {name!r} in {css}")

    def choose(self, group: str, label: str) -> None:
        """One of a row of choices."""
        row = f"//*[@aria-label={_quoted(group)}]//button[normalize-space(.)={_quoted(label)}]"
        until(lambda: self.driver.find_element(By.XPATH, row), f"no {label!r} in {group!r}").click()

    def look_at(self, label: str) -> None:
        """A look or a background of the bar over the picture: where the page is narrow some are in lists."""
        buttons = self.all("[aria-label='Show'] button, [aria-label='Background'] button")
        hit = next((b for b in buttons if b.text == label), None)
        if hit is not None:
            hit.click()
            return
        for name in ("Other looks", "Background"):
            self.one(f"[role=combobox][aria-label={_quoted(name)}]").click()
            option = next((o for o in self.all("[role=option]") if o.text == label), None)
            if option is not None:
                option.click()
                return
            self.keys(Keys.ESCAPE)
        raise AssertionError(f"There is no look {label!r}.")

    def type_into(self, label: str, text: str) -> None:
        box = self.field(label)
        box.click()
        box.send_keys(Keys.CONTROL, "a")
        box.send_keys(text)

    def set_number(self, label: str, text: str) -> None:
        self.type_into(label, text)
        self.field(label).send_keys(Keys.ENTER)

    def keys(self, *keys: str) -> None:
        ActionChains(self.driver, duration=0).send_keys(*keys).perform()

    def undo(self) -> None:
        chain = ActionChains(self.driver, duration=0)
        chain.key_down(Keys.CONTROL).send_keys("z").key_up(Keys.CONTROL).perform()

    def point_at(self, element: WebElement, dx: int = 0, dy: int = 0) -> None:
        """Move the pointer to the middle of an element, shifted."""
        ActionChains(self.driver, duration=0).move_to_element_with_offset(element, dx, dy).perform()

    def drag(self, element: WebElement, dx: int) -> None:
        chain = ActionChains(self.driver, duration=0).click_and_hold(element)
        for _ in range(4):
            chain = chain.move_by_offset(dx // 4, 0)
        chain.release().perform()

    def mouse(self, kind: str, x: float, y: float) -> None:
        """One of mousePressed, mouseMoved and mouseReleased at once, left button down: for benches."""
        self.driver.execute_cdp_cmd(
            "Input.dispatchMouseEvent",
            {"type": kind, "x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1},
        )

    def drag_over(self, *boxes: tuple[float, float, float, float]) -> None:
        """Boxes on a picture that takes marks, by shares of the whole picture as it is fitted."""
        over = self.one("[data-tool]")
        room = over.rect
        scale = min(room["width"] / 1920, room["height"] / 1080)
        for x0, y0, x1, y1 in boxes:
            start = [round((v - 0.5) * n * scale) for v, n in ((x0, 1920), (y0, 1080))]
            step = [round((b - a) * n * scale / 3) for a, b, n in ((x0, x1, 1920), (y0, y1, 1080))]
            chain = ActionChains(self.driver, duration=30).move_to_element_with_offset(over, *start)
            chain = chain.click_and_hold()
            for _ in range(3):
                chain = chain.move_by_offset(*step)
            chain.release().perform()

    def drop_file(self, target: WebElement, name: str, held: bytes) -> None:
        """A file from outside the page, let go over a part of it."""
        script = """
          const [target, name, held] = arguments;
          const data = new DataTransfer();
          data.items.add(new File([Uint8Array.from(atob(held), (c) => c.charCodeAt(0))], name));
          for (const kind of ['dragover', 'drop'])
            target.dispatchEvent(
              new DragEvent(kind, { bubbles: true, cancelable: true, dataTransfer: data }));
        """
        self.driver.execute_script(script, target, name, b64encode(held).decode())

    # --- past the page ---------------------------------------------------------------------

    def api(self, method: str, path: str, body: Any = None) -> Any:
        """What the server answers to the signed-in person; AssertionError where it refuses."""
        script = """
          const [method, path, body, done] = arguments;
          const token = /csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? '';
          const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': token };
          fetch('/api/' + path, { method, headers, body: body && JSON.stringify(body) })
            .then(async (answer) => done([answer.ok, answer.status === 204 ? null : await answer.json()]));
        """
        self.driver.set_script_timeout(PATIENCE)
        fine, answer = self.driver.execute_async_script(script, method, path, body)
        assert fine, answer
        return answer

    def undo_all(self, comp: int, until_change: str | None = None) -> None:
        """Undo this person's changes of a comp, back to the one of these words."""
        until(lambda: not self.seen("saving"), "saved")
        while (row := self.api("GET", f"comps/{comp}"))["can_undo"] not in {None, until_change}:
            self.api("POST", f"comps/{comp}/undo", {"base": row["revision"]})

    # --- the picture -----------------------------------------------------------------------

    def settled(self) -> None:
        """Wait until the newest picture is on the screen."""
        until(
            lambda: (
                self.all("canvas[data-drawn-level]:not([data-drawn-level=''])")
                and not self.all("[data-busy='true']")
                and self.driver.execute_script("return document.fonts.status === 'loaded'")
            ),
            "the picture does not settle",
            180,
        )
        time.sleep(0.15)
        until(lambda: not self.all("[data-busy='true']"), "the picture does not settle", 180)

    def pixel(self, share_x: float, share_y: float) -> tuple[int, int, int]:
        """Colour on the screen's canvas at a share of its width and height."""
        script = """
          const c = document.querySelector('canvas[data-drawn-level]'), g = c.getContext('2d');
          const x = Math.floor(c.width * arguments[0]), y = Math.floor(c.height * arguments[1]);
          return [...g.getImageData(x, y, 1, 1).data];
        """
        r, g, b, _ = self.driver.execute_script(script, share_x, share_y)
        return r, g, b

    def picture(self) -> NDArray[np.uint8]:
        """The screen's canvas, ``(H, W, 3)`` of 0 to 255."""
        script = """
          const c = document.querySelector('canvas[data-drawn-level]');
          const held = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
          let text = '';
          for (let i = 0; i < held.length; i += 32768)
            text += String.fromCharCode(...held.subarray(i, i + 32768));
          return [c.width, c.height, btoa(text)];
        """
        width, height, text = self.driver.execute_script(script)
        return np.frombuffer(b64decode(text), np.uint8).reshape(height, width, 4)[..., :3]

    def complaints(self) -> list[Any]:
        """Errors in the browser's console, answers with an error status aside."""
        return [
            row
            for row in self.driver.get_log("browser")
            if row["level"] == "SEVERE" and "the server responded with a status" not in row["message"]
        ]


def _quoted(text: str) -> str:
    return f'"{text}"' if '"' not in text else f"'{text}'"
