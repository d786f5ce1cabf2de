"""Classes and their students: whose they are, their cards, what becomes of their data."""

from __future__ import annotations

import secrets
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from typing import Final

from psycopg.errors import UniqueViolation

from ..core.cards import new_class_word
from ..core.words import UsageError
from .store import Connection, Row, queries

_SQL: Final = queries("people")
_SESSIONS: Final = queries("sessions")
MOST_STUDENTS: Final = 500
"""Students of one class."""


class Classes:
    """What is kept of classes and students. Every call joins the transaction of the connection it is given."""

    @staticmethod
    def named(connection: Connection, name: str, teacher_id: int | None) -> int:
        """The class of that name among a teacher's, made if it is not there yet; of nobody where no teacher is given.

        Gives its id.
        """
        if teacher_id is not None:
            _SQL.hold_teacher(connection, teacher_id=teacher_id)  # the same name twice at once makes one class
        row = _SQL.own_class_by_name(connection, name=name, teacher_id=teacher_id)
        return int(row["id"]) if row is not None else Classes.add(connection, name, teacher_id)

    @staticmethod
    def add(connection: Connection, name: str, teacher_id: int | None) -> int:
        """A new class. Gives its id."""
        class_id = int(_SQL.add_class(connection, name=name)["id"])
        if teacher_id is not None:
            _SQL.add_class_teacher(connection, class_id=class_id, teacher_id=teacher_id)
        return class_id

    @staticmethod
    def of(connection: Connection, teacher_id: int) -> list[Row]:
        """A teacher's classes; those that are put away come last."""
        return list(_SQL.classes_of(connection, teacher_id=teacher_id))

    @staticmethod
    def one(connection: Connection, class_id: int) -> Row | None:
        """A class with its word and salt."""
        row: Row | None = _SQL.one_class(connection, class_id=class_id)
        return row

    @staticmethod
    def by_word(connection: Connection, word: str) -> Row | None:
        """A class that is not put away, by the word that its students type."""
        row: Row | None = _SQL.class_by_word(connection, word=word)
        return row

    @staticmethod
    def by_source(connection: Connection, source_id: str, teacher_id: int) -> int | None:
        """A teacher's class by what another system calls it."""
        row = _SQL.class_by_source(connection, source_id=source_id, teacher_id=teacher_id)
        return None if row is None else int(row["id"])

    @staticmethod
    def set_source(connection: Connection, class_id: int, source_id: str) -> None:
        """Notes what another system calls a class."""
        _SQL.set_class_source(connection, class_id=class_id, source_id=source_id)

    @staticmethod
    def teachers(connection: Connection, class_id: int) -> list[Row]:
        """Whose a class is."""
        return list(_SQL.teachers_of(connection, class_id=class_id))

    @staticmethod
    def share(connection: Connection, class_id: int, teacher_id: int) -> None:
        """Gives a class to one more teacher."""
        _SQL.add_class_teacher(connection, class_id=class_id, teacher_id=teacher_id)

    @staticmethod
    def unshare(connection: Connection, class_id: int, teacher_id: int) -> None:
        """Takes a class from a teacher. Raises `UsageError` for the last one."""
        others = [each for each in Classes.teachers(connection, class_id) if each["id"] != teacher_id]
        if not others:
            raise UsageError("a class keeps one teacher at least; share it with somebody first")
        _SQL.drop_class_teacher(connection, class_id=class_id, teacher_id=teacher_id)

    @staticmethod
    def rename(connection: Connection, class_id: int, name: str) -> None:
        """Another name for a class."""
        _SQL.rename_class(connection, class_id=class_id, name=name)

    @staticmethod
    def put_away(connection: Connection, class_id: int, away: bool) -> None:
        """Puts a class away, with everything in it and its students signed out, or brings it back."""
        if away:
            _SQL.put_away(connection, class_id=class_id)
            _SESSIONS.end_class(connection, class_id=class_id)
        else:
            _SQL.bring_back(connection, class_id=class_id)

    @staticmethod
    def remove(connection: Connection, class_id: int) -> None:
        """Deletes a class, its students, and everything of theirs."""
        texts = list(_SQL.texts_of_class(connection, class_id=class_id))
        _SQL.remove_students_of(connection, class_id=class_id)
        _SQL.remove_class(connection, class_id=class_id)
        forget_orphans(connection, texts)

    @staticmethod
    def students(connection: Connection, class_id: int) -> list[Row]:
        """All students by name, those who left last."""
        return list(_SQL.students_of(connection, class_id=class_id))

    @staticmethod
    def names(connection: Connection, class_id: int) -> list[str]:
        """The names of those who are in a class now."""
        return [row["name"] for row in Classes.students(connection, class_id) if row["left_at"] is None]

    @staticmethod
    def add_students(connection: Connection, class_id: int, names: Iterable[str]) -> dict[str, int]:
        """Adds those who are not in the class yet, or had left it. Gives all of these names with their ids.

        Raises `UsageError` where the class would be too large.
        """
        wanted = list(dict.fromkeys(names))
        there = {row["name"] for row in Classes.students(connection, class_id)}
        if len(there | set(wanted)) > MOST_STUDENTS:
            raise UsageError(f"a class has at most {MOST_STUDENTS} students")
        _SQL.add_students(connection, class_id=class_id, names=wanted)
        return {row["name"]: row["id"] for row in _SQL.student_ids(connection, class_id=class_id, names=wanted)}

    @staticmethod
    def word(connection: Connection, class_id: int) -> str:
        """The word that the students of a class type, made where there is none."""
        row = Classes.one(connection, class_id)
        assert row is not None
        if row["word"] is None:
            taken = {each["word"] for each in _SQL.taken_words(connection)}
            _SQL.set_word(connection, class_id=class_id, word=new_class_word(secrets.choice, taken))
            row = Classes.one(connection, class_id)
            assert row is not None
        return str(row["word"])

    @staticmethod
    def set_cards(connection: Connection, class_id: int, cards: Mapping[int, bytes]) -> None:
        """New cards by student, as `hashed_card` gives them; the old ones end, and their students are signed out."""
        for student_id, card in cards.items():
            _SQL.set_card(connection, class_id=class_id, student_id=student_id, card=card)
            _SESSIONS.end_student(connection, student_id=student_id)


