"""What is found becomes sentences here and nowhere else. The entries of the slips stand in `wording`."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from ..judging import HELD, Played
from ..words import UNSET, as_json_value, seconds_of
from .finding import Finding
from .wording import SLIPS, Entry

UNREADABLE: Final[dict[str, str]] = {
    "assign-for-compare": "`=` where a comparison is meant",
    "braces": "braces round a block",
    "capital": "a capital letter in Python's own word",
    "curly-quotes": "quotes from a document",
    "else-if": "`else if` for `elif`",
    "empty": "the file is empty",
    "empty-block": "nothing is indented under a line",
    "extra-bracket": "a bracket too many",
    "global-with-value": "`global` with a value",
    "missing-at": "`@` is missing before `on`",
    "missing-bracket": "a bracket is not closed",
    "missing-colon": "a colon is missing",
    "missing-quote": "a text is not closed",
    "not-python": "a line is not Python",
    "not-text": "the file is not text",
    "not-utf-8": "the file is not saved as UTF-8",
    "plus-plus": "`++` or `--`",
    "refused": "something that this language does not have",
    "turned-sign": "a sign the wrong way round",
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
    "hidden": "This does not hold yet when the mistakes above are mended: `{expect}`.",
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
    "hidden": "`{what}` is still not as asked",
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
    "hidden": "Mend what is explained first. What is `{name}` then?",
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


_NAMES: Final = frozenset(
    {"name", "event", "handler", "line", "test", "label", "kind", "message", "what", "reason", "expect"}
)
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


@dataclass(frozen=True, slots=True)
class Sentences:
    """What is said of a finding, from the title to the note for the teacher."""

    title: str
    for_class: str
    nudge: str
    quiet: str
    pointer: str
    note: str


def texts(entry: Entry, facts: dict[str, Any]) -> Sentences:
    """The texts of an entry with the facts of a finding; the plain ones where it has no values for the others."""
    given = {
        key: value if key in _AS_THEY_ARE or isinstance(value, str) else value_text(value)
        for key, value in facts.items()
    }
    given["when"] = capital(moment(facts.get("frame")))
    if facts.get("values"):
        pairs = dict(facts["values"]).items()
        given["seen"] = " and ".join(f"`{part}` was {value_text(value)}" for part, value in pairs)
    return Sentences(
        title=_either(entry.title, "", given),
        for_class=_either(entry.for_class or entry.title, "", given),
        nudge=_either(entry.nudge, entry.nudge_plain, given),
        quiet=_either(entry.quiet or entry.nudge_plain or entry.nudge, "", given),
        pointer=_either(entry.pointer, entry.pointer_plain, given),
        note=_either(entry.note, "", given).strip(),
    )


def sentences(finding: Finding) -> Sentences:
    """The texts of a finding."""
    facts = dict(finding.facts)
    if finding.slip == "unreadable":
        facts["kind"] = UNREADABLE[facts["kind"]]
    if finding.fix is not None:
        facts["mends"] = finding.fix.mends
    return texts(SLIPS[finding.slip], facts)


def happened(finding: Finding, played: Sequence[Played]) -> list[str]:
    """What happened, in three sentences at most: what was seen, what was asked, what the brief says."""
    refs = [ref for ref in finding.checks if ref[0] == finding.scenario] or list(finding.checks)
    if not refs or not played:
        return []
    number, index = refs[0]
    verdict = played[number].verdicts[index]
    if verdict.verdict == HELD:  # another mistake hid it until that one was mended
        return [f"This shows once the other mistakes are mended: `{verdict.expect}`."]
    found: list[str] = []
    if verdict.frame is not None and verdict.values:
        values = " and ".join(f"`{name}` was {value_text(value)}" for name, value in verdict.values)
        found.append(f"{capital(moment(verdict.frame))} {values}.")
    elif verdict.reason:
        stop = played[number].trace.stopped
        when = f" at {seconds_of(stop.frame):.2f} s" if stop is not None and stop.frame >= 0 else ""
        found.append(
            f"The script stopped{when}, before this could be seen."
            if stop is not None
            else f"{capital(verdict.reason)}."
        )
    if verdict.because:
        found.append(verdict.because)
    return found[:3]


_AS_THEY_ARE: Final = frozenset({"parts", "values"})


def _either(template: str, plain: str, facts: dict[str, Any]) -> str:
    try:
        return fill(template, facts)
    except KeyError:
        return fill(plain, facts) if plain else template.format_map(_Open(facts))


def capital(text: str) -> str:
    """A text that begins a sentence."""
    return text[0].upper() + text[1:]


def fill(template: str, facts: dict[str, Any]) -> str:
    """A text of the catalogue with its facts."""
    return template.format_map(_Facts(facts))


class _Open(dict[str, Any]):
    """Facts of which one may be missing: a sentence with a gap is better than no report at all."""

    def __missing__(self, key: str) -> str:
        return "…"


class _Facts(dict[str, Any]):
    def __missing__(self, key: str) -> str:
        raise KeyError(f"the catalogue asks for {{{key}}}, which this finding does not have")
