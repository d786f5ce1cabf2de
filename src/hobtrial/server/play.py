"""The Play screen's data: an exercise to play, and a kept game as a trial."""

from __future__ import annotations

import base64
from typing import Annotated, Any

from fastapi import APIRouter, HTTPException, Query, Request
from fastapi.responses import JSONResponse, Response

from ..core.exercise import BRIEF, schema
from ..crew import WorkerGoneError
from .access import person_of
from .deps import PlayParts
from .trial_views import SceneView, TrialView, VariableView
from .views import KeptView, PlayView, Sorry

router = APIRouter(prefix="/api", tags=["play"])


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
        script=await parts.plays.script(version_id, submission_id, person.teacher_id if person else None),
        scene=SceneView.model_validate(exercise.scene),
        variables=[VariableView(**each) for each in exercise.variables],
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
    headers = {"content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; sandbox"}
    return Response(base64.b64decode(packed), media_type="image/svg+xml", headers=headers)


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
        replay: dict[str, Any] = await parts.crew.replay(playable.exercise, game.source, 0, game.scenario)
        replay["version_id"] = game.version_id
    except WorkerGoneError:
        raise HTTPException(503, "This game took too much time or memory to be shown again.") from None
    return JSONResponse(replay)
