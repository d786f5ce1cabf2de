"""A served demo and a headless Chromium, shared by the browser tests."""

from __future__ import annotations

import atexit
import functools
import json
import os
import threading
import time
import unittest
from collections.abc import Callable
from http.cookiejar import CookieJar
from typing import Any, TypeVar
from urllib.request import HTTPCookieProcessor, OpenerDirector, Request, build_opener

import uvicorn
from selenium import webdriver
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from hobtrial.cli.demo import links_of_demo, load
from hobtrial.cli.serving import listen
from hobtrial.server import DemoLinks, create_app
from tests.support import BAKEHOUSE, ROOT, database

Found = TypeVar("Found")
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
STRAIGHT = "bread-choices"
"""An exercise whose scripts run from top to bottom."""
REFUSALS = ("404", "422", "409", "401")
"""Answers that a browser writes to its console although the page shows them to the user."""
NO_NETWORK = "MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost"


@functools.cache
def address() -> str:
    """The address of a server with the demo, all marked."""
    dsn = database("browsed")
    load(dsn, [BAKEHOUSE, STRAIGHT])
    listener = listen(0)
    app = create_app(dsn, demo=links())
    server = uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
    thread.start()

    def stop() -> None:
        server.should_exit = True
        thread.join(10)

    atexit.register(stop)
    url = f"http://127.0.0.1:{listener.getsockname()[1]}"
    until(lambda: _marked(url), "the round was not marked", seconds=240)
    return url


def _marked(url: str) -> bool:
    return all(found["done"] == len(found["students"]) for found in (_round(url, 1), _round(url, 2)))


@functools.cache
def links() -> DemoLinks:
    """The links of the demo that is browsed."""
    return links_of_demo()


@functools.cache
def client(url: str) -> OpenerDirector:
    """What asks without a browser, signed in as the sample teacher."""
    opener = build_opener(HTTPCookieProcessor(CookieJar()))
    body = json.dumps({"token": links().teacher_token}).encode()
    headers = {"Origin": url, "Content-Type": "application/json"}
    opener.open(Request(f"{url}/api/sign-in/demo", body, headers)).close()
    return opener


def _round(url: str, number: int) -> dict[str, Any]:
    with client(url).open(f"{url}/api/rounds/{number}") as answer:
        found: dict[str, Any] = json.load(answer)
    return found


@functools.cache
def tries(number: int = 1) -> dict[str, int]:
    """The numbers of the last tries of the sample class in a round, by student. Round 2 is the straight one."""
    return {row["student"]: row["submission_id"] for row in _round(address(), number)["students"]}


@functools.cache
def chromium() -> webdriver.Chrome:
    """Debian's Chromium with a viewport of 1280 × 800."""
    options = webdriver.ChromeOptions()
    arguments = [
        "--headless=new",
        "--disable-gpu",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-sync",
    ]
    arguments += ["--disable-component-update", f"--host-resolver-rules={NO_NETWORK}"]
    if os.geteuid() == 0:
        arguments.append("--no-sandbox")
    for argument in arguments:
        options.add_argument(argument)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    browser = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    atexit.register(browser.quit)
    return browser


def until(look: Callable[[], Found], otherwise: str, seconds: float = 60) -> Found:
    """Looks again and again until something is there."""
    end = time.monotonic() + seconds
    while True:
        found = look()
        if found:
            return found
        if time.monotonic() > end:
            raise AssertionError(otherwise)
        time.sleep(0.05)


def enter(browser: webdriver.Chrome, token: str) -> None:
    """Comes in by a link of the demo."""
    browser.get(address())
    browser.delete_all_cookies()
    browser.get(f"{address()}/sign-in#demo={token}")
    until(
        lambda: "/sign-in" not in browser.current_url and browser.find_elements(By.TAG_NAME, "header"),
        "nobody was let in",
    )


class Browsed(unittest.TestCase):
    """A test in the browser; afterwards nothing may stand in its console."""

    signed_in = ""
    """The link by which somebody is in."""

    def setUp(self) -> None:
        self.browser = chromium()
        self.open("/")
        self.browser.execute_script("localStorage.clear()")
        self.sign_in(links().teacher_token)
        self.browser.get_log("browser")  # type: ignore[no-untyped-call]

    def tearDown(self) -> None:
        complaints = [entry["message"] for entry in self.browser.get_log("browser") if entry["level"] == "SEVERE"]  # type: ignore[no-untyped-call]
        self.assertEqual([each for each in complaints if not any(status in each for status in REFUSALS)], [])

    def sign_in(self, token: str) -> None:
        """Comes in by a link of the demo, unless that person is in already."""
        if self.browser.get_cookie("hob") is None or Browsed.signed_in != token:
            enter(self.browser, token)
            Browsed.signed_in = token

    def open(self, path: str) -> None:
        """Goes to an address of the server; `{Wren}` stands for the number of a student's last try, and
        `{straight_Wren}` for the one in the straight exercise."""
        straight = {f"straight_{student}": number for student, number in tries(2).items()}
        self.browser.get(address() + path.format_map(tries() | straight))

    def all(self, selector: str) -> list[WebElement]:
        """All elements of a CSS selector."""
        return self.browser.find_elements(By.CSS_SELECTOR, selector)

    def one(self, selector: str, words: str = "") -> WebElement:
        """The first element of a selector that has some words, once it is there."""

        def look() -> WebElement | None:
            try:
                return next((each for each in self.all(selector) if words in each.text), None)
            except WebDriverException:  # drawn again meanwhile, or another page
                return None

        found = until(look, f"nothing like {selector} {words!r}")
        assert found is not None
        return found

    def press(self, *keys: str) -> None:
        """Presses keys where the focus is."""
        for key in keys:
            webdriver.ActionChains(self.browser).send_keys(key).perform()

    def with_shift(self, key: str) -> None:
        """Presses a key with shift."""
        webdriver.ActionChains(self.browser).key_down(Keys.SHIFT).send_keys(key).key_up(Keys.SHIFT).perform()

    def tab_to(self, selector: str, most: int = 60) -> WebElement:
        """Presses Tab until an element of a selector has the focus."""
        for _ in range(most):
            self.press(Keys.TAB)
            if self.browser.execute_script("return document.activeElement.matches(arguments[0])", selector):
                return self.browser.switch_to.active_element
        raise AssertionError(f"Tab does not come to {selector}")

    def frame(self) -> int:
        """The frame under the cursor of the strip."""
        return int(self.one("[data-cursor]").get_attribute("data-cursor") or "-1")

    def value(self, name: str) -> str:
        """What the values panel shows for a variable."""
        return self.one(f'[data-value="{name}"]').text

    def serious(self) -> list[Any]:
        """What axe-core finds wrong on the screen by its rules up to WCAG 2.2, and more than a trifle."""
        self.browser.execute_script(AXE.read_text(encoding="utf-8"))
        found = self.browser.execute_async_script(
            "const done = arguments[0];"
            "const fades = document.getAnimations().filter((each) => each.effect.getComputedTiming().endTime < 10000);"
            "Promise.allSettled(fades.map((each) => each.finished))"  # what fades in has too little contrast meanwhile
            ".then(() => axe.run({ rules: { 'target-size': { enabled: true } } })).then(done)"
        )
        return [
            (each["id"], [node["html"][:160] for node in each["nodes"]])
            for each in found["violations"]
            if each["impact"] != "minor"
        ]
