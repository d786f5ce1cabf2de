"""The workshop's core: changes of a draft, what is said of it, and checks made from what is seen."""

import json
import tomllib
import unittest
from collections.abc import Callable
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from hobtrial.core.exercise import LOOKS
from hobtrial.core.judging import open_exercise
from hobtrial.core.trial import Trace
from hobtrial.core.words import UsageError
from hobtrial.core.workshop import (
    CHANGE,
    apply,
    companions,
    in_words,
    new_files,
    rehearse,
    title_of,
    try_companion,
)
from hobtrial.demo import exercise_folder, exercises
from tests.support import ROOT, text

COMMENTED = {
    "exercise.toml": text(
        """
        # made by hand
        format = 1
        title = "Sweep"      # short
        seconds = 6

        [scene]
        width = 32

        # the one who sweeps
        [[scene.piece]]
        name = "hob"
        at = [4, 2]          # left
        motion = {steered = {speed = 6, axes = "x"}}

        [[scene.piece]]
        name = "soot"
        at = [8, 2]

        [[variable]]
        name = "score"       # counted
        label = "Soot"

        [[scenario]]
        name = "One"
        [[scenario.input]]
        at = 0.5             # soon
        hold = "right"
        for = 2
        [[scenario.check]]
        at = 3
        expect = "score == 1"   # once
        """
    ).encode(),
    "brief.md": b"`score` counts the **Soot**.\n",
    "starter.py": b"",
    "reference.py": text(
        """
        score = 0
        board("Soot", score)
        @on(meets(hob, soot))
        def sweep(which):
            global score
            score += 1
            which.remove()
            board("Soot", score)
        """
    ).encode(),
}


def changed(files: dict[str, bytes], **change: Any) -> dict[str, bytes]:
    """A draft after a change, given as the browser sends it."""
    return apply(files, CHANGE.validate_python(change))


def lines_that_differ(before: bytes, after: bytes) -> list[str]:
    """The lines of the second text that the first does not have, and the other way round."""
    old, new = before.decode().split("\n"), after.decode().split("\n")
    return [line for line in old if line not in new] + [line for line in new if line not in old]


def trace_again(trace: Trace) -> Callable[[], Trace]:
    """Gives a trace whenever it is asked for."""
    return lambda: trace


