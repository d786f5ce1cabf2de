"""What can be said of an exercise without any slip: marks for nothing, branches not gone down, pieces in the way."""

from __future__ import annotations

import ast
from dataclasses import dataclass
from typing import Any, Final

from ..judging import HELD, Prepared, judge_craft, play_all, tidy, total
from ..scene import PieceSpec
from ..script import Script
from ..script.tree import statements, unparse

FOR_NOTHING: Final = 0.2
"""Part of the marks that a starter may earn."""
CELLS: Final = 2
"""Cells of the grid on which ways are looked for, to a square."""


@dataclass(frozen=True, slots=True)
class Fitness:
    """The marks of reference, empty script and starter; checks that nothing breaks; branches; pieces."""

    out_of: float
    reference: float
    empty: float
    starter: float
    always_held: tuple[tuple[int, int], ...]
    """Checks that hold for the empty script and for the starter: only a planted slip can break them."""
    branches: tuple[dict[str, Any], ...]
    overlaps: tuple[tuple[str, str], ...]
    ways_round: tuple[dict[str, Any], ...]

    def as_json(self) -> dict[str, Any]:
        """The facts as the proof shows them, with a warning for each that is none of a fit exercise."""
        return {
            "out_of": tidy(self.out_of),
            "reference": tidy(self.reference),
            "empty": tidy(self.empty),
            "starter": tidy(self.starter),
            "always_held": [list(each) for each in self.always_held],
            "branches": list(self.branches),
            "overlaps": [list(each) for each in self.overlaps],
            "ways_round": list(self.ways_round),
            "warnings": self.warnings(),
        }

    def warnings(self) -> list[str]:
        """What a teacher should look at before setting the exercise."""
        found = []
        if self.reference < self.out_of:
            found.append(f"The reference earns {self.reference:g} of {self.out_of:g} marks; it must earn every mark.")
        for name, marks in (("An empty script", self.empty), ("The starter", self.starter)):
            if marks > FOR_NOTHING * self.out_of:
                found.append(f"{name} earns {marks:g} of {self.out_of:g} marks; a fifth is the most that is fair.")
        for branch in self.branches:
            found.append(f"No scenario goes down the branch of `{branch['test']}` in line {branch['line']}.")
        for a, b in self.overlaps:
            found.append(f"`{a}` and `{b}` overlap in the first frame.")
        for way in self.ways_round:
            found.append(f"`{way['piece']}` can walk round `{way['obstacle']}`.")
        return found


def fitness(prepared: Prepared) -> Fitness:
    """Plays the reference, an empty script and the starter, and looks at the scene."""
    reference, _ = _marks(prepared, prepared.exercise.reference)
    empty, held = _marks(prepared, "pass\n")
    starter, too = _marks(prepared, prepared.exercise.starter or "pass\n")
    return Fitness(
        prepared.out_of, reference, empty, starter, tuple(sorted(held & too)), tuple(_branches(prepared)),
        tuple(_overlaps(prepared)), tuple(_ways_round(prepared)),
    )  # fmt: skip


def _marks(prepared: Prepared, source: str) -> tuple[float, set[tuple[int, int]]]:
    reading = prepared.read(source)
    if not isinstance(reading, Script):
        return 0, set()
    played = play_all(prepared, prepared.weave(reading))
    verdicts = [verdict for run in played for verdict in run.verdicts]
    held = {(run.number, n) for run in played for n, verdict in enumerate(run.verdicts) if verdict.verdict == HELD}
    return total([*verdicts, *judge_craft(prepared.craft, reading, prepared.alias)]), held


def _branches(prepared: Prepared) -> list[dict[str, Any]]:
    """Branches of the reference whose first line never ran, over all trials of all scenarios."""
    ran: set[int] = set()
    for number, scenario in enumerate(prepared.scenarios):
        for trial, _ in enumerate(scenario.plans):
            ran |= set(prepared.reference_trace(prepared.scenarios[number], trial).lines)
    found = []
    for stmt in statements(prepared.reference.script.tree):
        node = stmt.node
        if not isinstance(node, (ast.If, ast.While, ast.For)):
            continue
        test = unparse(node.test if not isinstance(node, ast.For) else node.iter)
        if node.body[0].lineno not in ran:
            found.append({"line": node.lineno, "test": test, "branch": "yes"})
        otherwise = node.orelse
        if otherwise and not isinstance(otherwise[0], ast.If) and otherwise[0].lineno not in ran:
            found.append({"line": otherwise[0].lineno, "test": test, "branch": "no"})
    return found


def _overlaps(prepared: Prepared) -> list[tuple[str, str]]:
    """Pairs of visible pieces whose boxes overlap in the first frame; zones and what is attached may."""
    found = []
    pieces = [each for each in prepared.scene.piece if not each.zone and not each.hidden]
    for number, a in enumerate(pieces):
        for b in pieces[number + 1 :]:
            if a.motion.attached is None and b.motion.attached is None and _gap(a, b) < -0.001:
                found.append((a.name, b.name))
    return found


def _gap(a: PieceSpec, b: PieceSpec) -> float:
    return max(
        abs(a.at[0] - b.at[0]) - (a.size[0] + b.size[0]) / 2, abs(a.at[1] - b.at[1]) - (a.size[1] + b.size[1]) / 2
    )


def _ways_round(prepared: Prepared) -> list[dict[str, Any]]:
    """Solid pieces, as high or wide as a wall, that a piece steered both ways can get to the other side of."""
    scene = prepared.scene
    walkers = [each for each in scene.piece if each.motion.steered is not None and each.motion.steered.axes == "both"]
    walls = [each for each in scene.piece if each.solid and max(each.size) >= 3 * min(each.size)]
    found = []
    for walker in walkers:
        for wall in walls:
            upright = wall.size[1] > wall.size[0]
            if (upright and wall.size[1] < scene.height / 2) or (not upright and wall.size[0] < scene.width / 2):
                continue  # a shelf or a step, not a wall
            sides = []
            for way in (-1, 1):
                reach = (
                    (wall.size[0] + walker.size[0]) / 2 + 0.6 if upright else (wall.size[1] + walker.size[1]) / 2 + 0.6
                )
                x, y = wall.at
                sides.append((x + way * reach, y) if upright else (x, y + way * reach))
            if _connected(prepared, walker, sides[0], sides[1]):
                found.append({"piece": walker.name, "obstacle": wall.name})
    return found


def _connected(prepared: Prepared, walker: PieceSpec, start: tuple[float, float], goal: tuple[float, float]) -> bool:
    """Whether a piece can get from one place to another past all solid pieces: a flood over a grid of half squares."""
    scene = prepared.scene
    solid = [each for each in scene.piece if each.solid and each is not walker]

    def free(cell: tuple[int, int]) -> bool:
        x, y = cell[0] / CELLS, cell[1] / CELLS
        half_w, half_h = walker.size[0] / 2, walker.size[1] / 2
        inside = half_w <= x <= scene.width - half_w and half_h <= y <= scene.height - half_h
        return inside and all(
            abs(x - each.at[0]) >= half_w + each.size[0] / 2 or abs(y - each.at[1]) >= half_h + each.size[1] / 2
            for each in solid
        )

    first, last = ((round(x * CELLS), round(y * CELLS)) for x, y in (start, goal))
    if not free(first) or not free(last):
        return False
    seen, waiting = {first}, [first]
    while waiting:
        x, y = waiting.pop()
        if (x, y) == last:
            return True
        for cell in ((x + 1, y), (x - 1, y), (x, y + 1), (x, y - 1)):
            if cell not in seen and free(cell):
                seen.add(cell)
                waiting.append(cell)
    return False
