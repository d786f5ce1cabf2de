"""What a check can ask besides values: who said it, a whole line, how far apart; and what a row of cases brings along."""

from __future__ import annotations

import unittest
from typing import Any

from hobtrial.core.exercise import ExerciseError
from hobtrial.core.judging import Prepared, open_exercise, play_all
from tests.support import exercise, marked, text

REFERENCE = """
    score = 0
    hob.lives = 3

    @on(meets(hob, bun))
    def take(which):
        global score
        score += 1
        which.remove()
        hob.tell("All mine")
        print("score is", score)
        if gone(bun_1):
            win("Full")

    @on(clicked(bell))
    def ring():
        sound("ding")
    """
WALK = """
    [[scenario]]
    name = "A walk"
    [[scenario.input]]
    at = 0.2
    hold = "right"
    for = 1
    """


class Checked(unittest.TestCase):
    def opened(self, check: str, *, top: str = "", reference: str = REFERENCE, variable: str = "") -> Prepared:
        prepared = exercise(WALK + check, reference)
        toml = prepared.exercise.toml.replace("seconds = 2", "seconds = 2\n" + top) + text(variable)
        return open_exercise({"exercise.toml": toml.encode(), "reference.py": text(reference).encode()})

    def one(self, prepared: Prepared, source: str) -> dict[str, Any]:
        """The only check of an exercise, as a script earns it."""
        found: dict[str, Any] = marked(prepared, source)["scenarios"][0]["checks"][0]
        return found

    def held(self, check: str, changed: tuple[str, str], **more: str) -> None:
        """A check that the reference holds, and a changed one breaks."""
        prepared = self.opened(check, **more)
        self.assertEqual(self.one(prepared, REFERENCE)["verdict"], "held")
        self.assertEqual(self.one(prepared, REFERENCE.replace(*changed))["verdict"], "broken")

    def refused(self, check: str, words: str, **more: str) -> None:
        with self.assertRaises(ExerciseError) as caught:
            self.opened(check, **more)
        self.assertIn(words, str(caught.exception))


class WhoSaidIt(Checked):
    def end(self, expect: str) -> str:
        return "\n    [[scenario.check]]\n    end = true\n    expect = '''" + expect + "'''\n"

    def test_who_said_it(self) -> None:
        self.held(self.end('said(hob, "mine")'), ("hob.tell", "tell"))
        self.held(self.end('times(said(hob, "all mine")) == 1'), ("hob.tell", "bell.tell"))
        self.refused(self.end('said(hop, "mine")'), "`hop` said, which is not a piece")

    def test_a_whole_line(self) -> None:
        self.held(self.end('told("All mine", exact=True)'), ("All mine", "all mine"))
        self.held(self.end('told("Full", exact=true)'), ("Full", "Full now"))
        self.refused(self.end('told("Full", exakt=True)'), 'told("Done", exact=True)')

    def test_gone(self) -> None:
        self.held(self.end("gone(bun_1)"), ("which.remove()", "pass"))
        self.refused(self.end("gone(bun)"), "`bun` is gone, which is not a piece")

    def test_prints_can_be_kept_out_of_the_story(self) -> None:
        there, away = self.end("told('score is')"), self.end("not told('score is')")
        self.assertEqual(self.one(self.opened(there), REFERENCE)["verdict"], "held")
        self.assertEqual(self.one(self.opened(away, top='prints = "log"'), REFERENCE)["verdict"], "held")
        prepared = self.opened(away, top='prints = "log"')
        (run,) = play_all(prepared, prepared.reference)
        self.assertEqual([line.text for line in run.trace.log], ["score is 1"])
        self.assertEqual([line.text for line in run.trace.story], ["All mine", "Full"])

    def test_texts_without_quotes_and_outcomes_that_do_not_exist(self) -> None:
        self.refused(self.end("board(North) == 1"), 'without quotes; write board("North")')
        self.refused(self.end("outcome == 'wno'"), "'wno', which it never is; perhaps 'won' is meant")


