"""A term of the sample class: who was away or late, what the teacher marked and wrote, what was given back, and today's
lesson with everybody at their desks. All of it is made up.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Final

from ..store import Desks, Lessons, Rounds
from ..store.store import Connection

AWAY: Final = {("Jay", 3), ("Jay", 4), ("Mallow", 6), ("Finch", 8), ("Yarrow", 9), ("Iris", 2), ("Iris", 3)}
"""Who handed in nothing, and in which round: counted from the oldest of the term."""
EXCUSED: Final = {("Iris", 2), ("Iris", 3), ("Finch", 8)}
LATE: Final = {("Vetch", 3), ("Vetch", 7), ("Dunnock", 5), ("Tansy", 9), ("Bramble", 2), ("Vetch", 9)}
OWN: Final = {
    ("Woad", 4): (-1.0, "You and Teasel had the same idea. Tell me on Monday which of you thought of the counter."),
    ("Heron", 6): (0.5, "The order is right in your drawing, so half a mark for that."),
    ("Sorrel", 5): (1.0, "Your test is the other way round than I meant it, and just as right."),
    ("Wren", 7): (0.0, "Good. Now say it without the second variable."),
}
"""The teacher's own marks, as so many more or fewer than the computed ones could be, and what was written."""
REPLIES: Final = {
    ("Sorrel", 5): "Thank you. I had read it as fewer than.",
    ("Wren", 7): "It works with one. Shall I hand it in again?",
}
FOLLOWED: Final = {
    "at-least": ("exact-only", {"Bramble": True, "Heron": True, "Nettle": None}),
    "three-lives": ("no-call", {"Bramble": None, "Siskin": False}),
}
"""The follow-ups: for which slip, and of each student whether they mended it; nothing: not handed in yet."""
DUE_DAYS: Final = 3
"""Days from the opening of a round to its due date."""
ASK: Final = {"Teasel": 4.0, "Fennel": 2.0}
"""Who asks for help today, and for how many minutes."""
QUIET: Final = {"Yarrow": 18.0}
"""Whom nobody has seen for so many minutes."""
STUCK: Final = ("Sorrel", "Pipit")
"""Who checked nearly the same text again and again."""
DOING: Final = ("writes", "plays", "checks", "writes", "foretells", "plays", "reads")


def weeks(connection: Connection, rounds: Sequence[tuple[int, float, Mapping[str, tuple[int, int]]]]) -> None:
    """Lives a term: each round with its marks and, for each student, their id and their try; the oldest first."""
    for number, (round_id, out_of, tries) in enumerate(rounds):
        row = Rounds.one(connection, round_id)
        assert row is not None
        due = row["opened_at"] + timedelta(days=DUE_DAYS)
        Lessons.set_times(
            connection, round_id, opens_at=None, due_at=due, closes_at=None, shows_hidden=False, watches=True
        )
        now = datetime.now(UTC)
        for student, (student_id, submission_id) in tries.items():
            if (student, number) in EXCUSED:
                Lessons.set_standing(connection, round_id, student_id, excused=True, due_at=None)
            if submission_id == 0:
                continue
            after = timedelta(days=1) if (student, number) in LATE else -timedelta(days=1)
            Desks.date_back(connection, submission_id=submission_id, minutes=(now - due - after).total_seconds() / 60)
            if (student, number) in OWN:
                more, words = OWN[student, number]
                Rounds.set_own(connection, submission_id, max(round(out_of / 2) + more, 0.0), words, "Linden")
            if (student, number) in REPLIES:
                Lessons.set_reply(connection, submission_id, REPLIES[student, number])
        Lessons.give_back(connection, round_id, None, back=True)


def today(
    connection: Connection,
    round_id: int,
    texts: Mapping[str, bytes],
    ids: Mapping[str, int],
    handed: Mapping[str, int],
    starter: bytes,
) -> None:
    """The lesson that is going on: everybody has checked a few texts, some ask, one is quiet.

    `handed` are the tries of today, by student.
    """
    names = sorted(texts)
    for index, student in enumerate(names):
        student_id = ids[student]
        Desks.one(connection, round_id, student_id, starter)
        if student in STUCK:
            tried = [texts[student] + b"\n" * (turn % 2) for turn in range(7)]
        else:
            others = [texts[names[(index + step) % len(names)]] for step in (7, 3, 11)]
            tried = [*others[: 1 + index % 3], texts[student]]
        first, last = 36.0 - index % 5, QUIET.get(student, 1.5 + index % 6)
        for turn, source in enumerate(tried):
            checked_id = Desks.check(connection, round_id, student_id, source)
            ago = first - (first - last) * turn / (len(tried) - 1)
            Desks.date_back(connection, checked_id=checked_id, minutes=ago)
        Desks.date_back(
            connection, submission_id=handed[student], minutes=0.0 if index % 4 == 1 and student not in STUCK else 39.0
        )
        Desks.keep(connection, round_id, student_id, 1, texts[student])
        seen = QUIET.get(student, float(index % 3 == 0))
        doing = DOING[index % len(DOING)]
        Desks.date_back(connection, desk=(round_id, student_id), minutes=seen, asked=ASK.get(student), doing=doing)
