"""A check made ready: its expressions and events read, and what a trial must look at for it."""

from __future__ import annotations

from dataclasses import dataclass

from ..events import Event
from ..exercise import Check, CheckKind
from ..trial import Observable
from .expectation import Expectation, read_expectation, read_observable
from .names import ExpectationError, Surroundings, read_event_text


@dataclass(frozen=True, eq=False)
class PreparedCheck:
    """One check of a scenario. A row of `cases` is one too, of kind `case`, for a `trial` of its own."""

    spec: Check
    kind: CheckKind
    text: str
    expectation: Expectation | None
    """Nothing for `same` and `unchanged`, which are about `names`, and for `apart`, which is about its event."""
    names: tuple[Observable, ...] = ()
    event: Event | None = None
    only_if: Expectation | None = None
    trial: int | None = None

    @property
    def about(self) -> tuple[Observable, ...]:
        """The things that it is about."""
        if self.kind == "apart":
            return (Observable("times", event=self.event),)
        return self.expectation.needs if self.expectation is not None else self.names

    @property
    def needs(self) -> tuple[Observable, ...]:
        """Everything that must be sampled for it."""
        counted = (Observable("times", event=self.event),) if self.kind == "after" and self.event is not None else ()
        return (*self.about, *(self.only_if.needs if self.only_if is not None else ()), *counted)


def read_check(check: Check, names: Surroundings) -> PreparedCheck:
    """Reads a check. Raises `ExpectationError` with the key that cannot be read."""
    event = None
    for key in ("after", "each"):
        text = getattr(check, key)
        if text is not None:
            event = read_event_text(text, key, names)
    return PreparedCheck(
        check,
        check.kind,
        check.text,
        _expression(check.expect, "expect", names),
        tuple(_thing(name, check.kind, names) for name in check.same or check.unchanged or ()),
        event,
        _expression(check.only_if, "only_if", names),
    )


def read_case(check: Check, trial: int, names: Surroundings) -> PreparedCheck:
    """Reads the expectation of a row of `cases`."""
    return PreparedCheck(check, "case", check.text, _expression(check.expect, "expect", names), trial=trial)


def _expression(text: str | None, key: str, names: Surroundings) -> Expectation | None:
    if text is None:
        return None
    try:
        return read_expectation(text, names)
    except ExpectationError as error:
        raise ExpectationError(f"`{key}` {text!r} {error}", key) from None


def _thing(text: str, key: str, names: Surroundings) -> Observable:
    try:
        return read_observable(text, names)
    except ExpectationError as error:
        raise ExpectationError(f"`{key}` {text!r} {error}", key) from None
