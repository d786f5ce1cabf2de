"""Several frames at once, and what lies where it lay: every piece ends where frame by frame it ends, to the last bit."""

import unittest
from unittest.mock import patch

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hobtrial.core.scene import SceneSpec, SceneState
from hobtrial.core.trial import Options, Plan
from hobtrial.core.trial.run import Run
from tests.core.test_quiet import SCRIPTS, plans, scenes, woven
from tests.support import piece, scene

FALLING = {"falling": {"gravity": 10}}
EVERY = settings(max_examples=120, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))


def places(state: SceneState) -> list[object]:
    """Where every piece is and how it moves, and what blocks what."""
    every = [(b.name, b.x, b.y, b.vx, b.vy, b.grounded, b.removed, b.heading_back) for b in state.bodies]
    return [*every, sorted(state.contacts)]


def stepped(state: SceneState, frames: int, forget: bool = False) -> list[list[object]]:
    """The places after each frame; with `forget`, nothing is known to lie where it lay."""
    found = []
    for frame in range(frames):
        if forget:
            for body in state.bodies:
                body.rested = -1
        state.step(frame, ())
        found.append(places(state))
    return found


class Ends(unittest.TestCase):
    @EVERY
    @given(scenes(), plans(), st.sampled_from(SCRIPTS))
    def test_where_frame_by_frame_it_ends(self, drawn: SceneSpec, plan: Plan, source: str) -> None:
        script = woven(source)
        ends = []
        for skips in (True, False):
            run = Run(script, drawn, plan, Options((), skips=skips))
            run.go()
            ends.append(places(run.state.scene))
        self.assertEqual(ends[0], ends[1])

    def test_most_of_a_fall_is_one_look(self) -> None:
        drawn = scene(piece("sack", 20, 17, FALLING), piece("floor", 16, 0.5, size=[32, 1], solid=True))
        with patch.object(SceneState, "step", autospec=True, side_effect=SceneState.step) as step:
            run = Run(woven("n = 0"), drawn, Plan(200), Options(()))
            run.go()
        self.assertEqual(run.state.scene.by_name["sack"].y, 1.5)
        self.assertLess(step.call_count, 40)


class Lying(unittest.TestCase):
    @EVERY
    @given(scenes())
    def test_as_if_it_were_asked_in_every_frame(self, drawn: SceneSpec) -> None:
        self.assertEqual(stepped(SceneState(drawn, 1), 60), stepped(SceneState(drawn, 1), 60, forget=True))

    def test_falls_again_when_what_it_lay_on_goes_away(self) -> None:
        drawn = scene(piece("sack", 20, 2, FALLING), piece("shelf", 20, 1, solid=True))
        state = SceneState(drawn, 1)
        stepped(state, 30)
        sack, shelf = state.by_name["sack"], state.by_name["shelf"]
        self.assertEqual((sack.y, sack.rests_on), (2, shelf))
        shelf.removed, shelf.stamp = True, 30
        for frame in range(30, 60):
            state.step(frame, ())
        self.assertEqual((sack.y, sack.rests_on), (0.5, None))

    def test_as_if_it_were_asked_while_what_it_lies_on_moves(self) -> None:
        lift = piece("lift", 20, 1, {"patrolling": {"to": [20, 6], "speed": 2}}, solid=True)
        drawn = scene(lift, piece("sack", 20, 2, FALLING))
        self.assertEqual(stepped(SceneState(drawn, 1), 60), stepped(SceneState(drawn, 1), 60, forget=True))


if __name__ == "__main__":
    unittest.main()
