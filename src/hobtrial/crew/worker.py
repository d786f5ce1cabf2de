"""A worker: a process of its own that takes a task from its input and writes the answer.

Started as `python -m hobtrial.crew.worker` with a clean environment. Its limits of memory and of
processor time for each task are the operating system's, so that no script can outlive them.
"""

from __future__ import annotations

import base64
import gc
import resource
import sys
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, Final

from ..core.exercise import ExerciseError
from ..core.explaining import replay, report
from ..core.judging import Prepared, open_exercise
from ..core.words import HobError, clean
from .wire import LONGEST_ANSWER, LONGEST_TASK, pack, read_message

MEMORY: Final = 1 * 2**30
"""Bytes of address space: Python and the largest trace take a quarter of it."""
TASK_SECONDS: Final = 30
"""Processor seconds of one task: two hundred times what a usual script takes."""
KEPT: Final = 8
"""Exercises that a worker keeps ready."""

Task = dict[str, Any]
Answer = dict[str, Any]


class Worker:
    """Keeps exercises ready and answers tasks about them."""

    def __init__(self) -> None:
        self._ready: OrderedDict[str, Prepared] = OrderedDict()
        self._tasks: dict[str, Callable[[Task], Answer]] = {
            "open": self._open,
            "mark": self._mark,
            "replay": self._replay,
        }

    def answer(self, task: Task) -> Answer:
        """The answer to one task; an error of ours is an answer too."""
        try:
            answer: Answer = clean(self._tasks[task["do"]](task))
            return answer
        except ExerciseError as error:
            return {"faults": [[fault.file, fault.line, fault.message] for fault in error.faults]}
        except HobError as error:
            return {"error": str(error)}

    def _exercise(self, task: Task) -> Prepared:
        key = task["exercise"]
        if key not in self._ready:
            files = {name: base64.b64decode(data) for name, data in task["files"].items()}
            self._ready[key] = open_exercise(files)
            while len(self._ready) > KEPT:
                self._ready.popitem(last=False)
        return self._ready[key]

    def _open(self, task: Task) -> Answer:
        prepared = self._exercise(task)
        settings = prepared.exercise.settings
        return {
            "title": settings.title,
            "out_of": prepared.out_of,
            "seconds": sum(settings.length(scenario) for scenario in settings.scenario),
            "scenarios": [
                {
                    "name": course.scenario.name,
                    "visible": course.scenario.visible,
                    "checks": [
                        {"expect": check.expect, "kind": check.kind, "marks": check.marks, "because": check.because}
                        for check, _ in course.checks
                    ],
                }
                for course in prepared.courses
            ],
        }

    def _mark(self, task: Task) -> Answer:
        prepared, source = self._exercise(task), base64.b64decode(task["source"])
        return {"report": report(prepared, task["name"], source, explained=task["explained"])}

    def _replay(self, task: Task) -> Answer:
        return {"replay": replay(self._exercise(task), base64.b64decode(task["source"]), task["number"])}


def _renew_processor_time() -> None:
    """Grants the seconds of one task on top of what was used so far."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    soft = int(used.ru_utime + used.ru_stime) + TASK_SECONDS
    resource.setrlimit(resource.RLIMIT_CPU, (soft, resource.RLIM_INFINITY))


def calm_the_collector() -> None:
    """Lets Python's collector of cycles look less often: a trace is many small values that all stay."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 100)


def main() -> None:
    """Answers tasks until the input ends."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    stream_in, stream_out = sys.stdin.buffer, sys.stdout.buffer
    sys.stdout = sys.stderr  # a stray print must not break the wire
    worker = Worker()
    calm_the_collector()
    while True:
        task = read_message(stream_in, LONGEST_TASK)
        if task is None:
            return
        _renew_processor_time()
        stream_out.write(pack(worker.answer(task), LONGEST_ANSWER))
        stream_out.flush()


if __name__ == "__main__":
    main()
