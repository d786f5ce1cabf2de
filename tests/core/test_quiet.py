"""Quiet stretches: a trial whose idle frames are passed over has the same trace, byte for byte."""

import unittest
from dataclasses import replace
from unittest.mock import patch

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.core.judging.drawn import examining_plans
from hobtrial.core.scene import MotionSpec, PieceSpec, SceneSpec, SpawnerSpec
from hobtrial.core.script import Script, Woven, weave
from hobtrial.core.trial import KNOWN_FUNCTIONS, Observable, Options, Plan, held_key, play, pressed_key, variable
from hobtrial.core.trial.run import Run
from hobtrial.demo import exercise_folder, exercises, solution_of
from tests.support import SMALL, accepted

SCRIPTS = (
    """
hits = 0
left = 0
ticks = 0
@on(meets(hob, thing), parts(hob, thing))
def hit():
    global hits
    hits += 1
@on(meets(thing, thing))
def bump(a, b):
    global left
    left += 1
@on(every(0.7))
def tick():
    global ticks
    ticks += 1
@on(gone(thing))
def away(which):
    board("Gone", which.name)
""",
    """
score = 0
@on(meets(hob, thing))
def take(which):
    global score
    score += 1
    which.remove()
    wait(0.5)
    which.restore()
    which.go(3, 3)
@on(pressed("x"))
def push():
    for each in thing:
        each.freeze()
    wait(0.3)
    for each in thing:
        each.unfreeze()
""",
    """
score = 0
seen = 0
told = 0
def show(label):
    board(label, score)
    if score > 2 and outcome() == "playing":
        win("Three")
@on(frame)
def every_frame():
    global told
    show("Score")
    text = "many" if score > 1 else "few"
    board("How many", f"{text} of {seen}")
    if score == 2 and told == 0:
        told = 1
        tell("Two")
@on(meets(hob, thing))
def met(which):
    global score
    score += 1
@on(parts(hob, thing), pressed("x"))
def saw():
    global seen
    seen += 1
""",
    """
seen = 0
@on(overlaps(hob, thing))
def stay():
    global seen
    seen += 1
@on(pressed("x"))
def jump():
    hob.go(16, 12)
""",
)
SMALL_FILES = {
    "exercise.toml": f'{SMALL}\n[[scenario]]\nname = "One"\n[[scenario.check]]\nend = true\nexpect = "score == 0"\n'.encode(),
    "reference.py": b"score = 0\n",
}
OBSERVED = ("hits", "left", "ticks", "score", "seen", "told")


def woven(source: str) -> Woven:
    """A script ready to run."""
    return weave(accepted(source), KNOWN_FUNCTIONS)


def motions() -> st.SearchStrategy[MotionSpec]:
    """Every motion but attached, which needs another piece."""
    speed = st.sampled_from([0.5, 2, 5, 11])
    number = st.sampled_from([-4.0, -1.0, 0.0, 0.5, 3.0])
    edge = st.sampled_from(["bounce", "wrap", "stop", "leave"])
    return st.one_of(
        st.just({"still": {}}),
        st.builds(lambda v, w, e: {"drifting": {"velocity": [v, w], "edge": e}}, number, number, edge),
        st.builds(
            lambda x, y, s: {"patrolling": {"to": [x, y], "speed": s}}, st.integers(2, 30), st.integers(2, 16), speed
        ),
        st.builds(lambda s: {"following": {"who": "hob", "speed": s}}, speed),
        st.builds(lambda g: {"falling": {"gravity": g}}, st.sampled_from([3, 10])),
    ).map(MotionSpec.model_validate)


def pieces() -> st.SearchStrategy[list[PieceSpec]]:
    """Some pieces of one kind, and one of them perhaps beside another."""
    place = st.tuples(st.integers(2, 30), st.integers(2, 16))
    some = st.lists(st.tuples(place, motions(), st.booleans(), st.booleans()), min_size=1, max_size=6)
    return some.map(
        lambda found: [
            PieceSpec(name=f"thing_{n}", kind="thing", at=at, motion=motion, solid=solid and not pushed, pushed=pushed)
            for n, (at, motion, solid, pushed) in enumerate(found, 1)
        ]
    )


def scenes() -> st.SearchStrategy[SceneSpec]:
    """A steered piece that may jump, a floor, drawn pieces, something that is carried along, perhaps a spawner."""
    return st.builds(_scene, pieces(), st.booleans(), st.booleans())


