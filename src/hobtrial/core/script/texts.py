"""Values as text, the same in every process: sets sorted, functions without their address.

Everything else is written as Python writes it.
"""

from __future__ import annotations

import builtins
from enum import Enum
from types import BuiltinMethodType, FunctionType, MethodType, ModuleType
from typing import Any, Final

from .limits import Halt

PLAIN: Final = frozenset({int, float, str, bool, type(None)})
VIEWS: Final = frozenset({type({}.keys()), type({}.values()), type({}.items())})
GAME_KINDS: Final = {
    "PieceHandle": "piece",
    "KindHandle": "kind",
    "SpawnerHandle": "spawner",
    "GameHolder": "game",
    "Event": "event",
    "StandIn": "module",
}
"""The types of the game's own values, as `type(hob)` names them."""
DEEPEST: Final = 50
"""Levels of a value that are walked: deeper ones are a mistake."""


def text_of(value: Any, most: int = 10_000, depth: int = 0) -> str:
    """A value as `repr` writes it, of at most so many characters. Raises `Halt` when it is larger."""
    kind = type(value)
    if kind in PLAIN:
        return repr(value)
    if kind in (list, tuple, set, dict):
        return _collection(value, most, depth)
    if isinstance(value, BaseException):
        if depth >= DEEPEST:
            raise Halt("depth", f"A value is nested more than {DEEPEST} deep.")
        return f"{kind.__name__}({', '.join(text_of(each, most, depth + 1) for each in value.args)})"
    if isinstance(value, (Enum, range)):
        return repr(value)
    if isinstance(value, type):
        return f"<class '{kind_name(value)}'>" if value.__module__.startswith("hobtrial") else repr(value)
    if kind in VIEWS:
        return f"{kind.__name__}({_collection(list(value), most, depth)})"
    if kind in (FunctionType, BuiltinMethodType, MethodType):
        return _function(value)
    if kind.__module__.startswith("hobtrial"):
        return repr(value)
    return f"<{kind.__name__} object>"


def kind_name(kind: type) -> str:
    """What a type is called to a script: those of the game have plain names."""
    return GAME_KINDS.get(kind.__name__, kind.__name__)


def _function(value: Any) -> str:
    """A function or method as Python writes it, without its address."""
    method = _guarded_method(value)
    if method is not None:
        value = method
    owner = getattr(value, "__self__", None)
    name: str = value.__name__
    if type(value) is BuiltinMethodType and owner is not None and type(owner) is not ModuleType:
        return f"<built-in method {name} of {type(owner).__name__} object>"
    if type(value) is FunctionType and not (value.__module__ or "").startswith("hobtrial"):
        return f"<function {value.__qualname__}>"
    name = name.rstrip("_").removeprefix("guarded_")
    ready = getattr(builtins, {"type_of": "type"}.get(name, name), None)
    if type(ready) is type:
        return repr(ready)
    return (
        f"<built-in function {name}>" if ready is not None or type(value) is BuiltinMethodType else f"<function {name}>"
    )


def _guarded_method(value: Any) -> Any:
    """The method of Python's own that a guard stands before; nothing for other functions."""
    cells = getattr(value, "__closure__", None) or ()
    if type(value) is not FunctionType or not (value.__module__ or "").startswith("hobtrial"):
        return None
    held = [cell.cell_contents for cell in cells]
    for each in held:
        if type(each) is BuiltinMethodType and type(getattr(each, "__self__", None)) in (str, list, dict, set, tuple):
            return each
    inner = [_guarded_method(each) for each in held if type(each) is FunctionType]
    return next((each for each in inner if each is not None), None)


def str_of(value: Any, most: int = 10_000) -> str:
    """A value as `str` writes it."""
    kind = type(value)
    if kind in PLAIN or isinstance(value, Enum):
        return str(value)
    if isinstance(value, BaseException):
        return message_of(value, most)
    return text_of(value, most)


def message_of(error: BaseException, most: int = 10_000) -> str:
    """What an exception says, as `str` writes it; a missing key is shown as a value."""
    match error.args:
        case (only,) if isinstance(error, KeyError):
            return text_of(only, most)
        case (only,):
            return str_of(only, most)
        case ():
            return ""
    return text_of(error.args, most)


def sorted_set(values: set[Any]) -> list[Any]:
    """The members of a set by type and text: their own order differs from process to process."""
    return sorted(values, key=lambda value: (type(value).__name__, text_of(value)))


def _collection(value: Any, most: int, depth: int) -> str:
    if depth >= DEEPEST:
        raise Halt("depth", f"A value is nested more than {DEEPEST} deep.")
    left = most
    parts: list[str] = []
    for item in value.items() if isinstance(value, dict) else sorted_set(value) if isinstance(value, set) else value:
        if isinstance(value, dict):
            key, held = item
            part = f"{text_of(key, left, depth + 1)}: {text_of(held, left, depth + 1)}"
        else:
            part = text_of(item, left, depth + 1)
        left -= len(part) + 2
        if left < 0:
            raise Halt("text", f"A text grew beyond {most:,} characters.")
        parts.append(part)
    inside = ", ".join(parts)
    match value:
        case list():
            return f"[{inside}]"
        case tuple():
            return f"({inside},)" if len(value) == 1 else f"({inside})"
        case set():
            return f"{{{inside}}}" if value else "set()"
    return f"{{{inside}}}"
