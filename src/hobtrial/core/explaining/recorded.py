"""What a test would answer for values that a trace recorded: worked out here, so nothing has to be played for it."""

from __future__ import annotations

import ast
import operator
from collections.abc import Callable, Mapping
from typing import Any, Final

from ..script.tree import unparse

UNKNOWN: Final = object()
"""The answer where a value was not recorded."""
PLAIN: Final = (int, float, bool, str, type(None))
LARGEST: Final = 1e9
SIGNS: Final[dict[type[ast.cmpop], Callable[[Any, Any], bool]]] = {
    ast.Eq: operator.eq,
    ast.NotEq: operator.ne,
    ast.Lt: operator.lt,
    ast.LtE: operator.le,
    ast.Gt: operator.gt,
    ast.GtE: operator.ge,
}
SUMS: Final[dict[type[ast.operator], Callable[[Any, Any], Any]]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
}


def answer(test: ast.expr, values: Mapping[str, Any]) -> Any:
    """What an expression gives for recorded values by their text, or `UNKNOWN`; as Python does it, `and` by `and`."""
    match test:
        case ast.Constant(value=value) if isinstance(value, PLAIN):
            return value
        case ast.BoolOp(op=op, values=parts):
            given: Any = UNKNOWN
            for part in parts:
                given = answer(part, values)
                if given is UNKNOWN or bool(given) is isinstance(op, ast.Or):
                    return given
            return given
        case ast.UnaryOp(op=ast.Not(), operand=inner):
            given = answer(inner, values)
            return UNKNOWN if given is UNKNOWN else not given
        case ast.UnaryOp(op=ast.USub(), operand=inner):
            given = answer(inner, values)
            return -given if _is_number(given) else UNKNOWN
        case ast.Compare(left=left, ops=ops, comparators=rights):
            return _compared([answer(each, values) for each in (left, *rights)], ops)
        case ast.BinOp(left=left, op=op, right=right) if type(op) in SUMS:
            a, b = answer(left, values), answer(right, values)
            if not _is_number(a) or not _is_number(b) or max(abs(a), abs(b)) > LARGEST:
                return values.get(unparse(test), UNKNOWN)
            return SUMS[type(op)](a, b)
    given = values.get(unparse(test), UNKNOWN)
    return given if isinstance(given, PLAIN) else UNKNOWN


def _compared(sides: list[Any], signs: list[ast.cmpop]) -> Any:
    """A row of comparisons; `UNKNOWN` where a side is, or where the values do not go together."""
    if any(side is UNKNOWN for side in sides):
        return UNKNOWN
    for left, sign, right in zip(sides, signs, sides[1:], strict=False):
        equal = isinstance(sign, (ast.Eq, ast.NotEq))
        fits = equal or (_is_number(left) and _is_number(right)) or (isinstance(left, str) and isinstance(right, str))
        if type(sign) not in SIGNS or not fits:
            return UNKNOWN
        if not SIGNS[type(sign)](left, right):
            return False
    return True


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float))
