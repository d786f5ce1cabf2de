"""Handing in: scripts and class lists, matched to students by name."""

from __future__ import annotations

import asyncio
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Response, UploadFile
from pydantic import Field, TypeAdapter, ValidationError

from ..core.roster import LONGEST_NAME, match, read_list, write_list
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE, scripts_in
from ..store import Rounds
from .building import NO_ROUND
from .deps import Parts, Services
from .views import Added, DoubtView, HandedIn, Sorry

router = APIRouter(prefix="/api/rounds", tags=["handing in"])

Student = Annotated[str, Field(max_length=LONGEST_NAME)]


@router.post("/{round_id}/scripts", responses={422: {"model": Sorry}})
async def hand_in(
    round_id: int, parts: Parts, files: list[UploadFile], answers: Annotated[str, Form(max_length=100_000)] = "{}"
) -> HandedIn:
    """Hands in files or zips: matched to students by name, or as `answers` ({file: student}) says.

    Nothing is handed in for a file that is doubtful and has no answer; send it again with one. An empty
    answer leaves it out.
    """
    contents = [(file.filename or "", await file.read(LARGEST_FILE + 1)) for file in files]
    try:
        said: dict[str, str] = TypeAdapter(dict[str, Student]).validate_json(answers)
        sources = dict(scripts_in(contents))
    except ValidationError:
        raise HTTPException(422, "The answers cannot be read; they are names of students by file.") from None
    except UsageError as error:
        raise HTTPException(422, str(error)) from None
    return await asyncio.to_thread(_hand_in, parts, round_id, sources, said)


def _hand_in(parts: Services, round_id: int, sources: dict[str, bytes], said: dict[str, str]) -> HandedIn:
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        known = Rounds.students(connection, row["class"])
        doubtful: list[DoubtView] = []
        handed = 0
        for found in match([file for file in sources if file not in said], known):
            if found.student is None:
                doubtful.append(DoubtView(file=found.file, candidates=list(found.candidates), why=found.why))
            else:
                said[found.file] = found.student
        for file, student in said.items():
            if student and file in sources:
                Rounds.hand_in(connection, row["class"], round_id, student, file, sources[file])
                handed += 1
        parts.queue.defer(connection, row["version_id"], Rounds.unmarked(connection, round_id))
        return HandedIn(handed_in=handed, doubtful=doubtful, students=Rounds.students(connection, row["class"]))


@router.get("/{round_id}/students.csv", response_class=Response)
def class_list(round_id: int, parts: Parts) -> Response:
    """The class as CSV, one name a line."""
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        names = Rounds.students(connection, row["class"])
    headers = {"content-disposition": 'attachment; filename="students.csv"'}
    return Response(write_list(names), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/{round_id}/students", responses={422: {"model": Sorry}})
async def add_students(round_id: int, parts: Parts, file: UploadFile) -> Added:
    """Adds the students of a CSV list to the class; who is there already stays."""
    try:
        names = read_list((await file.read(LARGEST_FILE + 1)).decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise HTTPException(422, "This list is not saved as UTF-8; save it again with that encoding.") from None
    except UsageError as error:
        raise HTTPException(422, f"{file.filename}: {error}") from None

    def write() -> int:
        with parts.store.transaction() as connection:
            row = Rounds.one(connection, round_id)
            if row is None:
                raise HTTPException(404, NO_ROUND)
            before = len(Rounds.students(connection, row["class"]))
            Rounds.add_students(connection, row["class"], names)
            return len(Rounds.students(connection, row["class"])) - before

    return Added(added=await asyncio.to_thread(write))
