"""Loads the sample exercises and the sample class. Results are never stored by hand: they are marked."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Final

from ..core.exercise import is_part
from ..crew import OpenedExercise, digest_of
from ..store import Exercises, Rounds, Store

HERE: Final = Path(__file__).parent
CLASS_NAME: Final = "7 Larch"
EXERCISES: Final = (
    "bakehouse-rush",
    "first-count",
    "set-or-change",
    "three-lives",
    "cap-the-basket",
    "at-least",
    "all-three",
    "bread-choices",
    "loaf-in-order",
    "again-and-best",
    "draught-heat",
)
"""The one that the sample class has handed in first, then the others in a beginner's order."""


def exercises() -> list[str]:
    """The names of the sample exercises, in the order in which the Bench lists them."""
    return list(EXERCISES)


def exercise_folder(name: str) -> dict[str, bytes]:
    """The files of a sample exercise."""
    folder = HERE / "exercises" / name
    files = [path for path in sorted(folder.rglob("*")) if path.is_file()]
    return {name: path.read_bytes() for path in files if is_part(name := path.relative_to(folder).as_posix())}


def hand_ins(name: str) -> dict[str, bytes]:
    """What the sample class handed in for an exercise: file names with their bytes."""
    return {path.name: path.read_bytes() for path in sorted((HERE / "class" / name).glob("*.py"))}


def load_demo(store: Store, opened: Callable[[list[dict[str, bytes]]], list[OpenedExercise]]) -> None:
    """Keeps the sample exercises and hand-ins that are not there yet; the server marks them when it starts."""
    folders = {name: exercise_folder(name) for name in exercises()}
    with store.transaction() as link:
        new = [name for name, files in folders.items() if not Exercises.known(link, name, digest_of(files))]
    for name, exercise in zip(new, opened([folders[name] for name in new]) if new else [], strict=True):
        files = folders[name]
        facts = {key: getattr(exercise, key) for key in ("title", "out_of", "seconds", "scenarios")}
        with store.transaction() as link:
            version = Exercises.add(link, name, exercise.key, files, facts)
            if not hand_ins(name):
                continue
            round_id = Rounds.open(link, CLASS_NAME, version)
            for file, source in hand_ins(name).items():
                student = file.removesuffix(".py").capitalize()
                Rounds.hand_in(link, CLASS_NAME, round_id, student, file, source)
