"""Small changes of a script, as the explainer tries them: read and woven in part, and the same as if it were the whole."""

import ast
import unittest

from hobtrial.core.explaining.chain import subject_of
from hobtrial.core.explaining.one_change import search
from hobtrial.core.explaining.slips.order import edits
from hobtrial.core.explaining.slips.slip import Group
from hobtrial.core.explaining.tried import Budget
from hobtrial.core.judging import Examination, Prepared, open_exercise, play_all
from hobtrial.core.script import Script, reread
from hobtrial.core.script.tree import apply, global_names, names_bound_anywhere
from hobtrial.core.trial import samples_json
from hobtrial.demo import exercise_folder
from tests.support import accepted, bakehouse, sample_class, text

BASE = accepted(
    text(
        """
        score = 0
        @on(frame)
        def look():
            global score
            if score > 3:
                win()
        def other(n):
            return n + 1
        board("Score", score)
        """
    )
)


def whole(script: str) -> str:
    """The tree of a text that is read as a whole, with every place."""
    return ast.dump(ast.parse(script), include_attributes=True)


def in_part(script: str, base: Script = BASE) -> str:
    """The tree of the same text, read as a change of another."""
    found = reread(script, base)
    assert found is not None
    return ast.dump(found.tree, include_attributes=True)


def changes_of(prepared: Prepared, source: str) -> tuple[Script, list[str]]:
    """A script and the texts of all edits that are worth trying on it."""
    reading = prepared.read(source)
    assert isinstance(reading, Script)
    subject = subject_of(prepared, reading, play_all(prepared, prepared.weave(reading)))
    texts = {apply(source, edit.spans) for group in Group for edit in edits(subject, group) if edit.spans}
    return reading, sorted(texts)


class ReadInPart(unittest.TestCase):
    def test_every_edit_of_the_sample_class_is_read_as_the_whole_would_be(self) -> None:
        tried = 0
        for student in ("wren", "siskin", "yarrow"):
            base, texts = changes_of(bakehouse(), sample_class()[student])
            for each in texts:
                try:
                    expected = whole(each)
                except SyntaxError:
                    self.assertIsNone(reread(each, base))
                    continue
                found = reread(each, base)
                assert found is not None
                self.assertEqual(ast.dump(found.tree, include_attributes=True), expected, each)
                self.assertEqual(found.globals, global_names(ast.parse(each)))
                tried += 1
        self.assertGreater(tried, 100)

    def test_what_stands_as_it_stood_is_the_same_node(self) -> None:
        found = reread(BASE.text.replace("n + 1", "n + 2"), BASE)
        assert found is not None
        same = [a is b for a, b in zip(found.tree.body, BASE.tree.body, strict=True)]
        self.assertEqual(same, [True, True, False, True])
        longer = reread(BASE.text.replace("return n", "n += 1\n    return n"), BASE)
        assert longer is not None
        same = [a is b for a, b in zip(longer.tree.body, BASE.tree.body, strict=True)]
        self.assertEqual(same, [True, True, False, False])  # the last one stands a line further down

    def test_a_change_that_joins_what_stands_round_it(self) -> None:
        for old, new in (
            ('board("Score", score)', "    score = 1"),  # goes on with the function before it
            ('board("Score", score)', "else:\n    pass"),
            ("score = 0", "score = (0"),
            ("score = 0", 'score = """0'),
            ("score = 0", "score = \\"),
            ("score = 0", "score = 0; lives = 3"),
            ("@on(frame)\n", ""),
            ("def other(n):", "@on(start)\ndef other(n):"),
            ("    return n + 1", "    return n + 1\n\n\n# the end"),
            ('board("Score", score)', ""),
        ):
            script = BASE.text.replace(old, new)
            with self.subTest(new):
                self.assertNotEqual(script, BASE.text)
                try:
                    expected = whole(script)
                except SyntaxError:
                    self.assertIsNone(reread(script, BASE))
                else:
                    self.assertEqual(in_part(script), expected)

    def test_two_statements_on_one_line(self) -> None:
        base = accepted("score = 0; lives = 3\nboard('Score', score)\n")
        script = "score = 1; lives = 3\nboard('Score', score)\n"
        self.assertEqual(in_part(script, base), whole(script))


class WovenInPart(unittest.TestCase):
    def test_it_runs_as_the_whole_would(self) -> None:
        prepared = bakehouse()
        base, texts = changes_of(prepared, sample_class()["wren"])
        played = 0
        for each in texts[::6]:
            found, alone = reread(each, base), prepared.read(each)
            if found is None or not isinstance(alone, Script):
                continue
            for scenario in prepared.scenarios[:3]:
                a, b = (prepared.play(prepared.weave(script), scenario) for script in (found, alone))
                self.assertEqual((samples_json(a), a.story, a.stopped), (samples_json(b), b.story, b.stopped), each)
            played += 1
        self.assertGreater(played, 5)

    def test_a_name_that_a_change_binds_is_known_in_statements_that_did_not_change(self) -> None:
        """`other` is called without a guard as long as it means the function alone; a change elsewhere can end that."""
        source = "def other():\n    return 1\nscore = other()\nlives = 3\n"
        base = accepted(source)
        prepared = bakehouse()
        self.assertIn("other", names_bound_anywhere(base.tree))
        changed = reread(source.replace("lives = 3", "other = len"), base)
        assert changed is not None
        before, after = prepared.weave(base).counting, prepared.weave(changed).counting
        self.assertNotIn("__call", before[1].co_names)
        self.assertIn("__call", after[1].co_names)


class InTheOrderOfCost(unittest.TestCase):
    def search(self, student: str) -> tuple[list[int], int, str]:
        """What is found for a script: the costs, how many edits were played, and the slip of the first."""
        prepared = bakehouse()
        reading = prepared.read(sample_class()[student])
        assert isinstance(reading, Script)
        woven = prepared.weave(reading)
        played = play_all(prepared, woven)
        budget = Budget(Examination(prepared, woven))
        found = search(prepared, subject_of(prepared, reading, played), played, budget)
        return [tried.cost for tried in found], budget.edits, found[0].edit.slip

    def test_nothing_dearer_is_tried_once_everything_is_mended(self) -> None:
        costs, tried, slip = self.search("wren")
        self.assertEqual((slip, costs[0]), ("boundary", 1))
        self.assertLessEqual(max(costs), 1)
        _, texts = changes_of(bakehouse(), sample_class()["wren"])
        self.assertLess(tried, len(texts) / 2)

    def test_the_first_one_is_borne_out_by_drawn_runs(self) -> None:
        prepared = open_exercise(exercise_folder("first-count"))
        source = exercise_folder("first-count")["wrong/no_effect.py"].decode()
        reading = prepared.read(source)
        assert isinstance(reading, Script)
        woven = prepared.weave(reading)
        played = play_all(prepared, woven)
        found = search(prepared, subject_of(prepared, reading, played), played, Budget(Examination(prepared, woven)))
        self.assertTrue(found[0].proven)
        self.assertEqual(found[0].edit.slip, "no-effect")
