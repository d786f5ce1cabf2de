"""All wording of findings, one entry a slip: what is found becomes sentences here and nowhere else.

Plain words, at most 20 a sentence, no blame, no exclamation marks. `{braces}` are filled from the
facts of a finding.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final

from ..words import UNSET, as_json_value, seconds_of


@dataclass(frozen=True, slots=True)
class Entry:
    """The texts of one slip: its title for the class, then three levels of help and a note."""

    title: str
    nudge: str
    pointer: str
    note: str
    nudge_without_values: str = ""
    """The nudge and the pointer where the run holds no values for them."""
    pointer_without_values: str = ""
    for_class: str = ""
    """The title of a group of such findings, without one student's own wording; else `title`."""


SLIPS: Final[dict[str, Entry]] = {
    "boundary": Entry(
        title="`{test}` is off at its boundary",
        nudge="What should happen when `{subject}` is exactly {value}?",
        pointer="Line {line} asked `{test}`. `{subject}` was {value}, so the answer was {answer}.",
        for_class="The test of `{subject}` is off at its boundary",
        note="The sign leaves out, or takes in, the value at the boundary itself. "
        "Try the numbers just below, at and above it.",
        nudge_without_values="What should happen when `{subject}` is just at its boundary, neither below nor above?",
        pointer_without_values="Line {line} asks `{test}`. Look at what it says when both sides are equal.",
    ),
    "every-frame": Entry(
        title="`{variable}` changes on every frame",
        nudge="How many times should `{variable}` change here, and how many times did it?",
        pointer="Line {line} waits for `{event}`. It changed `{variable}` in {times} frames on end.",
        note="The handler runs thirty times a second while this lasts. An event that comes once fits here: `{once}`.",
    ),
    "misspelt-name": Entry(
        title="`{odd}` where `{right}` is meant",
        nudge="Is every name written the same way everywhere, with the same capitals?",
        pointer="Line {line} writes `{odd}`. The name that is meant seems to be `{right}`.",
        for_class="`{right}` is not written the same everywhere",
        note="To Python these are two names. One of them never gets the value that the other has.",
    ),
    "set-for-change": Entry(
        title="`{set}` sets where a change is meant",
        nudge="What is `{name}` after this happens for the second time?",
        pointer="Line {line} set `{name}` to {new}. It was {old} before, and that was forgotten.",
        for_class="`{name}` is set where a change is meant",
        note="`=` puts a new value in place of the old one. `+=` and `-=` go on from the old one.",
    ),
    "unreadable": Entry(
        title="The script cannot be read: {kind}",
        nudge="Python cannot read this file yet. Which line looks different from its neighbours?",
        pointer="Line {line}: {message}",
        note="Nothing ran, so there are no marks yet. {instead}",
    ),
    "endless-loop": Entry(
        title="A loop that does not end",
        nudge="What has to change inside the loop for it to end?",
        pointer="{message}",
        note="While a loop goes round, the game stands still. Handlers already run again and again by themselves.",
    ),
    "unsettled": Entry(
        title="{summary}",
        nudge="{question}",
        pointer="{happened}",
        note="What happened is certain; why is left open.",
    ),
}

UNREADABLE: Final[dict[str, str]] = {
    "assign-for-compare": "`=` where a comparison is meant",
    "braces": "braces round a block",
    "capital": "a capital letter in Python's own word",
    "curly-quotes": "quotes from a document",
    "else-if": "`else if` for `elif`",
    "empty": "the file is empty",
    "empty-block": "nothing is indented under a line",
    "extra-bracket": "a bracket too many",
    "missing-bracket": "a bracket is not closed",
    "missing-colon": "a colon is missing",
    "missing-quote": "a text is not closed",
    "not-python": "a line is not Python",
    "not-text": "the file is no text",
    "not-utf-8": "the file is not saved as UTF-8",
    "plus-plus": "`++` or `--`",
    "refused": "something that this language does not have",
    "too-deep": "it is nested too deep",
    "too-long": "the file is too long",
    "uneven-indent": "lines do not begin in one column",
    "word-for-sign": "a sign where Python has a word",
}
"""Why a script cannot be read, for the title of the class: one for each kind of problem."""

HIDDEN_NAME: Final = (
    "The checks read `{name}` as the game's own. A variable of that name is not looked at, so take another one."
)
NO_HANDLERS: Final = "This script has no `@on`, so nothing happens once it was read. Handlers wait for events."
"""The advice for a game of handlers that has none."""

NARROWER: Final[tuple[tuple[str, str], ...]] = (("misspelt-name", "set-for-change"), ("every-frame", "set-for-change"))
"""Where two slips explain the same checks, the first of each pair stands alone."""

CAUSES: Final[dict[str, str]] = {
    "stopped": "{when} the script stopped. {stop}",
    "never-set": "`{name}` never had a value.",
    "event-missing": "{when} the reference had `{event}`. In this run it did not come{gone}.",
    "no-handler": "{when} `{event}` came, and no handler waits for it.",
    "turned-away": "{when} `{event}` came. Line {line} asked `{test}`; {values}, so the answer was no.",
    "no-change": "{when} `{handler}` ran and left `{name}` at {own}. The reference has {reference} there.",
    "other-value": "{when} line {line} made `{name}` {own}{because}. The reference has {reference} there.",
    "extra-change": "{when} line {line} made `{name}` {own}{because}. In the reference it stays {reference}.",
    "not-shown": "Nothing was put on the scoreboard under `{label}`.",
    "not-reached": "This could not be looked at: {reason}.",
    "only-seen": "{when} `{name}` was {own}.",
}

