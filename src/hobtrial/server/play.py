"""The Play screen's data: an exercise to play, and a kept game as a trial."""

from __future__ import annotations

import base64
from typing import Annotated, Any, Final

from fastapi import HTTPException, Query, Request
from fastapi.responses import JSONResponse, Response

from ..core.exercise import BRIEF, REFERENCE, STARTER, schema
from ..core.reporting import ProblemReport
from ..core.script import words_used
from ..core.words import UsageError
from ..crew import DESK, WorkerGoneError
from .access import person_of
from .answering import Router
from .building import sentence
from .checking import everything_of, scenario_names
from .deps import PlayParts
from .desk_views import DeskChecked, GivenText, TextToCheck, TextToPlay
from .plays import NO_SCENARIO
from .trial_views import SceneView, TrialView, VariableView
from .views import KeptView, PlayView, Sorry

SVG_HEADERS: Final = {"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; sandbox"}
"""A picture of an exercise's own can do nothing, opened by itself either."""

router = Router(prefix="/api", tags=["play"])


@router.get("/exercises/{version_id}/play", responses={404: {"model": Sorry}})
async def playing(
    version_id: int,
    parts: PlayParts,
    request: Request,
    submission_id: Annotated[int, Query(ge=1, lt=2**31)] | None = None,
) -> PlayView:
    """An exercise to play, with the script to begin with: a student's try, or the starter."""
    person = person_of(request)
    playable = await parts.plays.playable(version_id)
    exercise = playable.exercise
    return PlayView(
        version_id=version_id,
        title=exercise.title,
        brief=exercise.text(BRIEF),
        starter=exercise.text(STARTER),
        straight=exercise.straight,
        scenarios=scenario_names(exercise, hidden_too=True),
        script=await parts.plays.script(version_id, submission_id, person.teacher_id if person else None),
        scene=SceneView.model_validate(exercise.scene),
        variables=[VariableView(**each) for each in exercise.variables],
        words=list(words_used(exercise.text(REFERENCE))),
    )


@router.get("/exercise.schema.json")
def exercise_schema() -> dict[str, Any]:
    """The JSON Schema of `exercise.toml`."""
    return schema()


@router.get("/exercises/{version_id}/looks/{name}.svg", responses={404: {"model": Sorry}})
async def look(version_id: int, name: str, parts: PlayParts) -> Response:
    """A picture of an exercise's own. It is shown as an image only; opened by itself it can do nothing either."""
    playable = await parts.plays.playable(version_id)
    packed = playable.exercise.files.get(f"looks/{name}.svg")
    if packed is None:
        raise HTTPException(404, f"This exercise has no look of its own called {name!r}.")
    return Response(base64.b64decode(packed), media_type="image/svg+xml", headers=SVG_HEADERS)


@router.get("/plays/{play_id}", responses={404: {"model": Sorry}})
async def kept(play_id: int, parts: PlayParts) -> KeptView:
    """A game that was kept: its exercise and its script."""
    game = await parts.plays.kept(play_id)
    playable = await parts.plays.playable(game.version_id)
    return KeptView(
        id=play_id,
        version_id=game.version_id,
        title=playable.exercise.title,
        source=game.source.decode("utf-8", "replace"),
    )


@router.get("/plays/{play_id}/trial", response_model=TrialView, responses={503: {"model": Sorry}})
async def kept_trial(play_id: int, parts: PlayParts) -> JSONResponse:
    """A game that was kept, played again as a trial beside the reference."""
    game = await parts.plays.kept(play_id)
    playable = await parts.plays.playable(game.version_id)
    try:
        replay: dict[str, Any] = await parts.crew.replay(playable.exercise, game.source, 0, game.scenario, put=game.put)
        replay["version_id"] = game.version_id
    except WorkerGoneError:
        raise HTTPException(503, "This game took too much time or memory to be shown again.") from None
    return JSONResponse(replay)


@router.post("/exercises/{version_id}/check", responses={404: {"model": Sorry}})
async def check(version_id: int, given: TextToCheck, parts: PlayParts) -> DeskChecked:
    """Runs a text against all scenarios, for a teacher: everything is shown, and nothing is kept."""
    playable = await parts.plays.playable(version_id)
    exercise, source = playable.exercise, given.source.encode()
    if given.explained:
        return everything_of(exercise, source, await parts.crew.mark(exercise, DESK, source), [])
    return everything_of(exercise, source, *await parts.crew.check(exercise, source), explained=False)


@router.post("/exercises/{version_id}/read", responses={404: {"model": Sorry}})
async def read(version_id: int, given: GivenText, parts: PlayParts) -> list[ProblemReport]:
    """What of a text cannot be read; nothing where the machine could not look."""
    playable = await parts.plays.playable(version_id)
    try:
        return [ProblemReport(**each) for each in await parts.crew.read(playable.exercise, given.source.encode())]
    except WorkerGoneError:
        return []


@router.post(
    "/exercises/{version_id}/trial", response_model=TrialView, responses={each: {"model": Sorry} for each in (422, 503)}
)
async def trial_of_text(version_id: int, given: TextToPlay, parts: PlayParts) -> JSONResponse:
    """A run of a text in a scenario, beside the reference; nothing is kept."""
    playable = await parts.plays.playable(version_id)
    if given.scenario >= len(playable.exercise.scenarios):
        raise HTTPException(404, NO_SCENARIO)
    try:
        source = given.source.encode()
        trial = await parts.crew.replay(playable.exercise, source, given.scenario, shown=given.show)
    except WorkerGoneError:
        raise HTTPException(503, "This run took too much time or memory to be shown.") from None
    except UsageError as error:
        raise HTTPException(422, sentence(error)) from None
    return JSONResponse({**trial, "version_id": version_id})