class PiecesVariables(Checked):
    def test_one_is_listed_and_arranged(self) -> None:
        listed = '\n[[variable]]\nname = "hob.lives"\nstart = 3\n'
        check = "\n    [[scenario.check]]\n    unchanged = ['hob.lives']\n"
        prepared = self.opened(check, variable=listed)
        self.assertEqual(self.one(prepared, REFERENCE)["verdict"], "held")
        lost = REFERENCE.replace("score += 1", "score += 1\n        hob.lives -= 1")
        self.assertEqual(self.one(prepared, lost)["verdict"], "broken")

    def test_what_the_reference_lacks_is_refused_with_the_nearest(self) -> None:
        self.refused("", "did you mean `score`?", variable='\n[[variable]]\nname = "scores"\n')
        self.refused("", "did you mean `hob.lives`?", variable='\n[[variable]]\nname = "hob.livs"\n')
        self.refused("", "not a piece of the scene", variable='\n[[variable]]\nname = "hop.lives"\n')
        pick = "\n    [[scenario.input]]\n    at = 1\n    pick = 'Ring it'\n"
        self.refused(pick, 'did you mean "Ring it now"?', reference=REFERENCE + '\n    offer("Ring it now")\n')


class Apart(Checked):
    def test_two_of_an_event_are_never_closer(self) -> None:
        clicks = "".join(f"\n    [[scenario.input]]\n    at = {at}\n    click = 'bell'\n" for at in (0.5, 1.0))
        for seconds, verdict in ((0.5, "held"), (0.6, "broken")):
            check = f"\n    [[scenario.check]]\n    each = 'clicked(bell)'\n    apart = {seconds}\n"
            found = self.one(self.opened(clicks + check), REFERENCE)
            self.assertEqual((found["verdict"], found["kind"]), (verdict, "apart"))
        self.assertEqual(found["reason"], "clicked(bell) came twice within 0.5 s")
        self.refused("\n    [[scenario.check]]\n    apart = 1\n", "`apart` goes with `each`")

    def test_an_event_that_never_came(self) -> None:
        check = "\n    [[scenario.check]]\n    each = 'clicked(bell)'\n    apart = 1\n"
        self.assertEqual(self.one(self.opened(check), REFERENCE)["verdict"], "not reached")


class Rows(unittest.TestCase):
    def test_inputs_luck_and_seed_of_a_row(self) -> None:
        prepared = exercise(
            """
            [[scenario]]
            name = "Throws"
            cases = [
                {luck = "lowest", expect = "score == 1"},
                {luck = [5], inputs = [{at = 0.5, press = "space"}], expect = "score == 10"},
                {seed = 4, luck = "highest", expect = "score == 6"},
            ]
            """,
            """
            from random import randint

            score = randint(1, 6)

            @on(pressed("space"))
            def twice():
                global score
                score *= 2
            """,
        )
        found = marked(prepared, prepared.exercise.reference)["scenarios"][0]["checks"]
        self.assertEqual([each["verdict"] for each in found], ["held"] * 3)
        self.assertEqual(prepared.scenarios[0].labels[1], "press space at 0.5 s; luck (5,)")

    def test_answers_of_a_row(self) -> None:
        straight = """
            name = input("Who?")
            number = int(input("How many?"))
            print(f"{number} for {name}")
            """
        toml = """
            format = 1
            title = "Asked"
            style = "straight"
            seconds = 2
            [scene]
            [[scenario]]
            name = "Answers"
            cases = [
                {answers = ["Wren", "2"], expect = "told('2 for Wren')"},
                {answers = ["Jay", "3"], expect = "told('3 for Jay')"},
            ]
            """
        prepared = exercise("", straight, text(toml))
        found = marked(prepared, straight)["scenarios"][0]["checks"]
        self.assertEqual([each["verdict"] for each in found], ["held"] * 2)
        with self.assertRaises(ExerciseError) as caught:
            exercise("", straight, text(toml).replace('style = "straight"\n', "").replace("Who?", ""))
        self.assertIn("`answers` of a row go with a straight script", str(caught.exception))

    def test_a_key_that_a_row_has_not(self) -> None:
        with self.assertRaises(ExerciseError) as caught:
            exercise('[[scenario]]\nname = "A"\ncases = [{expect = "score == 0", input = []}]\n', "score = 0\n")
        self.assertIn("`input` is not a key here; did you mean `inputs`?", str(caught.exception))


