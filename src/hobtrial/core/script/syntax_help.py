"""A text that is not Python, answered in beginner's words.

The parser says where; the tokens round that place say what was probably meant. The parser's own
words come last, in small (`Problem.instead` never holds them).
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Final

from ..words import Problem

BLOCK_WORDS: Final = ("if", "elif", "else", "while", "for", "def")
MENDABLE: Final = frozenset(
    {
        "missing-colon",
        "assign-for-compare",
        "else-if",
        "word-for-sign",
        "plus-plus",
        "curly-quotes",
        "capital",
        "turned-sign",
        "missing-at",
    }
)
"""Kinds whose advice is the line as it should stand."""
NEARBY: Final = 4
"""Lines before a complaint in which its cause is looked for."""
_STRING: Final = re.compile(r"""("(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*')""")
_CURLY: Final = "“”„‘’‚«»"

Answer = tuple[str, str, str]
"""Kind, message, what to write instead."""


def explain_syntax(text: str, error: SyntaxError) -> Problem:
    """The problem of a text that Python cannot read, at the line and column the parser names."""
    lines = text.split("\n")
    number = min(max(error.lineno or 1, 1), len(lines))
    line = lines[number - 1]
    message = error.msg or "invalid syntax"
    for look in _LOOKS:
        found = look(line, message, lines, number)
        if found is not None:
            kind, words, instead = found[0]
            return Problem(found[1], max(error.offset or 1, 1), kind, f"{words} (Python says: {message})", instead)
    return Problem(
        number,
        max(error.offset or 1, 1),
        "not-python",
        f"This line is not Python as it stands. (Python says: {message})",
        "Compare it with a line that works, one sign after the other.",
    )


Found = tuple[Answer, int] | None
Look = Callable[[str, str, list[str], int], Found]


def _bare(line: str) -> str:
    """The line with the insides of its texts blanked and its comment cut off."""
    blank = _STRING.sub(lambda match: '"' + "_" * (len(match.group()) - 2) + '"', line)
    return blank.split("#")[0].rstrip()


def _curly_quotes(line: str, message: str, lines: list[str], number: int) -> Found:
    met = [sign for sign in line if sign in _CURLY]
    if "invalid character" not in message or not met:
        return None
    straight = re.sub("[“”„«»]", '"', re.sub("[‘’‚]", "'", line)).strip()
    return (
        "curly-quotes",
        f"`{met[0]}` is a quote from a document. Python knows only straight quotes.",
        straight,
    ), number


