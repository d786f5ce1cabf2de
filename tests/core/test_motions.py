"""Every motion and flag of a piece, frame by frame."""

import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from hobtrial.core.scene import SceneSpec, SceneState
from hobtrial.core.trial import Trace, held_key
from hobtrial.core.trial.pairs import Pairs
from tests.support import path, piece, run, scene, told

NOTHING = "n = 0"


def moved(*pieces: dict[str, Any], frames: int = 6, script: str = NOTHING, keys: tuple[Any, ...] = ()) -> Trace:
    """A script that does nothing, in a scene with these pieces."""
    return run(script, scene(*pieces), keys, frames=frames)


class Drifting(unittest.TestCase):
    def drift(self, edge: str, x: float, vx: float, frames: int = 6) -> list[float]:
        return path(
            moved(piece("sack", x, motion={"drifting": {"velocity": [vx, 0], "edge": edge}}), frames=frames), "sack"
        )

    def test_moves_by_its_velocity_from_frame_0_on(self) -> None:
        self.assertEqual(self.drift("stop", 10, 3, 2), [10.1, 10.2, 10.3])

    def test_stops_with_its_box_at_the_edge(self) -> None:
        self.assertEqual(self.drift("stop", 31.3, 3), [31.4, 31.5, 31.5, 31.5, 31.5, 31.5, 31.5])

    def test_bounces_off_the_edge_and_keeps_its_pace(self) -> None:
        self.assertEqual(self.drift("bounce", 31.35, 3, 3), [31.45, 31.45, 31.35, 31.25])
        self.assertEqual(self.drift("bounce", 0.65, -3, 3), [0.55, 0.55, 0.65, 0.75])

    def test_wraps_round_once_its_box_is_outside(self) -> None:
        self.assertEqual(self.drift("wrap", 32.35, 3, 2), [32.45, -0.45, -0.35])

    def test_leaves_once_its_box_is_outside(self) -> None:
        script = "@on(gone(sack))\ndef f():\n    tell(clock())"
        trace = run(script, scene(piece("sack", 32.35, motion={"drifting": {"velocity": [3, 0], "edge": "leave"}})))
        self.assertEqual([line.frame for line in trace.story], [1])

    def test_one_that_comes_from_outside_does_not_leave(self) -> None:
        self.assertEqual(self.drift("leave", -1, 6, 3), [-0.8, -0.6, -0.4, -0.2])

    def test_a_script_sets_its_velocity(self) -> None:
        sack = piece("sack", 10, motion={"drifting": {"velocity": [3, 0]}})
        self.assertEqual(
            path(moved(sack, script="sack.vx = 0\nsack.vy = -6", frames=1), "sack", "x", "y"), [(10, 0.8), (10, 0.6)]
        )


class Patrolling(unittest.TestCase):
    def test_goes_to_and_fro_and_what_is_left_of_a_step_leads_back(self) -> None:
        sack = piece("sack", 10, motion={"patrolling": {"to": [10.5, 1], "speed": 6}})
        self.assertEqual(path(moved(sack), "sack"), [10.2, 10.4, 10.4, 10.2, 10.0, 10.2, 10.4])

    def test_a_solid_piece_holds_it_up(self) -> None:
        sack = piece("sack", 10, motion={"patrolling": {"to": [20, 1], "speed": 6}})
        wall = piece("wall", 11.5, solid=True)
        trace = moved(sack, wall, frames=4, script="@on(meets(sack, wall))\ndef f():\n    tell(clock())")
        self.assertEqual(path(trace, "sack"), [10.2, 10.4, 10.5, 10.5, 10.5])
        self.assertEqual([line.frame for line in trace.story], [2])


class Following(unittest.TestCase):
    def test_heads_for_the_other_piece_and_stops_on_it(self) -> None:
        soot = piece("soot", 4.5, 1.4, motion={"following": {"who": "hob", "speed": 15}})
        self.assertEqual(path(moved(soot, frames=2), "soot", "x", "y")[-2:], [(5, 1), (5, 1)])

    def test_stands_when_the_other_one_is_gone(self) -> None:
        soot = piece("soot", 10, motion={"following": {"who": "hob", "speed": 6}})
        self.assertEqual(path(moved(soot, script="hob.remove()", frames=3), "soot"), [10] * 4)


class Falling(unittest.TestCase):
    def test_velocity_comes_before_position(self) -> None:
        soot = piece("soot", 10, 9, motion={"falling": {"gravity": 9}})
        self.assertEqual(path(moved(soot, frames=2), "soot", "y"), [8.99, 8.97, 8.94])

    def test_lands_on_the_floor_and_on_solid_pieces_and_overlaps_what_it_rests_on(self) -> None:
        soot = piece("soot", 10, 2.2, motion={"falling": {"gravity": 90}})
        shelf = piece("shelf", 10, 0.5, solid=True)
        trace = moved(soot, shelf, frames=20, script="@on(overlaps(soot, shelf))\ndef f():\n    tell(clock())")
        self.assertEqual(path(trace, "soot", "y")[-1], 1.5)
        self.assertEqual([line.frame for line in trace.story][:3], [3, 4, 5])