class Asked(unittest.TestCase):
    def test_gone_is_an_event_and_a_question_of_one_piece(self) -> None:
        source = """
            score = 0

            @on(gone(bun_1))
            def once():
                global score
                score += 1

            @on(pressed("space"))
            def press():
                tell(gone(bun_1) == True)
                bun_1.remove()
                if gone(bun_1):
                    tell("gone")
                bun_1.restore()
                tell("back" if not gone(bun_1) else "still gone")
            """
        toml = "[[scenario]]\nname='A'\n[[scenario.input]]\nat=0.5\npress='space'\n"
        prepared = exercise(toml, source)
        (run,) = play_all(prepared, prepared.reference)
        self.assertEqual([line.text for line in run.trace.story], ["False", "gone", "back"])
        self.assertEqual(run.trace.final["score"], 1)
        wrong = source.replace("if gone(bun_1)", "if gone(bun)")
        stopped = marked(prepared, wrong)["scenarios"][0]["stopped"]
        self.assertIn("write len(bun) == 0, or gone(…) of one piece", stopped["message"])

    def test_a_fact_can_be_a_member_of_an_enumeration_of_the_script(self) -> None:
        source = """
            from enum import Enum

            class Day(Enum):
                NOON = 1
                NIGHT = 2

            score = 1 if time == Day.NOON else 0

            @on(frame)
            def look():
                global score
                if time is Day.NIGHT:
                    score = 5
            """
        prepared = exercise(
            """
            [[fact]]
            name = "time"
            start = "Day.NOON"
            choices = ["Day.NOON", "Day.NIGHT"]
            [[scenario]]
            name = "A day"
            [[scenario.input]]
            at = 1
            set = {time = "Day.NIGHT"}
            [[scenario.check]]
            at = 0.5
            expect = "score == 1 and time == 'Day.NOON'"
            [[scenario.check]]
            end = true
            expect = "score == 5 and time == 'Day.NIGHT'"
            """,
            source,
        )
        found = marked(prepared, source)["scenarios"][0]["checks"]
        self.assertEqual([each["verdict"] for each in found], ["held", "held"])


class Craft(unittest.TestCase):
    def craft(self, line: str, source: str) -> dict[str, Any]:
        prepared = exercise(f'[[craft]]\nexpect = "{line}"\n[[scenario]]\nname = "A"\n', "score = 0\n")
        found: dict[str, Any] = marked(prepared, source)["craft"][0]
        return found

    def test_one_of_several_constructs(self) -> None:
        for source, verdict in (
            ("score = 0\nif score:\n    score = 1\nelif score == 2:\n    score = 3\n", "held"),
            ("score = 0\nmatch score:\n    case 1:\n        score = 3\n", "held"),
            ("score = 0\nif score:\n    score = 1\n", "broken"),
        ):
            self.assertEqual(self.craft("uses elif or match", source)["verdict"], verdict)
        self.assertEqual(
            self.craft("uses elif or match", "score = 0\n")["reason"], "there is neither `elif` nor `match`"
        )
        self.assertEqual(self.craft("uses or", "score = 1 or 2\n")["verdict"], "held")

    def test_a_local(self) -> None:
        own = "score = 0\n@on(frame)\ndef f():\n    half = score / 2\n    tell(half)\n"
        self.assertEqual(self.craft("has a local", own)["verdict"], "held")
        only = "score = 0\n@on(meets(hob, bun))\ndef f(which):\n    global score\n    score += 1\n"
        self.assertEqual(self.craft("has a local", only)["verdict"], "broken")

    def test_a_repeated_block(self) -> None:
        block = "    score = 1\n    tell(score)\n    sound('a')\n"
        once = f"score = 0\n@on(frame)\ndef f():\n    global score\n{block}"
        self.assertEqual(self.craft("no repeated block", once)["verdict"], "held")
        twice = once + f"@on(start)\ndef g():\n    global score\n{block}"
        found = self.craft("no repeated block", twice)
        self.assertEqual(
            (found["verdict"], found["reason"]), ("broken", "the lines from 5 on stand again from line 11 on")
        )