def _capital_word(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.match(r"\s*(If|Elif|Else|While|For|Def|Global|Return|Import|From|IF|ELSE|WHILE|DEF|GLOBAL)\b", line)
    if match is None:
        return None
    word = match.group(1)
    small = line.replace(word, word.lower(), 1).strip()
    return ("capital", f"`{word}` begins with a capital letter. Python's own words are written small.", small), number


def _else_if(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.match(r"\s*(else\s+if|elseif|elsif)\b(.*)", line)
    if match is None:
        return None
    return ("else-if", f"`{match.group(1)}` is one word in Python: `elif`.", f"elif{match.group(2)}".rstrip()), number


def _else_with_test(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.match(r"\s*else\s+(?!if\b)([^:]*\S)\s*:?\s*$", _bare(line))
    if match is None:
        return None
    words = "`else` asks nothing: it takes whatever is left. A branch with a test of its own is `elif`."
    return ("else-if", words, f"elif {match.group(1).rstrip(': ')}:"), number


def _turned_signs(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.search(r"=>|=<", _bare(line))
    if match is None:
        return None
    right = match.group()[::-1]
    fixed = line.replace(match.group(), right, 1).strip()
    return ("turned-sign", f"`{match.group()}` is written `{right}` in Python.", fixed), number


def _global_with_value(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.match(r"\s*global\s+(\w+)\s*([-+*/]?=)(.*)", _bare(line))
    if match is None:
        return None
    name = match.group(1)
    rest = line.strip().removeprefix("global").strip()
    words = f"`global` only says that `{name}` is the game's own. It cannot give it a value in the same line."
    return ("global-with-value", words, f"Write `global {name}` in one line and `{rest}` in the next."), number


def _other_signs(line: str, message: str, lines: list[str], number: int) -> Found:
    bare = _bare(line)
    for sign, word in (("&&", "and"), ("||", "or")):
        if sign in bare:
            return (
                "word-for-sign",
                f"`{sign}` is written `{word}` in Python.",
                line.replace(sign, word).strip(),
            ), number
    match = re.search(r"(\w+)\s*(\+\+|--)\s*$", bare) or re.search(r"(?:^|\s)(\+\+|--)(\w+)\s*$", bare)
    if match is not None:
        name, sign = sorted(match.groups(), key=lambda part: not part.isidentifier())
        step = f"{name} {sign[0]}= 1"
        return ("plus-plus", f"Python has no `{sign}`. One more is added with `+= 1`.", step), number
    match = re.search(r"!(?!=)\s*(\w+)", bare)
    if match is not None:
        fixed = re.sub(r"!(?!=)\s*", "not ", line.strip(), count=1)
        return ("word-for-sign", "`!` is written `not` in Python.", fixed), number
    return None


def _braces(line: str, message: str, lines: list[str], number: int) -> Found:
    """A block in braces; the parser complains somewhere inside it, so the lines before are looked at too."""
    head = re.compile(rf"\s*({'|'.join(BLOCK_WORDS)})\b.*\{{\s*$")
    for place in range(number, max(number - NEARBY, 0), -1):
        if head.match(_bare(lines[place - 1])):
            words = "Python has no braces round a block."
            return ("braces", words, "End the line with `:` and indent what belongs to it."), place
    return None


def _assign_in_test(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.match(r"\s*(if|elif|while)\b(.*)", _bare(line))
    if match is None or not re.search(r"(?<![=!<>:])=(?!=)", match.group(2)):
        return None
    fixed = re.sub(r"(?<![=!<>:])=(?!=)", "==", line, count=1).strip()
    return (
        "assign-for-compare",
        f"This `{match.group(1)}` has a single `=`, which sets a value. To compare, write `==`.",
        fixed,
    ), number


def _missing_colon(line: str, message: str, lines: list[str], number: int) -> Found:
    bare = _bare(line)
    match = re.match(rf"\s*({'|'.join(BLOCK_WORDS)})\b", bare)
    if match is None or bare.endswith(":") or bare.count("(") != bare.count(")"):
        return None
    return (
        "missing-colon",
        f"A line that begins with `{match.group(1)}` ends with a colon.",
        f"{bare.strip()}:",
    ), number


def _open_text(line: str, message: str, lines: list[str], number: int) -> Found:
    if "unterminated" not in message:
        return None
    return (
        "missing-quote",
        "A text begins in this line and does not end.",
        "Close it with the quote that it began with.",
    ), number


def _brackets(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.search(r"'([(\[{])' was never closed", message)
    if match is not None:
        closing = {"(": ")", "[": "]", "{": "}"}[match.group(1)]
        return (
            "missing-bracket",
            f"The `{match.group(1)}` in this line is never closed.",
            f"Put `{closing}` where it ends.",
        ), number
    if "unmatched" in message or "does not match opening" in message:
        return (
            "extra-bracket",
            "This closing bracket has no opening one.",
            "Remove it, or open one where it should begin.",
        ), number
    return None


def _blocks(line: str, message: str, lines: list[str], number: int) -> Found:
    match = re.search(
        r"expected an indented block after (?:function definition|'?(\w+)'?(?: statement)?) on line (\d+)", message
    )
    if match is not None:
        head = int(match.group(2))
        return (
            "empty-block",
            f"Nothing is indented under line {head}, so nothing belongs to it.",
            "Indent what belongs to it by four spaces, or write `pass`.",
        ), head
    if "indent" in message or "tab" in message:
        return (
            "uneven-indent",
            "This line begins further left or right than the lines that it belongs with.",
            "Lines of one block begin in the same column.",
        ), number
    return None


_LOOKS: Final[tuple[Look, ...]] = (
    _curly_quotes,
    _capital_word,
    _else_if,
    _else_with_test,
    _turned_signs,
    _global_with_value,
    _other_signs,
    _braces,
    _assign_in_test,
    _open_text,
    _brackets,
    _missing_colon,
    _blocks,
)
"""In this order: the narrower look comes first."""
