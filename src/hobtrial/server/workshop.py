"""The workshop: drafts of exercises, their changes, what is said of them, and a round that is set with one."""

from __future__ import annotations

import asyncio
import io
import zipfile
from typing import Annotated, Any, Final

from fastapi import HTTPException, Query, UploadFile
from fastapi.responses import Response

from ..core.exercise import ExerciseError, is_part
from ..core.words import UsageError
from ..core.workshop import apply, in_words, new_files, title_of
from ..crew import InternalError, WorkerGoneError, read_version
from ..crew.parcels import LARGEST_EXERCISE, exercise_in
from ..store import Classes, Draft, Drafts, Exercises, Rounds, StaleDraftError
from .access import Teacher, TeacherId
from .answering import Router
from .building import sentence
from .deps import Parts, Services
from .drafts import NOT_PLAYABLE, read_draft
from .views import Sorry
from .workshop_views import (
    Asked,
    AskedWays,
    BeginDraft,
    ChangeDraft,
    DraftHead,
    DraftId,
    DraftView,
    ProofView,
    SetDraft,
    StepDraft,
    SuggestionView,
    WayView,
)

STALE: Final = (
    "This draft was changed in another window. It is shown as it is now; nothing of it is lost, but your last change "
    "was not made. Make it again."
)
ENDED: Final = (
    "The machine ended the worker while it played the reference. That says nothing about your draft, and nothing is "
    "lost. Change something, or open it again."
)
MOST_FILES: Final = 200

router = Router(prefix="/api", tags=["workshop"], responses={404: {"model": Sorry}})


@router.get("/drafts")
def drafts(parts: Parts, teacher_id: TeacherId) -> list[DraftHead]:
    """A teacher's drafts, the one that was changed last first."""
    with parts.store.transaction() as connection:
        rows = Drafts.all(connection, teacher_id)
    return [
        DraftHead(
            id=row["id"],
            title=title_of(bytes(row["settings"] or b"")),
            changed_at=row["changed_at"],
            unfit=row["unfit"],
        )
        for row in rows
    ]


@router.post("/drafts", responses={409: {"model": Sorry}})
def begin(given: BeginDraft, parts: Parts, teacher: Teacher, teacher_id: TeacherId) -> DraftId:
    """A draft that begins with nothing, or with a version of an exercise.

    With an exercise of one's own it becomes its next version; with another's it becomes an exercise beside it.
    """
    try:
        with parts.store.transaction() as connection:
            if given.version_id is None:
                return DraftId(id=Drafts.begin(connection, teacher_id, "", new_files(given.title), "begun"))
            if not Exercises.there(connection, given.version_id):
                raise HTTPException(404, "There is no such exercise. Choose one on the bench.")
            files = Exercises.files(connection, given.version_id)
            slug = Exercises.own_slug(connection, given.version_id, teacher_id, owner=teacher.owner)
            return DraftId(id=Drafts.begin(connection, teacher_id, slug, files, "opened"))
    except UsageError as error:
        raise HTTPException(409, sentence(error)) from None


@router.post("/drafts/files", responses={422: {"model": Sorry}})
async def bring(parts: Parts, teacher_id: TeacherId, files: list[UploadFile]) -> DraftId:
    """A draft of what is brought: the files of an exercise, or its folder zipped, however faulty they are."""
    contents, left = [], LARGEST_EXERCISE
    for file in files[:MOST_FILES]:
        contents.append((file.filename or "", await file.read(left + 1)))
        left -= len(contents[-1][1])
        if left < 0:
            raise HTTPException(422, f"This has more than {LARGEST_EXERCISE:,} bytes, which no exercise has.")

    def write() -> int:
        found = exercise_in(contents)
        with parts.store.transaction() as connection:
            return Drafts.begin(connection, teacher_id, "", found, "brought in")

    try:
        return DraftId(id=await asyncio.to_thread(write))
    except UsageError as error:
        raise HTTPException(422, sentence(error)) from None


@router.get("/drafts/{draft_id}")
async def draft(
    draft_id: int, parts: Parts, scenario: Annotated[int, Query(ge=0)] = 0, trial: Annotated[int, Query(ge=0)] = 0
) -> DraftView:
    """A draft as it is now, with what is said of it and one of its scenarios played."""
    return await _view(parts, await asyncio.to_thread(read_draft, parts, draft_id), scenario, trial)


