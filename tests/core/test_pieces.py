"""What pieces, kinds and the game can do, and what they turn down."""

import unittest
from typing import Any

from hobtrial.core.trial import Trace, done, held_key, pressed_key
from tests.support import bun, path, piece, run, scene, told

WORLD = (bun("bun_1", 9), bun("bun_2", 12), piece("sack", 5, 5, looks=["full", "empty"]))


def at_once(body: str, *inputs: Any, frames: int = 10, **more: Any) -> Trace:
    """Lines that run in frame 0."""
    lines = "\n    ".join(body.split("\n"))
    return run(f"@on(after(0))\ndef f():\n    {lines}\n", scene(*WORLD, **more), inputs, frames=frames)


def said(body: str, **more: Any) -> list[str]:
    """What lines tell that run in frame 0."""
    trace = at_once(body, **more)
    assert trace.stopped is None, trace.stopped
    return told(trace)


def complaint(body: str, **more: Any) -> str:
    """Why lines that run in frame 0 stop the trial."""
    stop = at_once(body, **more).stopped
    assert stop is not None
    return stop.message


class Members(unittest.TestCase):
    def test_properties_are_read(self) -> None:
        names = "x y facing look visible opacity size speed vx vy carrying name kind".split()
        self.assertEqual(
            said("\n".join(f"tell(sack.{name})" for name in names)),
            ["5.0", "5.0", "0", "full", "True", "1", "1", "0", "0", "0", "None", "sack", "sack"],
        )

    def test_all_but_name_and_kind_can_be_set(self) -> None:
        body = "sack.x = 1\nsack.facing = 90\nsack.look = 'empty'\nsack.size = 2\nsack.opacity = 0.5\nsack.carrying = bun_1"
        self.assertEqual(said(f"{body}\ntell(sack.x, )\ntell(sack.look)\ntell(sack.carrying)"), ["1", "empty", "bun_1"])
        self.assertEqual(complaint("sack.name = 'x'"), "`name` of a piece cannot be set.")

    def test_move_go_and_face(self) -> None:
        self.assertEqual(
            said("sack.move(1, -2)\ntell(f'{sack.x} {sack.y}')\nsack.go(9, 9)\ntell(sack.x)"), ["6.0 3.0", "9"]
        )
        self.assertEqual(
            said("for to in (bun_1, hob):\n    sack.go(to.x, 5)\n    sack.face(to)\n    tell(sack.facing)"),
            ["270.0"] * 2,
        )
        self.assertEqual(said("sack.go(9, 0)\nsack.face(bun_1)\ntell(sack.facing)"), ["90.0"])

    def test_distance_and_face_take_the_nearest_of_a_kind(self) -> None:
        self.assertEqual(said("sack.go(11, 1)\ntell(sack.distance(bun))\ntell(sack.distance(hob))"), ["1.0", "6.0"])
        self.assertEqual(
            complaint("for b in bun:\n    b.remove()\nsack.face(bun)"), "There is no `bun` in the scene for `face`."
        )

    def test_a_piece_tells_in_its_own_name(self) -> None:
        self.assertEqual(
            [(line.who, line.text) for line in at_once("bun_1.tell('warm')\ntell('so')").story],
            [("bun_1", "warm"), ("", "so")],
        )

    def test_a_look_that_it_does_not_have(self) -> None:
        self.assertEqual(complaint("sack.look = 'half'"), "`sack` has the looks 'full', 'empty', and no 'half'.")


class Carrying(unittest.TestCase):
    def test_what_is_carried_keeps_its_place_beside_the_carrier(self) -> None:
        trace = at_once("hob.carry(bun_1)", held_key("right", 0, 0.1), frames=3)
        self.assertEqual(path(trace, "bun_1"), [9.2, 9.4, 9.6, 9.6])

    def test_it_is_left_where_it_is_put_down(self) -> None:
        trace = run(
            "hob.carry(bun_1)\n@on(after(0.1))\ndef f():\n    hob.put_down()\n    tell(hob.carrying)",
            scene(*WORLD),
            (held_key("right", 0, 1),),
            frames=9,
        )
        self.assertEqual((path(trace, "bun_1")[-1], told(trace)), (9.6, ["None"]))

    def test_a_second_one_takes_the_place_of_the_first_and_can_be_taken_over(self) -> None:
        self.assertEqual(
            said("hob.carry(bun_1)\nhob.carry(bun_2)\ntell(hob.carrying)\nsack.carry(bun_2)\ntell(hob.carrying)"),
            ["bun_2", "None"],
        )

    def test_not_itself_and_not_in_a_circle(self) -> None:
        self.assertEqual(complaint("hob.carry(hob)"), "`hob` cannot carry itself.")
        self.assertEqual(complaint("hob.carry(sack)\nsack.carry(hob)"), "`sack` cannot carry `hob`, which carries it.")

    def test_a_removed_one_is_carried_no_longer(self) -> None:
        self.assertEqual(said("hob.carry(bun_1)\nbun_1.remove()\ntell(hob.carrying)"), ["None"])


