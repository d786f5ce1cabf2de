"""Signing in and out: teachers by name and password, students by their class's word and their card."""

from __future__ import annotations

import ipaddress
from typing import Final

import structlog
from fastapi import HTTPException, Request, Response

from ..core.cards import as_printed
from ..core.words import UsageError
from ..store import Classes, Sessions, Students, Teachers
from ..store.hashes import NOBODYS_SALT, hashed_card, is_password
from ..store.store import Row
from .access import TeacherId, person_of, role_of
from .answering import Router
from .building import sentence
from .cookies import drop, keep, token_of
from .deps import Parts, Services
from .people_views import DemoIn, FirstIn, Me, NewPassword, StudentIn, TeacherIn
from .views import Sorry

WRONG: Final = "That is not right. Look at both once more; capitals do not matter for a card."
WRONG_TEACHER: Final = "That name and that password do not belong together."
TOO_OFTEN: Final = "That was tried too often. Wait a quarter of an hour, or ask a teacher for a new card."
PER_CLASS: Final = 60
PER_NAME: Final = 20
PER_ADDRESS: Final = 200
"""Tries that may fail in a quarter of an hour: for a class, a teacher's name, and a network address, which a whole
school can share."""

router = Router(prefix="/api", tags=["signing in"])
log = structlog.get_logger()


@router.get("/me")
def me(request: Request, parts: Parts) -> Me:
    """Who is signed in."""
    person = person_of(request)
    first = False
    if person is None:
        with parts.store.transaction() as connection:
            first = not Teachers.any(connection)
    return Me(
        role=role_of(person).value,
        name=person.name if person else "",
        class_name=person.class_name if person else None,
        demo=parts.demo is not None,
        first=first,
    )


@router.post("/sign-in/teacher", status_code=204, responses={401: {"model": Sorry}, 429: {"model": Sorry}})
def teacher_in(given: TeacherIn, request: Request, response: Response, parts: Parts) -> None:
    """Signs a teacher in."""
    name = given.name.strip()
    tries = _may_try(parts, {f"name:{name.casefold()}": PER_NAME, _address(request): PER_ADDRESS})
    with parts.store.transaction() as connection:
        row = Teachers.named(connection, name)
    if not is_password(row["password"] if row else None, given.password) or row is None:
        raise HTTPException(401, WRONG_TEACHER)
    _begin(parts, request, response, tries, teacher_id=row["id"])


@router.post("/sign-in/student", status_code=204, responses={401: {"model": Sorry}, 429: {"model": Sorry}})
def student_in(given: StudentIn, request: Request, response: Response, parts: Parts) -> None:
    """Signs a student in."""
    student, tries = _by_card(parts, request, given.class_word, given.card)
    _begin(parts, request, response, tries, student_id=student["id"])


def by_card(parts: Services, request: Request, class_word: str, card: str) -> Row:
    """Whose a card is. Raises `HTTPException` where it is nobody's, or that was tried too often."""
    student, tries = _by_card(parts, request, class_word, card)
    with parts.store.transaction() as connection:
        Sessions.succeeded(connection, tries)
    return student


def _by_card(parts: Services, request: Request, class_word: str, card: str) -> tuple[Row, list[int]]:
    word = as_printed(class_word)
    tries = _may_try(parts, {f"class:{word}": PER_CLASS, _address(request): PER_ADDRESS})
    with parts.store.transaction() as connection:
        row = Classes.by_word(connection, word)
    hashed = hashed_card(as_printed(card), bytes(row["salt"]) if row else NOBODYS_SALT)
    student = None
    if row is not None:
        with parts.store.transaction() as connection:
            student = Students.by_card(connection, row["id"], hashed)
    if student is None:
        raise HTTPException(401, WRONG)
    return student, tries


