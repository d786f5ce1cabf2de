"""Every event of the language, and the rules of their delivery."""

import unittest
from typing import Any

from hobtrial.core.trial import Trace, click, done, held_key, pressed_key
from tests.support import bun, piece, run, scene, told

SHELF = (piece("oven", 10, 5, size=[4, 4]), piece("bell", 10, 5), piece("hatch", 10, 5, size=[6, 6], zone=True))


def times(trace: Trace) -> list[tuple[int, str]]:
    """Frames and texts of the story."""
    return [(line.frame, line.text) for line in trace.story]


def handler(event: str, body: str = "tell(clock())", name: str = "f", takes: str = "") -> str:
    """A handler of one line."""
    return f"@on({event})\ndef {name}({takes}):\n    {body}\n"


class Keys(unittest.TestCase):
    def test_keys_released_by_the_end_of_a_hold_come_before_inputs_in_written_order(self) -> None:
        script = handler('released("a")', 'tell("a up")') + handler('pressed("b")', 'tell("b")', "g")
        script += handler('pressed("c")', 'tell("c")', "h")
        trace = run(script, inputs=(held_key("a", 0, 0.1), pressed_key("c", 0.1), pressed_key("b", 0.1)))
        self.assertEqual(times(trace), [(3, "a up"), (3, "c"), (3, "b")])

    def test_a_key_that_is_down_already_stays_down_until_the_later_end(self) -> None:
        script = handler('pressed("a")') + handler('released("a")', name="g")
        trace = run(script, inputs=(held_key("a", 0, 0.5), pressed_key("a", 0.2)))
        self.assertEqual([frame for frame, _ in times(trace)], [0, 15])
        self.assertEqual([missed.why for missed in trace.missed], ["the key was down already"])


class Clicks(unittest.TestCase):
    def test_on_a_piece_of_a_kind_and_anywhere_in_file_order_each_handler_once(self) -> None:
        script = """
            @on(clicked())
            def a(): tell("anywhere")
            @on(clicked(bun_1), clicked(bun))
            def b(which): tell(which.name)
            @on(clicked(bun_2))
            def c(): tell("the other")
        """
        trace = run(script, scene(bun("bun_1", 9), bun("bun_2", 12)), (click(0.1, "bun_1"), click(0.2, place=(30, 9))))
        self.assertEqual(told(trace), ["anywhere", "bun_1", "anywhere"])

    def test_the_topmost_piece_there_gets_it_and_zones_lie_beneath(self) -> None:
        script = "".join(handler(f"clicked({name})", f'tell("{name}")', name[0]) for name in ("oven", "bell", "hatch"))
        spots = ((10, 5), (11.5, 5), (12.8, 5))
        trace = run(script, scene(*SHELF), tuple(click(n / 10, place=spot) for n, spot in enumerate(spots)))
        self.assertEqual(told(trace), ["bell", "oven", "hatch"])

    def test_hidden_and_removed_pieces_are_not_clicked(self) -> None:
        script = handler("clicked(bell)", 'tell("bell")') + handler("clicked(oven)", 'tell("oven")', "g")
        trace = run(script + "bell.visible = False", scene(*SHELF), (click(0.1, "bell"),))
        self.assertEqual(told(trace), ["oven"])
        self.assertEqual(trace.missed[0].why, "`bell` is hidden")


