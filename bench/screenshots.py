"""Takes the pictures of the README from the demo data, at 1280 × 800.

python -m bench.screenshots
"""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any, Final
from urllib.parse import quote

from selenium.webdriver import ActionChains
from selenium.webdriver.chrome.webdriver import WebDriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.wait import WebDriverWait
from tests.browser.support import address, chromium, client, enter, links, tries

from hobtrial.demo import exercise_folder

FOLDER: Final = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
PICTURES: Final = {
    "bench": ("/", "paper"),
    "round": ("/rounds/1", "paper"),
    "trial": ("/tries/{Wren}/scenarios/2", "paper"),
    "trial-slate": ("/tries/{Wren}/scenarios/4", "slate"),
    "trial-steps": ("/tries/{straight_Wren}/scenarios/0", "paper"),
    "kept": ("/plays/1", "paper"),
    "unreadable": ("/tries/{Woad}/scenarios/0", "paper"),
    "class": ("/classes/1", "paper"),
    "work": ("/rounds/1/work", "paper"),
    "ledger": ("/classes/1/ledger", "paper"),
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
    begin = ActionChains(browser).key_down(Keys.CONTROL).key_down(Keys.SHIFT).send_keys(Keys.ENTER)
    begin.key_up(Keys.SHIFT).key_up(Keys.CONTROL).perform()
    time.sleep(1.5)
    keys = ActionChains(browser)
    for seconds in (0.5, 0.65):
        keys.key_down(Keys.ARROW_RIGHT).pause(seconds).key_up(Keys.ARROW_RIGHT).send_keys(" ").pause(0.3)
    keys.perform()
    bell = browser.find_element(By.CSS_SELECTOR, "[data-piece=bell]")
    ActionChains(browser).move_to_element(bell).click().pause(0.4).perform()
    browser.save_screenshot(str(FOLDER / "play.png"))
    next(
        each for each in browser.find_elements(By.TAG_NAME, "button") if each.text == "keep this game as a trial"
    ).click()
    time.sleep(1)


def round_one() -> dict[str, Any]:
    """The round of the sample class."""
    with client(address()).open(address() + "/api/rounds/1") as answer:
        found: dict[str, Any] = json.load(answer)
        return found


def of_findings(browser: WebDriver, wren: dict[str, Any]) -> None:
    """A change that is tried on the Trial, the sheet of its group, and the group on the Round."""
    browser.get(f"{address()}/tries/{wren['submission_id']}/scenarios/2")
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.ID, "help-Fix"))[0].click()
    next(each for each in browser.find_elements(By.TAG_NAME, "button") if each.text == "Try this change").click()
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-tried]"))
    time.sleep(2)
    browser.save_screenshot(str(FOLDER / "trial-fix.png"))
    for name, path in (("sheet", "/rounds/1/sheet?key="), ("round-group", "/rounds/1?group=")):
        browser.get(address() + path + quote(wren["groups"][0]))
        time.sleep(2)
        browser.save_screenshot(str(FOLDER / f"{name}.png"))


def workshop(browser: WebDriver) -> None:
    """A draft of the first exercise, with what can be said of its score at a moment."""
    browser.get(address())
    WebDriverWait(browser, 20).until(
        lambda look: look.find_elements(By.CSS_SELECTOR, "[aria-label$='to the workshop']")
    )
    browser.find_element(By.CSS_SELECTOR, "[aria-label$='to the workshop']").click()
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-strip]"))
    WebDriverWait(browser, 90).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-proof=done]"))
    browser.find_element(By.CSS_SELECTOR, "[data-thing=bun_3]").click()
    strip = browser.find_element(By.CSS_SELECTOR, "[data-strip]")
    lane = browser.find_element(By.CSS_SELECTOR, '[data-lane="score"] > text')
    down = int(lane.location["y"] - strip.location["y"] - strip.size["height"] / 2 + 10)
    ActionChains(browser).move_to_element_with_offset(strip, 0, down).click().perform()
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-suggestions] li"))
    time.sleep(1)
    browser.save_screenshot(str(FOLDER / "workshop.png"))


def main() -> None:
    """Opens each view, waits until it stands still, and keeps the picture."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    browser = chromium()
    enter(browser, links().teacher_token)
    browser.execute_script("localStorage.clear()")
    students = {row["student"]: row for row in round_one()["students"]}
    numbers = tries(1) | {f"straight_{student}": number for student, number in tries(2).items()}
    of_findings(browser, students["Wren"])
    play(browser)
    workshop(browser)
    for name, (path, theme) in PICTURES.items():
        browser.get(address())
        browser.execute_script("localStorage.setItem('hob-appearance', arguments[0])", f'{{"theme":"{theme}"}}')
        browser.get(address() + path.format_map(numbers))
        time.sleep(2)
        browser.save_screenshot(str(FOLDER / f"{name}.png"))
        print(name)
    of_people(browser, numbers["straight_Wren"])


def desk(browser: WebDriver) -> None:
    """A student's desk, at the moment in which the fifth bun came and nothing was won."""
    browser.get(f"{address()}/set/1")
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, ".cm-content"))[0].click()
    ActionChains(browser).key_down(Keys.CONTROL).send_keys("a").key_up(Keys.CONTROL).perform()
    wrong = exercise_folder("bakehouse-rush")["reference.py"].decode().replace("score >= 5", "score > 5")
    browser.execute_cdp_cmd("Input.insertText", {"text": wrong})
    time.sleep(1.5)
    ActionChains(browser).key_down(Keys.CONTROL).send_keys(Keys.ENTER).key_up(Keys.CONTROL).perform()
    WebDriverWait(browser, 40).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-finding] button"))
    browser.find_element(By.XPATH, "//button[text()='Nudge']").click()
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.XPATH, "//button[text()='Show the moment']"))
    browser.find_element(By.XPATH, "//button[text()='Show the moment']").click()
    time.sleep(2)
    browser.save_screenshot(str(FOLDER / "desk.png"))


def of_people(browser: WebDriver, own: int) -> None:
    """The cards of a class, a student's own try, and the door."""
    browser.get(address() + "/classes/1")
    WebDriverWait(browser, 20).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-student]"))
    next(each for each in browser.find_elements(By.TAG_NAME, "button") if "cards" in each.text).click()
    WebDriverWait(browser, 60).until(lambda look: look.find_elements(By.CSS_SELECTOR, "[data-card]"))
    browser.save_screenshot(str(FOLDER / "cards.png"))
    next(each for each in browser.find_elements(By.TAG_NAME, "button") if each.text == "They are printed").click()
    enter(browser, links().student_token)
    desk(browser)
    browser.get(f"{address()}/own/{own}")
    time.sleep(2)
    browser.save_screenshot(str(FOLDER / "own-try.png"))
    browser.delete_all_cookies()
    browser.get(address())
    time.sleep(1)
    browser.save_screenshot(str(FOLDER / "sign-in.png"))


if __name__ == "__main__":
    main()
