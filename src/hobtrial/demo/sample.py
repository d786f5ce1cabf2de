"""Loads the sample exercises and the sample class. Results are never stored by hand: they are marked."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Final

from ..core.exercise import REFERENCE, STARTER, is_part
from ..core.judging import open_exercise
from ..core.workshop import follow_up
from ..crew import ReadVersion, digest_of
from ..store import Classes, Exercises, Lessons, Rounds, Store, Teachers
from ..store.hashes import new_token
from ..store.store import Connection
from .term import AWAY, FOLLOWED, today, weeks
from .tries import tries

HERE: Final = Path(__file__).parent
CLASS_NAME: Final = "7 Larch"
TEACHER: Final = "Linden"
COLLEAGUE: Final = "Hazel"
STUDENT: Final = "Wren"
"""As whom the demo lets one in: its teacher, with a colleague to share a class with, and one of the students."""
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
"""The one that the sample class is at now, then the others in a beginner's order."""
FOLLOWED_AFTER: Final = 4
"""Days from a round to its follow-up."""
DAYS: Final = 7
"""Days between two rounds of the sample class."""


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


def load_demo(
    store: Store,
    read: Callable[[list[dict[str, bytes]]], list[ReadVersion]],
    classes: Iterable[str] = EXERCISES,
) -> None:
    """Keeps the sample exercises that are not there yet; the server marks what was handed in when it starts.

    `classes` are the exercises that the sample class has handed in: one a week, the last of them today.
    """
    handed = set(classes)
    term: list[tuple[int, float, dict[str, tuple[int, int]]]] = []
    followed: list[tuple[str, int, dict[str, int]]] = []
    folders = {name: exercise_folder(name) for name in exercises()}
    with store.transaction() as connection:
        teacher_id = _teacher(connection)
        new = [name for name, files in folders.items() if not Exercises.known(connection, name, digest_of(files))]
    for name, version in zip(new, read([folders[name] for name in new]) if new else [], strict=True):
        with store.transaction() as connection:
            version_id = version.keep(connection, name, teacher_id)
            if name not in handed:
                continue
            class_id = Classes.named(connection, CLASS_NAME, teacher_id)
            round_id = Rounds.open(connection, class_id, version_id)
            Rounds.date_back(connection, round_id, _days_ago(name))
            texts = [(each.student, f"{each.student.casefold()}.py", each.source.encode()) for each in tries(name)]
            texts += [(file.removesuffix(".py").capitalize(), file, source) for file, source in hand_ins(name).items()]
            ids = Classes.add_students(connection, class_id, [student for student, _, _ in texts])
            week = len(EXERCISES) - 1 if name == EXERCISES[0] else EXERCISES.index(name) - 1
            made = {
                student: (ids[student], Rounds.hand_in(connection, round_id, ids[student], file, source))
                for student, file, source in texts
                if (student, week) not in AWAY
            }
            if name == EXERCISES[0]:
                last = {student: source for student, _, source in texts}
                handed_today = {student: submission_id for student, (_, submission_id) in made.items()}
                today(connection, round_id, last, ids, handed_today, version.files.get(STARTER, b""))
            else:
                away = {student: (ids[student], 0) for student, number in AWAY if number == week and student in ids}
                term.append((round_id, float(version.opened.out_of), {**made, **away}))
            if name in FOLLOWED:
                followed.append((name, round_id, {student: ids[student] for student in FOLLOWED[name][1]}))
    with store.transaction() as connection:
        weeks(connection, term)
    for name, round_id, ids in followed:
        slip, mended = FOLLOWED[name]
        made_up = follow_up(open_exercise(folders[name]), folders[name], slip)
        (version,) = read([made_up.files])
        with store.transaction() as connection:
            version_id = version.keep(connection, f"follow-up-{version.opened.key[:12]}", teacher_id)
            class_id = Classes.named(connection, CLASS_NAME, teacher_id)
            opened = Rounds.open(connection, class_id, version_id)
            Rounds.date_back(connection, opened, _days_ago(name) - FOLLOWED_AFTER)
            Lessons.follow(connection, opened, follows_id=round_id, key=slip, student_ids=list(ids.values()))
            for student, well in mended.items():
                if well is not None:
                    source = made_up.files[REFERENCE if well else STARTER]
                    Rounds.hand_in(connection, opened, ids[student], f"{student.casefold()}.py", source)


def _days_ago(name: str) -> int:
    """How many days ago the sample class was set an exercise."""
    return DAYS * (len(EXERCISES) - EXERCISES.index(name)) % (DAYS * len(EXERCISES))


def _teacher(connection: Connection) -> int:
    """The sample teacher, made with a colleague where there is none. Nobody knows their passwords."""
    row = Teachers.named(connection, TEACHER)
    if row is not None:
        return int(row["id"])
    teacher_id = Teachers.add(connection, TEACHER, new_token())
    Teachers.add(connection, COLLEAGUE, new_token())
    return teacher_id
