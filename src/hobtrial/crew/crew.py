"""The crew: a number of workers, each doing one task at a time; one that dies or hangs is replaced.

The other end of the wire is `worker.py`.
"""

from __future__ import annotations

import asyncio
import base64
import hashlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from types import TracebackType
from typing import Any, Final, Self

import structlog

from ..core.exercise import ExerciseError, Help
from ..core.exercise import Fault as FileFault
from ..core.reporting import Fault, Report, from_json, unmarked
from ..core.words import HobError, UsageError
from .process import WorkerGoneError, WorkerProcess

log = structlog.get_logger()

MACHINE: Final = "The machine ended the worker over this script, twice. That says nothing about the script."
DESK: Final = "desk.py"
"""How a script from a desk is called."""
UNEXPLAINED: Final = "The marks are right. The machine ended the worker while it looked for the mistakes."


class InternalError(HobError):
    """Something in this program went wrong; the log has its traceback under `id`."""

    def __init__(self, id_: str) -> None:
        super().__init__(f"This is a fault of Hob Trial. Tell whoever looks after the server: {id_}")
        self.id = id_


@dataclass(frozen=True)
class OpenedExercise:
    """An exercise as the crew knows it: its files by content, and what a worker said of it."""

    key: str
    files: dict[str, str]
    title: str
    out_of: float
    seconds: float
    scenarios: list[dict[str, Any]]
    scene: dict[str, Any]
    variables: list[dict[str, Any]]
    straight: bool
    """Whether its scripts run from top to bottom."""
    help: Help
    """How far students see help, and after how many tries."""

    @property
    def facts(self) -> dict[str, Any]:
        """What the records keep of it beside its files."""
        return {key: getattr(self, key) for key in ("title", "out_of", "seconds", "scenarios")}

    def text(self, name: str) -> str:
        """The text of one of its files; nothing where it has none."""
        return base64.b64decode(self.files.get(name, "")).decode("utf-8-sig", "replace")


def digest_of(files: Mapping[str, bytes]) -> str:
    """What tells the files of one version of an exercise from those of any other."""
    digest = hashlib.sha256()
    for name in sorted(files):
        digest.update(name.encode("utf-8", "replace") + b"\0" + files[name] + b"\0")
    return digest.hexdigest()