class Steered(unittest.TestCase):
    def test_two_pieces_have_keys_of_their_own(self) -> None:
        soot = piece("soot", 10, motion={"steered": {"speed": 3, "keys": ["a", "d", "w", "s"]}})
        trace = moved(soot, keys=(held_key("right", 0, 0.1), held_key("d", 0, 0.1), held_key("w", 0, 0.1)), frames=2)
        self.assertEqual(path(trace, "hob"), [5.2, 5.4, 5.6])
        self.assertEqual(path(trace, "soot", "x", "y"), [(10.1, 1.1), (10.2, 1.2), (10.3, 1.3)])

    def test_leaves_the_ground_on_up_and_only_from_the_ground(self) -> None:
        imp = piece("imp", 10, 0.5, motion={"steered": {"axes": "x", "jump": 6}, "falling": {"gravity": 30}})
        heights = path(moved(imp, keys=(held_key("up", 0.1, 0.2),), frames=20), "imp", "y")
        self.assertEqual(heights[:5], [0.5, 0.5, 0.5, 0.666667, 0.8])
        self.assertEqual(max(heights), 1.0)
        self.assertEqual(heights[-1], 0.5)

    def test_pushes_a_piece_along_until_that_is_held_up(self) -> None:
        sack, wall = piece("sack", 6.3, pushed=True), piece("wall", 8, solid=True)
        trace = moved(
            sack,
            wall,
            keys=(held_key("right", 0, 1),),
            frames=9,
            script="@on(meets(hob, sack))\ndef f():\n    tell(clock())",
        )
        self.assertEqual(path(trace, "hob"), [5.2, 5.4, 5.6, 5.8, 6.0, 6.0, 6.0, 6.0, 6.0, 6.0])
        self.assertEqual(path(trace, "sack")[:5], [6.3, 6.4, 6.6, 6.8, 7.0])
        self.assertEqual([line.frame for line in trace.story], [1])

    def test_two_pushed_pieces_in_a_row_hold_each_other_up(self) -> None:
        trace = moved(
            piece("sack", 6.1, pushed=True), piece("crate", 7.2, pushed=True), keys=(held_key("right", 0, 1),), frames=5
        )
        self.assertEqual((path(trace, "hob")[-1], path(trace, "sack")[-1], path(trace, "crate")[-1]), (5.2, 6.2, 7.2))


class Attached(unittest.TestCase):
    def test_moves_after_all_others_in_the_same_frame(self) -> None:
        hand = piece("hand", 0, motion={"attached": {"to": "hob", "offset": [1, 0.5]}})
        trace = moved(hand, keys=(held_key("right", 0, 0.1),), frames=1)
        self.assertEqual(path(trace, "hand", "x", "y"), [(6.2, 1.5), (6.4, 1.5)])

    def test_a_chain_follows_whatever_its_order(self) -> None:
        tip = piece("tip", 0, motion={"attached": {"to": "hand", "offset": [1, 0]}})
        hand = piece("hand", 0, motion={"attached": {"to": "hob", "offset": [1, 0]}})
        self.assertEqual(path(moved(tip, hand, keys=(held_key("right", 0, 1),), frames=0), "tip"), [7.2])

    def test_a_circle_is_turned_down(self) -> None:
        a = piece("a", 1, motion={"attached": {"to": "b", "offset": [0, 0]}})
        b = piece("b", 1, motion={"attached": {"to": "a", "offset": [0, 0]}})
        with self.assertRaisesRegex(ValidationError, "attached in a circle"):
            scene(a, b)


class Flags(unittest.TestCase):
    def test_a_frozen_piece_begins_to_move_when_it_is_thawed(self) -> None:
        sack = piece("sack", 10, motion={"drifting": {"velocity": [3, 0]}}, frozen=True)
        script = "@on(frame)\ndef f():\n    if clock() == 0.1:\n        sack.thaw()"
        self.assertEqual(path(moved(sack, script=script, frames=5), "sack"), [10, 10, 10, 10, 10.1, 10.2])

    def test_a_zone_blocks_nothing_and_is_entered(self) -> None:
        trace = moved(
            piece("hatch", 6.5, zone=True),
            keys=(held_key("right", 0, 1),),
            frames=10,
            script="@on(meets(hob, hatch))\ndef f():\n    tell(clock())\n@on(parts(hob, hatch))\ndef g():\n    tell(clock())",
        )
        self.assertEqual([line.frame for line in trace.story], [2])
        self.assertEqual(path(trace, "hob")[-1], 7.2)

    def test_what_cannot_be_is_turned_down(self) -> None:
        for wrong, message in (
            ({"zone": True, "solid": True}, "cannot be solid"),
            ({"look": "a", "looks": ["b"]}, "both `look` and `looks`"),
            ({"motion": {"still": {}, "falling": {}}}, "exactly one motion"),
            ({"motion": {"following": {"who": "nobody", "speed": 1}}}, "no piece has that name"),
            ({"vars": {"x": 1}}, "every piece has already"),
        ):
            with self.subTest(message), self.assertRaisesRegex(ValidationError, message):
                scene(piece("sack", 1, **wrong))