class Coming(unittest.TestCase):
    def test_a_removed_piece_can_only_be_restored(self) -> None:
        self.assertEqual(
            complaint("bun_1.remove()\ntell(bun_1.x)"), "`bun_1` was removed in line 3 and cannot be used any more."
        )
        self.assertEqual(
            said("bun_1.x = 3\nbun_1.remove()\nbun_1.restore()\ntell(bun_1.x)\ntell(len(bun))"), ["9.0", "2"]
        )

    def test_restore_puts_back_place_speed_look_and_visibility(self) -> None:
        body = "sack.go(1, 1)\nsack.speed = 9\nsack.vx = 3\nsack.look = 'empty'\nsack.visible = False\nsack.weight = 7\nsack.restore()\n"
        self.assertEqual(
            said(body + "tell((sack.x, sack.y, sack.speed, sack.vx, sack.look, sack.visible, sack.weight))"),
            ["(5.0, 5.0, 0, 0, 'full', True, 7)"],
        )

    def test_spawn_gives_a_piece_with_the_next_number(self) -> None:
        self.assertEqual(
            said("new = spawn('bun', 3, 4)\ntell(f'{new} {new.kind} {new.y} {len(bun)}')"), ["bun_3 bun 4 3"]
        )
        self.assertIn('Here are "bun", "hob", "sack", and no', complaint("spawn('bum', 1, 1)"))

    def test_too_many_pieces(self) -> None:
        stop = at_once("while True:\n    spawn('bun', 1, 1)").stopped
        assert stop is not None
        self.assertEqual((stop.kind, stop.limit), ("pieces", True))

    def test_a_kind_is_walked_as_it_was_at_the_beginning_without_the_removed(self) -> None:
        self.assertEqual(
            said("for b in bun:\n    spawn('bun', 1, 1)\n    bun_2.remove() if b == bun_1 else None\n    tell(b)"),
            ["bun_1"],
        )


class Game(unittest.TestCase):
    def test_the_outcome_comes_back_and_nothing_else(self) -> None:
        trace = at_once("win('yes')\nlose('no')\nbun_1.remove()\nagain()\ntell(outcome())\nlose()")
        self.assertEqual((told(trace), trace.outcome), (["yes", "playing"], "lost"))
        self.assertEqual([missed.what for missed in trace.missed], ["lost"])

    def test_an_exercise_can_freeze_the_game_at_its_end(self) -> None:
        script = "@on(pressed('a'))\ndef f():\n    win()\n@on(pressed('a'))\ndef g():\n    tell('late')\n@on(finished)\ndef h():\n    tell('end')"
        given = (pressed_key("a", 0.1), held_key("right", 0, 1))
        self.assertEqual(told(run(script, inputs=given)), ["end", "late"])
        trace = run(script, inputs=given, plan={"freeze_at_end": True})
        self.assertEqual((told(trace), path(trace, "hob")[2:6]), (["end"], [5.6] * 4))

    def test_places_are_those_of_the_scene(self) -> None:
        self.assertEqual(
            said("tell(place())\nenter('cellar')\ntell(place())", places=["cellar", "shop"]), ["", "cellar"]
        )
        self.assertEqual(
            complaint("enter('celar')", places=["cellar", "shop"]),
            "There is no place 'celar'. The places here are 'cellar', 'shop'.",
        )

    def test_the_scoreboard_can_stand_on_the_scene(self) -> None:
        self.assertEqual(at_once("board('Buns', 3, at=(2, 17))").board[0].at, (2, 17))
        self.assertEqual(complaint("board('Buns', 3, at=5)"), "`at` of `board` takes a place such as (2, 17), not 5.")

    def test_sounds_and_questions_are_kept(self) -> None:
        trace = at_once("sound('ding')\nquestion('Name?')\noffer('Ring')")
        self.assertEqual([(sound.frame, sound.name) for sound in trace.sounds], [(0, "ding")])
        self.assertEqual([(asked.frame, asked.text) for asked in trace.questions], [(0, "Name?")])
        self.assertEqual([(offered.label, offered.open) for offered in trace.offers], [("Ring", True)])

    def test_facts_and_spawners_cannot_be_assigned(self) -> None:
        from hobtrial.core.script import Unreadable, read

        spec = scene(
            fact=[{"name": "draught", "start": 0}],
            spawners=[{"name": "chimney", "kind": "soot", "every": 1, "at": [[1, 1]]}],
        )
        for name in ("draught", "chimney", "soot", "hob"):
            self.assertIsInstance(read(f"{name} = 3", spec.names), Unreadable)

    def test_what_calls_do_not_take(self) -> None:
        for body in (
            "send(3)",
            "offer('')",
            "question(None)",
            "sound(1)",
            "enter(2)",
            "hob.go('a', 1)",
            "hob.walk(1, 1, -1)",
            "hob.carry(bun)",
        ):
            with self.subTest(body):
                self.assertIn("takes", complaint(body))

    def test_arranged_kinds_hold_for_later_pieces_too(self) -> None:
        from hobtrial.core.trial import Arrangement

        chimney = {
            "name": "chimney",
            "kind": "soot",
            "every": 0.1,
            "at": [[10, 9]],
            "motion": {"drifting": {"velocity": [0, -3]}},
        }
        arrange = (
            Arrangement("", "soot", "vy", 0),
            Arrangement("", None, "place", "cellar"),
            Arrangement("", None, "draught", 4),
        )
        trace = run(
            "@on(after(0.3))\ndef f():\n    tell([s.y for s in soot])\n    tell(place())\n    tell(draught)",
            scene(spawners=[chimney], fact=[{"name": "draught", "start": 0}]),
            plan={"arrange": arrange},
        )
        self.assertEqual(told(trace), ["[9.0, 9.0, 9.0]", "cellar", "4"])

    def test_a_fact_that_is_set(self) -> None:
        trace = run("n = 0", scene(fact=[{"name": "draught", "start": 0}]), (done("set", 0.1, "draught", 2),))
        self.assertEqual(trace.facts, ((3, "draught", 2),))
