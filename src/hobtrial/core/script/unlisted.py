"""Methods of Python's values that the language leaves out, each with what to write instead.

They are turned down by name when a script is read, so that nobody meets them in the middle of a game.
"""

from __future__ import annotations

import ast
import string
from typing import Final

from .vocabulary import METHODS

_INSTEAD: Final = {
    "format": 'Put `f` before the quotes: `f"{score} buns"`.',
    "format_map": 'Put `f` before the quotes: `f"{score} buns"`.',
    "casefold": "Use `lower()`.",
    "swapcase": "Use `lower()` or `upper()`.",
    "isnumeric": "Use `isdigit()`.",
    "isdecimal": "Use `isdigit()`.",
    "isalnum": "Use `isalpha()` or `isdigit()`.",
    "isspace": 'Compare with a text: `text.strip() == ""`.',
    "splitlines": 'Use `split("\\n")`.',
    "rsplit": "Use `split()`.",
    "partition": "Use `split()`.",
    "rpartition": "Use `split()`.",
    "removeprefix": "Use `replace()`, or a part of the text: `text[3:]`.",
    "removesuffix": "Use `replace()`, or a part of the text: `text[:-3]`.",
    "rfind": "Use `find()`.",
    "rindex": "Use `index()`.",
    "popitem": "Use `pop()` with a key.",
    "fromkeys": "Write a loop: `{key: 0 for key in names}`.",
    "issubset": "Ask for each member: `all(each in b for each in a)`.",
    "issuperset": "Ask for each member: `all(each in a for each in b)`.",
    "isdisjoint": "Ask for each member: `not any(each in a for each in b)`.",
    "symmetric_difference": "Use `union()` and `difference()`.",
    "intersection_update": "Use `intersection()`.",
    "difference_update": "Use `difference()`.",
    "symmetric_difference_update": "Use `union()` and `difference()`.",
}

UNLISTED: Final[dict[str, str]] = {
    name: _INSTEAD.get(name, "Do without it.")
    for kind in (str, list, dict, set, tuple)
    for name in dir(kind)
    if not name.startswith("_") and not any(name in listed for listed in METHODS.values())
}
"""For each method that is left out what to write instead."""


def instead_of_format(node: ast.Call) -> str:
    """For `"{} buns".format(n)` the f-string that says the same, where that can be written down."""
    text = node.func.value if isinstance(node.func, ast.Attribute) else None
    if not (isinstance(text, ast.Constant) and isinstance(text.value, str)) or node.end_lineno != node.lineno:
        return UNLISTED["format"]
    named = {keyword.arg: ast.unparse(keyword.value) for keyword in node.keywords if keyword.arg}
    given = [ast.unparse(argument) for argument in node.args]
    parts: list[str] = []
    turn = 0
    try:
        for literal, field, spec, conversion in string.Formatter().parse(text.value):
            parts.append(literal.replace("{", "{{").replace("}", "}}"))
            if field is None:
                continue
            place, turn = (str(turn), turn + 1) if field == "" else (field, turn)
            value = given[int(place)] if place.isdigit() else named[place]
            parts.append(f"{{{value}{f'!{conversion}' if conversion else ''}{f':{spec}' if spec else ''}}}")
    except (ValueError, KeyError, IndexError):
        return UNLISTED["format"]
    quote = "'" if '"' in "".join(parts) else '"'
    whole = f"f{quote}{''.join(parts)}{quote}"
    try:
        compile(whole, "<instead>", "eval")
    except SyntaxError:
        return UNLISTED["format"]
    return f"Write `{whole}`."
