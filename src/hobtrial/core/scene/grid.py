"""The broad phase: which boxes are near a box, without looking at all of them.

A uniform grid of square cells, as in Ericson, "Real-Time Collision Detection" (2005), 7.1. Boxes
that cover many cells stand in a list of their own.
"""

from __future__ import annotations

from collections.abc import Collection
from math import floor
from typing import Final

from .bodies import Body

CELL: Final = 2.0
"""Squares of a cell's side: a little more than most pieces, which so touch at most four cells."""
MOST_CELLS: Final = 32
"""Cells that one box may cover before it is kept apart."""
MANY: Final = 16
"""Bodies from which on a grid is quicker than looking at all of them."""

Span = tuple[int, int, int, int]


class Grid:
    """Bodies by the cells that their boxes touch."""

    def __init__(self) -> None:
        self._cells: dict[tuple[int, int], list[Body]] = {}
        self._spans: dict[int, Span | None] = {}
        self._large: list[Body] = []

    def put(self, body: Body) -> None:
        """Adds a body, or moves it to the cells where it is now."""
        span = _span(body.x, body.y, body.half_width, body.half_height)
        index = body.index
        if index in self._spans:
            if self._spans[index] == span:
                return
            self.take(body)
        self._spans[index] = span
        if span is None:
            self._large.append(body)
            return
        for x in range(span[0], span[1] + 1):
            for y in range(span[2], span[3] + 1):
                self._cells.setdefault((x, y), []).append(body)

    def take(self, body: Body) -> None:
        """Takes a body out."""
        if body.index not in self._spans:
            return
        span = self._spans.pop(body.index)
        if span is None:
            self._large.remove(body)
            return
        for x in range(span[0], span[1] + 1):
            for y in range(span[2], span[3] + 1):
                self._cells[x, y].remove(body)

    def near(self, x: float, y: float, half_width: float, half_height: float) -> Collection[Body]:
        """The bodies that may overlap a box, each once, in no order."""
        return self._in(_span(x, y, half_width, half_height))

    def beside(self, body: Body) -> Collection[Body]:
        """The bodies that may overlap one that was put in, itself among them, each once, in no order."""
        return self._in(self._spans[body.index])

    def _in(self, span: Span | None) -> Collection[Body]:
        cells = self._cells
        if span is None:
            found = {body.index: body for cell in cells.values() for body in cell}
        elif span[0] == span[1] and span[2] == span[3]:
            cell = cells.get((span[0], span[2]), [])
            return [*cell, *self._large] if self._large else cell
        else:
            found = {
                body.index: body
                for x in range(span[0], span[1] + 1)
                for y in range(span[2], span[3] + 1)
                for body in cells.get((x, y), ())
            }
        for body in self._large:
            found[body.index] = body
        return found.values()


def _span(x: float, y: float, half_width: float, half_height: float) -> Span | None:
    """First and last cell in both directions; nothing where they are too many."""
    left, right = floor((x - half_width) / CELL), floor((x + half_width) / CELL)
    low, high = floor((y - half_height) / CELL), floor((y + half_height) / CELL)
    if (right - left + 1) * (high - low + 1) > MOST_CELLS:
        return None
    return left, right, low, high