SUMMARIES: Final[dict[str, str]] = {
    "stopped": "The script stops: {kind}",
    "never-set": "`{what}` never has a value",
    "event-missing": "`{what}`: an event that never comes",
    "no-handler": "Nothing waits for `{event}`",
    "turned-away": "`{what}` does not change when it should",
    "no-change": "`{what}` does not change when it should",
    "other-value": "`{what}` gets another value",
    "extra-change": "`{what}` changes when it should not",
    "not-shown": "`{what}` is not on the scoreboard",
    "only-seen": "`{what}` is not as asked",
    "not-reached": "`{what}` could not be looked at",
}


QUESTIONS: Final[dict[str, str]] = {
    "stopped": "The script stops {moment}. What was it about to do, and what did it need for that?",
    "never-set": "Where does `{name}` get its first value?",
    "event-missing": "What should the pieces do {moment}, and what do they do?",
    "no-handler": "What should happen when `{event}` comes, and where does the script say so?",
    "turned-away": "What should happen to `{name}` {moment}, and what is asked there first?",
    "no-change": "What should happen to `{name}` {moment}?",
    "other-value": "Which value should `{name}` have {moment}?",
    "extra-change": "Should `{name}` still change {moment}?",
    "not-shown": "Where does the script put something on the scoreboard under `{label}`?",
    "only-seen": "What should `{name}` be {moment}?",
    "not-reached": "What must happen before `{name}` can be looked at?",
    "event-not-caused": "What must happen before `{event}` can come?",
}
"""The nudge for each kind of cause: no line, and nothing that gives the answer away."""


def value_text(value: Any) -> str:
    """A value as a sentence shows it."""
    if value is UNSET:
        return "not set"
    shown = as_json_value(value)
    if isinstance(shown, dict) and set(shown) == {"text"}:
        return str(shown["text"])
    return f'"{shown}"' if isinstance(shown, str) else str(shown)


def moment(frame: int | None) -> str:
    """A frame in a sentence: `at 2.90 s`."""
    if frame is None:
        return "over the whole trial"
    return "while the file is read" if frame < 0 else f"at {seconds_of(frame):.2f} s"


def sentence(kind: str, facts: dict[str, Any]) -> str:
    """The sentence of a cause."""
    filled: dict[str, Any] = {
        key: value if key in _NAMES else value_text(value) for key, value in facts.items() if key != "values"
    }
    start = moment(facts.get("at"))
    filled["when"] = start[0].upper() + start[1:]
    values = facts.get("values")
    if values:
        filled["values"] = " and ".join(f"`{part}` was {value_text(value)}" for part, value in values.items())
    elif kind == "turned-away":
        filled["values"] = "its values are in the trial"
    filled["because"] = f", set off by `{facts['event']}`" if facts.get("event") else ""
    filled["gone"] = (
        f": `{facts['piece']}` was removed {moment(facts['gone_at'])} by line {facts['gone_line']}"
        if "piece" in facts
        else ""
    )
    if kind == "stopped":
        filled["stop"] = stop_words(facts)
    if kind == "no-change" and "handler" not in facts:
        return f"{filled['when']} `{facts['name']}` was {filled['own']}. The reference has {filled['reference']} there."
    return CAUSES[kind].format_map(filled)


_NAMES: Final = frozenset({"name", "event", "handler", "line", "test", "label", "kind", "message", "what", "reason"})
"""Facts that stand in a sentence as they are: names, lines and pieces of script."""


def stop_words(facts: dict[str, Any]) -> str:
    """Why a script was stopped, in plain words; Python's own where there are no better ones."""
    line, kind, message = facts["line"], facts["kind"], facts["message"]
    where = f"Line {line}" if line else "The script"
    if facts.get("limit") or kind == "GameError":
        return f"{where}: {message}"
    name = re.search(r"'(\w+)'", message)
    match kind:
        case "NameError" if name:
            return f"{where} uses `{name.group(1)}`, and nothing has that name."
        case "UnboundLocalError" if name:
            inside = facts.get("handler") or "a function"
            return f"{where} uses `{name.group(1)}` inside `{inside}` before it has a value there."
        case "ZeroDivisionError":
            return f"{where} divides by zero."
        case "KeyError":
            return f"{where} asks for {message}, which is not there."
        case "IndexError":
            return f"{where} asks for a place that the list does not have."
    return f"{where}: {kind}, {message}."


def fill(template: str, facts: dict[str, Any]) -> str:
    """A text of the catalogue with its facts."""
    return template.format_map(_Facts(facts))


class _Facts(dict[str, Any]):
    def __missing__(self, key: str) -> str:
        raise KeyError(f"the catalogue asks for {{{key}}}, which this finding does not have")
