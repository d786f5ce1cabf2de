"""Who may ask for what: one table, looked up before anything is done. What is not in it is refused.

Everybody's requests come through `admit`. A thing that is not somebody's own is answered as one that is not there.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Final

from fastapi import Depends, HTTPException, WebSocketException
from starlette.requests import HTTPConnection

from ..store import Person, Sessions, Thing, may_see
from .cookies import token_of
from .deps import services_of

SIGN_IN: Final = "Sign in first."
NOT_FOR_YOU: Final = "This is not for you to see."
FOR_TEACHERS: Final = "Only teachers can do this."
FOR_OWNER: Final = "Only the teacher who looks after this server can do this."
NOT_THERE: Final[dict[Thing, str]] = {
    "class": "There is no such class. Choose one among your classes.",
    "round": "There is no such round. Choose one on the bench.",
    "submission": "There is no such try. Choose one in its round.",
    "student": "There is no such student. Choose one in a class.",
    "draft": "There is no such draft. Choose one on the bench.",
    "play": "There is no such game. It may have been played in another program run.",
    "version": "There is no such exercise. Choose one on the bench.",
    "teacher": "There is no such teacher.",
    "checked": "There is no such check. Choose one of your tries.",
}


class Role(StrEnum):
    """What somebody is to this program. The owner is a teacher, too."""

    NOBODY = "nobody"
    STUDENT = "student"
    TEACHER = "teacher"
    OWNER = "owner"


EVERYBODY: Final = frozenset(Role)
PEOPLE: Final = frozenset({Role.STUDENT, Role.TEACHER, Role.OWNER})
TEACHERS: Final = frozenset({Role.TEACHER, Role.OWNER})
OWNERS: Final = frozenset({Role.OWNER})
STUDENTS: Final = frozenset({Role.STUDENT})


@dataclass(frozen=True, slots=True)
class Rule:
    """Who may ask at an address, and which of its parts names a thing that must be theirs."""

    roles: frozenset[Role]
    things: tuple[Thing, ...] = ()
    """Each names the part of the address called `<thing>_id`."""
    asks: bool = True
    """Whether it matters whose request it is; where not, the records are not asked."""


SOCKET: Final = "SOCKET"
"""Stands for the method of a WebSocket."""

TABLE: Final[dict[tuple[str, str], Rule]] = {
    # signing in and out
    ("GET", "/api/me"): Rule(EVERYBODY),
    ("POST", "/api/sign-in/teacher"): Rule(EVERYBODY),
    ("POST", "/api/sign-in/student"): Rule(EVERYBODY),
    ("POST", "/api/sign-in/first"): Rule(EVERYBODY),
    ("POST", "/api/sign-in/demo"): Rule(EVERYBODY),
    ("POST", "/api/sign-out"): Rule(PEOPLE),
    ("PUT", "/api/me/password"): Rule(TEACHERS),
    # teachers
    ("GET", "/api/teachers"): Rule(TEACHERS),
    ("GET", "/api/markers"): Rule(OWNERS),
    ("PUT", "/api/markers/{marker_id}"): Rule(OWNERS),
    ("POST", "/api/teachers"): Rule(OWNERS),
    ("PUT", "/api/teachers/{teacher_id}/password"): Rule(OWNERS, ("teacher",)),
    ("DELETE", "/api/teachers/{teacher_id}"): Rule(OWNERS, ("teacher",)),
    # classes and students
    ("GET", "/api/classes"): Rule(TEACHERS),
    ("POST", "/api/classes"): Rule(TEACHERS),
    ("GET", "/api/classes/{class_id}"): Rule(TEACHERS, ("class",)),
    ("PUT", "/api/classes/{class_id}"): Rule(TEACHERS, ("class",)),
    ("DELETE", "/api/classes/{class_id}"): Rule(TEACHERS, ("class",)),
    ("PUT", "/api/classes/{class_id}/teachers/{teacher_id}"): Rule(TEACHERS, ("class", "teacher")),
    ("DELETE", "/api/classes/{class_id}/teachers/{teacher_id}"): Rule(TEACHERS, ("class", "teacher")),
    ("POST", "/api/classes/{class_id}/cards"): Rule(TEACHERS, ("class",)),
    ("POST", "/api/classes/{class_id}/students"): Rule(TEACHERS, ("class",)),
    ("POST", "/api/classes/{class_id}/students/file"): Rule(TEACHERS, ("class",)),
    ("GET", "/api/classes/{class_id}/students.csv"): Rule(TEACHERS, ("class",)),
    ("GET", "/api/classes/{class_id}/results.zip"): Rule(TEACHERS, ("class",)),
    ("POST", "/api/lists"): Rule(TEACHERS),
    ("PUT", "/api/students/{student_id}"): Rule(TEACHERS, ("student",)),
    ("DELETE", "/api/students/{student_id}"): Rule(TEACHERS, ("student",)),
    ("GET", "/api/students/{student_id}/data.zip"): Rule(TEACHERS, ("student",)),
    # a student's own page
    ("GET", "/api/desk"): Rule(STUDENTS),
    ("GET", "/api/desk/rounds/{round_id}"): Rule(STUDENTS, ("round",)),
    ("PUT", "/api/desk/rounds/{round_id}/text"): Rule(STUDENTS, ("round",)),
    ("POST", "/api/desk/rounds/{round_id}/check"): Rule(STUDENTS, ("round",)),
    ("POST", "/api/desk/rounds/{round_id}/hand-in"): Rule(STUDENTS, ("round",)),
    ("PUT", "/api/desk/rounds/{round_id}/asking"): Rule(STUDENTS, ("round",)),
    ("PUT", "/api/desk/rounds/{round_id}/partner"): Rule(STUDENTS, ("round",)),
    ("DELETE", "/api/desk/rounds/{round_id}/partner"): Rule(STUDENTS, ("round",)),
    ("GET", "/api/desk/rounds/{round_id}/looks/{name}.svg"): Rule(STUDENTS, ("round",)),
    (SOCKET, "/api/desk/rounds/{round_id}/live"): Rule(STUDENTS, ("round",)),
    ("GET", "/api/desk/checked/{checked_id}"): Rule(STUDENTS, ("checked",)),
    ("GET", "/api/desk/checked/{checked_id}/scenarios/{number}"): Rule(STUDENTS, ("checked",)),
    ("PUT", "/api/desk/checked/{checked_id}/scenarios/{number}/prediction"): Rule(STUDENTS, ("checked",)),
    ("POST", "/api/desk/checked/{checked_id}/help"): Rule(STUDENTS, ("checked",)),
    ("GET", "/api/desk/submissions/{submission_id}"): Rule(STUDENTS, ("submission",)),
    ("PUT", "/api/desk/submissions/{submission_id}/reply"): Rule(STUDENTS, ("submission",)),
    ("GET", "/api/desk/submissions/{submission_id}/scenarios/{number}"): Rule(STUDENTS, ("submission",)),
    # rounds and tries
    ("GET", "/api/bench"): Rule(TEACHERS),
    ("POST", "/api/rounds"): Rule(TEACHERS),
    ("GET", "/api/rounds/{round_id}"): Rule(TEACHERS, ("round",)),
    ("POST", "/api/rounds/{round_id}/mark"): Rule(TEACHERS, ("round",)),
    ("POST", "/api/rounds/{round_id}/renew"): Rule(TEACHERS, ("round",)),
    ("PUT", "/api/rounds/{round_id}/withdrawn"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/rounds/{round_id}/sheet"): Rule(TEACHERS, ("round",)),
    ("POST", "/api/rounds/{round_id}/scripts"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/submissions/{submission_id}"): Rule(TEACHERS, ("submission",)),
    ("POST", "/api/submissions/{submission_id}/mark"): Rule(TEACHERS, ("submission",)),
    ("POST", "/api/submissions/{submission_id}/findings/{index}/change"): Rule(TEACHERS, ("submission",)),
    ("PUT", "/api/submissions/{submission_id}/own"): Rule(TEACHERS, ("submission",)),
    ("PUT", "/api/submissions/{submission_id}/scenarios/{number}/prediction"): Rule(TEACHERS, ("submission",)),
    ("GET", "/api/submissions/{submission_id}/scenarios/{number}"): Rule(TEACHERS, ("submission",)),
    # a lesson: times, giving back, the class at work
    ("POST", "/api/rounds/{round_id}/follow-ups"): Rule(TEACHERS, ("round",)),
    ("PUT", "/api/rounds/{round_id}/times"): Rule(TEACHERS, ("round",)),
    ("PUT", "/api/rounds/{round_id}/students/{student_id}/standing"): Rule(TEACHERS, ("round", "student")),
    ("PUT", "/api/rounds/{round_id}/students/{student_id}/level"): Rule(TEACHERS, ("round", "student")),
    ("POST", "/api/rounds/{round_id}/give-back"): Rule(TEACHERS, ("round",)),
    ("POST", "/api/rounds/{round_id}/copy"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/rounds/{round_id}/sheets"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/rounds/{round_id}/work"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/rounds/{round_id}/work/live"): Rule(TEACHERS, ("round",)),
    ("GET", "/api/rounds/{round_id}/students/{student_id}/desk"): Rule(TEACHERS, ("round", "student")),
    # the ledger
    ("GET", "/api/classes/{class_id}/ledger"): Rule(TEACHERS, ("class",)),
    ("GET", "/api/classes/{class_id}/ledger.{form}"): Rule(TEACHERS, ("class",)),
    ("GET", "/api/rounds/{round_id}/closer"): Rule(TEACHERS, ("round",)),
    # exercises, played by hand
    ("GET", "/api/exercise.schema.json"): Rule(EVERYBODY),
    ("GET", "/api/exercises/{version_id}/play"): Rule(TEACHERS, ("version",)),
    ("POST", "/api/exercises/{version_id}/check"): Rule(TEACHERS, ("version",)),
    ("POST", "/api/exercises/{version_id}/read"): Rule(TEACHERS, ("version",)),
    ("POST", "/api/exercises/{version_id}/trial"): Rule(TEACHERS, ("version",)),
    ("GET", "/api/exercises/{version_id}/looks/{name}.svg"): Rule(TEACHERS, ("version",)),
    (SOCKET, "/api/exercises/{version_id}/live"): Rule(TEACHERS, ("version",)),
    ("GET", "/api/plays/{play_id}"): Rule(TEACHERS, ("play",)),
    ("GET", "/api/plays/{play_id}/trial"): Rule(TEACHERS, ("play",)),
    # the workshop
    ("GET", "/api/drafts"): Rule(TEACHERS),
    ("POST", "/api/drafts"): Rule(TEACHERS),
    ("POST", "/api/drafts/files"): Rule(TEACHERS),
    ("GET", "/api/drafts/{draft_id}"): Rule(TEACHERS, ("draft",)),
    ("DELETE", "/api/drafts/{draft_id}"): Rule(TEACHERS, ("draft",)),
    ("POST", "/api/drafts/{draft_id}/changes"): Rule(TEACHERS, ("draft",)),
    ("POST", "/api/drafts/{draft_id}/step"): Rule(TEACHERS, ("draft",)),
    ("POST", "/api/drafts/{draft_id}/suggestions"): Rule(TEACHERS, ("draft",)),
    ("POST", "/api/drafts/{draft_id}/ways"): Rule(TEACHERS, ("draft",)),
    ("GET", "/api/drafts/{draft_id}/proof"): Rule(TEACHERS, ("draft",)),
    ("GET", "/api/drafts/{draft_id}/zip"): Rule(TEACHERS, ("draft",)),
    ("GET", "/api/drafts/{draft_id}/looks/{name}.svg"): Rule(TEACHERS, ("draft",)),
    ("POST", "/api/drafts/{draft_id}/set"): Rule(TEACHERS, ("draft",)),
    (SOCKET, "/api/drafts/{draft_id}/live"): Rule(TEACHERS, ("draft",)),
    # for whoever looks after the server, and for the browser itself: nothing of anybody's is in these
    ("GET", "/healthz"): Rule(EVERYBODY, asks=False),
    ("GET", "/readyz"): Rule(EVERYBODY, asks=False),
    ("GET", "/api/openapi.json"): Rule(EVERYBODY),
    ("GET", "/{path:path}"): Rule(EVERYBODY),
}


def role_of(person: Person | None) -> Role:
    """What somebody is."""
    if person is None:
        return Role.NOBODY
    if person.student_id is not None:
        return Role.STUDENT
    return Role.OWNER if person.owner else Role.TEACHER


def admit(connection: HTTPConnection) -> None:
    """Lets a request or a socket pass, or raises. Afterwards the connection knows whose it is."""
    method = SOCKET if connection.scope["type"] == "websocket" else connection.scope["method"]
    rule = TABLE.get((method, connection.scope["route"].path))
    try:
        connection.state.person = _admitted(connection, rule or Rule(frozenset()))
    except HTTPException as error:
        if method != SOCKET:
            raise
        raise WebSocketException(1008, str(error.detail)) from None


def _admitted(connection: HTTPConnection, rule: Rule) -> Person | None:
    token = token_of(connection)
    if token is None or not rule.asks:
        return _allowed(None, rule)
    with services_of(connection).store.looking() as records:
        person = _allowed(Sessions.who(records, token), rule)
        for thing in rule.things:
            assert person is not None  # a rule that names things is for people only
            named = connection.path_params[f"{thing}_id"]
            if not (named.isascii() and named.isdecimal()):
                raise HTTPException(422, f"This request cannot be read: {named[:40]!r} is not a number of ours.")
            if not may_see(records, person, thing, int(named[:12])):
                raise HTTPException(404, NOT_THERE[thing])
    return person


def _allowed(person: Person | None, rule: Rule) -> Person | None:
    """The person, if somebody of their role may ask. Raises `HTTPException`."""
    if role_of(person) not in rule.roles:
        if person is None:
            raise HTTPException(401, SIGN_IN)
        raise HTTPException(403, FOR_OWNER if rule.roles == OWNERS else FOR_TEACHERS if rule.roles else NOT_FOR_YOU)
    return person


def person_of(connection: HTTPConnection) -> Person | None:
    """Whose request it is, once it is admitted."""
    found: Person | None = getattr(connection.state, "person", None)
    return found


def teacher_of(connection: HTTPConnection) -> Person:
    """The teacher whose request it is."""
    person = person_of(connection)
    assert person is not None and person.teacher_id is not None  # by the table
    return person


def teacher_id_of(connection: HTTPConnection) -> int:
    """The number of the teacher whose request it is."""
    found = teacher_of(connection).teacher_id
    assert found is not None
    return found


def student_of(connection: HTTPConnection) -> int:
    """The number of the student whose request it is."""
    person = person_of(connection)
    assert person is not None and person.student_id is not None  # by the table
    return person.student_id


Teacher = Annotated[Person, Depends(teacher_of)]
TeacherId = Annotated[int, Depends(teacher_id_of)]
StudentId = Annotated[int, Depends(student_of)]
