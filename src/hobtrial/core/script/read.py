"""Text → Script: Python's own complaints first, then the allow-list, then what can be read off."""

from __future__ import annotations

import ast
import io
import tokenize
import unicodedata
import warnings
from dataclasses import dataclass
from typing import Final

from ..script.tree import global_names
from ..words import Problem
from .subset import check
from .syntax_help import MENDABLE, explain_syntax

MOST_FAULTS: Final = 10
"""Faults that are told at once: more cannot be mended at once."""
LONGEST_SOURCE: Final = 64 * 1024
"""Bytes of a script. A long game by a beginner has 10 KB."""


@dataclass(frozen=True, eq=False)
class Script:
    """A script that was read and accepted. The tree is never changed after this."""

    text: str
    tree: ast.Module
    globals: frozenset[str]
    """Names bound at top level or declared `global` in a function."""
    straight: bool = False

    @property
    def lines(self) -> list[str]:
        """The lines of the text; line n is at n - 1."""
        return self.text.split("\n")


@dataclass(frozen=True)
class Unreadable:
    """A text that is not a script, with every reason."""

    text: str
    problems: tuple[Problem, ...]


Reading = Script | Unreadable


def read(
    source: str | bytes,
    taken: frozenset[str] = frozenset(),
    narrow: frozenset[str] = frozenset(),
    *,
    straight: bool = False,
) -> Reading:
    """Reads a script.

    `taken` are the names of the scene (pieces, kinds, spawners): nothing else may have them.
    `narrow` are constructs that the exercise leaves out; `straight` is for scripts that run once,
    from top to bottom, and may use `input`.
    """
    text = decode(source)
    if isinstance(text, Unreadable):
        return text
    if not text.strip():
        return _refused(
            text,
            Problem(
                1, 1, "empty", "This file is empty, so there is nothing to run.", "Write the rules of the game in it."
            ),
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what Python would only warn of is allowed
            compile(text, "<script>", "exec", dont_inherit=True)
            tree = ast.parse(text)
    except SyntaxError as error:
        return Unreadable(text, tuple(sorted(_all_faults(text, error))))
    except (ValueError, MemoryError, RecursionError, OverflowError):
        return _refused(
            text, Problem(1, 1, "too-deep", "This script is nested too deep to be read.", "Split it into functions.")
        )
    problems = sorted([*check(tree, taken, narrow, straight=straight), *_look_alikes(text)])
    if problems:
        return Unreadable(text, tuple(problems))
    return Script(text, tree, global_names(tree), straight)


def reread(text: str, base: Script) -> Script | None:
    """A text made of an accepted one, without a look at whether it is accepted itself; nothing if it is not Python.

    For trying out many small changes. What comes of one is told to nobody before `read` has accepted it.
    The statements of the top level that stand as they stood are the same nodes as in `base`.
    """
    try:
        tree = _retold(text, base) or ast.parse(text)
    except (SyntaxError, ValueError, MemoryError, RecursionError, OverflowError):
        return None
    return Script(text, tree, global_names(tree), base.straight)


def _retold(text: str, base: Script) -> ast.Module | None:
    """The tree of a text of which only the statements that changed are read; nothing where they do not stand alone."""
    old, new = base.lines, text.split("\n")
    most = min(len(old), len(new))
    same = next((index for index in range(most) if old[index] != new[index]), most)
    tail = next((back for back in range(most - same) if old[-1 - back] != new[-1 - back]), most - same)
    body = base.tree.body
    begins = [_first_line(statement) for statement in body]
    ends = [statement.end_lineno or 0 for statement in body]
    if any(end >= begin for end, begin in zip(ends, begins[1:], strict=False)):
        return None  # two on one line
    kept = sum(end <= same for end in ends)
    back = sum(begin > len(old) - tail for begin in begins) if len(old) == len(new) else 0
    first = ends[kept - 1] if kept else 0
    last = begins[-back] - 1 if back else len(new)
    try:
        middle = ast.parse("\n" * first + "\n".join(new[first:last])).body
    except SyntaxError:
        return None
    return ast.Module([*body[:kept], *middle, *(body[-back:] if back else [])], [])


def _first_line(statement: ast.stmt) -> int:
    """The line on which a statement begins, with what is said above a `def`."""
    decorators = statement.decorator_list if isinstance(statement, ast.FunctionDef) else []
    return min([statement.lineno, *(each.lineno for each in decorators)])


def _all_faults(text: str, error: SyntaxError) -> list[Problem]:
    """The faults of a text that is not Python: each is mended as advised, to see what comes after it."""
    found: list[Problem] = []
    while True:
        problem = explain_syntax(text, error)
        if any(problem.line == known.line for known in found):
            return found
        found.append(problem)
        mended = mend(text, problem)
        if mended is None or len(found) >= MOST_FAULTS:
            return found
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                compile(mended, "<script>", "exec", dont_inherit=True)
            return found
        except SyntaxError as following:
            if following.lineno == problem.line:
                return found  # the advice did not mend it; what Python says next is not to be trusted
            text, error = mended, following
        except (ValueError, MemoryError, RecursionError, OverflowError):
            return found


def mend(text: str, problem: Problem) -> str | None:
    """The text with the advice of a problem in place of its line, where the advice is a line of script."""
    lines = text.split("\n")
    if problem.kind not in MENDABLE or problem.line > len(lines):
        return None
    old = lines[problem.line - 1]
    indent = old[: len(old) - len(old.lstrip())]
    return "\n".join([*lines[: problem.line - 1], indent + problem.instead, *lines[problem.line :]])


def decode(source: str | bytes) -> str | Unreadable:
    """The text of a file: UTF-8, a byte order mark dropped, line ends made one kind."""
    if isinstance(source, str):
        source = source.encode("utf-8", "surrogatepass")
    if len(source) > LONGEST_SOURCE:
        return _refused(
            "",
            Problem(
                1,
                1,
                "too-long",
                f"This file has {len(source):,} bytes. A script has at most {LONGEST_SOURCE:,}.",
                "Hand in the script alone.",
            ),
        )
    if b"\x00" in source:
        return _refused(
            "",
            Problem(
                1,
                1,
                "not-text",
                "This file is not a text: it has zero bytes in it.",
                "Save the script as plain text in UTF-8.",
            ),
        )
    try:
        text = source.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = source.count(b"\n", 0, error.start) + 1
        column = error.start - source.rfind(b"\n", 0, error.start)
        return _refused(
            source.decode("utf-8", "replace"),
            Problem(
                line,
                column,
                "not-utf-8",
                "This file is not saved as UTF-8; a letter here cannot be read.",
                "Save it again with the encoding UTF-8.",
            ),
        )
    return text.replace("\r\n", "\n").replace("\r", "\n")


def _look_alikes(text: str) -> list[Problem]:
    """Names in letters that Python silently reads as others, so that two that look apart are one."""
    if text.isascii():
        return []
    found = []
    for token in tokenize.generate_tokens(io.StringIO(text).readline):
        read_as = unicodedata.normalize("NFKC", token.string)
        if token.type == tokenize.NAME and read_as != token.string:
            message = f"`{token.string}` has letters that Python reads as others: `{read_as}`."
            found.append(Problem(token.start[0], token.start[1] + 1, "refused", message, f"Write `{read_as}`."))
    return found


def _refused(text: str, problem: Problem) -> Unreadable:
    return Unreadable(text, (problem,))
