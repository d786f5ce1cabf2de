"""A module as a script has it; what the modules hold stands in `stand_ins.py`."""

from __future__ import annotations

import functools
from types import ModuleType
from typing import Any

from .limits import Halt


@functools.cache
def _names_of(module: ModuleType) -> frozenset[str]:
    return frozenset(dir(module))


class StandIn:
    """A module as a script has it: it can be asked for what is listed, and nothing else."""

    __slots__ = ("_name", "_others", "_parts")

    def __init__(self, module: ModuleType, parts: dict[str, Any]) -> None:
        self._name = module.__name__
        self._parts = parts
        self._others = _names_of(module)

    def __repr__(self) -> str:
        return f"<module '{self._name}'>"

    def __getattr__(self, name: str) -> Any:
        if name in self._parts:
            return self._parts[name]
        if name in self._others:
            raise Halt("refused", f"`{name}` of `{self._name}` is not part of this language.")
        raise AttributeError(f"module '{self._name}' has no attribute '{name}'")