@router.post(
    "/sign-in/first", status_code=204, responses={401: {"model": Sorry}, 409: {"model": Sorry}, 429: {"model": Sorry}}
)
def first_in(given: FirstIn, request: Request, response: Response, parts: Parts) -> None:
    """Makes the first teacher, who looks after the server, and signs them in."""
    tries = _may_try(parts, {_address(request): PER_ADDRESS})
    try:
        with parts.store.transaction() as connection:
            if not Sessions.use_first_link(connection, given.token):
                raise HTTPException(401, "This link is used or too old. Start the server again for another one.")
            if Teachers.any(connection):
                raise HTTPException(409, "There is a teacher already. Sign in instead.")
            teacher_id = Teachers.add(connection, given.name, given.password)
    except UsageError as error:
        raise HTTPException(409, sentence(error)) from None
    _begin(parts, request, response, tries, teacher_id=teacher_id)


@router.post("/sign-in/demo", status_code=204, responses={401: {"model": Sorry}})
def demo_in(given: DemoIn, request: Request, response: Response, parts: Parts) -> None:
    """Lets somebody look at the demo, as its sample teacher or a sample student."""
    demo = parts.demo
    role = demo.role_of(given.token) if demo is not None else None
    if demo is None or role is None:
        raise HTTPException(401, "This link is not one of this demo. Use a link that it printed when it began.")
    with parts.store.transaction() as connection:
        teacher = Teachers.named(connection, demo.teacher)
        if teacher is None:
            raise HTTPException(401, "The sample teacher is not there any more. Begin the demo again with --reset.")
        if role == "teacher":
            token = Sessions.begin(connection, teacher_id=teacher["id"])
        else:
            class_id = Classes.named(connection, demo.class_name, teacher["id"])
            ids = Classes.add_students(connection, class_id, [demo.student])
            token = Sessions.begin(connection, student_id=ids[demo.student])
    keep(request, response, token)


@router.post("/sign-out", status_code=204)
def out(request: Request, response: Response, parts: Parts) -> None:
    """Ends the session."""
    token = token_of(request)
    if token is not None:
        with parts.store.transaction() as connection:
            Sessions.end(connection, token)
    drop(request, response)


@router.put("/me/password", status_code=204, responses={409: {"model": Sorry}, 429: {"model": Sorry}})
def change_password(given: NewPassword, request: Request, parts: Parts, teacher_id: TeacherId) -> None:
    """Another password; every other session of this teacher ends."""
    tries = _may_try(parts, {f"id:{teacher_id}": PER_NAME})
    with parts.store.transaction() as connection:
        row = Teachers.one(connection, teacher_id)
    if row is None or not is_password(row["password"], given.old):
        raise HTTPException(409, "The old password is not right, so nothing was changed.")
    try:
        with parts.store.transaction() as connection:
            Teachers.set_password(connection, teacher_id, given.new)
            Sessions.end_all_of_teacher(connection, teacher_id, but=token_of(request) or "")
            Sessions.succeeded(connection, tries)
    except UsageError as error:
        raise HTTPException(409, sentence(error)) from None
    log.info("password changed", teacher_id=teacher_id)


def _begin(
    parts: Services,
    request: Request,
    response: Response,
    tries: list[int],
    *,
    teacher_id: int | None = None,
    student_id: int | None = None,
) -> None:
    with parts.store.transaction() as connection:
        before = token_of(request)
        if before is not None:
            Sessions.end(connection, before)
        token = Sessions.begin(connection, teacher_id=teacher_id, student_id=student_id)
        Sessions.succeeded(connection, tries)
    keep(request, response, token)
    log.info("signed in", teacher_id=teacher_id, student_id=student_id)


def _may_try(parts: Services, limits: dict[str, int]) -> list[int]:
    """Notes a try. Raises 429 where too many have failed."""
    with parts.store.transaction() as connection:
        tries = Sessions.note_try(connection, limits)
    with parts.store.transaction() as connection:
        if Sessions.may_try(connection, limits, tries):
            return tries
    log.warning("too many tries at signing in", keys=[key.partition(":")[0] for key in limits])
    raise HTTPException(429, TOO_OFTEN)


def _address(request: Request) -> str:
    """The key of a network address; of a version 6 one, its network."""
    host = request.client.host if request.client else ""
    try:
        address = ipaddress.ip_address(host.partition("%")[0])
    except ValueError:
        return "address:unknown"
    if address.version == 6:
        return f"address:{ipaddress.ip_network((address, 64), strict=False)}"
    return f"address:{address}"
