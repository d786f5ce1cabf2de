"""A worker: a process of its own that takes a task from its input and writes the answer.

Forked by the nursery (`nursery.py`), which has imported everything. It raises its wall (`walls.py`) and says what of
it is missing; then it answers one task after the other.
"""

from __future__ import annotations

import ast
import base64
import gc
import traceback
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, BinaryIO, Final

from ..core.exercise import ExerciseError, Scenario
from ..core.judging import LiveGame, Prepared, Start, names_for, open_exercise, read_shown
from ..core.proving import proof, try_planted
from ..core.reporting import (
    ScenarioReport,
    explained,
    mark,
    predict_json,
    replay,
    report,
    scene_json,
    small_strips,
    stop_json,
    to_json,
    variables_json,
)
from ..core.script import OutOfMemory, Script, Unreadable
from ..core.script.tree import walk
from ..core.words import HobError, UsageError, clean
from ..core.workshop import follow_up, in_many_ways, rehearse, suggest, try_companion
from .walls import limit_memory, raise_walls, renew_limits, used
from .wire import LONGEST_ANSWER, LONGEST_TASK, WireError, pack, read_message

KEPT: Final = 8
"""Exercises that a worker keeps ready."""

WARM_UP: Final = {
    "exercise.toml": b"""
format = 1
title = "Warm-up"
seconds = 0.1
[scene]
[[variable]]
name = "score"
[[scenario]]
name = "One"
[[scenario.check]]
end = true
expect = "score == 0"
[[scenario]]
name = "Two"
wild = {runs = 3, keys = ["a"]}
[[scenario.check]]
always = true
expect = "score == 0"
""",
    "reference.py": b"score = 0",
}
"""A very small exercise, which no script below solves."""

Task = dict[str, Any]
Reply = dict[str, Any]