class Pairs(unittest.TestCase):
    def test_overlaps_comes_in_the_frame_of_meets_and_not_of_parts(self) -> None:
        script = "".join(
            handler(f"{kind}(hob, bun)", f'tell("{kind}")', kind[0]) for kind in ("overlaps", "meets", "parts")
        )
        trace = run(script, scene(bun("bun_1", 6.1)), (held_key("left", 0.1, 0.1),), frames=5)
        self.assertEqual(times(trace), [])
        trace = run(script, scene(bun("bun_1", 5.9)), (held_key("left", 0.05, 0.1),), frames=5)
        self.assertEqual(times(trace), [(0, "meets"), (0, "overlaps"), (1, "overlaps"), (2, "parts")])

    def test_a_piece_hidden_by_meets_does_not_overlap_and_parts_in_the_next_frame(self) -> None:
        script = handler("meets(hob, bun)", "which.visible = False", takes="which")
        script += handler("overlaps(hob, bun)", 'tell("overlaps")', "g") + handler(
            "parts(hob, bun)", 'tell("parts")', "h"
        )
        self.assertEqual(times(run(script, scene(bun("bun_1", 5)))), [(1, "parts")])

    def test_a_removed_piece_that_comes_back_meets_again(self) -> None:
        script = handler("meets(hob, bun)", 'tell("meets")') + handler("parts(hob, bun)", 'tell("parts")', "g")
        script += handler('pressed("a")', "bun_1.remove()", "h") + handler('pressed("b")', "bun_1.restore()", "k")
        trace = run(script, scene(bun("bun_1", 5)), (pressed_key("a", 0.1), pressed_key("b", 0.2)))
        self.assertEqual(times(trace), [(0, "meets"), (6, "meets")])

    def test_events_are_resolved_when_the_file_is_read(self) -> None:
        script = "goal = bun_1\n" + handler("meets(hob, goal)", 'tell("met")') + "goal = bun_2"
        self.assertEqual(told(run(script, scene(bun("bun_1", 5), bun("bun_2", 20)))), ["met"])
        self.assertEqual(told(run(script, scene(bun("bun_1", 20), bun("bun_2", 5)))), [])

    def test_handlers_of_the_same_function_name_both_run(self) -> None:
        script = handler("meets(hob, bun)", 'tell("one")') + handler("meets(hob, bun)", 'tell("two")')
        self.assertEqual(told(run(script, scene(bun("bun_1", 5)))), ["one", "two"])

    def test_any_of_several_events(self) -> None:
        script = handler('meets(hob, bun), pressed("a"), after(0.2)')
        trace = run(script, scene(bun("bun_1", 5)), (pressed_key("a", 0.1),))
        self.assertEqual([frame for frame, _ in times(trace)], [0, 3, 6])


class Timers(unittest.TestCase):
    def test_every_comes_for_the_nth_time_at_n_times_its_seconds(self) -> None:
        self.assertEqual([frame for frame, _ in times(run(handler("every(0.35)"), frames=45))], [11, 21, 32, 42])

    def test_more_often_than_frames(self) -> None:
        self.assertEqual([frame for frame, _ in times(run(handler("every(0.02)"), frames=2))], [1, 1, 2, 2])

    def test_after_comes_once_and_zero_in_frame_0(self) -> None:
        trace = run(handler("after(0)") + handler("after(0.5)", name="g"))
        self.assertEqual([frame for frame, _ in times(trace)], [0, 15])

    def test_timers_and_waits_come_by_due_time_and_then_age(self) -> None:
        script = """
            @on(start)
            def s():
                wait(0.2)
                tell("wait")
            @on(after(0.2))
            def a(): tell("after")
            @on(every(0.19))
            def b(): tell("every")
            @on(every(0.1))
            def c():
                if clock() > 0.15: tell("tenth")
        """
        trace = run(script, frames=6)
        self.assertEqual(told(trace), ["every", "after", "tenth", "wait"])

    def test_they_come_after_inputs_and_before_held(self) -> None:
        script = handler('held("a")', 'tell("held")') + handler("after(0)", 'tell("timer")', "g")
        script += handler('pressed("a")', 'tell("key")', "h")
        self.assertEqual(told(run(script, inputs=(pressed_key("a", 0),))), ["key", "timer", "held"])

    def test_what_timers_do_not_take(self) -> None:
        for call, message in (
            ("every(0)", "from 0.01"),
            ('after("2")', "not '2'"),
            ("after(-1)", "from 0 to"),
            ("every(True)", "not True"),
        ):
            with self.subTest(call):
                stop = run(handler(call)).stopped
                assert stop is not None
                self.assertIn(message, stop.message)