@router.post("/drafts/{draft_id}/changes", responses={409: {"model": Sorry}})
async def change(draft_id: int, given: ChangeDraft, parts: Parts) -> DraftView:
    """Puts a change on a draft, and shows it as it is then."""

    def write() -> Draft:
        before = read_draft(parts, draft_id)
        if before.at != given.at:
            raise HTTPException(409, STALE)
        try:
            files = apply(before.files, given.change)
        except UsageError as error:
            raise HTTPException(409, str(error)) from None
        if files == before.files:
            return before
        _change(parts, draft_id, given.at, files, in_words(given.change))
        return read_draft(parts, draft_id)

    return await _view(parts, await asyncio.to_thread(write), given.scenario, 0)


@router.post("/drafts/{draft_id}/step", responses={409: {"model": Sorry}})
async def step(draft_id: int, given: StepDraft, parts: Parts) -> DraftView:
    """Undoes the last change, or makes the one that was undone again."""

    def write() -> Draft:
        try:
            with parts.store.transaction() as connection:
                Drafts.step(connection, draft_id, given.at, given.by)
        except StaleDraftError:
            raise HTTPException(409, STALE) from None
        return read_draft(parts, draft_id)

    return await _view(parts, await asyncio.to_thread(write), given.scenario, 0)


@router.post("/drafts/{draft_id}/suggestions", responses={409: {"model": Sorry}, 503: {"model": Sorry}})
async def suggestions(draft_id: int, asked: Asked, parts: Parts) -> list[SuggestionView]:
    """What is true at a moment of a scenario, each of it a check."""
    draft = await asyncio.to_thread(read_draft, parts, draft_id)
    try:
        found = await parts.crew.suggest(draft.files, asked.scenario, asked.what, asked.first, asked.last)
    except (ExerciseError, IndexError):
        raise HTTPException(409, NOT_PLAYABLE) from None
    except WorkerGoneError:
        raise HTTPException(503, ENDED) from None
    return [SuggestionView(**each) for each in found]


@router.post("/drafts/{draft_id}/ways", responses={409: {"model": Sorry}, 503: {"model": Sorry}})
async def ways(draft_id: int, asked: AskedWays, parts: Parts) -> WayView:
    """A scenario beside one that there is, which plays it in many ways. It is not added yet."""
    draft = await asyncio.to_thread(read_draft, parts, draft_id)
    try:
        return WayView(row=await parts.crew.many_ways(draft.files, asked.scenario, asked.way))
    except UsageError as error:
        raise HTTPException(409, str(error)) from None
    except (ExerciseError, IndexError):
        raise HTTPException(409, NOT_PLAYABLE) from None
    except WorkerGoneError:
        raise HTTPException(503, ENDED) from None


@router.get("/drafts/{draft_id}/proof")
async def proof(draft_id: int, parts: Parts) -> ProofView:
    """How far the proof of the draft as it is now has come; asking begins it. A change stops it."""
    draft = await asyncio.to_thread(read_draft, parts, draft_id)
    return await parts.proofs.of(draft_id, draft.files)


@router.get("/drafts/{draft_id}/zip", response_class=Response)
def as_zip(draft_id: int, parts: Parts) -> Response:
    """The draft as a zip, which `hob mark` takes."""
    draft = read_draft(parts, draft_id)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in sorted(draft.files.items()):
            archive.writestr(zipfile.ZipInfo(name, (2020, 1, 1, 0, 0, 0)), data)
    name = _slug(title_of(draft.files.get("exercise.toml", b"")))
    headers = {"content-disposition": f'attachment; filename="{name}.zip"'}
    return Response(packed.getvalue(), media_type="application/zip", headers=headers)


@router.get("/drafts/{draft_id}/looks/{name}.svg", response_class=Response)
def look(draft_id: int, name: str, parts: Parts) -> Response:
    """A picture of the draft's own. It is shown as an image only; opened by itself it can do nothing either."""
    found = read_draft(parts, draft_id).files.get(f"looks/{name}.svg")
    if found is None:
        raise HTTPException(404, f"This draft has no look of its own called {name!r}.")
    headers = {"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; sandbox"}
    return Response(found, media_type="image/svg+xml", headers=headers)


