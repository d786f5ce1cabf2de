"""Takes the pictures of the README from the demo data, at 1280 × 800.

python -m bench.screenshots
"""

from __future__ import annotations

import time
from pathlib import Path
from typing import Final

from tests.browser.support import address, chromium

FOLDER: Final = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
WREN, WOAD = 23, 22

PICTURES: Final = {
    "bench": ("/", "paper"),
    "round": ("/rounds/1", "paper"),
    "round-group": ("/rounds/1?group=boundary%7Cscore%7C2.1%2C2.2%2C4.0%2C4.1", "paper"),
    "trial": (f"/tries/{WREN}/scenarios/2", "paper"),
    "trial-slate": (f"/tries/{WREN}/scenarios/4", "slate"),
    "unreadable": (f"/tries/{WOAD}/scenarios/0", "paper"),
}


def main() -> None:
    """Opens each view, waits until it stands still, and keeps the picture."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    browser = chromium()
    for name, (path, theme) in PICTURES.items():
        browser.get(address())
        browser.execute_script("localStorage.setItem('hob-appearance', arguments[0])", f'{{"theme":"{theme}"}}')
        browser.get(address() + path)
        time.sleep(2)
        browser.save_screenshot(str(FOLDER / f"{name}.png"))
        print(name)


if __name__ == "__main__":
    main()
