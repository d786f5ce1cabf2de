"""One change planted into a right script, and how often what is told first is about it.

The changes know nothing of the slips. Without arguments into right scripts of the sample class; else into any scripts,
which should not be ours.  python -m bench.planting [EXERCISE-FOLDER SCRIPT…] [--verbose]
"""

from __future__ import annotations

import ast
import copy
import difflib
import random
import re
import sys
from collections import Counter
from collections.abc import Callable, Iterator
from itertools import islice
from pathlib import Path
from typing import Any

from bench import short
from hobtrial.core.judging import Prepared, open_exercise
from hobtrial.core.reporting import Report, mark
from hobtrial.core.reporting.making import report
from hobtrial.demo import exercise_folder, exercises, tries

A_SCRIPT = 3 if short() else 12
"""Changes planted into each script."""
SCRIPTS = 2 if short() else 4
"""Right scripts of each exercise."""
SIGNS: dict[type[ast.cmpop], tuple[type[ast.cmpop], ...]] = {
    ast.GtE: (ast.Gt, ast.LtE),
    ast.Gt: (ast.GtE, ast.Lt),
    ast.Lt: (ast.LtE, ast.Gt),
    ast.LtE: (ast.Lt, ast.GtE),
    ast.Eq: (ast.NotEq,),
    ast.NotEq: (ast.Eq,),
}
KEPT = (ast.FunctionDef, ast.ClassDef, ast.Import, ast.ImportFrom)
"""Statements that stay where they are."""
Change = Callable[[ast.AST], None]


def planted(source: str) -> Iterator[tuple[str, str]]:
    """Every change of a script: what it is, and the text with it. The script is as `ast.unparse` writes it."""
    tree = ast.parse(source)
    names = sorted(
        {node.id for node in ast.walk(tree) if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)}
    )
    for index, node in enumerate(ast.walk(tree)):
        for what, change in (*_in_expressions(node, names), *_in_blocks(node)):
            made = copy.deepcopy(tree)
            change(list(ast.walk(made))[index])
            yield what, ast.unparse(ast.fix_missing_locations(made))


def _in_expressions(node: ast.AST, names: list[str]) -> Iterator[tuple[str, Change]]:
    """Another sign, number or name."""
    match node:
        case ast.Compare(ops=[op]):
            for sign in SIGNS.get(type(op), ()):
                yield f"{type(op).__name__} to {sign.__name__}", _set("ops", [sign()])
        case ast.Constant(value=int() | float() as value) if not isinstance(value, bool):
            for step in (1, -1):
                yield f"{value} to {value + step}", _set("value", value + step)
        case ast.BoolOp(op=op):
            yield "and for or", _set("op", ast.Or() if isinstance(op, ast.And) else ast.And())
        case ast.AugAssign(op=ast.Add()):
            yield "minus", _set("op", ast.Sub())
        case ast.AugAssign(op=ast.Sub()):
            yield "plus", _set("op", ast.Add())
        case ast.Name(id=name) if name in names and len(names) > 1:
            right = names[(names.index(name) + 1) % len(names)]
            yield f"{name} to {right}", _set("id", right)


def _in_blocks(node: ast.AST) -> Iterator[tuple[str, Change]]:
    """A line left out, two exchanged, one pulled into a branch or pushed out of it, a change that sets."""
    for field in ("body", "orelse"):
        found = getattr(node, field, None)
        block: list[ast.stmt] = found if isinstance(found, list) else []
        for index, stmt in enumerate(block):
            if isinstance(stmt, KEPT):
                continue
            following = block[index + 1] if index + 1 < len(block) else None
            yield f"without {ast.unparse(stmt).splitlines()[0]}", _at(field, index, [])
            if isinstance(stmt, ast.AugAssign):
                yield "set for change", _at(field, index, [ast.Assign([stmt.target], stmt.value)])
            if following is not None and not isinstance(following, KEPT):
                yield "exchanged", _at(field, index, [following, stmt], 2)
                if isinstance(stmt, ast.If):
                    longer = ast.If(stmt.test, [*stmt.body, following], stmt.orelse)
                    yield "pulled in", _at(field, index, [longer], 2)
            if isinstance(stmt, ast.If) and len(stmt.body) > 1:
                yield "pushed out", _at(field, index, [ast.If(stmt.test, stmt.body[:-1], stmt.orelse), stmt.body[-1]])


def _set(field: str, value: Any) -> Change:
    """Puts a value in a field."""
    return lambda node: setattr(node, field, value)


def _at(field: str, index: int, statements: list[ast.stmt], number: int = 1) -> Change:
    """Puts statements in the place of some others; an empty block passes."""

    def change(node: ast.AST) -> None:
        block = getattr(node, field)
        block[index : index + number] = copy.deepcopy(statements)
        if not block and field == "body":
            block.append(ast.Pass())

    return change


def told(made: Report, before: str, after: str) -> str:
    """Where the first finding is: at the changed line or about its names, open, or elsewhere."""
    if not made.findings:
        return "harmless"
    first = made.findings[0]
    if first.confidence == "open":
        return "open"
    old, new = before.splitlines(), after.splitlines()
    lines: set[int] = set()
    words: set[str] = set()
    for kind, a, b, c, d in difflib.SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if kind != "equal":
            lines |= set(range(c, d + 2))
            words |= set(re.findall(r"[A-Za-z_]\w+", " ".join((*old[a:b], *new[c:d]))))
    about = set(re.findall(r"[A-Za-z_]\w+", f"{first.pointer} {first.about}"))
    return "there" if lines & set(first.lines) or words & about else first.confidence


def _is_right(made: Report) -> bool:
    return made.marks == made.out_of and made.status == "marked"


def scripts() -> Iterator[tuple[Prepared, str]]:
    """Exercises and scripts, of the sample class or as they were given."""
    given = [Path(each) for each in sys.argv[1:] if not each.startswith("--")]
    if given:
        files = {str(each.relative_to(given[0])): each.read_bytes() for each in given[0].rglob("*") if each.is_file()}
        ready = open_exercise(files)
        yield from ((ready, path.read_text("utf-8")) for path in given[1:])
        return
    for name in exercises()[:1] if short() else exercises():
        ready = open_exercise(exercise_folder(name))
        sources = dict.fromkeys(each.source for each in tries(name))
        right = (each for each in sources if _is_right(mark(ready, "a.py", each).report))
        yield from ((ready, each) for each in islice(right, SCRIPTS))


def main() -> None:
    """Plants, marks and counts."""
    drawn = random.Random(1)
    count: Counter[str] = Counter()
    for ready, source in scripts():
        before = ast.unparse(ast.parse(source))
        every = list(planted(source))
        for what, after in drawn.sample(every, min(A_SCRIPT, len(every))):
            made = report(ready, "a.py", after)
            where = told(made, before, after)
            count[where] += 1
            if "--verbose" in sys.argv and where in ("likely", "shown"):
                print(f"{what}: {where} {made.findings[0].slip}: {made.findings[0].pointer}")
    harmful = max(sum(count.values()) - count["harmless"], 1)
    print(f"{count['there'] / harmful:.0%} of {harmful} planted mistakes are told where they are")
    print(f"{count['open'] / harmful:.0%} are left open")
    print(f"{count['likely'] / harmful:.1%} are likely, and {count['shown'] / harmful:.1%} are shown, somewhere else")


if __name__ == "__main__":
    main()