class Spawners(unittest.TestCase):
    def test_the_first_piece_comes_at_its_first_n_seconds_and_at_places_in_turn(self) -> None:
        chimney = {"name": "chimney", "kind": "soot", "every": 0.5, "at": [[10, 5], [20, 5]], "most": 3}
        script = '@on(appeared(soot))\ndef f(which):\n    tell(f"{which} {which.x} {clock()}")'
        trace = run(script, scene(spawners=[chimney]), frames=90)
        self.assertEqual(told(trace), ["soot_1 10.0 0.5", "soot_2 20.0 1.0", "soot_3 10.0 1.5"])

    def test_it_stops_and_goes_on_at_its_own_times(self) -> None:
        chimney = {"name": "chimney", "kind": "soot", "times": [0.1, 0.2, 0.3], "at": [[10, 5]]}
        script = """
            @on(appeared(soot))
            def f():
                tell(clock())
                chimney.freeze()
            @on(after(0.25))
            def g():
                chimney.thaw()
        """
        self.assertEqual(told(run(script, scene(spawners=[chimney]))), ["0.1", "0.3"])

    def test_its_chance_is_a_stream_of_its_own(self) -> None:
        chimney = {"name": "chimney", "kind": "soot", "every": 0.1, "at": [[n, 5] for n in range(30)], "pick": "random"}
        places = []
        for draw in ("pass", "random.random()"):
            script = f"import random\n@on(frame)\ndef d():\n    {draw}\n@on(appeared(soot))\ndef f(which):\n    tell(which.x)"
            places.append(told(run(script, scene(spawners=[chimney]))))
        self.assertEqual(places[0], places[1])
        self.assertGreater(len(set(places[0])), 3)


class Grids(unittest.TestCase):
    """The broad phase changes nothing but speed."""

    SCRIPT = """
        @on(meets(bun, soot))
        def m(a, b):
            tell(f"meets {a} {b}")
            if a.name.endswith("3"):
                b.go(b.x, b.y + 2)
        @on(overlaps(soot, bun))
        def o(b):
            if b.x > 10: b.move(-0.3, 0)
        @on(parts(bun, soot))
        def p(a, b):
            tell(f"parts {a} {b}")
            if b.name.endswith("5"): b.remove()
    """

    @settings(max_examples=15, deadline=None, derandomize=True)
    @given(st.lists(st.tuples(st.integers(0, 60), st.integers(0, 30), st.integers(-9, 9)), min_size=12, max_size=40))
    def test_the_same_pairs_in_the_same_order(self, places: list[tuple[int, int, int]]) -> None:
        pieces = [
            piece(
                f"{'bun' if n % 2 else 'soot'}_{n}",
                x / 2,
                y / 2,
                kind="bun" if n % 2 else "soot",
                size=[1 + n % 3, 1],
                motion={"drifting": {"velocity": [v, n % 5 - 2], "edge": "bounce"}},
                solid=n % 4 == 0,
            )
            for n, (x, y, v) in enumerate(places)
        ]
        spec = scene(*pieces)
        plain = told(run(self.SCRIPT, spec, frames=40))
        before = Pairs.__init__.__defaults__
        Pairs.__init__.__defaults__ = (0,)
        try:
            self.assertEqual(told(run(self.SCRIPT, spec, frames=40)), plain)
        finally:
            Pairs.__init__.__defaults__ = before

    def test_many_solid_pieces_block_as_few_do(self) -> None:
        floor = [piece(f"tile_{n}", n + 0.5, 0.5, kind="tile", solid=True) for n in range(30)]
        soot = [piece(f"soot_{n}", 2 * n + 0.7, 5, motion={"falling": {}}) for n in range(12)]
        state = SceneState(SceneSpec.model_validate({"piece": [*floor, *soot]}), 1)
        for frame in range(90):
            state.step(frame, ())
        self.assertEqual({state.by_name[f"soot_{n}"].y for n in range(12)}, {1.5})
