"""Where things stand on the strip: lanes, pins, values, steps, and the scene of a moment."""

import functools
import unittest
from typing import Any

from hobtrial.core.judging import open_exercise
from hobtrial.core.reporting import replay
from hobtrial.demo import exercise_folder, hand_ins, tries
from tests.front_end.support import answers, call
from tests.support import BAKEHOUSE

STRAIGHT = "bread-choices"


def sources(exercise: str) -> dict[str, bytes]:
    """The last tries of the sample class, by student."""
    handed = {name.removesuffix(".py").capitalize(): source for name, source in hand_ins(exercise).items()}
    return {each.student: each.source.encode() for each in tries(exercise)} | handed


@functools.cache
def trial(exercise: str, student: str, number: int = 0) -> dict[str, Any]:
    """A trial of the sample class, as the API gives it."""
    prepared = open_exercise(exercise_folder(exercise))
    found = replay(prepared, sources(exercise)[student], prepared.scenarios[number])
    return {**found, "version_id": 1}


def shown(exercise: str, student: str, number: int = 0) -> dict[str, Any]:
    """The same as the screens show it: by frames or by steps."""
    [found] = answers(call("steps", "shown", trial(exercise, student, number)))
    whole: dict[str, Any] = found
    return whole


def pins_of(game: dict[str, Any]) -> list[dict[str, Any]]:
    """The pins of a trial's checks, 1280 pixels wide."""
    layout = {"answer": call("layout", "layoutOf", game, 1280, 16)}
    [pins] = answers(call("layout", "pinsOf", game, layout, 16))
    whole: list[dict[str, Any]] = pins
    return whole


class Layout(unittest.TestCase):
    def test_lanes_from_the_top_without_gaps(self) -> None:
        [layout] = answers(call("layout", "layoutOf", shown(BAKEHOUSE, "Wren"), 1280, 16))
        self.assertEqual(
            [lane["name"] for lane in layout["lanes"]], ["player", "what came", "score", "lives", "outcome"]
        )
        for before, after in zip(layout["lanes"], layout["lanes"][1:], strict=False):
            self.assertEqual(before["top"] + before["height"], after["top"])
        self.assertGreater(layout["height"], layout["lanes"][-1]["top"] + layout["lanes"][-1]["height"])

    def test_many_variables_take_no_more_room_together(self) -> None:
        few = shown(BAKEHOUSE, "Wren")
        many = {**few, "variables": [{"name": f"v{n}", "meaning": "", "label": None} for n in range(5)]}
        heights = [
            sum(lane["height"] for lane in layout["lanes"] if lane["kind"] == "variable")
            for layout in answers(*(call("layout", "layoutOf", each, 1280, 16) for each in (few, many)))
        ]
        self.assertLessEqual(heights[1], 210)
        self.assertLessEqual(heights[0], heights[1])

    def test_a_place_on_the_axis_is_a_frame_and_back(self) -> None:
        game = shown(BAKEHOUSE, "Wren")
        asked = [
            call("layout", "layoutOf", game, 1280, 16, then=[["x", frame]]) for frame in (0, 100, game["last_frame"])
        ]
        places = answers(*asked)
        self.assertEqual((places[0], places[-1]), (104, 1280 - 26))
        back = answers(*(call("layout", "layoutOf", game, 1280, 16, then=[["frameAt", place]]) for place in places))
        self.assertEqual(back, [0, 100, game["last_frame"]])

    def test_every_pin_stands_on_the_lane_that_it_is_about(self) -> None:
        game = shown(BAKEHOUSE, "Wren", 2)
        [layout] = answers(call("layout", "layoutOf", game, 1280, 16))
        pins = pins_of(game)
        self.assertEqual(len(pins), len(game["checks"]))
        for pin, check in zip(pins, game["checks"], strict=True):
            wanted = next((name for name in check["about"] if name in {lane["name"] for lane in layout["lanes"]}), None)
            self.assertEqual(pin["lane"]["name"], wanted or "what came")
            self.assertTrue(pin["lane"]["top"] <= pin["y"])
            self.assertLessEqual(pin["from"], pin["to"])

    def test_pins_that_would_touch_stand_in_rows(self) -> None:
        game = shown(BAKEHOUSE, "Wren", 2)
        check = {**game["checks"][0], "frame": 30, "span": [30, 30]}
        near = {**game, "checks": [check, {**check, "frame": 31}, {**check, "frame": 300}]}
        first, second, third = pins_of(near)
        self.assertGreaterEqual(second["y"] - first["y"], 12)
        self.assertEqual(first["y"], third["y"])

    def test_the_height_of_a_value(self) -> None:
        lane = {"kind": "variable", "name": "score", "top": 100, "height": 70}
        cases = (
            ([[[0, 0], [9, 10]]], (0, 10), (160, 121)),
            ([[[0, 4], [9, 4]]], (4,), (140.5,)),
            ([[[0, "raw"], [9, "baked"]]], ("raw", "baked"), (160, 121)),
            ([[[0, {"unset": True}], [9, 1]], [[0, 3]]], (1, 3), (160, 121)),
        )
        for histories, values, heights in cases:
            found = answers(*(call("layout", "heightsOf", lane, histories, then=[["", value]]) for value in values))
            self.assertEqual(tuple(found), heights, histories)