class Worker:
    """Keeps exercises ready and answers tasks about them."""

    def __init__(self) -> None:
        self.send: Callable[[Reply], None] = lambda message: None
        """Where signs of life go while a task is being done."""
        self._spent = 0.0
        """Processor seconds up to the end of the last trial."""
        self._ready: OrderedDict[str, Prepared] = OrderedDict()
        self._game: LiveGame | None = None
        self._played: tuple[Prepared, Script, bytes] | None = None
        """What is played: the exercise, the script, its text."""
        self._tasks: dict[str, Callable[[Task], Reply]] = {
            "open": self._open,
            "mark": self._mark,
            "replay": self._replay,
            "read": self._read,
            "live": self._live,
            "show": self._show,
            "look": self._look,
            "tick": self._tick,
            "keep": self._keep,
            "proof": self._proof,
            "planted": self._planted,
            "rehearse": self._rehearse,
            "suggest": self._suggest,
            "many_ways": self._many_ways,
            "companion": self._companion,
            "follow_up": self._follow_up,
        }

    def warm_up(self) -> None:
        """Does each kind of task once, so that everything is imported before the wall is raised."""
        prepared = open_exercise(WARM_UP)
        for source in (
            "score = 1",
            "import random, math, time, enum\nscore = random.randint(1, 6) + math.pi",
            "score = ",
            "score = 1 / 0",
        ):
            small_strips(mark(prepared, "", source))
            report(prepared, "", source)
            replay(prepared, source, prepared.scenarios[0])
        proof(prepared)
        rehearse(WARM_UP)
        suggest(prepared, 0, "score", 0, 0)
        game = LiveGame(
            prepared, prepared.reference, Start(put=("score = 1",)), shown=read_shown(["clock"], prepared.names)
        )
        game.begin()
        game.next([{"do": "down", "key": "a"}])
        try:
            open_exercise({"exercise.toml": b"format = 2"})
        except ExerciseError:
            return

    def answer(self, task: Task) -> Reply:
        """The answer to one task. What is wrong with the exercise, with this program (`internal`, its traceback)
        and with the machine (`memory`) are told apart.
        """
        try:
            answer: Reply = clean(self._tasks[task["do"]](task))
            return answer
        except ExerciseError as error:
            return {"faults": [[fault.file, fault.line, fault.message] for fault in error.faults]}
        except HobError as error:
            return {"error": str(error)}
        except (OutOfMemory, MemoryError):
            return {"memory": True}
        except Exception:
            return {"internal": clean(traceback.format_exc())}

    def _exercise(self, task: Task) -> Prepared:
        key = task["exercise"]
        if key not in self._ready:
            files = {name: base64.b64decode(data) for name, data in task["files"].items()}
            self._keep_ready(key, open_exercise(files))
        return self._ready[key]

    def _keep_ready(self, key: str, prepared: Prepared) -> None:
        self._ready[key] = prepared
        while len(self._ready) > KEPT:
            self._ready.popitem(last=False)

    def _open(self, task: Task) -> Reply:
        prepared = self._exercise(task)
        settings = prepared.exercise.settings
        return {
            "title": settings.title,
            "out_of": prepared.out_of,
            "seconds": sum(settings.length(scenario) for scenario in settings.scenario),
            "scenarios": [
                {
                    "name": scenario.spec.name,
                    "visible": scenario.spec.visible,
                    "trials": list(scenario.labels),
                    "predict": predict_json(scenario),
                    "checks": [
                        {
                            "expect": check.text,
                            "kind": check.kind,
                            "marks": check.spec.marks,
                            "because": check.spec.because,
                            "concept": check.spec.concept,
                        }
                        for check in scenario.checks
                    ],
                }
                for scenario in prepared.scenarios
            ],
            "scene": scene_json(prepared),
            "variables": variables_json(prepared),
            "straight": settings.style == "straight",
            "help": settings.help.model_dump(),
        }

    def _mark(self, task: Task) -> Reply:
        prepared, source = self._exercise(task), base64.b64decode(task["source"])
        self._spent = used()["seconds"]
        marked = mark(prepared, task["name"], source, self._ended)
        answer = {"report": marked.report.as_json()}
        if task.get("small"):
            answer["small"] = to_json(small_strips(marked))
        if not task["explained"]:
            return answer
        self.send(clean({"marked": answer["report"]}))
        renew_limits()  # explaining has time of its own, and its end costs no mark
        try:
            return {"report": explained(marked).as_json()}
        except HobError as error:
            return {**answer, "internal": str(error)}
        except MemoryError:
            raise
        except Exception:
            return {**answer, "internal": traceback.format_exc()}

    def _ended(self, scenario: ScenarioReport) -> None:
        """Says that a scenario has ended: a sign of life."""
        now = used()
        seconds = now["seconds"] - self._spent
        self._spent = now["seconds"]
        self.send(clean({"ended": scenario.name, "used": {"seconds": seconds, "memory": now["memory"]}}))

    def _replay(self, task: Task) -> Reply:
        prepared = self._exercise(task)
        if task.get("scenario") is None:
            scenario = prepared.scenarios[task["number"]]
        else:
            scenario = prepared.scenario_of(Scenario.model_validate(task["scenario"]))
        put, shown, beside = task.get("put", ()), task.get("shown", ()), task.get("beside", True)
        source = base64.b64decode(task["source"])
        return {"replay": replay(prepared, source, scenario, task.get("trial", 0), put=put, shown=shown, beside=beside)}

    def _read(self, task: Task) -> Reply:
        """What of a text cannot be read."""
        reading = self._exercise(task).read(base64.b64decode(task["source"]))
        problems = reading.problems if isinstance(reading, Unreadable) else ()
        return {"problems": [problem.as_json() for problem in problems]}

    def _proof(self, task: Task) -> Reply:
        return {"proof": proof(self._exercise(task))}

    def _planted(self, task: Task) -> Reply:
        return {"planted": try_planted(self._exercise(task), task["number"])}

    def _rehearse(self, task: Task) -> Reply:
        """What can be said of a draft, however faulty it is, and one of its scenarios as a trial."""
        key = task["exercise"]
        files = {name: base64.b64decode(data) for name, data in task["files"].items()}
        found = rehearse(files, self._ready.get(key))
        trial = None
        if found.prepared is not None:
            self._keep_ready(key, found.prepared)
            scenarios = found.prepared.scenarios
            scenario = scenarios[min(task["scenario"], len(scenarios) - 1)]
            shown = min(task["trial"], len(scenario.plans) - 1)
            trial = replay(found.prepared, found.prepared.exercise.reference, scenario, shown)
        return {"rehearsal": found.as_json(), "trial": trial}

    def _suggest(self, task: Task) -> Reply:
        found = suggest(self._exercise(task), task["scenario"], task["what"], task["first"], task["last"])
        return {"suggestions": [each.as_json() for each in found]}

    def _many_ways(self, task: Task) -> Reply:
        try:
            return {"scenario": in_many_ways(self._exercise(task), task["scenario"], task["way"])}
        except UsageError as error:
            return {"scenario": None, "why_not": str(error)}

    def _follow_up(self, task: Task) -> Reply:
        """The files of a follow-up for a slip."""
        files = {name: base64.b64decode(data) for name, data in task["files"].items()}
        made = follow_up(self._exercise(task), files, task["slip"])
        return {"follow_up": {name: base64.b64encode(data).decode() for name, data in made.files.items()}}

    def _companion(self, task: Task) -> Reply:
        return {"companion": try_companion(self._exercise(task), task["file"]).as_json()}

    def _live(self, task: Task) -> Reply:
        """Begins a game by hand; only in a worker that belongs to one player."""
        prepared, source, given = self._exercise(task), base64.b64decode(task["source"]), task["start"]
        reading = prepared.read(source)
        if isinstance(reading, Unreadable):
            return {"problems": [problem.as_json() for problem in reading.problems]}
        luck = given["luck"]
        start = Start(**{**given, "luck": tuple(luck) if isinstance(luck, list) else luck, "put": tuple(given["put"])})
        try:
            shown = read_shown(task["shown"], names_for(prepared, reading))
            game = LiveGame(prepared, prepared.weave(reading), start, before=self._game, shown=shown)
            news = _told(game, game.begin())
        except HobError as error:
            return {"refused": str(error)}
        self._game, self._played = game, (prepared, reading, source)
        return {"news": news, "seed": game.plan.seed, "names": sorted(reading.globals - _defined(reading))}

    def _show(self, task: Task) -> Reply:
        """Puts other things on show in the game that is played."""
        if self._game is None or self._played is None:
            return {}
        prepared, script, _ = self._played
        try:
            self._game.show(read_shown(task["shown"], names_for(prepared, script)))
        except UsageError as error:
            return {"refused": str(error)}
        return {}

    def _look(self, task: Task) -> Reply:
        """The game so far as a trial."""
        assert self._game is not None and self._played is not None
        prepared, _, source = self._played
        played = prepared.scenario_of(Scenario.model_validate(self._game.as_scenario(task["name"])))
        shown, beside = task["shown"], task["beside"]
        return {"trial": replay(prepared, source, played, put=self._game.put, shown=shown, beside=beside)}

    def _tick(self, task: Task) -> Reply:
        assert self._game is not None
        return {"news": _told(self._game, self._game.next(task["inputs"]))}

    def _keep(self, task: Task) -> Reply:
        assert self._game is not None
        return {"scenario": self._game.as_scenario(task["name"]), "put": [list(each) for each in self._game.put]}