class Queue(unittest.TestCase):
    def test_a_message_is_delivered_when_its_handler_has_ended(self) -> None:
        script = """
            @on(after(0))
            def a():
                send("bell")
                tell("sent")
            @on(after(0))
            def b(): tell("next")
            @on(heard("bell"))
            def c(): tell("heard")
        """
        self.assertEqual(told(run(script)), ["sent", "heard", "next"])

    def test_or_when_it_waits(self) -> None:
        script = handler("after(0)", 'send("bell"); wait(0.1); tell("on")') + handler(
            'heard("bell")', 'tell("heard")', "g"
        )
        self.assertEqual(times(run(script)), [(0, "heard"), (3, "on")])

    def test_several_come_in_order_and_what_they_cause_after_them(self) -> None:
        script = handler("after(0)", 'send("a"); send("b")') + handler('heard("a")', 'tell("a"); send("c")', "g")
        script += handler('heard("b")', 'tell("b")', "h") + handler('heard("c")', 'tell("c")', "k")
        trace = run(script)
        self.assertEqual(told(trace), ["a", "b", "c"])
        self.assertEqual(
            [(sent.text, sent.heard_by) for sent in trace.messages], [("a", ("g",)), ("b", ("h",)), ("c", ("k",))]
        )

    def test_messages_sent_while_the_file_is_read_come_after_reading(self) -> None:
        script = 'send("a")\n' + handler('heard("a")', 'tell("heard")') + 'tell("read")'
        self.assertEqual(times(run(script)), [(-1, "read"), (-1, "heard")])

    def test_a_message_that_nobody_hears_is_kept(self) -> None:
        trace = run(handler("after(0)", 'send("bel")') + handler('heard("bell")', name="g"))
        self.assertEqual([(sent.text, sent.heard_by) for sent in trace.messages], [("bel", ())])

    def test_messages_without_end_stop_the_trial(self) -> None:
        stop = run(handler("after(0)", 'send("a")') + handler('heard("a")', 'send("a")', "g")).stopped
        assert stop is not None
        self.assertEqual((stop.kind, stop.handler, stop.limit), ("messages", "g", True))

    def test_gone_appeared_entered_and_finished_come_in_the_order_of_their_causes(self) -> None:
        script = """
            @on(after(0))
            def a():
                bun_1.remove()
                spawn("bun", 3, 4)
                enter("cellar")
                win()
                tell("ended")
            @on(finished)
            def b(): tell(outcome())
            @on(entered("cellar"))
            def c(): tell(place())
            @on(appeared(bun))
            def d(which): tell(f"{which} {which.x} {which.y}")
            @on(gone(bun))
            def e(which): tell(f"gone {which}")
        """
        self.assertEqual(
            told(run(script, scene(bun("bun_1", 9)))), ["ended", "gone bun_1", "bun_2 3 4", "cellar", "won"]
        )


