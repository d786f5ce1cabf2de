"""The frame order and its exact rules: what happens when, and in which order."""

import unittest

from hobtrial.core.trial import OUTCOME, held_key, pressed_key, variable
from hobtrial.core.words import UNSET, frame_of
from tests.support import bun, run, scene, told

SCORE = variable("score")


class Times(unittest.TestCase):
    def test_a_time_belongs_to_its_nearest_frame(self) -> None:
        self.assertEqual([frame_of(t) for t in (0, 0.5, 1 / 30, 0.1, 2.5, 4.0)], [0, 15, 1, 3, 75, 120])
        self.assertEqual(frame_of(0.05), 2)  # 1.5 frames: the later one

    def test_a_hold_is_down_to_the_frame_before_its_end(self) -> None:
        trace = run('@on(held("a"))\ndef f():\n    tell("a")', inputs=(held_key("a", 0.1, 0.2),))
        self.assertEqual([line.frame for line in trace.story], [3, 4, 5, 6, 7, 8])

    def test_a_hold_lasts_one_frame_at_least_and_a_press_just_one(self) -> None:
        script = """
            @on(pressed("a"))
            def f():
                tell("down")
            @on(held("a"))
            def g():
                tell("held")
            @on(released("a"))
            def h():
                tell("up")
        """
        for given in (held_key("a", 0, 0.001), pressed_key("a", 0)):
            trace = run(script, inputs=(given,))
            self.assertEqual([(line.frame, line.text) for line in trace.story], [(0, "down"), (0, "held"), (1, "up")])


class Order(unittest.TestCase):
    def test_one_frame_in_its_order(self) -> None:
        script = """
            @on(frame)
            def f():
                if clock() == 0.1: tell("frame")
            @on(meets(hob, bun))
            def m():
                tell("meets")
            @on(overlaps(hob, bun))
            def o():
                if clock() == 0.1: tell("overlaps")
            @on(held("right"))
            def h():
                if clock() == 0.1: tell("held")
            @on(pressed("a"))
            def p():
                tell("pressed")
        """
        # the hob's right edge comes to 6.3 in frame 3, the bun's left edge is at 6.25
        trace = run(script, scene(bun("bun_1", 6.75)), (held_key("right", 0, 1), pressed_key("a", 0.1)), frames=3)
        self.assertEqual(told(trace), ["pressed", "held", "meets", "overlaps", "frame"])

    def test_handlers_run_in_file_order_whichever_form_they_wait_for(self) -> None:
        script = """
            @on(meets(hob, bun_1))
            def a():
                tell("by name")
            @on(meets(bun, hob))
            def b():
                tell("by kind, swapped")
            @on(meets(hob, bun))
            def c():
                tell("by kind")
        """
        trace = run(script, scene(bun("bun_1", 5.5)), frames=0)
        self.assertEqual(told(trace), ["by name", "by kind, swapped", "by kind"])

    def test_start_comes_after_reading_and_before_frame_0(self) -> None:
        trace = run('tell("read")\n@on(start)\ndef f():\n    tell("start")\ntell("still reading")', frames=0)
        self.assertEqual(
            [(line.frame, line.text) for line in trace.story], [(-1, "read"), (-1, "still reading"), (-1, "start")]
        )

    def test_held_keys_come_by_how_long_they_are_down(self) -> None:
        script = '@on(held("a"))\ndef f():\n    tell("a")\n@on(held("b"))\ndef g():\n    tell("b")'
        trace = run(script, inputs=(held_key("a", 0.1, 1), held_key("b", 0, 1)), frames=3)
        self.assertEqual(told(trace)[-2:], ["b", "a"])

    def test_pairs_come_in_scene_order(self) -> None:
        script = "@on(meets(hob, bun))\ndef f(which):\n    tell(which.name)"
        trace = run(script, scene(bun("bun_9", 5.2), bun("bun_1", 5.1)), frames=0)
        self.assertEqual(told(trace), ["bun_9", "bun_1"])