def _told(game: LiveGame, news: Reply) -> Reply:
    """News with a stop in plain words, too."""
    return {**news, "stopped": stop_json(game.stop)} if news.get("stopped") else news


def _defined(script: Script) -> frozenset[str]:
    """The names of a script's functions and classes: nothing to be put on show."""
    return frozenset(node.name for node in walk(script.tree) if isinstance(node, (ast.FunctionDef, ast.ClassDef)))


def calm_the_collector() -> None:
    """Lets Python's collector of cycles look less often: a trace is many small values that all stay."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 100)


def serve(worker: Worker, stream_in: BinaryIO, stream_out: BinaryIO) -> None:
    """Raises the wall, says what of it is missing, and answers tasks until the input ends."""

    def send(message: Reply) -> None:
        stream_out.write(pack(message, LONGEST_ANSWER))
        stream_out.flush()

    worker.send = send
    limit_memory()
    send({"missing": raise_walls()})
    while True:
        task = read_message(stream_in, LONGEST_TASK)
        if task is None:
            return
        renew_limits()
        before = used()
        answer = worker.answer(task)
        after = used()
        answer["used"] = {"seconds": after["seconds"] - before["seconds"], "memory": after["memory"]}
        try:
            send(answer)
        except WireError as error:
            send({"internal": f"the answer to {task['do']!r}: {error}"})
