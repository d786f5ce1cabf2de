"""What the brief does not say and a check asks for: a student could not know it."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator

from ..judging import Prepared
from .notices import SHOWN, texts_of
from .places import Notice, Place


def missing_in_brief(prepared: Prepared) -> Iterator[Notice]:
    """Texts that checks ask for and names of listed variables that the brief lacks, each once."""
    brief = prepared.exercise.brief
    if not brief.strip():
        yield Notice("The brief is empty.", Place("brief.md"))
        return
    said, written = _flat(brief), texts_of(prepared)
    told: set[str] = set()
    for index, each in enumerate(prepared.exercise.settings.variable):
        if not any(re.search(rf"\b{re.escape(name)}\b", brief) for name in (each.name, *each.also)):
            yield Notice(f"The brief does not name the variable `{each.name}`.", Place(table="variable", index=index))
    for number, scenario in enumerate(prepared.scenarios):
        spec = scenario.spec
        rows = [("check", index, check.expect or "") for index, check in enumerate(spec.check)]
        rows += [("case", index, case.expect) for index, case in enumerate(spec.cases or ())]
        for table, index, expect in rows:
            for text in _asked(expect):
                if text not in written:
                    continue  # put together from parts, which the brief says in its own way
                if _flat(text) not in said and text not in told:
                    told.add(text)
                    place = Place(table=table, index=index, scenario=number)
                    yield Notice(f'The brief does not say "{text}", which this check asks for.', place)


def _asked(expect: str) -> Iterator[str]:
    """The texts of a script that an expectation asks for."""
    for node in ast.walk(_tree(expect)):
        match node:
            case ast.Call(func=ast.Name(id=name), args=[ast.Constant(value=str(text)), *_]) if name in SHOWN:
                yield text


def _tree(expect: str) -> ast.AST:
    try:
        return ast.parse(expect.strip(), mode="eval")
    except SyntaxError:
        return ast.Module([], [])


def _flat(text: str) -> str:
    return " ".join(re.sub(r"[`*_\"'.,:;!?]", " ", text).casefold().split())