class Changes(unittest.TestCase):
    def test_one_change_is_a_change_of_one_thing(self) -> None:
        before = COMMENTED["exercise.toml"]
        after = changed(COMMENTED, do="change", table="piece", index=0, keys={"at": [5, 2]})["exercise.toml"]
        self.assertEqual(
            lines_that_differ(before, after), ["at = [4, 2]          # left", "at = [5, 2]          # left"]
        )
        after = changed(COMMENTED, do="set", keys={"title": "Sweep well"})["exercise.toml"]
        self.assertEqual(
            lines_that_differ(before, after), ['title = "Sweep"      # short', 'title = "Sweep well"      # short']
        )

    def test_every_sample_exercise_takes_every_kind_of_change_and_says_what_was_meant(self) -> None:
        for name in exercises():
            files = exercise_folder(name)
            for change in (
                {"do": "set", "keys": {"title": "Other"}},
                {"do": "set", "of": "scene", "keys": {"width": 40}},
                {"do": "add", "table": "piece", "row": {"name": "cart", "at": [3, 4], "motion": {"still": {}}}},
                {"do": "add", "table": "spawner", "row": {"name": "flue", "kind": "ash", "every": 2, "at": [[3, 4]]}},
                {"do": "add", "table": "fact", "row": {"name": "wind", "start": 1}},
                {"do": "add", "table": "variable", "row": {"name": "further"}},
                {"do": "add", "table": "check", "scenario": 0, "row": {"end": True, "expect": "clock > 1"}},
                {"do": "change", "table": "scenario", "index": 1, "keys": {"visible": False}},
                {"do": "remove", "table": "scenario", "index": 0},
            ):
                with self.subTest(name, **change):
                    after = tomllib.loads(changed(files, **change)["exercise.toml"].decode())
                    self.assertNotEqual(after, tomllib.loads(files["exercise.toml"].decode()))

    def test_inputs_that_stay_keep_their_layout(self) -> None:
        given = [{"at": 0.5, "hold": "right", "for": 2}, {"at": 3, "press": "space"}]
        after = changed(COMMENTED, do="inputs", scenario=0, inputs=given, seconds=5)
        self.assertIn("at = 0.5             # soon", after["exercise.toml"].decode())
        found = tomllib.loads(after["exercise.toml"].decode())["scenario"][0]
        self.assertEqual((found["input"], found["seconds"]), (given, 5))

    def test_copies_stand_in_a_row_and_are_of_one_kind(self) -> None:
        after = changed(COMMENTED, do="copy", index=1, times=3, by=[2, 0])
        pieces = tomllib.loads(after["exercise.toml"].decode())["scene"]["piece"][1:]
        self.assertEqual([piece["name"] for piece in pieces], ["soot_1", "soot_2", "soot_3", "soot_4"])
        self.assertEqual([piece["at"] for piece in pieces], [[8, 2], [10, 2], [12, 2], [14, 2]])
        self.assertEqual({piece["kind"] for piece in pieces}, {"soot"})

    def test_what_is_not_there_cannot_be_changed(self) -> None:
        for change in (
            {"do": "remove", "table": "piece", "index": 7},
            {"do": "add", "table": "check", "scenario": 9, "row": {"end": True, "expect": "True"}},
            {"do": "add", "table": "check", "row": {"end": True, "expect": "True"}},
            {"do": "write", "file": "../elsewhere.py", "text": ""},
            {"do": "drop", "file": "reference.py"},
        ):
            with self.subTest(**change), self.assertRaises(UsageError):
                changed(COMMENTED, **change)

    def test_what_toml_cannot_hold_is_refused_in_words(self) -> None:
        for value in (float("nan"), [1, None], "\ud800", {"a": {"b": None}}):
            with self.subTest(value=repr(value)), self.assertRaisesRegex(UsageError, "exercise.toml cannot be changed"):
                changed(COMMENTED, do="change", table="piece", index=0, keys={"look": value})

    def test_something_else_where_a_table_belongs(self) -> None:
        for toml in ("scene = 5\n", "scenario = 3\n", "[scene]\npiece = {a = 1}\n", "scenario = [1, 2]\n"):
            files = {**COMMENTED, "exercise.toml": toml.encode()}
            for change in (
                {"do": "add", "table": "piece", "row": {"name": "cart", "at": [1, 2]}},
                {"do": "change", "table": "scenario", "index": 0, "keys": {"name": "New"}},
                {"do": "add", "table": "check", "scenario": 0, "row": {"end": True, "expect": "True"}},
            ):
                with self.subTest(toml, **change):
                    try:
                        after = changed(files, **change)
                    except UsageError:
                        continue
                    tomllib.loads(after["exercise.toml"].decode())

    def test_keys_are_words(self) -> None:
        for key in ("", "a b", "a\n[x]", "ä", "1"):
            with self.subTest(key), self.assertRaises(ValidationError):
                changed(COMMENTED, do="set", keys={key: 1})

    def test_a_row_is_replaced_by_one_of_another_kind(self) -> None:
        row = {"always": True, "expect": "score == 1", "marks": 2}
        after = changed(COMMENTED, do="replace", table="check", index=0, scenario=0, row=row)["exercise.toml"].decode()
        self.assertEqual(tomllib.loads(after)["scenario"][0]["check"], [row])
        self.assertIn('expect = "score == 1"   # once', after)

    def test_rows_come_before_others_and_go(self) -> None:
        row = {"end": True, "expect": "outcome == 'playing'"}
        files = changed(COMMENTED, do="add", table="check", scenario=0, before=0, row=row)
        checks = tomllib.loads(files["exercise.toml"].decode())["scenario"][0]["check"]
        self.assertEqual([check.get("end") for check in checks], [True, None])
        files = changed(files, do="remove", table="check", index=0, scenario=0)
        self.assertEqual(files, COMMENTED)
        files = changed(COMMENTED, do="remove", table="check", index=0, scenario=0)
        self.assertNotIn("check", tomllib.loads(files["exercise.toml"].decode())["scenario"][0])

    def test_cases_stand_in_their_line(self) -> None:
        row = {"arrange": ["score = 3"], "expect": "score == 4"}
        files = changed(COMMENTED, do="add", table="case", scenario=0, row=row)
        files = changed(files, do="change", table="case", index=0, scenario=0, keys={"marks": 2})
        self.assertIn(
            'cases = [{arrange = ["score = 3"], expect = "score == 4", marks = 2}]', files["exercise.toml"].decode()
        )

    def test_several_are_one(self) -> None:
        moved = {"do": "change", "table": "piece", "index": 0, "keys": {"at": [9, 2]}}
        renamed = {"do": "set", "keys": {"title": "Both"}}
        both = changed(COMMENTED, do="several", changes=[moved, renamed])
        self.assertEqual(both, changed(changed(COMMENTED, **moved), **renamed))
        self.assertEqual(
            in_words(CHANGE.validate_python({"do": "several", "changes": [renamed, moved]})), "title changed"
        )

    def test_a_text_that_is_not_toml_is_left_alone(self) -> None:
        files = {**COMMENTED, "exercise.toml": b"title = "}
        with self.assertRaisesRegex(UsageError, "is not TOML as it stands"):
            changed(files, do="set", keys={"title": "New"})
        self.assertEqual(changed(files, do="write", file="brief.md", text="Do it.\n")["brief.md"], b"Do it.\n")

    @settings(max_examples=60, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
    @given(
        st.lists(
            st.one_of(
                st.builds(
                    lambda x, y: {"do": "change", "table": "piece", "index": 0, "keys": {"at": [x, y]}},
                    st.integers(0, 30),
                    st.integers(0, 16),
                ),
                st.builds(lambda n: {"do": "change", "table": "check", "index": 0, "scenario": 0, "keys": {"marks": n}}, st.integers(1, 9)),
                st.builds(lambda t: {"do": "set", "keys": {"title": t}}, st.text("abc ", min_size=1, max_size=9)),
                st.builds(lambda n: {"do": "set", "keys": {"seconds": n}}, st.integers(1, 60)),
            ),
            max_size=8,
        )
    )  # fmt: skip
    def test_changes_and_their_undoing_give_the_same_bytes(self, changes: list[dict[str, Any]]) -> None:
        files = COMMENTED
        for change in changes:
            files = changed(files, **change)
        back: list[dict[str, Any]] = [
            {"do": "change", "table": "piece", "index": 0, "keys": {"at": [4, 2]}},
            {"do": "change", "table": "check", "index": 0, "scenario": 0, "keys": {"marks": None}},
            {"do": "set", "keys": {"title": "Sweep", "seconds": 6}},
        ]
        for change in back:
            files = changed(files, **change)
        self.assertEqual(files, COMMENTED)

    def test_changes_have_words(self) -> None:
        for change, words in (
            ({"do": "set", "keys": {"title": "x"}}, "title changed"),
            ({"do": "remove", "table": "piece", "index": 0}, "a piece taken away"),
            ({"do": "write", "file": "brief.md", "text": ""}, "brief.md written"),
        ):
            self.assertEqual(in_words(CHANGE.validate_python(change)), words)

    def test_a_new_draft_can_be_played_at_once(self) -> None:
        found = rehearse(new_files("First steps"))
        self.assertIsNotNone(found.prepared)
        self.assertEqual(title_of(new_files("First steps")["exercise.toml"]), "First steps")
        self.assertEqual(title_of(b"title ="), "An exercise without a title")


class Rehearsals(unittest.TestCase):
    def said(self, **files: str) -> list[tuple[str, str | None, int | None, int | None]]:
        """What is said of the draft with some of its files replaced: each with where."""
        given = {
            **COMMENTED,
            **{f"{name}.{'toml' if name == 'exercise' else 'py'}": data.encode() for name, data in files.items()},
        }
        return [
            (notice.text, notice.place.table, notice.place.index, notice.place.scenario)
            for notice in rehearse(given).notices
        ]

    def toml(self, old: str, new: str) -> str:
        """The settings with one text in place of another."""
        settings = COMMENTED["exercise.toml"].decode()
        self.assertIn(old, settings)
        return settings.replace(old, new)

    def test_nothing_is_said_of_what_is_right(self) -> None:
        self.assertEqual(self.said(), [])
        for name in exercises():
            with self.subTest(name):
                found = rehearse(exercise_folder(name))
                self.assertEqual(
                    (found.marks, [each for each in found.notices if each.kind != "odd"]), (found.out_of, [])
                )

    def test_a_check_that_the_reference_loses(self) -> None:
        (said,) = self.said(exercise=self.toml("score == 1", "score == 2"))
        self.assertEqual(said, ("`score == 2` does not hold for the reference itself: `score` was 1.", "check", 0, 0))

    def test_a_fault_stands_at_its_thing(self) -> None:
        found = self.said(exercise=self.toml('name = "soot"', 'nam = "soot"'))
        self.assertEqual({said[1:] for said in found}, {("piece", 1, None)})
        self.assertIn("`nam` is not a key here; did you mean `name`?", [said[0] for said in found])
        (said,) = self.said(reference="score = ")
        self.assertEqual(said[1], None)

    def test_outcomes_texts_and_pictures_that_are_nearly_right(self) -> None:
        for old, new, words in (
            ("score == 1", "outcome == 'plaing'", "'plaing', which it never is; perhaps 'playing' is meant"),
            ("score == 1", "board('Sooot') == 1", 'Nothing in the reference says "Sooot"; it says "Soot".'),
            ('name = "soot"', 'name = "soot"\nlook = "sooty"', "drawn as a box with its name. Did you mean `soot`?"),
            (
                'name = "score" ',
                'name = "points" ',
                "`points` is listed, and the reference has no variable of that name",
            ),
        ):
            with self.subTest(new):
                self.assertTrue(any(words in said[0] for said in self.said(exercise=self.toml(old, new))), words)

    def test_a_large_draft_is_rehearsed_and_changed_like_any_other(self) -> None:
        toml = COMMENTED["exercise.toml"].decode()
        pieces = "".join(
            f'\n[[scene.piece]]\nname = "speck_{n}"\nkind = "speck"\nat = [{n % 32}, {3 + n % 15}]\nlook = "soot"\n'
            for n in range(200)
        )
        scenario = toml[toml.index("[[scenario]]") :]
        names = [f'name = "Scenario {n}"' for n in range(40)]
        more = "\n".join(scenario.replace('name = "One"', name, 1) for name in names)
        self.assertIn("Scenario 39", more)
        files = {
            **COMMENTED,
            "exercise.toml": (toml.replace("[[variable]]", pieces + "\n[[variable]]", 1) + "\n" + more).encode(),
        }
        found = rehearse(files)
        self.assertEqual((len(found.played), found.marks), (41, found.out_of))
        self.assertEqual([notice for notice in found.notices if notice.kind == "lost"], [])
        moved = apply(
            files, CHANGE.validate_python({"do": "change", "table": "piece", "index": 201, "keys": {"at": [1, 16]}})
        )
        before, after = files["exercise.toml"].split(b"\n"), moved["exercise.toml"].split(b"\n")
        self.assertEqual(len(before), len(after))
        self.assertEqual(sum(one != other for one, other in zip(before, after, strict=True)), 1)

    def test_inputs_without_effect_and_scenarios_without_a_check(self) -> None:
        self.assertIn(
            ("Nothing waits for the key `q`, and it steers no piece.", "input", 0, 0),
            self.said(exercise=self.toml('hold = "right"', 'hold = "q"')),
        )
        more = COMMENTED["exercise.toml"].decode() + '\n[[scenario]]\nname = "Two"\n'
        self.assertEqual(
            self.said(exercise=more), [("Nothing is marked here: this scenario has no check.", "scenario", 1, None)]
        )

    def test_what_the_brief_does_not_say(self) -> None:
        files = {**COMMENTED, "brief.md": b"Sweep.\n"}
        self.assertEqual(
            [notice.text for notice in rehearse(files).notices], ["The brief does not name the variable `score`."]
        )

    def test_whatever_is_wrong_a_draft_has_something_to_show(self) -> None:
        for name, data in (
            ("exercise.toml", b"title = "),
            ("exercise.toml", b"x = " + b"[" * 5000),
            ("exercise.toml", b"when = 2026-01-02\nfar = inf\n[scene]\nodd = [nan, 07:30:00]\n"),
            ("exercise.toml", b"\xff\xfe"),
            ("exercise.toml", b""),
            ("reference.py", b"\x00"),
            ("reference.py", b""),
            ("brief.md", b"\xff"),
            ("looks/a.svg", b"not a picture"),
            ("also/a.py", b"\xff"),
        ):
            with self.subTest(name, data=data[:20]):
                found = rehearse({**COMMENTED, name: data})
                self.assertTrue(found.notices)
                self.assertFalse([each.text for each in found.notices if each.text.startswith(("Is ", "Has "))])
                json.dumps(found.as_json(), allow_nan=False)
        self.assertTrue(rehearse({}).notices)

    def test_a_row_of_cases_and_a_craft_line_that_the_reference_loses(self) -> None:
        toml = COMMENTED["exercise.toml"].decode()
        cases = '\n[[scenario]]\nname = "Two"\ncases = [{arrange = ["score = 3"], expect = "score == 3"}, {expect = "score == 9"}]\n'
        said = self.said(exercise=toml + cases + '\n[[craft]]\nexpect = "uses match"\n')
        self.assertEqual([each[1:] for each in said], [("case", 1, 1), ("craft", 0, None)])
        self.assertIn("The reference itself loses `uses match`.", said[1][0])

    def test_a_check_that_is_never_reached(self) -> None:
        (said,) = self.said(exercise=self.toml("at = 3\n", 'after = "meets(hob, soot)"\nnth = 2\n'))
        self.assertIn("`score == 1` is never reached by the reference itself", said[0])

    def test_a_key_that_is_worked_out_when_it_runs(self) -> None:
        reference = COMMENTED["reference.py"].decode() + '\n\nKEY = "q"\n@on(pressed(KEY))\ndef up():\n    pass\n'
        self.assertEqual(self.said(reference=reference, exercise=self.toml('hold = "right"', 'hold = "q"'))[1:], [])

    def test_every_look_is_drawn(self) -> None:
        drawn = (ROOT / "web" / "src" / "scene" / "looks.tsx").read_text(encoding="utf-8")
        self.assertEqual({look for look in LOOKS if f"\n  {look}: () => " not in drawn}, set())


class Companions(unittest.TestCase):
    RIGHT = COMMENTED["reference.py"].decode().replace("score += 1", "score = score + 1")
    FORGETS = "# missing-global\n" + COMMENTED["reference.py"].decode().replace("    global score\n", "")

    def trouble(self, file: str, source: str, old: str = "", new: str = "") -> str | None:
        """What is wrong with a companion of the commented exercise, with one text of its settings replaced."""
        toml = COMMENTED["exercise.toml"].decode().replace(old, new) if old else COMMENTED["exercise.toml"].decode()
        files = {**COMMENTED, "exercise.toml": toml.encode(), file: source.encode()}
        prepared = open_exercise(files)
        self.assertEqual(companions(prepared), [file])
        return try_companion(prepared, file).trouble

    def test_one_that_comes_out_as_it_must(self) -> None:
        self.assertIsNone(self.trouble("also/other.py", self.RIGHT))
        self.assertIsNone(self.trouble("wrong/forgets.py", self.FORGETS))

    def test_a_right_one_that_loses_marks_means_an_unfair_check(self) -> None:
        quiet = self.RIGHT.replace('board("Soot", score)', "")
        said = self.trouble("also/other.py", quiet, "score == 1", "board('Soot') == 1")
        self.assertRegex(said or "", r"is right and earns 0 of 1 marks\. It loses `board\('Soot'\) == 1` in One\.")

    def test_a_wrong_one_that_gets_away_or_is_named_otherwise(self) -> None:
        right = "# boundary\n" + self.RIGHT
        self.assertEqual(
            self.trouble("wrong/a.py", right), "wrong/a.py is wrong and earns every mark: no check sees its boundary."
        )
        other = self.FORGETS.replace("missing-global", "boundary")
        self.assertEqual(
            self.trouble("wrong/a.py", other),
            "wrong/a.py has boundary, and the first thing said of it is missing-global.",
        )
        self.assertIn("does not say in its first line", self.trouble("wrong/a.py", self.RIGHT) or "")

    def test_the_sample_exercises_have_companions_that_come_out_as_they_must(self) -> None:
        for turn, name in enumerate(exercises()):
            prepared = open_exercise(exercise_folder(name))
            right = [file for file in companions(prepared) if file.startswith("also/")]
            wrong = [file for file in companions(prepared) if file.startswith("wrong/")]
            self.assertGreaterEqual(len(right), 3, name)
            self.assertGreaterEqual(len(wrong), 5, name)
            for file in (*right, wrong[turn % len(wrong)]):  # `hob prove` tries all of them
                with self.subTest(name, file=file):
                    self.assertIsNone(try_companion(prepared, file).trouble)
