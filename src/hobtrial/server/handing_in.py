"""Handing in: scripts, matched to students by name."""

from __future__ import annotations

import asyncio
from typing import Annotated

from fastapi import Form, HTTPException, UploadFile
from pydantic import Field, TypeAdapter, ValidationError

from ..core.roster import LONGEST_NAME, match
from ..core.words import UsageError
from ..crew.parcels import LARGEST_FILE, Received, scripts_in
from ..store import Classes, Rounds
from .answering import Router
from .building import NO_ROUND, sentence
from .deps import Parts, Services
from .given import clean_text, cleaned
from .hand_in_views import DoubtView, HandedIn, LeftOut
from .views import Sorry

router = Router(prefix="/api/rounds", tags=["handing in"])

LONGEST_FILE_NAME = 200
"""Characters of a file's name."""
ANSWERS: TypeAdapter[dict[str, Annotated[str, Field(max_length=LONGEST_NAME)]]] = TypeAdapter(
    dict[str, Annotated[str, Field(max_length=LONGEST_NAME)]]
)


@router.post("/{round_id}/scripts", responses={422: {"model": Sorry}})
async def hand_in(
    round_id: int, parts: Parts, files: list[UploadFile], answers: Annotated[str, Form(max_length=100_000)] = "{}"
) -> HandedIn:
    """Hands in files or zips: matched to students by name, or as `answers` ({file: student}) says.

    Nothing is handed in for a file that is doubtful and has no answer; send it again with one. An empty
    answer leaves it out. What is no script is named, and keeps no other file out.
    """
    contents = [
        (clean_text(file.filename or "")[:LONGEST_FILE_NAME], await file.read(LARGEST_FILE + 1)) for file in files
    ]
    try:
        said = ANSWERS.validate_python(cleaned(ANSWERS.validate_json(answers)))
    except ValidationError:
        raise HTTPException(422, "The answers cannot be read; they are names of students by file.") from None

    def work() -> HandedIn:
        return _hand_in(parts, round_id, scripts_in(contents), said)

    return await asyncio.to_thread(work)


def _hand_in(parts: Services, round_id: int, received: Received, said: dict[str, str]) -> HandedIn:
    """Matches first, which can take a while, and then writes everything in one go."""
    sources = {clean_text(file)[:LONGEST_FILE_NAME]: source for file, source in received.scripts.items()}
    with parts.store.transaction() as connection:
        row = Rounds.one(connection, round_id)
        if row is None:
            raise HTTPException(404, NO_ROUND)
        known = Classes.names(connection, row["class_id"])
    doubtful: list[DoubtView] = []
    whose = {file: student.strip() for file, student in said.items() if student.strip() and file in sources}
    for found in match([file for file in sources if file not in said], known):
        if found.student is None:
            doubtful.append(DoubtView(file=found.file, candidates=list(found.candidates), why=found.why))
        else:
            whose[found.file] = found.student
    try:
        with parts.store.transaction() as connection:
            ids = Classes.add_students(connection, row["class_id"], whose.values()) if whose else {}
            for file, student in whose.items():
                Rounds.hand_in(connection, round_id, ids[student], file, sources[file])
            parts.queue.defer(connection, Rounds.unmarked(connection, round_id))
            students = Classes.names(connection, row["class_id"])
    except UsageError as error:
        raise HTTPException(422, sentence(error)) from None
    return HandedIn(
        handed_in=len(whose),
        doubtful=doubtful,
        left_out=[
            LeftOut(file=clean_text(file)[:LONGEST_FILE_NAME], why=clean_text(why)) for file, why in received.left_out
        ],
        students=students,
    )