@router.post("/drafts/{draft_id}/set", responses={409: {"model": Sorry}, 503: {"model": Sorry}})
async def set_for_class(draft_id: int, given: SetDraft, parts: Parts, teacher_id: TeacherId) -> DraftId:
    """Makes a version of the draft and opens a round with it. Gives the round.

    A fault, or a mark that the reference loses, is refused.
    """
    draft = await asyncio.to_thread(read_draft, parts, draft_id)
    try:
        version = await read_version(parts.crew, draft.files)
        found = (await parts.crew.rehearse(draft.files, 0))["rehearsal"]
    except ExerciseError as error:
        raise HTTPException(409, f"This draft cannot be set yet. {error.faults[0]}") from None
    except WorkerGoneError:
        raise HTTPException(503, ENDED) from None
    unfit = _unfit(found)
    if unfit:
        raise HTTPException(409, unfit)

    def write() -> int:
        slug = draft.slug or f"{_slug(version.opened.title)}-{draft_id}"
        with parts.store.transaction() as connection:
            version_id = version.keep(connection, slug, teacher_id)
            class_id = Classes.named(connection, given.class_name.strip(), teacher_id)
            return Rounds.open(connection, class_id, version_id)

    return DraftId(id=await asyncio.to_thread(write))


@router.delete("/drafts/{draft_id}", status_code=204)
def remove(draft_id: int, parts: Parts) -> None:
    """Takes a draft away with its history. Rounds that were set with it stay."""
    read_draft(parts, draft_id)
    with parts.store.transaction() as connection:
        Drafts.remove(connection, draft_id)


def _change(parts: Services, draft_id: int, at: int, files: dict[str, bytes], words: str) -> None:
    try:
        with parts.store.transaction() as connection:
            Drafts.change(connection, draft_id, at, files, words)
    except StaleDraftError:
        raise HTTPException(409, STALE) from None


async def _view(parts: Services, draft: Draft, scenario: int, trial: int) -> DraftView:
    found: dict[str, Any] = {"rehearsal": None, "trial": None}
    unplayed = None
    try:
        found = await parts.crew.rehearse(draft.files, scenario, trial)
    except WorkerGoneError:
        unplayed = ENDED
    except InternalError as error:  # a draft opens whatever is wrong, also with this program
        unplayed = str(error)
    if found["rehearsal"] is not None:
        await asyncio.to_thread(_say_unfit, parts, draft, found["rehearsal"])
    texts = {
        name: data.decode("utf-8-sig", "replace") for name, data in draft.files.items() if not name.endswith(".svg")
    }
    if found["trial"] is not None:
        found["trial"]["version_id"] = 0
    return DraftView(
        id=draft.id,
        at=draft.at,
        last=draft.last,
        words=draft.words if draft.at else None,
        next_words=draft.next_words,
        changed_at=draft.changed_at,
        title=title_of(draft.files.get("exercise.toml", b"")),
        texts=texts,
        pictures=sorted(name for name in draft.files if name.endswith(".svg") and is_part(name)),
        rehearsal=found["rehearsal"],
        unplayed=unplayed,
        trial=found["trial"],
    )


def _unfit(rehearsal: dict[str, Any]) -> str:
    """Why a draft cannot be set for a class; empty where it can."""
    if not rehearsal["playable"]:
        return "It cannot be played yet."
    if rehearsal["marks"] < rehearsal["out_of"]:
        earned = f"{rehearsal['marks']:g} of {rehearsal['out_of']:g} marks"
        return f"The reference earns {earned}. It must earn every mark."
    return "" if rehearsal["out_of"] else "There is nothing to mark yet: no scenario has a check."


def _say_unfit(parts: Services, draft: Draft, rehearsal: dict[str, Any]) -> None:
    with parts.store.transaction() as connection:
        Drafts.say_unfit(connection, draft.id, draft.at, _unfit(rehearsal))


def _slug(title: str) -> str:
    words = "".join(letter if letter.isascii() and letter.isalnum() else " " for letter in title.casefold()).split()
    return "-".join(words)[:60] or "exercise"
