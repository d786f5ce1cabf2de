"""The Play screen's data: an exercise to play, and a kept game as a trial."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, HTTPException
from fastapi.responses import JSONResponse

from ..core.exercise import BRIEF
from ..crew import WorkerGoneError
from .deps import PlayParts
from .views import KeptView, PlayView, SceneView, Sorry, TrialView, VariableView

router = APIRouter(prefix="/api", tags=["play"])


@router.get("/exercises/{version}/play", responses={404: {"model": Sorry}})
async def playing(version: int, parts: PlayParts, try_id: int | None = None) -> PlayView:
    """An exercise to play, with the script to begin with: a student's try, or the starter."""
    playable = await parts.plays.playable(version)
    exercise = playable.exercise
    return PlayView(
        version=version,
        title=exercise.title,
        brief=exercise.text(BRIEF),
        script=await parts.plays.script(version, try_id),
        scene=SceneView.model_validate(exercise.scene),
        variables=[VariableView(**each) for each in exercise.variables],
    )


@router.get("/plays/{number}", responses={404: {"model": Sorry}})
async def kept(number: int, parts: PlayParts) -> KeptView:
    """A game that was kept: its exercise and its script."""
    game = await parts.plays.kept(number)
    playable = await parts.plays.playable(game.version)
    return KeptView(
        id=number, version=game.version, title=playable.exercise.title, source=game.source.decode("utf-8", "replace")
    )


@router.get("/plays/{number}/trial", response_model=TrialView, responses={503: {"model": Sorry}})
async def kept_trial(number: int, parts: PlayParts) -> JSONResponse:
    """A game that was kept, played again as a trial beside the reference."""
    game = await parts.plays.kept(number)
    playable = await parts.plays.playable(game.version)
    try:
        replay: dict[str, Any] = await parts.crew.replay(playable.exercise, game.source, 0, game.scenario)
    except WorkerGoneError:
        raise HTTPException(503, "This game took too much time or memory to be shown again.") from None
    return JSONResponse(replay)
