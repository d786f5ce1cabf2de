"""Every example of the language's page is run, and its output compared with what stands below it."""

import re
import unittest

from hobtrial.core.scene import SceneSpec
from hobtrial.core.script import METHODS, Script, Unreadable, read, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS, Plan, held_key, play, pressed_key
from tests.support import ROOT, bun, scene

PAGE = (ROOT / "docs" / "script-language.md").read_text(encoding="utf-8")
EXAMPLE = re.compile(r"```python(?P<style> straight)?\n(?P<script>.*?)```\n\n```text\n(?P<output>.*?)```", re.S)
SPEC = scene(bun("bun_1", 8), bun("bun_2", 11))
INPUTS = (held_key("right", 0, 2), pressed_key("space", 0.5), pressed_key("space", 1))


def output(script: str, *, straight: bool) -> str:
    """What a trial of an example tells, and why it stopped."""
    spec = SceneSpec() if straight else SPEC
    reading = read(script, spec.kinds | {piece.name for piece in spec.piece}, straight=straight)
    assert isinstance(reading, Script), reading
    plan = Plan(90, inputs=() if straight else INPUTS, answers=((10, "Wren"), (50, "7")))
    trace = play(weave(reading, KNOWN_FUNCTIONS), spec, plan)
    lines = [line.text for line in trace.story]
    if trace.stopped:
        lines.append(f"stopped in line {trace.stopped.line}: {trace.stopped.message}")
    return "\n".join(lines) + "\n"


class Page(unittest.TestCase):
    maxDiff = None

    def test_every_example_says_what_stands_below_it(self) -> None:
        examples = list(EXAMPLE.finditer(PAGE))
        self.assertEqual(len(examples), PAGE.count("```python"))
        for example in examples:
            with self.subTest(example["script"][:40]):
                self.assertEqual(output(example["script"], straight=bool(example["style"])), example["output"])

    def test_the_limits_are_those_of_the_program(self) -> None:
        from hobtrial.core.script import DEFAULT_LIMITS as LIMITS

        for number in (
            LIMITS.passes_a_handler,
            LIMITS.passes_a_trial,
            LIMITS.depth,
            LIMITS.text,
            LIMITS.bits,
            LIMITS.story,
            LIMITS.letters,
        ):
            self.assertIn(f"| {number:,} |", PAGE)

    def test_the_methods_are_those_of_the_program(self) -> None:
        rows = dict(re.findall(r"^\| a (text|list|tuple|dict|set) \| (.*) \|$", PAGE, re.M))
        for word, kind in (("text", str), ("list", list), ("tuple", tuple), ("dict", dict), ("set", set)):
            self.assertEqual(rows[word], " ".join(f"`{name}`" for name in sorted(METHODS[kind])))

    def test_whatever_else_python_has_is_turned_down_with_what_to_write(self) -> None:
        for name in ("format", "casefold", "popitem", "issubset", "partition"):
            reading = read(f"a = value.{name}()\n")
            assert isinstance(reading, Unreadable)
            self.assertEqual(reading.problems[0].message, f"`.{name}` is not part of this language.")
            self.assertRegex(reading.problems[0].instead, r"^(Use|Put|Ask)")

    def test_the_sheet_fits_on_a_printed_page_and_its_script_runs(self) -> None:
        sheet = (ROOT / "docs" / "script-sheet.md").read_text(encoding="utf-8")
        self.assertLessEqual(len(sheet.splitlines()), 60)
        script = re.search(r"```python\n(.*?)```", sheet, re.S)
        assert script is not None
        self.assertEqual(output(script[1], straight=False).strip(), "")
