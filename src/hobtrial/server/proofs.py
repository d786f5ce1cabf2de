"""Proofs that run behind a draft: begun when somebody looks, stopped by the next change."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final

from ..core.exercise import ExerciseError
from ..core.words import HobError
from ..crew import Crew, WorkerGoneError, digest_of
from ..store import AwayError, Drafts, Store
from ..store.store import Row
from .workshop_views import ProofView, ThroughView

KEPT: Final = 20
"""Proofs that are kept, the ones of drafts that were looked at last."""
GIVEN_UP_SECONDS: Final = 60.0
"""After so long without a word of it, a proof of another process is begun again: one planted slip takes less."""


@dataclass
class _Proof:
    digest: str
    fitness: dict[str, Any] = field(default_factory=dict)
    tried: list[dict[str, Any]] = field(default_factory=list)
    state: str = "waiting"
    task: asyncio.Task[None] | None = None

    @property
    def whole(self) -> dict[str, Any]:
        """What the records keep of it."""
        return {"fitness": self.fitness, "tried": self.tried}


class Proofs:
    """The proofs of drafts, one planted slip after the other, so that changes never wait for long.

    How far each has come stands in the records, so that every process of a server shows the same.
    """

    def __init__(self, crew: Crew, store: Store) -> None:
        self._crew = crew
        self._store = store
        self._known: dict[int, _Proof] = {}
        self._turn = asyncio.Lock()

    async def of(self, draft_id: int, files: Mapping[str, bytes]) -> ProofView:
        """The proof of a draft with these files, which is begun where it is not known."""
        digest = digest_of(files)
        proof = self._known.get(draft_id)
        if proof is None or proof.digest != digest:
            row = await asyncio.to_thread(self._read, draft_id)
            if row is not None and row["digest"] == digest and _is_alive(row):
                return _view(_Proof(digest, row["whole"]["fitness"], row["whole"]["tried"], row["state"]))
            proof = _Proof(digest)
            self._known.pop(draft_id, None)
            self._known[draft_id] = proof
            await asyncio.to_thread(self._begin, draft_id, proof)
            proof.task = asyncio.create_task(self._prove(draft_id, proof, dict(files)))
        else:
            self._known[draft_id] = self._known.pop(draft_id)  # the one that was looked at last stands last
        while len(self._known) > KEPT:
            del self._known[next(iter(self._known))]
        return _view(proof)

    async def end(self) -> None:
        """Lets the proof that runs come to the end of its planted slip, and begins no further one."""
        proofs, self._known = list(self._known.values()), {}
        for proof in proofs:
            if proof.task is not None:
                with contextlib.suppress(Exception):
                    await proof.task

    def _read(self, draft_id: int) -> Row | None:
        with self._store.transaction() as connection:
            return Drafts.proof(connection, draft_id)

    def _begin(self, draft_id: int, proof: _Proof) -> None:
        with self._store.transaction() as connection:
            Drafts.begin_proof(connection, draft_id, proof.digest, proof.state, proof.whole)

    def _said(self, draft_id: int, proof: _Proof) -> bool:
        with self._store.transaction() as connection:
            return Drafts.prove_on(connection, draft_id, proof.digest, proof.state, proof.whole)

    async def _goes_on(self, draft_id: int, proof: _Proof) -> bool:
        """Says how far it has come. Whether anybody still wants it."""
        if self._known.get(draft_id) is not proof:
            return False
        return await asyncio.to_thread(self._said, draft_id, proof)

    async def _prove(self, draft_id: int, proof: _Proof, files: Mapping[str, bytes]) -> None:
        async with self._turn:
            try:
                if await self._goes_on(draft_id, proof):
                    await self._try_all(draft_id, proof, files)
            except AwayError:
                self._known.pop(draft_id, None)  # whoever looks once the records are there begins it again
            except (ExerciseError, WorkerGoneError, HobError):
                proof.state = "not playable"
                with contextlib.suppress(AwayError):
                    await asyncio.to_thread(self._said, draft_id, proof)

    async def _try_all(self, draft_id: int, proof: _Proof, files: Mapping[str, bytes]) -> None:
        exercise = await self._crew.open(files)
        proof.fitness = await self._crew.fitness(exercise)
        proof.state = "trying"
        for name in sorted(exercise.files):
            if name.startswith(("also/", "wrong/")):
                if not await self._goes_on(draft_id, proof):
                    return
                trouble = (await self._crew.try_companion(exercise, name))["trouble"]
                proof.fitness["companions"] = proof.fitness.get("companions", 0) + 1
                proof.fitness["astray"] = proof.fitness.get("astray", []) + ([trouble] if trouble else [])
        for number, planted in enumerate(proof.fitness["planted"]):
            if not await self._goes_on(draft_id, proof):
                return
            proof.tried.append(await self._crew.try_planted(exercise, planted, number))
        proof.state = "done"
        await self._goes_on(draft_id, proof)


def _is_alive(row: Row) -> bool:
    """Whether a proof that another process said something of is done, or still goes on there."""
    return row["state"] in ("done", "not playable") or float(row["quiet"]) < GIVEN_UP_SECONDS


def _view(proof: _Proof) -> ProofView:
    verdicts = [each["verdict"] for each in proof.tried]
    through = [
        ThroughView(
            number=number,
            slip=each["slip"],
            line=each["line"],
            before=next((change["before"] or "" for change in each["changes"]), ""),
            after=next((change["after"] or "" for change in each["changes"]), ""),
            expect=each["expect"],
            row=each["row"],
        )
        for number, each in enumerate(proof.tried)
        if each["verdict"] == "through"
    ]
    return ProofView(
        state=proof.state,  # type: ignore[arg-type]
        planted=len(proof.fitness.get("planted", [])),
        tried=len(proof.tried),
        caught=verdicts.count("caught"),
        same=verdicts.count("same"),
        through=through,
        starter=proof.fitness.get("starter", 0),
        empty=proof.fitness.get("empty", 0),
        out_of=proof.fitness.get("out_of", 0),
        warnings=proof.fitness.get("warnings", []),
        companions=proof.fitness.get("companions", 0),
        astray=proof.fitness.get("astray", []),
    )
