"""A game by hand over a WebSocket: paces the player's process and carries inputs and news."""

from __future__ import annotations

import asyncio
import contextlib
import time
from collections.abc import Awaitable
from typing import Any, Final

from fastapi import HTTPException, WebSocket, WebSocketDisconnect
from pydantic import BaseModel, ValidationError

from ..core.words import FRAMES_PER_SECOND
from ..crew import Game, TooManyPlayersError, WorkerGoneError
from .access import person_of
from .answering import Router
from .deps import services_of
from .desk_play import playable_desk
from .drafts import playable_draft
from .live_views import HEARD, Begin, Did, Ended, Keep, Kept, Look, Pace, Refused, Show
from .plays import Playable

IDLE_SECONDS: Final = 300
"""Seconds without anything from the player after which a game ends."""
BEHIND_SECONDS: Final = 0.25
"""What a game is late by and still makes good; beyond, it goes on from where it is."""
LONGEST_MESSAGE: Final = 256 * 1024
"""Bytes of a message: a script of 64 KB, written as JSON."""
NAME: Final = "Played by hand"
TOO_MUCH: Final = "The script used more time or memory than a game may, and was ended. Begin again."

Word = Begin | Did | Pace | Keep | Show | Look

router = Router(tags=["live"])


@router.websocket("/api/exercises/{version_id}/live")
async def live(socket: WebSocket, version_id: int) -> None:
    """One player's games with an exercise, one after the other, until they leave or are idle."""
    person = person_of(socket)
    await _serve(socket, services_of(socket).plays.playable(version_id, person.teacher_id if person else None))


@router.websocket("/api/drafts/{draft_id}/live")
async def live_draft(socket: WebSocket, draft_id: int) -> None:
    """The same with a draft as it is now; what is played becomes the inputs of a scenario."""
    await _serve(socket, playable_draft(services_of(socket), draft_id))


@router.websocket("/api/desk/rounds/{round_id}/live")
async def live_desk(socket: WebSocket, round_id: int) -> None:
    """The same at a student's desk: without the reference, and only as scenarios begin that they may see."""
    person = person_of(socket)
    assert person is not None and person.student_id is not None  # the table lets nobody else come here
    await _serve(socket, playable_desk(services_of(socket), round_id, person.student_id))


async def _serve(socket: WebSocket, finding: Awaitable[Playable]) -> None:
    await socket.accept()
    try:
        playable = await finding
        async with services_of(socket).players.game() as game:
            await _Table(socket, game, playable).serve()
    except HTTPException as error:
        await _say(socket, Ended(why=str(error.detail)))
    except TooManyPlayersError as error:
        await _say(socket, Ended(why=str(error)))
    except WorkerGoneError:
        await _say(socket, Ended(why=TOO_MUCH))
    except WebSocketDisconnect:
        return
    with contextlib.suppress(RuntimeError, WebSocketDisconnect):
        await socket.close()


