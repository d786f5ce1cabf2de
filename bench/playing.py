"""Dropped frames while a trial plays in the browser: drawn frames that came late, at speed 1 and 2.

python -m bench.playing
"""

from __future__ import annotations

from tests.browser.support import address, chromium

from bench import short

MEASURE = """
const [seconds, done] = arguments;
const gaps = [], frames = new Set();
let last = performance.now(), end = last + seconds * 1000;
const look = (now) => {
  gaps.push(now - last); last = now;
  frames.add(document.querySelector('[data-cursor]').dataset.cursor);
  if (now < end) requestAnimationFrame(look); else done([gaps.slice(1), frames.size]);
};
requestAnimationFrame(look);
"""
LATE = 1000 / 60 * 1.5
"""Milliseconds: half a display frame too late."""


def main() -> None:
    """Plays one trial for some seconds at each speed."""
    browser = chromium()
    browser.set_script_timeout(30)
    seconds = 1 if short() else 4
    for speed in ("1", "2"):
        browser.get(f"{address()}/tries/23/scenarios/4")
        browser.implicitly_wait(10)
        browser.find_element("css selector", "[data-strip]")
        browser.execute_script(
            "document.body.dispatchEvent(new KeyboardEvent('keydown', {key: 'Home', bubbles: true}))"
        )
        browser.find_element("css selector", f'[aria-label="Speed {speed}"]').click()
        browser.find_element("css selector", '[aria-label="Play"]').click()
        gaps, frames = browser.execute_async_script(MEASURE, seconds)
        late = sum(gap > LATE for gap in gaps)
        due = seconds * 30 * int(speed)
        print(f"speed {speed}: {frames} of {due} game frames were shown; {late} of {len(gaps)} drawn frames came late")


if __name__ == "__main__":
    main()