class Player(unittest.TestCase):
    def test_a_choice_can_be_taken_until_it_is_picked_or_withdrawn(self) -> None:
        script = handler('picked("Ring")', 'tell("rung")') + 'offer("Ring")\noffer("Wait")\nwithdraw("Wait")\n'
        picks = (done("pick", 0.1, "Ring"), done("pick", 0.2, "Ring"), done("pick", 0.3, "Wait"))
        trace = run(script + handler('picked("Wait")', 'tell("waited")', "g"), inputs=picks)
        self.assertEqual(times(trace), [(3, "rung")])
        self.assertEqual([missed.frame for missed in trace.missed], [6, 9])

    def test_entering_a_place_withdraws_the_open_choices(self) -> None:
        script = 'offer("Ring")\nenter("cellar")\n' + handler('picked("Ring")', 'tell("rung")')
        self.assertEqual(told(run(script, inputs=(done("pick", 0.1, "Ring"),))), [])

    def test_an_answer_is_given_to_the_oldest_open_question(self) -> None:
        script = 'question("Name?")\nquestion("Age?")\nquestion("Name?")\n' + handler(
            "replied", "tell(text)", takes="text"
        )
        trace = run(script, inputs=tuple(done("answer", t, w) for t, w in ((0.1, "Wren"), (0.2, "12"), (0.3, "more"))))
        self.assertEqual(told(trace), ["Wren", "12"])
        self.assertEqual([missed.why for missed in trace.missed], ["nobody had asked"])

    def test_typed_words_without_regard_to_capitals_and_spacing(self) -> None:
        script = handler('typed("Open Sesame")', 'tell("open")')
        trace = run(script, inputs=(done("type", 0.1, " open  sesame "), done("type", 0.2, "open")))
        self.assertEqual(times(trace), [(3, "open")])

    def test_facts_are_read_and_change_at_a_time(self) -> None:
        spec = scene(fact=[{"name": "draught", "start": 0, "range": [0, 9]}])
        script = handler("frame", "if draught > 3: tell(draught)")
        trace = run(script, spec, (done("set", 0.1, "draught", 5), done("set", 0.2, "draught", 0)), frames=9)
        self.assertEqual(times(trace), [(3, "5"), (4, "5"), (5, "5")])


class Waiting(unittest.TestCase):
    def test_a_piece_ends_the_handlers_that_were_started_for_it(self) -> None:
        script = handler("meets(hob, bun)", "wait(0.3); tell(which.name)", takes="which")
        script += handler("after(0.1)", "bun_1.stop_waits()", "g")
        self.assertEqual(told(run(script, scene(bun("bun_1", 5), bun("bun_2", 5)))), ["bun_2"])

    def test_walking_takes_its_time_at_an_even_pace_and_waits(self) -> None:
        script = handler("after(0.1)", "bun_1.walk(12, 4, 0.1); tell(bun_1.x)")
        trace = run(script, scene(bun("bun_1", 9)), frames=8)
        self.assertEqual(trace.pieces["bun_1"]["x"], [(-1, 9), (4, 10), (5, 11), (6, 12)])
        self.assertEqual(times(trace), [(6, "12.0")])

    def test_a_piece_removed_while_it_walks_stays_where_it_is(self) -> None:
        script = handler("after(0)", 'bun_1.walk(20, 1, 1); tell("over")') + handler(
            "after(0.1)", "bun_1.remove()", "g"
        )
        trace = run(script, scene(bun("bun_1", 9)))
        self.assertEqual((trace.stopped, told(trace)), (None, ["over"]))


class Misuse(unittest.TestCase):
    def message(self, script: str, **more: Any) -> str:
        stop = run(script, scene(bun("bun_1", 9), bun("bun_2", 12)), **more).stopped
        assert stop is not None
        return stop.message

    def test_an_event_as_a_question_names_what_to_ask(self) -> None:
        for event, ask in (
            ('pressed("a")', 'is_down("a")'),
            ("meets(hob, bun)", "hob.overlaps(bun)"),
            ("parts(hob, bun)", "not hob.overlaps(bun)"),
            ('entered("cellar")', 'place() == "cellar"'),
            ("finished", 'outcome() != "playing"'),
            ("after(2)", "clock() >= 2"),
        ):
            with self.subTest(event):
                self.assertIn(f"write {ask}.", self.message(handler("after(0)", f"if {event}: pass")))

    def test_a_parameter_where_one_event_has_none_is_turned_down(self) -> None:
        self.assertEqual(
            self.message(handler('clicked(bun), heard("a")', takes="which")),
            '`f` asks for 1 value, but heard("a") gives at most 0.',
        )
        self.assertIsNone(
            run(handler("clicked(bun), replied", takes="which"), scene(bun("bun_1", 9), bun("bun_2", 9))).stopped
        )

    def test_what_events_do_not_take(self) -> None:
        for call in ("clicked(3)", 'clicked("bun")', "heard(3)", 'heard(" ")', "appeared()", "gone(bun, bun)"):
            with self.subTest(call):
                self.assertIn("takes", self.message(handler(call)))