class Pairs(unittest.TestCase):
    def test_meets_once_overlaps_each_frame_parts_once(self) -> None:
        script = """
            counts = [0, 0, 0]
            @on(meets(hob, bun))
            def a():
                counts[0] += 1
            @on(overlaps(hob, bun))
            def b():
                counts[1] += 1
            @on(parts(hob, bun))
            def c():
                counts[2] += 1
        """
        # overlap while |x - 7| < 0.999: from 6.0 + 0.2 to 7.8, nine frames at 0.2 squares
        trace = run(script, scene(bun("bun_1", 7)), (held_key("right", 0, 1),), observe=[variable("counts")])
        self.assertEqual(trace.final["counts"], [1, 9, 1])

    def test_touching_is_not_overlapping(self) -> None:
        script = '@on(meets(hob, bun))\ndef f():\n    tell("met")'
        self.assertEqual(told(run(script, scene(bun("bun_1", 6)))), [])
        self.assertEqual(told(run(script, scene(bun("bun_1", 5.9985)))), ["met"])

    def test_parameters_are_the_piece_named_second_or_both_as_named(self) -> None:
        script = """
            @on(meets(hob, bun))
            def a(x):
                tell(x.name)
            @on(meets(bun, hob))
            def b(x):
                tell(x.name)
            @on(meets(bun, hob))
            def c(x, y):
                tell(f"{x} {y}")
        """
        self.assertEqual(told(run(script, scene(bun("bun_1", 5.5)), frames=0)), ["bun_1", "hob", "bun_1 hob"])

    def test_a_removed_piece_lets_the_running_event_finish_and_skips_its_later_pairs(self) -> None:
        script = """
            @on(meets(hob, bun))
            def a(x):
                x.remove()
            @on(meets(hob, bun))
            def b():
                tell("still running")
            @on(overlaps(hob, bun))
            def c():
                tell("overlaps")
            @on(parts(hob, bun))
            def d():
                tell("parts")
            @on(meets(bun, bun))
            def e():
                tell("later pair")
        """
        trace = run(script, scene(bun("bun_1", 5.5), bun("bun_2", 9), {"name": "sack", "at": [5.5, 1]}))
        # the same event finishes; the overlap of the same pair is the next event and is skipped
        self.assertEqual(told(trace)[0], "still running")
        self.assertNotIn("parts", told(trace))
        self.assertNotIn("later pair", told(trace))

    def test_a_hidden_piece_parts(self) -> None:
        script = """
            @on(frame)
            def hide():
                if clock() >= 0.1:
                    bun_1.visible = False
            @on(parts(hob, bun))
            def gone():
                tell("parts")
        """
        trace = run(script, scene(bun("bun_1", 5.5)))
        self.assertEqual([(line.frame, line.text) for line in trace.story], [(4, "parts")])

    def test_a_piece_moved_by_a_script_is_met_in_the_next_frame(self) -> None:
        script = """
            @on(frame)
            def jump():
                if clock() == 0.1:
                    hob.x = 20
            @on(meets(hob, bun))
            def met():
                tell("met")
        """
        trace = run(script, scene(bun("bun_1", 20)))
        self.assertEqual([line.frame for line in trace.story], [4])

    def test_what_blocks_is_overlapped_while_it_blocks(self) -> None:
        script = """
            @on(meets(hob, sack))
            def a():
                tell("meets")
            @on(parts(hob, sack))
            def b():
                tell("parts")
        """
        sack = {"name": "sack", "at": [7, 1], "solid": True}
        trace = run(script, scene(sack), (held_key("right", 0, 0.5),))
        # free way of one square is five frames; the sixth is blocked, the last with the key is 14
        self.assertEqual([(line.frame, line.text) for line in trace.story], [(5, "meets"), (15, "parts")])


class Motions(unittest.TestCase):
    def x_of(self, spec: object, *inputs: object) -> list[float]:
        trace = run("a = 1", spec, inputs, frames=30)  # type: ignore[arg-type]
        return [x for _, x in trace.pieces["hob"]["x"]]

    def test_steered_moves_by_its_speed_while_its_keys_are_down(self) -> None:
        self.assertEqual(self.x_of(scene(), held_key("right", 0, 0.1)), [5, 5.2, 5.4, 5.6])

    def test_both_keys_at_once_stand_still(self) -> None:
        self.assertEqual(self.x_of(scene(), held_key("right", 0, 1), held_key("left", 0, 1)), [5])

    def test_its_box_stays_inside_the_scene(self) -> None:
        self.assertEqual(self.x_of(scene(), held_key("left", 0, 1))[-1], 0.5)

    def test_its_box_stays_outside_solid_pieces(self) -> None:
        wall = {"name": "wall", "at": [8, 1], "size": [2, 2], "solid": True}
        self.assertEqual(self.x_of(scene(wall), held_key("right", 0, 1))[-1], 6.5)

    def test_falling_accelerates_velocity_before_position_and_lands(self) -> None:
        soot = {"name": "soot", "at": [20, 10], "motion": {"falling": {"gravity": 9}}}
        trace = run("a = 1", scene(soot), frames=60)
        heights = trace.pieces["soot"]["y"]
        self.assertEqual([y for _, y in heights[:4]], [10, 9.99, 9.97, 9.94])
        self.assertEqual(heights[-1][1], 0.5)

    def test_falling_lands_on_solid_pieces(self) -> None:
        shelf = {"name": "shelf", "at": [20, 5], "size": [4, 1], "solid": True}
        soot = {"name": "soot", "at": [20, 10], "motion": {"falling": {}}}
        trace = run('@on(meets(soot, shelf))\ndef f():\n    tell("landed")', scene(shelf, soot), frames=90)
        self.assertEqual(trace.pieces["soot"]["y"][-1][1], 6)
        self.assertEqual(told(trace), ["landed"])

    def test_a_spawner_adds_its_first_piece_at_its_first_n_seconds(self) -> None:
        spawner = {"name": "chimney", "kind": "soot", "every": 0.5, "at": [[3, 9], [6, 9]], "most": 3}
        trace = run("a = 1", scene(spawners=[spawner]), frames=90)
        first = {name: track["x"][0] for name, track in trace.pieces.items() if name.startswith("soot")}
        self.assertEqual(first, {"soot_1": (15, 3), "soot_2": (30, 6), "soot_3": (45, 3)})