@dataclass(frozen=True)
class Everything:
    """All that is kept of a student: tries with what was said of them, predictions, what is at their desks, and what
    they expected and asked for there.
    """

    tries: list[Row]
    predictions: list[Row]
    desks: list[Row]
    asked: list[Row]


class Students:
    """What is kept of one student."""

    @staticmethod
    def one(connection: Connection, student_id: int) -> Row | None:
        """A student with their class."""
        row: Row | None = _SQL.one_student(connection, student_id=student_id)
        return row

    @staticmethod
    def by_card(connection: Connection, class_id: int, card: bytes) -> Row | None:
        """Whose a card is, by its hash."""
        row: Row | None = _SQL.student_by_card(connection, class_id=class_id, card=card)
        return row

    @staticmethod
    def set_level(connection: Connection, student_id: int, level: str | None) -> list[int]:
        """Gives a student a level for their class. Gives the rounds in which another version may be theirs now."""
        _SQL.set_student_level(connection, student_id=student_id, level=level)
        return [row["id"] for row in _SQL.rounds_for_student(connection, student_id=student_id)]

    @staticmethod
    def rename(connection: Connection, student_id: int, name: str) -> None:
        """Another name. Raises `UsageError` where somebody else in the class has it."""
        try:
            with connection.transaction():
                _SQL.rename_student(connection, student_id=student_id, name=name)
        except UniqueViolation:
            raise UsageError(f"somebody in this class is called {name} already; tell the two apart") from None

    @staticmethod
    def set_source(connection: Connection, student_id: int, source_id: str) -> None:
        """Notes what another system calls a student."""
        _SQL.set_student_source(connection, student_id=student_id, source_id=source_id)

    @staticmethod
    def move(connection: Connection, student_id: int, class_id: int) -> None:
        """Moves a student to another class; what they handed in stays where it is. Raises `UsageError`."""
        try:
            with connection.transaction():
                _SQL.move_student(connection, student_id=student_id, class_id=class_id)
        except UniqueViolation:
            raise UsageError("somebody in that class has the same name; rename one of the two first") from None
        _SESSIONS.end_student(connection, student_id=student_id)

    @staticmethod
    def leave(connection: Connection, student_id: int, left: bool) -> None:
        """Notes that a student left the class, which ends their card, or that they are back."""
        _SQL.set_left(connection, student_id=student_id, left=left)
        if left:
            _SESSIONS.end_student(connection, student_id=student_id)

    @staticmethod
    def remove(connection: Connection, student_id: int) -> None:
        """Deletes a student and everything of theirs."""
        texts = list(_SQL.texts_of_student(connection, student_id=student_id))
        _SQL.remove_student(connection, student_id=student_id)
        forget_orphans(connection, texts)

    @staticmethod
    def everything(connection: Connection, student_id: int) -> Everything:
        """All that is kept of a student."""
        return Everything(
            tries=list(_SQL.whole_student(connection, student_id=student_id)),
            predictions=list(_SQL.predictions_of_student(connection, student_id=student_id)),
            desks=list(_SQL.desks_of_student(connection, student_id=student_id)),
            asked=list(_SQL.asked_by_student(connection, student_id=student_id)),
        )


def forget_older_than(connection: Connection, months: int) -> int:
    """Deletes what was handed in so many months ago, and classes put away as long ago. Gives how many texts."""
    texts = list(_SQL.old_texts(connection, months=months))
    for row in list(_SQL.old_classes(connection, months=months)):
        Classes.remove(connection, row["id"])
    _SQL.forget_old_submissions(connection, months=months)
    _SQL.forget_old_desks(connection, months=months)
    _SQL.forget_old_students(connection, months=months)
    _SQL.forget_old_plays(connection, months=months)
    forget_orphans(connection, texts)
    return len(texts)


def forget_orphans(connection: Connection, texts: Collection[Row]) -> None:
    """Takes away the reports of texts that nobody has handed in any more: they name files, and quote scripts."""
    versions, digests = [each["version_id"] for each in texts], [each["digest"] for each in texts]
    _SQL.forget_orphans(connection, version_ids=versions, digests=digests)
    _SQL.forget_orphans_unmarked(connection, version_ids=versions, digests=digests)
