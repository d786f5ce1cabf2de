"""What a slip may look at: the script, its runs, and what the exercise and the reference show.

Everything is read off once for a script and kept. Names of the reference are given as the script
calls them, where the exercise lists them.
"""

from __future__ import annotations

import ast
import functools
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

from ..judging import Prepared
from ..script import DIRECT, Script, Woven, reread
from ..script.tree import (
    Statement,
    alone,
    calls,
    functions,
    guards_of,
    handlers,
    negated,
    renamed,
    statements,
    targets,
    unparse,
    walk,
)
from ..trial import GAME_NAMES, Observable, Trace
from .asked import Use, numbers_asked, texts_asked


@dataclass(frozen=True, eq=False)
class Subject:
    """A script that lost marks. `traces` are the full traces of its broken scenarios, `theirs` the reference's."""

    prepared: Prepared
    script: Script
    traces: dict[int, Trace]
    theirs: dict[int, Trace]
    partings: dict[int, dict[Observable, int]]
    """For each of them, on what the broken checks are about, the frame in which the two part."""
    parts: dict[int, int]
    """For each of them the first of these frames."""
    broken: frozenset[Observable] = field(default_factory=frozenset)
    """What the broken checks are about."""
    probes: frozenset[int] = frozenset()
    """The broken scenarios in which an edit must mend something: a few for each thing that went wrong."""

    @functools.cached_property
    def last_parting(self) -> dict[int, int]:
        """For each broken scenario the last frame in which a part of what is broken parts; else that of `parts`."""
        return {number: max(found.values(), default=self.parts[number]) for number, found in self.partings.items()}

    def edited(self, text: str) -> Woven | None:
        """The script with another text, woven; nothing where that is not Python. It is made once."""
        if text not in self._edited:
            script = reread(text, self.script)
            woven = self.prepared.weave(script) if script is not None else None
            self._edited[text] = woven if woven is not None and woven.compiles else None
        return self._edited[text]

    @functools.cached_property
    def _edited(self) -> dict[str, Woven | None]:
        return {}

    @functools.cached_property
    def functions(self) -> list[ast.FunctionDef]:
        """The script's functions, in file order."""
        return functions(self.script.tree)

    @functools.cached_property
    def statements(self) -> list[Statement]:
        """All statements that have their lines for themselves, in file order."""
        return [stmt for stmt in statements(self.script.tree) if alone(self.script, stmt.node)]

    @functools.cached_property
    def reference(self) -> Script:
        """The reference."""
        return self.prepared.reference.script

    @functools.cached_property
    def reference_statements(self) -> list[Statement]:
        """The reference's statements."""
        return list(statements(self.reference.tree))

    @functools.cached_property
    def asked(self) -> list[str]:
        """The variables that the exercise lists."""
        return [each.name for each in self.prepared.exercise.settings.variable]

    @functools.cached_property
    def labels(self) -> list[str]:
        """The labels that the exercise wants on the scoreboard."""
        listed = [each.label for each in self.prepared.exercise.settings.variable if each.label]
        return list(dict.fromkeys([*listed, *(what.name for what in self.broken if what.what == "board")]))

    @functools.cached_property
    def texts(self) -> dict[Use, list[str]]:
        """The texts that the exercise asks for, by what they are there for."""
        return {**texts_asked(self.prepared), "label": self.labels}

    @functools.cached_property
    def numbers(self) -> frozenset[Any]:
        """The numbers that the exercise speaks of."""
        return numbers_asked(self.prepared)

    @functools.cached_property
    def given(self) -> frozenset[str]:
        """The names of scene, game and Python."""
        return GAME_NAMES | DIRECT | self.prepared.taken | {"str", "list", "dict", "set", "tuple"}

    @functools.cached_property
    def pieces(self) -> list[str]:
        """The pieces of the scene."""
        return [piece.name for piece in self.prepared.scene.piece]

    @functools.cached_property
    def facts(self) -> list[str]:
        """The facts of the scene."""
        return [fact.name for fact in self.prepared.scene.fact]

    @functools.cached_property
    def function_names(self) -> frozenset[str]:
        """The names of the script's functions."""
        return frozenset(each.name for each in self.functions)

    @functools.cached_property
    def variables(self) -> list[str]:
        """The script's own variables: top-level names and those of `game` and of pieces that it sets."""
        tree = self.script.tree
        held = [
            f"{node.value.id}.{node.attr}"
            for node in walk(tree)
            if isinstance(node, ast.Attribute)
            and isinstance(node.ctx, ast.Store)
            and isinstance(node.value, ast.Name)
            and node.attr not in PROPERTIES
        ]
        classes = {node.name for node in walk(tree) if isinstance(node, ast.ClassDef)}
        imported = {
            alias.asname or alias.name
            for node in walk(tree)
            if isinstance(node, (ast.Import, ast.ImportFrom))
            for alias in node.names
        }
        plain = self.script.globals - self.function_names - classes - imported
        return [*sorted(plain), *dict.fromkeys(held)]

    @functools.cached_property
    def kinds(self) -> dict[str, set[str]]:
        """For each variable, globals and locals, the kinds of values that it had in the runs."""
        found: dict[str, set[str]] = {}
        for trace in self.traces.values():
            for change in trace.changes:
                kind = type(change.new).__name__
                found.setdefault(change.name.split(".")[-1], set()).add("number" if kind in ("int", "float") else kind)
        return found

    @functools.cached_property
    def as_here(self) -> dict[str, str]:
        """For each variable of the reference that the script calls otherwise, its name here."""
        found: dict[str, str] = {}
        for trace in self.traces.values():
            found |= {name: own for name, own in trace.bound.items() if own and own != name}
        ref_names = {node.id for node in walk(self.reference.tree) if isinstance(node, ast.Name)}
        return {name: own for name, own in found.items() if name in ref_names}

    def here(self, text: str) -> str:
        """A piece of the reference with the script's own names for the listed variables."""
        return renamed(text, self.as_here)

    def known(self, text: str) -> bool:
        """Whether all names of a piece of script are there in the script."""
        names = {node.id for node in walk(ast.parse(text)) if isinstance(node, ast.Name)}
        return names <= (self.script.globals | self.given | {"True", "False", "None"} | set(self.facts))

    def known_in(self, node: ast.AST) -> bool:
        """Whether the script has all that a part of the reference speaks of, save what that binds itself."""
        bound = {each.arg for each in walk(node) if isinstance(each, ast.arg)} | {
            each.id for each in walk(node) if isinstance(each, ast.Name) and isinstance(each.ctx, ast.Store)
        }
        helpers = {each.name for each in functions(self.reference.tree)}
        names = {each.id for each in walk(node) if isinstance(each, ast.Name)} - bound - helpers
        here = {self.as_here.get(name, name).split(".")[0] for name in names}
        return here <= (self.script.globals | self.given | set(self.facts))

    @functools.cached_property
    def conditions(self) -> dict[str, list[str]]:
        """For each thing that the reference stores or causes, the tests on the way there, as the script calls them."""
        found: dict[str, list[str]] = {}
        for stmt in self.reference_statements:
            tests = guards_of(stmt)
            if tests:
                for target in targets(stmt.node):
                    known = found.setdefault(self.here(target), [])
                    known += [text for text in map(self.here, tests) if text not in known]
        return found

    @functools.cached_property
    def reference_tests(self) -> list[str]:
        """The tests of the reference and their opposites, as the script calls their variables."""
        tests = [
            node
            for stmt in self.reference_statements
            if isinstance(stmt.node, (ast.If, ast.While))
            for node in (stmt.node.test, *(stmt.node.test.values if isinstance(stmt.node.test, ast.BoolOp) else ()))
        ]
        return list(dict.fromkeys(self.here(text) for node in tests for text in (unparse(node), negated(node))))

    @functools.cached_property
    def restarts(self) -> list[ast.FunctionDef]:
        """The functions that begin the game again."""
        return [each for each in self.functions if calls(each, "again")]

    def runs_of(self, line: int) -> int:
        """How often a line ran in the broken trials at most."""
        return max((sum(span[2] for span in trace.lines.get(line, ())) for trace in self.traces.values()), default=0)

    def handlers(self) -> Iterator[tuple[ast.FunctionDef, ast.expr]]:
        """Each handler with each of its events."""
        return handlers(self.functions)

    @functools.cached_property
    def reference_events(self) -> list[str]:
        """The events that the reference waits for, as text."""
        return list(dict.fromkeys(unparse(event) for _, event in handlers(functions(self.reference.tree))))


PROPERTIES = frozenset("x y facing look visible opacity size speed vx vy carrying name kind".split())
"""What a piece has by itself."""
