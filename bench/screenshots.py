"""Takes the pictures of the README from the demo data, at 1280 × 800.

python -m bench.screenshots
"""

from __future__ import annotations

import time
from pathlib import Path
from typing import Final

from selenium.webdriver import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webdriver import WebDriver
from selenium.webdriver.support.wait import WebDriverWait
from tests.browser.support import address, chromium

from hobtrial.demo import exercise_folder

FOLDER: Final = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
WREN, WOAD = 23, 22

PICTURES: Final = {
    "bench": ("/", "paper"),
    "round": ("/rounds/1", "paper"),
    "round-group": ("/rounds/1?group=boundary%7Cscore%7C2.1%2C2.2%2C4.0%2C4.1", "paper"),
    "trial": (f"/tries/{WREN}/scenarios/2", "paper"),
    "trial-slate": (f"/tries/{WREN}/scenarios/4", "slate"),
    "kept": ("/plays/1", "paper"),
    "unreadable": (f"/tries/{WOAD}/scenarios/0", "paper"),
}


LOAF: Final = exercise_folder("loaf-in-order")["reference.py"].decode()


def play(browser: WebDriver) -> None:
    """Plays the loaf by hand up to its second step, keeps the picture and the game."""
    browser.get(address() + "/exercises/9/play")
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, ".cm-content"))
    time.sleep(1)
    browser.find_element(By.CSS_SELECTOR, ".cm-content").click()
    ActionChains(browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    browser.execute_cdp_cmd("Input.insertText", {"text": LOAF})
    ActionChains(browser).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
    time.sleep(1)
    keys = ActionChains(browser)
    for seconds in (0.5, 0.65):
        keys.key_down(Keys.ARROW_RIGHT).pause(seconds).key_up(Keys.ARROW_RIGHT).send_keys(" ").pause(0.3)
    keys.perform()
    bell = browser.find_element(By.CSS_SELECTOR, "[data-piece=bell]")
    ActionChains(browser).move_to_element(bell).click().pause(0.4).perform()
    browser.save_screenshot(str(FOLDER / "play.png"))
    next(each for each in browser.find_elements(By.TAG_NAME, "button") if each.text == "keep as a trial").click()
    time.sleep(1)


def main() -> None:
    """Opens each view, waits until it stands still, and keeps the picture."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    browser = chromium()
    browser.get(address())
    browser.execute_script("localStorage.clear()")
    play(browser)
    for name, (path, theme) in PICTURES.items():
        browser.get(address())
        browser.execute_script("localStorage.setItem('hob-appearance', arguments[0])", f'{{"theme":"{theme}"}}')
        browser.get(address() + path)
        time.sleep(2)
        browser.save_screenshot(str(FOLDER / f"{name}.png"))
        print(name)


if __name__ == "__main__":
    main()