class _Table:
    """One player at their game: what they said, and how fast it runs."""

    def __init__(self, socket: WebSocket, game: Game, playable: Playable) -> None:
        self._socket = socket
        self._game = game
        self._playable = playable
        self._heard: asyncio.Queue[Word | None] = asyncio.Queue(maxsize=200)
        self._inputs: list[dict[str, Any]] = []
        self._speed: float = 1
        self._runs = False
        self._source = ""
        self._shown: list[str] = []
        self._last = time.monotonic()

    async def serve(self) -> None:
        """Plays until the player leaves or is idle."""
        listening = asyncio.create_task(self._listen())
        watching = asyncio.create_task(self._watch())
        try:
            await self._play()
        finally:
            for task in (listening, watching):
                task.cancel()
            for task in (listening, watching):
                with contextlib.suppress(asyncio.CancelledError, WebSocketDisconnect, RuntimeError):
                    await task

    async def _listen(self) -> None:
        """Takes what the browser says; nothing marks the end."""
        try:
            while True:
                text = await self._socket.receive_text()
                if len(text) > LONGEST_MESSAGE:
                    raise ValueError("a message that is too long")
                await self._heard.put(HEARD.validate_json(text))
        except (WebSocketDisconnect, ValidationError, ValueError, KeyError):
            await self._heard.put(None)

    async def _watch(self) -> None:
        """Tells the browser when the file behind the game changes."""
        async for change in self._playable.changes():
            await _say(self._socket, change)

    async def _play(self) -> None:
        due = time.monotonic()
        while True:
            if not self._runs or not self._speed:
                if not await self._next_word():
                    return
                due = time.monotonic()
                continue
            due += 1 / FRAMES_PER_SECOND / self._speed
            now = time.monotonic()
            if now - due > BEHIND_SECONDS:
                due = now
            if not await self._hear_until(due):
                return
            if not self._runs or not self._speed:
                continue
            inputs, self._inputs = self._inputs, []
            news = await self._game.next(inputs)
            await self._socket.send_json({"say": "frame", "news": news})
            self._runs = not news.get("over", False)

    async def _hear_until(self, due: float) -> bool:
        """Takes what is said until a moment; whether the player is still there."""
        while True:
            left = due - time.monotonic()
            if left <= 0 and self._heard.empty():
                return await self._awake()
            try:
                async with asyncio.timeout(max(left, 0.001)):
                    word = await self._heard.get()
            except TimeoutError:
                continue
            if not await self._take(word):
                return False

    async def _next_word(self) -> bool:
        try:
            async with asyncio.timeout(IDLE_SECONDS):
                word = await self._heard.get()
        except TimeoutError:
            return await self._awake()
        return await self._take(word)

    async def _awake(self) -> bool:
        if time.monotonic() - self._last < IDLE_SECONDS:
            return True
        await _say(self._socket, Ended(why="Nothing was done for five minutes, so the game ended. Begin again."))
        return False

    async def _take(self, word: Word | None) -> bool:
        self._last = time.monotonic()
        match word:
            case None:
                return False
            case Begin():
                await self._begin(word)
            case Did(inputs=inputs):
                self._inputs += [each.model_dump() for each in inputs]
                self._inputs = self._inputs[:200]
            case Pace(speed=speed):
                self._speed = speed
            case Keep() if self._source and self._playable.keeps:
                played, put = await self._game.keep(NAME)
                number = await self._playable.keep(self._source.encode("utf-8", "replace"), played, put)
                await _say(
                    self._socket, Kept(id=number, scenario=played if self._playable.shows_what_is_kept else None)
                )
            case Show(names=names):
                refused = await self._game.show(names)
                if refused:
                    await _say(self._socket, Refused(why=refused))
                else:
                    self._shown = names
            case Look() if self._source:
                trial = await self._game.look(NAME, self._shown, beside=self._playable.beside)
                trial["version_id"] = self._playable.version_id
                await self._socket.send_json({"say": "looked", "trial": trial})
        return True

    async def _begin(self, word: Begin) -> None:
        self._inputs, self._runs = [], False
        source = word.source
        why = await self._playable.refusal(word.scenario, source) if word.scenario is not None else ""
        if why:
            await _say(self._socket, Refused(why=why))
            return
        start = word.model_dump(include={"seed", "luck", "scenario", "frame", "again", "put"})
        packed = source.encode("utf-8", "replace")
        answer = await self._game.begin(self._playable.exercise, packed, start, self._shown)
        await self._playable.began()
        if "refused" in answer:
            await _say(self._socket, Refused(why=answer["refused"]))
            return
        if "problems" in answer:
            self._source = ""
            await self._socket.send_json({"say": "unread", "problems": answer["problems"]})
            return
        self._source = source
        began = {"say": "began", "source": source, "names": answer["names"], "seed": answer["seed"]}
        await self._socket.send_json({**began, "news": answer["news"]})
        self._runs = not answer["news"].get("over", False)


async def _say(socket: WebSocket, message: BaseModel) -> None:
    with contextlib.suppress(RuntimeError, WebSocketDisconnect):
        await socket.send_text(message.model_dump_json())