class Steps(unittest.TestCase):
    def test_a_game_is_shown_by_frames(self) -> None:
        found = shown(BAKEHOUSE, "Wren")
        self.assertEqual((found["unit"], found["last_frame"]), ("frame", trial(BAKEHOUSE, "Wren")["last_frame"]))

    def test_a_straight_script_is_shown_by_what_it_did(self) -> None:
        plain, found = trial(STRAIGHT, "Wren"), shown(STRAIGHT, "Wren")
        steps = plain["steps"]
        self.assertEqual((found["unit"], found["last_frame"]), ("step", len(steps)))
        story = [line["text"] for line in found["trace"]["story"]]
        self.assertEqual(story, [step["text"] for step in steps if step["kind"] in ("asked", "told")])
        positions = [line["frame"] for line in found["trace"]["story"]]
        self.assertEqual(positions, sorted(set(positions)))
        self.assertEqual(
            [given["what"] for given in found["inputs"]], [step["text"] for step in steps if step["kind"] == "answered"]
        )

    def test_values_hold_from_the_step_that_changed_them(self) -> None:
        plain, found = trial(STRAIGHT, "Wren"), shown(STRAIGHT, "Wren")
        [place] = [
            place + 1
            for place, step in enumerate(plain["steps"])
            if (step["kind"], step["text"], step["value"]) == ("changed", "coins", 10)
        ]
        self.assertEqual(found["samples"]["coins"], [[0, {"unset": True}], [place, 10]])

    def test_the_reference_parts_where_it_differs(self) -> None:
        found = shown(STRAIGHT, "Wren")
        self.assertEqual(found["parting"]["what"], "coins")
        self.assertEqual(found["reference"]["samples"]["coins"][-1], [found["parting"]["frame"], 4])

    def test_a_line_that_took_no_step_stands_beside_its_moment(self) -> None:
        found = shown(STRAIGHT, "Wren")
        lines, last = found["trace"]["lines"], found["last_frame"]
        for line, spans in lines.items():
            for first, until, _ in spans:
                self.assertTrue(0 < first <= until <= last, line)
        [tested] = {test["line"] for test in found["trace"]["tests"] if test["text"] == "cost < coins"}
        answered = max(given["frame"] for given in found["inputs"])
        self.assertEqual(lines[str(tested)][0][0], answered)


class Moment(unittest.TestCase):
    def at(self, frame: int) -> dict[str, Any]:
        found = trial(BAKEHOUSE, "Wren", 2)
        [moment] = answers(call("moment", "momentAt", found["scene"], found["trace"], found["asides"], frame))
        whole: dict[str, Any] = moment
        return whole

    def test_pieces_stand_where_the_trace_has_them(self) -> None:
        found = trial(BAKEHOUSE, "Wren", 2)["trace"]["pieces"]["hob"]["x"]
        for frame in (0, 40, 80):
            want = [value for since, value in found if since <= frame][-1]
            [hob] = [piece for piece in self.at(frame)["pieces"] if piece["name"] == "hob"]
            self.assertEqual(hob["x"], want)

    def test_the_board_shows_what_was_last_written(self) -> None:
        entries = trial(BAKEHOUSE, "Wren", 2)["asides"]["board"]
        frame = entries[-1]["frame"]
        label = entries[-1]["label"]
        shown = {entry["label"]: entry["value"] for entry in self.at(frame)["board"]}
        self.assertEqual(shown[label], [each["value"] for each in entries if each["label"] == label][-1])
        self.assertNotEqual(shown, {entry["label"]: entry["value"] for entry in self.at(-1)["board"]})


class BrokenChecks(unittest.TestCase):
    def test_the_next_broken_check_goes_round(self) -> None:
        checks = [{"verdict": "held", "frame": 5, "span": [0, 5]}] + [
            {"verdict": "broken", "frame": frame, "span": [0, 60]} for frame in (40, None, 20)
        ]
        game = {"checks": checks}
        cases = (((0, None), 3), ((20, 3), 1), ((40, 1), 2), ((60, 2), 3), ((50, None), 2), ((99, None), 3))
        found = answers(*(call("moments", "nextBroken", game, *given) for given, _ in cases))
        self.assertEqual([each["check"] for each in found], [want for _, want in cases])
        self.assertEqual(answers(call("moments", "nextBroken", {"checks": checks[:1]}, 0, None)), [None])


class Lines(unittest.TestCase):
    def test_how_often_and_when_lines_ran(self) -> None:
        trace = {"lines": {"1": [[-1, -1, 1]], "3": [[4, 9, 6], [20, 20, 1]]}}
        source = "x = 1\n# so\ny = 2\nelse:\n@on(begins)\nz = 3"
        counts, running, idle = answers(
            call("lines", "lineCounts", trace),
            call("lines", "linesIn", trace, 7),
            call("lines", "idleLines", source, {"answer": call("lines", "lineCounts", trace)}),
        )
        self.assertEqual(counts, {"1": 1, "3": 7})
        self.assertEqual(running, [3])
        self.assertEqual(idle, [6])