class Game(unittest.TestCase):
    def test_the_first_outcome_counts(self) -> None:
        trace = run('win("yes")\nlose("no")\nwin()')
        self.assertEqual((trace.outcome, told(trace)), ("won", ["yes"]))
        self.assertEqual(trace.samples[OUTCOME].values, ["won"])

    def test_after_the_end_the_game_goes_on(self) -> None:
        trace = run(
            'win()\nscore = 0\n@on(pressed("a"))\ndef f():\n    global score\n    score += 1',
            inputs=(pressed_key("a", 1),),
            observe=[SCORE],
        )
        self.assertEqual(trace.final["score"], 1)

    def test_the_scoreboard_does_not_follow_the_variable(self) -> None:
        trace = run('score = 1\nboard("Buns", score)\nscore = 2')
        self.assertEqual([(shown.label, shown.value) for shown in trace.board], [("Buns", 1)])

    def test_game_holds_variables_without_global(self) -> None:
        trace = run("game.score = 1\n@on(start)\ndef f():\n    game.score += 1", observe=[SCORE])
        self.assertEqual((trace.final["score"], trace.bound["score"]), (2, "game.score"))

    def test_pieces_hold_variables_of_their_own(self) -> None:
        trace = run("hob.lives = 3\nhob.lives -= 1\na = hob.lives", observe=[variable("a")])
        self.assertEqual(trace.final["a"], 2)
        self.assertEqual(
            [(c.name, c.old, c.new) for c in trace.changes if c.name == "hob.lives"],
            [("hob.lives", UNSET, 3), ("hob.lives", 3, 2)],
        )

    def test_a_kind_is_walked_without_the_removed(self) -> None:
        trace = run(
            "bun_1.remove()\nfor b in bun:\n    tell(b.name)\ntell(len(bun))", scene(bun("bun_1", 9), bun("bun_2", 11))
        )
        self.assertEqual(told(trace), ["bun_2", "1"])

    def test_a_function_bound_to_a_name_counts_as_unset(self) -> None:
        trace = run("def score():\n    pass", observe=[SCORE])
        self.assertIs(trace.final["score"], UNSET)

    def test_printed_lines_join_without_a_line_end(self) -> None:
        self.assertEqual(told(run('print("a", end="")\nprint("b")\nprint("c", "d", sep="-")')), ["ab", "c-d"])


class Errors(unittest.TestCase):
    def message(self, script: str) -> str:
        stop = run(script, scene(bun("bun_1", 5.5))).stopped
        assert stop is not None
        return f"{stop.line} {stop.kind}: {stop.message}"

    def test_an_event_is_no_truth_value(self) -> None:
        self.assertIn('write is_down("a")', self.message('if pressed("a"):\n    pass'))
        self.assertIn("write hob.overlaps(bun)", self.message("a = meets(hob, bun) and 1"))

    def test_a_removed_piece_names_the_line_that_removed_it(self) -> None:
        self.assertEqual(
            self.message("bun_1.remove()\na = 1\nb = bun_1.x"),
            "3 GameError: `bun_1` was removed in line 1 and cannot be used any more.",
        )

    def test_a_wrong_key_event_or_piece(self) -> None:
        self.assertIn("takes the name of a key in quotes", self.message('@on(pressed("spcae"))\ndef f():\n    pass'))
        self.assertIn("`@on` takes events", self.message("@on(pressed)\ndef f():\n    pass"))
        self.assertIn("`meets` takes pieces or kinds", self.message('@on(meets(hob, "bun"))\ndef f():\n    pass'))

    def test_too_many_parameters(self) -> None:
        self.assertIn(
            "`f` asks for 1 value, but start gives at most 0", self.message("@on(start)\ndef f(x):\n    pass")
        )

    def test_a_property_takes_finite_numbers(self) -> None:
        self.assertIn("`x` takes a number from -1,000,000 to 1,000,000", self.message('hob.x = "5"'))
        self.assertIn("`speed` takes a number from 0", self.message("hob.speed = -1"))
        self.assertIn("`name` of a piece cannot be set", self.message('hob.name = "x"'))

    def test_a_variable_that_a_piece_does_not_have(self) -> None:
        self.assertEqual(self.message("a = hob.lifes"), "1 AttributeError: `hob` has no variable `lifes`")

    def test_the_trial_ends_where_the_script_stops(self) -> None:
        trace = run(
            '@on(pressed("a"))\ndef f():\n    tell("before")\n    x = 1 / 0',
            inputs=(pressed_key("a", 0.5),),
            observe=[SCORE],
        )
        stop = trace.stopped
        assert stop is not None
        self.assertEqual((stop.frame, stop.line, stop.handler, stop.kind), (15, 4, "f", "ZeroDivisionError"))
        self.assertEqual((trace.last_frame, told(trace)), (14, ["before"]))
