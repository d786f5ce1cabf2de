"""Script → Woven: two bodies, ready to run. The counting one is made statement by statement, and what did not change
since another script was woven is not made again.
"""

from __future__ import annotations

import ast
import functools
import warnings
from collections import Counter
from dataclasses import dataclass
from types import CodeType
from typing import Final

from .expressions import Test
from .read import Script
from .steady import steady
from .tree import names_bound_anywhere, walk
from .weave import Weaver

SCRIPT_FILE: Final = "<script>"
PIECES: Final = 1024
"""Statements whose woven code is kept: some ten scripts, each with its edits."""


@dataclass(frozen=True, eq=False)
class Woven:
    """A script ready to run: two bodies, each woven when it is first asked for."""

    script: Script
    known: frozenset[str]

    @functools.cached_property
    def recording(self) -> tuple[CodeType, ...]:
        """The body for a full trace, in one piece."""
        return (_compiled(self._recorder[1]),)

    @functools.cached_property
    def counting(self) -> tuple[CodeType, ...]:
        """The body for verdicts only: a piece for each statement of the top level. Raises `SyntaxError`."""
        own = _own(self.script.tree)
        direct = _direct(self.script.tree, own, self.known)
        return tuple(_counting(statement, own, direct) for statement in self.script.tree.body)

    @property
    def compiles(self) -> bool:
        """Whether Python can compile it: some of what it cannot, only compiling shows."""
        try:
            return self.counting is not None
        except SyntaxError:
            return False

    @functools.cached_property
    def lines(self) -> tuple[int, ...]:
        """Line of each counter of the recording body."""
        return tuple(self._recorder[0].counters)

    @functools.cached_property
    def tests(self) -> tuple[Test, ...]:
        """The tests of the recording body, by number."""
        return tuple(self._recorder[0].tests)

    @functools.cached_property
    def _recorder(self) -> tuple[Weaver, ast.Module]:
        own = _own(self.script.tree)
        direct = _direct(self.script.tree, own, self.known)
        weaver = Weaver(own, direct, record=True, text=self.script.text)
        return weaver, weaver.module(self.script.tree.body)

    def steady(self, name: str) -> tuple[str, ...] | None:
        """The names that a function reads, where it is steady."""
        if name not in self._steady:
            self._steady[name] = steady(self.script.tree, _own(self.script.tree), name)
        return self._steady[name]

    @functools.cached_property
    def _steady(self) -> dict[str, tuple[str, ...] | None]:
        return {}

    @functools.cached_property
    def waits(self) -> bool:
        """Whether any of its handlers can wait."""
        return self.script.straight or any(map(_can_wait, self.script.tree.body))


def weave(script: Script, known: frozenset[str]) -> Woven:
    """Weaves a script. `known` are the names of functions that the game gives to it."""
    return Woven(script, known)


def _compiled(tree: ast.Module) -> CodeType:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # what Python would only warn of is allowed
        code: CodeType = compile(tree, SCRIPT_FILE, "exec", dont_inherit=True)
        return code


def _own(tree: ast.Module) -> frozenset[str]:
    """The functions of a script that are defined once, at the top level, and whose names mean nothing else."""
    top = {node.name for node in tree.body if isinstance(node, ast.FunctionDef)}
    defined: Counter[str] = Counter()
    others: set[str] = set()
    for statement in tree.body:
        functions_there, names_there = _names_of(statement)
        defined.update(functions_there)
        others |= names_there
    return frozenset(each for each in top if defined[each] == 1 and each not in others)


def _direct(tree: ast.Module, own: frozenset[str], known: frozenset[str]) -> frozenset[str]:
    """The names of functions that can be called without a guard at the place of the call."""
    return own | (known - names_bound_anywhere(tree))


@functools.lru_cache(maxsize=PIECES)
def _names_of(statement: ast.stmt) -> tuple[tuple[str, ...], frozenset[str]]:
    """The functions that a statement defines, inner ones too, and the other names that it gives a value."""
    nodes = list(walk(statement))
    others = {
        node.id if isinstance(node, ast.Name) else node.arg
        for node in nodes
        if (isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)) or isinstance(node, ast.arg)
    }
    return tuple(node.name for node in nodes if isinstance(node, ast.FunctionDef)), frozenset(others)


@functools.lru_cache(maxsize=PIECES)
def _counting(statement: ast.stmt, own: frozenset[str], direct: frozenset[str]) -> CodeType:
    """One statement of the top level, woven for verdicts only: most edits of a script leave most of them alone."""
    return _compiled(Weaver(own, direct, record=False).module([statement]))


@functools.lru_cache(maxsize=PIECES)
def _can_wait(statement: ast.stmt) -> bool:
    """Whether a statement has anything in it that lets a handler wait."""
    return any(
        (isinstance(node, ast.Name) and node.id == "wait")
        or (isinstance(node, ast.Attribute) and node.attr == "walk")
        or _imports_time(node)
        for node in walk(statement)
    )


def _imports_time(node: ast.AST) -> bool:
    """Whether a node brings in `sleep`, under whichever name."""
    match node:
        case ast.Import(names=aliases):
            return any(alias.name == "time" for alias in aliases)
        case ast.ImportFrom(module="time"):
            return True
    return False