def _scene(drawn: list[PieceSpec], jumps: bool, spawns: bool) -> SceneSpec:
    steered = {"steered": {"speed": 7, "axes": "x", **({"jump": 8} if jumps else {})}}
    hob = PieceSpec(name="hob", at=(8, 3), motion=MotionSpec.model_validate(steered))
    floor = PieceSpec(name="floor", at=(16, 0.5), size=(32, 1), solid=True)
    basket = PieceSpec(
        name="thing_9",
        kind="thing",
        at=(9, 3),
        motion=MotionSpec.model_validate({"attached": {"to": "hob", "offset": [1, 0]}}),
    )
    falling = MotionSpec.model_validate({"falling": {"gravity": 10}})
    spawner = SpawnerSpec.model_validate(
        {
            "name": "source",
            "kind": "thing",
            "every": 1.3,
            "at": [[12, 14]],
            "motion": falling.model_dump(exclude_none=True),
        }
    )
    return SceneSpec(piece=(hob, floor, *drawn, basket), spawner=(spawner,) if spawns else ())


def plans() -> st.SearchStrategy[Plan]:
    """Keys held and pressed in six seconds."""
    times = st.integers(0, 55).map(lambda tenth: tenth / 10)
    hold = st.builds(held_key, st.sampled_from(["left", "right", "up"]), times, st.sampled_from([0.3, 1.0, 2.5]))
    press = st.builds(pressed_key, st.just("x"), times)
    deeds = st.lists(st.one_of(hold, press), max_size=6)
    return deeds.map(lambda inputs: Plan(180, inputs=tuple(sorted(inputs, key=lambda each: each.frame))))


class Same(unittest.TestCase):
    def same(self, script: Woven, scene: SceneSpec, plan: Plan, options: Options) -> None:
        quick, whole = (play(script, scene, plan, replace(options, skips=skips)) for skips in (True, False))
        self.assertEqual(repr(quick), repr(whole))

    @settings(max_examples=150, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
    @given(scenes(), plans(), st.sampled_from(SCRIPTS), st.booleans())
    def test_drawn_scenes(self, scene: SceneSpec, plan: Plan, source: str, places: bool) -> None:
        observe = [variable(name) for name in OBSERVED if f"{name} = 0" in source]
        if places:
            observe += [Observable("property", "thing_1", "x"), Observable("property", "hob", "y"), Observable("clock")]
        observe += [
            Observable("count", "thing"),
            *(Observable("board", each) for each in ("Gone", "Score", "How many")),
        ]
        self.same(woven(source), scene, plan, Options(tuple(observe)))

    def test_sample_exercises(self) -> None:
        for name in exercises():
            prepared = open_exercise(exercise_folder(name))
            for kind in ("reference", "otherwise"):
                reading = prepared.read(solution_of(name, kind))
                assert isinstance(reading, Script)
                script = prepared.weave(reading)
                drawn = [(prepared.scenarios[0], plan) for plan in examining_plans(prepared)[:6]]
                own = [(scenario, plan) for scenario in prepared.scenarios for plan in scenario.plans[:3]]
                for scenario, plan in (*own, *drawn):
                    options = Options(scenario.observe, prepared.alias, each=scenario.each, limits=prepared.limits)
                    with self.subTest(name, kind=kind, scenario=scenario.spec.name):
                        self.same(script, prepared.scene, plan, options)


class Passed(unittest.TestCase):
    def frames(self, script: Woven, prepared: Prepared, plan: Plan) -> int:
        """How many frames are played in full."""
        with patch.object(Run, "next_frame", autospec=True, side_effect=Run.next_frame) as played:
            play(script, prepared.scene, plan, Options((variable("score"),)))
        return played.call_count

    def test_most_frames_in_which_nothing_is_due_are_passed_over(self) -> None:
        prepared = open_exercise(SMALL_FILES)
        plan = Plan(300, inputs=(pressed_key("a", 5),))
        self.assertLess(self.frames(woven("score = 0\n@on(pressed('a'))\ndef f(): pass"), prepared, plan), 15)

    def test_a_handler_of_every_frame_that_changed_nothing_is_not_run_again(self) -> None:
        prepared = open_exercise(SMALL_FILES)
        plan = Plan(300, inputs=(pressed_key("a", 5),))
        shown = 'score = 0\n@on(frame)\ndef f():\n    board("Score", score)\n    if score > 5 and outcome() == "playing":\n        win()\n'
        pressed = "@on(pressed('a'))\ndef g():\n    global score\n    score += 1\n"
        self.assertLess(self.frames(woven(shown + pressed), prepared, plan), 20)

    def test_a_script_that_looks_at_every_frame_gets_every_frame(self) -> None:
        prepared = open_exercise(SMALL_FILES)
        script = prepared.weave(accepted("score = 0\n@on(frame)\ndef f():\n    global score\n    score += 1"))
        self.assertEqual(self.frames(script, prepared, Plan(300)), 301)
