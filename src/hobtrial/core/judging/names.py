"""What a check, an input or an arrangement may speak of: names, events, `name = value`."""

from __future__ import annotations

import ast
from dataclasses import dataclass
from typing import cast

from ..events import PAIR_EVENTS, PIECE_EVENTS, PLAIN_EVENTS, Event, EventKind
from ..trial import EVENT_NAMES, Arrangement
from ..words import GameError, HobError


class ExpectationError(HobError):
    """An expression that cannot be read, in words for the teacher; `where` is the key that it stands under."""

    def __init__(self, message: str, *where: str | int) -> None:
        super().__init__(message)
        self.where = where


@dataclass(frozen=True, slots=True)
class Surroundings:
    """The names that a check of an exercise may use."""

    variables: frozenset[str]
    pieces: frozenset[str]
    kinds: frozenset[str]
    facts: frozenset[str] = frozenset()


def read_event(node: ast.expr, names: Surroundings) -> Event:
    """An event written in a check, an input or a craft line. Raises `ExpectationError`."""
    match node:
        case ast.Name(id=kind) if kind in PLAIN_EVENTS:
            return EVENT_NAMES[kind]  # type: ignore[no-any-return]
        case ast.Call(func=ast.Name(id=kind), args=arguments, keywords=[]) if kind in EVENT_NAMES:
            if kind in PAIR_EVENTS or kind in PIECE_EVENTS:
                return _event_about_pieces(kind, arguments, names)
            if kind not in PLAIN_EVENTS:
                try:
                    return EVENT_NAMES[kind](*(ast.literal_eval(each) for each in arguments))  # type: ignore[no-any-return]
                except (GameError, TypeError, ValueError) as error:
                    words = str(error) if isinstance(error, GameError) else f"`{kind}` takes one value"
                    raise ExpectationError(f"has an event that cannot be: {words.rstrip('.')}") from None
    known = ", ".join(sorted(EVENT_NAMES))
    raise ExpectationError(f"has an event that cannot be read; known are {known}")


def _event_about_pieces(kind: str, arguments: list[ast.expr], names: Surroundings) -> Event:
    about = [each.id if isinstance(each, ast.Name) else ast.unparse(each) for each in arguments]
    unknown = [name for name in about if name not in names.pieces | names.kinds]
    if unknown:
        raise ExpectationError(f"waits for `{unknown[0]}`, which is not in the scene")
    wanted = (2,) if kind in PAIR_EVENTS else (0, 1) if kind == "clicked" else (1,)
    if len(about) not in wanted:
        raise ExpectationError(f"has `{kind}` with {len(about)} names; it takes {wanted[-1]}")
    return Event(cast(EventKind, kind), tuple(about))


def read_arrangement(text: str, names: Surroundings) -> Arrangement:
    """Reads `name = literal` or `piece.name = literal`. Raises `ExpectationError`."""
    try:
        statement = ast.parse(text.strip()).body
        value = (
            ast.literal_eval(statement[0].value)
            if len(statement) == 1 and isinstance(statement[0], ast.Assign)
            else None
        )
    except (SyntaxError, ValueError, MemoryError, RecursionError, TypeError):
        raise ExpectationError("cannot be read; write it as in `hob.x = 5` or `lives = 1`") from None
    match statement:
        case [ast.Assign(targets=[ast.Name(id=name)])]:
            if name in names.pieces | names.kinds:
                raise ExpectationError(f"arranges `{name}` itself; arrange something of it, such as `{name}.x = 5`")
            if name not in names.variables | names.facts | {"place"}:
                raise ExpectationError(f"arranges `{name}`, which is not a variable of this exercise or its reference")
            return Arrangement(text, None, name, value)
        case [ast.Assign(targets=[ast.Attribute(value=ast.Name(id=owner), attr=name)])]:
            if owner not in names.pieces | names.kinds | {"game"}:
                raise ExpectationError(f"arranges `{owner}`, which is not in the scene")
            if name.startswith("_") or name in ("name", "kind"):
                raise ExpectationError(f"arranges `{name}`, which cannot be set")
            return Arrangement(text, owner, name, value)
    raise ExpectationError("cannot be read; write it as in `hob.x = 5` or `lives = 1`")


def read_event_text(text: str, key: str, names: Surroundings) -> Event:
    """An event that stands under a key of its own. Raises `ExpectationError` with that key."""
    try:
        return read_event(ast.parse(text.strip(), mode="eval").body, names)
    except (SyntaxError, ValueError, MemoryError, RecursionError):
        raise ExpectationError(f"`{key}` is {text!r}; write an event, as in `meets(hob, bun)`", key) from None
    except ExpectationError as error:
        raise ExpectationError(f"`{key}` {text!r} {error}", key) from None