class Crew:
    """Some workers behind one queue. Use as `async with Crew(2) as crew`."""

    def __init__(self, size: int, nice: int = 0) -> None:
        """The higher `nice`, the more its workers let those of other crews go first."""
        self.size = size
        self._nice = nice
        self.missing: list[str] = []
        """Parts of the operating system's wall that could not be raised here."""
        self._free: asyncio.Queue[WorkerProcess | None] = asyncio.Queue()
        self._workers: set[WorkerProcess] = set()

    async def __aenter__(self) -> Self:
        for _ in range(self.size):
            self._free.put_nowait(None)  # a place; its worker is started with its first task
        return self

    async def warm_up(self) -> None:
        """Starts one worker before its first task, so that nobody waits for it."""
        await self._free.get()
        worker = None
        try:
            worker = await WorkerProcess.start(self._nice)
            self._workers.add(worker)
            self.missing = worker.missing
        finally:
            self._free.put_nowait(worker)

    async def __aexit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        await asyncio.gather(*(worker.end() for worker in list(self._workers)))

    async def open(self, files: Mapping[str, bytes]) -> OpenedExercise:
        """Reads an exercise in a worker. Raises `ExerciseError` with its faults."""
        packed = _packed(files)
        answer = await self._ask_twice({"do": "open", **packed})
        facts = {
            key: answer[key] for key in ("title", "out_of", "seconds", "scenarios", "scene", "variables", "straight")
        }
        return OpenedExercise(packed["exercise"], packed["files"], **facts, help=Help.model_validate(answer["help"]))

    async def mark(self, exercise: OpenedExercise, name: str, source: bytes, *, explained: bool = True) -> Report:
        """The report of one script.

        Where the worker is ended over it, it is tried once more on a fresh one; then, and where this program
        itself is at fault, the report says that the script could not be marked, or its marks not be explained.
        """
        packed = base64.b64encode(source).decode()
        task = self._task("mark", exercise, name=name, source=packed, explained=explained)
        try:
            answer = await self._ask_twice(task)
        except WorkerGoneError as error:
            if error.marked is not None:
                return replace(from_json(error.marked), cut_short=True, unexplained=Fault("machine", UNEXPLAINED))
            return unmarked(name, exercise.out_of, Fault("machine", MACHINE))
        except InternalError as error:
            return unmarked(name, exercise.out_of, Fault("ours", str(error), error.id))
        report = from_json(answer["report"])
        if "internal" in answer:
            fault = _internal(answer["internal"], task)
            words = f"The marks are right, but the mistakes could not be looked for. {fault}"
            return replace(report, cut_short=True, unexplained=Fault("ours", words, fault.id))
        return report

    async def check(self, exercise: OpenedExercise, source: bytes) -> tuple[Report, list[dict[str, Any]]]:
        """The marks of one script, not explained, and the small strip of each scenario."""
        packed = base64.b64encode(source).decode()
        task = self._task("mark", exercise, name=DESK, source=packed, explained=False, small=True)
        try:
            answer = await self._ask_twice(task)
        except WorkerGoneError:
            return unmarked(DESK, exercise.out_of, Fault("machine", MACHINE)), []
        except InternalError as error:
            return unmarked(DESK, exercise.out_of, Fault("ours", str(error), error.id)), []
        return from_json(answer["report"]), answer["small"]

    async def replay(
        self,
        exercise: OpenedExercise,
        source: bytes,
        number: int,
        scenario: dict[str, Any] | None = None,
        *,
        trial: int = 0,
        put: Sequence[Sequence[Any]] = (),
        shown: Sequence[str] = (),
        beside: bool = True,
    ) -> dict[str, Any]:
        """One trial with its whole trace, of the scenario with a number or of one that is given.

        `put` was put in place by hand, `shown` is on show besides the listed variables, and the reference is
        `beside` it or nowhere in it. Raises `WorkerGoneError`, and `UsageError` for what cannot be put or shown.
        """
        packed = base64.b64encode(source).decode()
        by_hand = {"put": list(put), "shown": list(shown), "beside": beside}
        task = self._task("replay", exercise, source=packed, number=number, scenario=scenario, trial=trial, **by_hand)
        replay: dict[str, Any] = (await self._ask_twice(task))["replay"]
        return replay

    async def read(self, exercise: OpenedExercise, source: bytes) -> list[dict[str, Any]]:
        """What of a text cannot be read. Raises `WorkerGoneError`."""
        packed = base64.b64encode(source).decode()
        found: list[dict[str, Any]] = (await self._ask_twice(self._task("read", exercise, source=packed)))["problems"]
        return found

    async def rehearse(self, files: Mapping[str, bytes], scenario: int, trial: int = 0) -> dict[str, Any]:
        """What can be said of a draft (`rehearsal`), and its reference in one scenario (`trial`, or nothing).

        Raises `WorkerGoneError`.
        """
        return await self._ask_twice(
            {"do": "rehearse", **_packed(files), "scenario": max(scenario, 0), "trial": max(trial, 0)}
        )

    async def suggest(
        self, files: Mapping[str, bytes], scenario: int, what: str, first: int, last: int
    ) -> list[dict[str, Any]]:
        """Checks that hold for the reference at a moment. Raises `ExerciseError` and `WorkerGoneError`."""
        task = {"do": "suggest", **_packed(files), "scenario": scenario, "what": what, "first": first, "last": last}
        found: list[dict[str, Any]] = (await self._ask_twice(task))["suggestions"]
        return found

    async def many_ways(self, files: Mapping[str, bytes], scenario: int, way: str) -> dict[str, Any]:
        """The keys of a scenario that plays another one in many ways.

        Raises `UsageError` where that makes no sense, `ExerciseError` and `WorkerGoneError`.
        """
        found = await self._ask_twice({"do": "many_ways", **_packed(files), "scenario": scenario, "way": way})
        if found["scenario"] is None:
            raise UsageError(found["why_not"])
        made: dict[str, Any] = found["scenario"]
        return made

    async def fitness(self, exercise: OpenedExercise) -> dict[str, Any]:
        """What a proof knows before any slip is tried, with the list of planted slips. Raises `WorkerGoneError`."""
        found: dict[str, Any] = (await self._ask_twice(self._task("proof", exercise)))["proof"]
        return found

    async def try_planted(self, exercise: OpenedExercise, planted: Mapping[str, Any], number: int) -> dict[str, Any]:
        """Whether a planted slip is caught. One that takes its worker with it is: its script would be stopped."""
        try:
            found: dict[str, Any] = (await self._ask_twice(self._task("planted", exercise, number=number)))["planted"]
        except WorkerGoneError:
            return {**planted, "caught_by": [], "verdict": "caught"}
        return found

    async def try_companion(self, exercise: OpenedExercise, file: str) -> dict[str, Any]:
        """What became of a script that stands beside the reference. Raises `WorkerGoneError`."""
        found: dict[str, Any] = (await self._ask_twice(self._task("companion", exercise, file=file)))["companion"]
        return found

    async def follow_up(self, exercise: OpenedExercise, slip: str) -> dict[str, bytes]:
        """The files of a short exercise made from a slip. Raises `HobError` where none can be made."""
        found = (await self._ask_twice(self._task("follow_up", exercise, slip=slip)))["follow_up"]
        return {name: base64.b64decode(data) for name, data in found.items()}

    async def prove(self, exercise: OpenedExercise, tried: Callable[[int, int], None]) -> dict[str, Any]:
        """The proof of an exercise; `tried` hears how many planted slips have been tried, of how many.

        A planted slip that takes its worker with it counts as caught: its script would be stopped.
        """
        found = await self.fitness(exercise)
        done = 0

        async def one(number: int) -> dict[str, Any]:
            nonlocal done
            each = await self.try_planted(exercise, found["planted"][number], number)
            done += 1
            tried(done, len(found["planted"]))
            return each

        beside = [name for name in sorted(exercise.files) if name.startswith(("also/", "wrong/"))]
        companions = await asyncio.gather(*(self.try_companion(exercise, name) for name in beside))
        planted = await asyncio.gather(*(one(number) for number in range(len(found["planted"]))))
        return {**found, "planted": list(planted), "companions": list(companions)}

    @staticmethod
    def _task(do: str, exercise: OpenedExercise, **more: Any) -> dict[str, Any]:
        return {"do": do, "exercise": exercise.key, "files": exercise.files, **more}

    async def _ask_twice(self, task: dict[str, Any]) -> dict[str, Any]:
        """The answer; where a worker is ended over the task, that of a fresh one. Raises `WorkerGoneError`."""
        try:
            return await self._ask(task)
        except WorkerGoneError as error:
            log.warning("a worker was ended; trying again on a fresh one", task=task["do"], reason=str(error))
        try:
            return await self._ask(task, fresh=True)
        except WorkerGoneError as error:
            log.error("a worker was ended twice over the same task", task=task["do"], reason=str(error))
            raise

    async def _ask(self, task: dict[str, Any], *, fresh: bool = False) -> dict[str, Any]:
        """The answer of the next free worker, or of one that is started for it."""
        worker = await self._free.get()
        try:
            if fresh and worker is not None:
                self._workers.discard(worker)
                await worker.end()
                worker = None
            if worker is None:
                worker = await WorkerProcess.start(self._nice)
                self._workers.add(worker)
                self.missing = worker.missing
            answer = await worker.ask(task)
        except BaseException:
            if worker is not None:
                self._workers.discard(worker)
                await asyncio.shield(worker.end())
            self._free.put_nowait(None)
            raise
        self._free.put_nowait(worker)
        if "faults" in answer:
            raise ExerciseError([FileFault(*fault) for fault in answer["faults"]])
        if "error" in answer:
            raise UsageError(answer["error"])
        if "internal" in answer and "report" not in answer:
            raise _internal(answer["internal"], task)
        return answer


def _packed(files: Mapping[str, bytes]) -> dict[str, Any]:
    """The files of an exercise as they go over the wire, with what tells them from others."""
    return {
        "exercise": digest_of(files),
        "files": {name: base64.b64encode(data).decode() for name, data in files.items()},
    }


def _internal(trace: str, task: dict[str, Any]) -> InternalError:
    """Logs a fault of this program. The same fault has the same id each time."""
    error = InternalError(hashlib.sha256(trace.encode()).hexdigest()[:8])
    log.error("internal error", id=error.id, task=task["do"], exercise=task["exercise"][:12], traceback=trace)
    return error
