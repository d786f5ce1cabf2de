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
from .workshop_views import ProofView, ThroughView

KEPT: Final = 20
"""Proofs that are kept, the ones of drafts that were looked at last."""


@dataclass
class _Proof:
    digest: str
    fitness: dict[str, Any] = field(default_factory=dict)
    tried: list[dict[str, Any]] = field(default_factory=list)
    state: str = "waiting"
    task: asyncio.Task[None] | None = None


class Proofs:
    """The proofs of drafts, one planted slip after the other, so that changes never wait for long."""

    def __init__(self, crew: Crew) -> None:
        self._crew = crew
        self._known: dict[int, _Proof] = {}
        self._turn = asyncio.Lock()

    def of(self, draft_id: int, files: Mapping[str, bytes]) -> ProofView:
        """The proof of a draft with these files, which is begun where it is not known."""
        digest = digest_of(files)
        proof = self._known.pop(draft_id, None)
        if proof is None or proof.digest != digest:
            proof = _Proof(digest)
            proof.task = asyncio.create_task(self._prove(draft_id, proof, dict(files)))
        self._known[draft_id] = proof  # the one that was looked at last stands last
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

    def _goes_on(self, draft_id: int, proof: _Proof) -> bool:
        return self._known.get(draft_id) is proof

    async def _prove(self, draft_id: int, proof: _Proof, files: Mapping[str, bytes]) -> None:
        await asyncio.sleep(0)  # until it is known
        async with self._turn:
            if not self._goes_on(draft_id, proof):
                return
            try:
                exercise = await self._crew.open(files)
                proof.fitness = await self._crew.fitness(exercise)
                proof.state = "trying"
                for name in sorted(exercise.files):
                    if name.startswith(("also/", "wrong/")) and self._goes_on(draft_id, proof):
                        trouble = (await self._crew.try_companion(exercise, name))["trouble"]
                        proof.fitness["warnings"] += [trouble] if trouble else []
                for number, planted in enumerate(proof.fitness["planted"]):
                    if not self._goes_on(draft_id, proof):
                        return
                    proof.tried.append(await self._crew.try_planted(exercise, planted, number))
                proof.state = "done"
            except (ExerciseError, WorkerGoneError, HobError):
                proof.state = "not playable"


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
    )
