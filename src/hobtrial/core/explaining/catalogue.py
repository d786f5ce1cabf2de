"""What is found becomes sentences here and nowhere else. The entries of the slips stand in `wording`."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from ..judging import HELD, Played, Prepared
from ..trial import Observable
from ..words import UNSET, seconds_of
from .finding import Finding
from .saying import capital, due, happened, made, should, value_text, was
from .why import Cause
from .wording import SLIPS, Entry, replaced

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

SUMMARIES: Final[dict[str, str]] = {
    "stopped": "The script stops",
    "never-set": "{thing} never has a value",
    "event-missing": "Something does not happen that should",
    "no-handler": "Nothing waits for `{event}`",
    "turned-away": "{thing} does not change when it should",
    "no-change": "{thing} does not change when it should",
    "other-value": "{thing} is not as it should be",
    "extra-change": "{thing} changes when it should not",
    "not-shown": "{thing} is missing",
    "only-seen": "{thing} is not as asked",
    "not-reached": "{thing} could not be looked at",
    "hidden": "{thing} is still not as asked",
}


QUESTIONS: Final[dict[str, str]] = {
    "stopped": "The script stops {moment}. What was it about to do, and what did it need for that?",
    "never-set": "Where does {thing} get its first value?",
    "event-missing": "What should the pieces do {moment}, and what do they do?",
    "no-handler": "What should happen when {came}, and where does the script say so?",
    "turned-away": "What should happen to {thing} {moment}, and what is asked there first?",
    "no-change": "What should happen to {thing} {moment}?",
    "other-value": "What should {thing} be {moment}?",
    "extra-change": "Should anything happen to {thing} {moment}?",
    "not-shown": "Where does the script show {thing}?",
    "only-seen": "What should {thing} be {moment}?",
    "not-reached": "What must happen before {thing} can be looked at?",
    "hidden": "Mend what is explained first. What is {thing} then?",
    "event-not-caused": "What must the script do first, so that this can happen {moment}?",
}
"""The nudge for each kind of cause: no line, and nothing that gives the answer away."""


def moment_in(prepared: Prepared, number: int, trial: int, frame: int | None) -> str:
    """A moment of a scenario's trial: seconds, or in a script that runs from top to bottom the last answer."""
    if prepared.exercise.settings.style != "straight" or frame is None:
        return moment(frame)
    given = [(at, text) for at, text in prepared.scenarios[number].plans[trial].answers if at <= frame]
    if not given:
        return "before the first answer"
    together = len({at for at, _ in given}) == 1 and len(given) > 1
    return "in this run" if together else f'after the answer "{given[-1][1]}"'


def moment(frame: int | None) -> str:
    """A frame in a sentence: `at 2.90 s`."""
    if frame is None:
        return "over the whole trial"
    return "while the file is read" if frame < 0 else f"at {seconds_of(frame):.2f} s"


def sentence(cause: Cause, when: str = "") -> str:
    """What happened, as far as a cause tells. `when` stands in for its moment where seconds say nothing."""
    facts, what, event = cause.facts, cause.thing, cause.event
    at = facts.get("at")
    when = capital(when or moment(at))
    if cause.kind == "stopped":
        start = capital(moment(at)) if at is not None and at < 0 else when
        return f"{start} the script stopped. {stop_words(facts)}"
    if cause.kind == "hidden" or what is None:
        return f"This does not hold yet when the mistakes above are mended: `{facts.get('expect', cause.what)}`."
    own = facts.get("own", UNSET)
    wanted = should(what, facts["reference"]) if "reference" in facts else ""
    came = happened(event) if event is not None else ""
    match cause.kind:
        case "never-set":
            return f"`{what}` never had a value."
        case "not-shown":
            return f'Nothing was put on the scoreboard under "{what.name}".'
        case "not-reached":
            return f"This could not be looked at: {facts['reason']}."
        case "event-missing" if event is not None:
            gone = ""
            if "piece" in facts:
                gone = f": `{facts['piece']}` was removed {moment(facts['gone_at'])} by line {facts['gone_line']}"
            return f"{when} {due(event)}. That did not happen{gone}."
        case "no-handler":
            return f"{when} {came}. No handler waits for that."
        case "turned-away":
            values = " and ".join(f"`{part}` was {value_text(value)}" for part, value in facts["values"].items())
            asked = f"{values}, so the answer was no." if values else "The answer was no."
            since = ""
            if "since_line" in facts:
                since = f" Line {facts['since_line']} made it so {moment(facts['since_at'])}."
            return f"{when} {came}. Line {facts['line']} asked `{facts['test']}`. {capital_code(asked)}{since}"
        case "no-change" if "handler" in facts:
            return f"{when} `{facts['handler']}` ran. Afterwards {was(what, own)}. {wanted}"
        case "other-value" | "extra-change":
            because = f", when {came}" if came and event is not None and event.kind not in ("frame", "start") else ""
            stay = should(what, facts["reference"], stay=cause.kind == "extra-change")
            return f"{when} line {facts['line']} {made(what, own)}{because}. {stay}"
    return f"{when} {was(what, own)}. {wanted}".strip()


def capital_code(text: str) -> str:
    """A sentence that may begin with a piece of script, which keeps its small letter."""
    return text if text.startswith("`") else capital(text)


PLAIN_STOPS: Final[tuple[tuple[str, str, str], ...]] = (
    ("NameError", r"name '(\w+)' is not defined", "uses `{0}`, and nothing has that name"),
    ("UnboundLocalError", r"variable '(\w+)'", "uses `{0}` inside `{inside}` before it has a value there"),
    ("ZeroDivisionError", "", "divides by zero"),
    ("KeyError", r"(.+)", "asks for {0}, and that is not there"),
    ("IndexError", "", "asks for a place that the list does not have"),
    ("ValueError", r"invalid literal for int.*: (.+)", "wants to make a whole number of {0}, which is not one"),
    ("ValueError", r"could not convert string to float: (.+)", "wants to make a number of {0}, which is not one"),
    ("TypeError", r"can only concatenate str", "joins a text and something that is not a text with `+`"),
    ("TypeError", r"operand type\(s\) for .*NoneType", "reckons with something that has no value"),
    ("TypeError", r"operand type\(s\) for (\S+): '(\w+)' and '(\w+)'", "cannot use `{0}` with {1} and {2}"),
    ("TypeError", r"not supported between instances of '(\w+)' and '(\w+)'", "compares {0} with {1}"),
    ("TypeError", r"'(\w+)' object is not callable", "has brackets `()` behind {0}, which cannot be called"),
    ("TypeError", r"'(\w+)' object is not subscriptable", "has square brackets behind {0}, which has no places"),
    ("TypeError", r"'(\w+)' object is not iterable", "wants to go through {0}, which holds no row of things"),
    ("TypeError", r"(\w+)\(\) missing (\d+) required", "calls `{0}` without all the values that it needs"),
    ("TypeError", r"(\w+)\(\) takes .* but", "gives `{0}` more values than it takes"),
    ("AttributeError", r"'NoneType' object has no attribute '(\w+)'", "asks for `.{0}` of something that has no value"),
    ("AttributeError", r"'(\w+)' object has no attribute '(\w+)'", "asks for `.{1}`, and {0} has nothing of that name"),
)
"""For exceptions of Python: the kind, what its message looks like, and the same in plain words."""
KINDS: Final[dict[str, str]] = {
    "str": "a text",
    "int": "a whole number",
    "float": "a number",
    "bool": "a yes or no",
    "list": "a list",
    "dict": "a dictionary",
    "set": "a set",
    "tuple": "a row of values",
    "NoneType": "nothing",
    "function": "a function",
    "PieceHandle": "a piece",
    "KindHandle": "a whole kind",
}


def stop_words(facts: dict[str, Any]) -> str:
    """Why a script was stopped: in plain words first, then in Python's own."""
    line, kind, message = facts["line"], facts["kind"], facts["message"]
    where = f"Line {line}" if line else "The script"
    if facts.get("limit") or kind == "GameError":
        return f"{where}: {message}"
    for exception, looks, words in PLAIN_STOPS:
        found = re.search(looks, message) if exception == kind else None
        if found is not None:
            given = [KINDS.get(group, group) for group in found.groups()]
            plain = words.format(*given, inside=facts.get("handler") or "a function")
            said = f" (Python says: {message})" if kind in ("TypeError", "AttributeError", "ValueError") else ""
            return f"{where} {plain}.{said}"
    return f"{where} cannot be done. (Python says: {kind}, {message})"


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
    entry = next((replaced(entry, variant) for fact, variant in entry.variants.items() if fact in facts), entry)
    given["when"] = capital(facts.get("when") or moment(facts.get("frame")))
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


def what_happened(prepared: Prepared, finding: Finding, played: Sequence[Played]) -> list[str]:
    """What happened, in three sentences at most: what was seen, and what the brief says."""
    refs = [ref for ref in finding.checks if ref[0] == finding.scenario] or list(finding.checks)
    if not refs or not played:
        return []
    number, index = refs[0]
    verdict, run = played[number].verdicts[index], played[number]
    if verdict.verdict == HELD:  # another mistake hid it until that one was mended
        return [f"This shows once the other mistakes are mended: `{verdict.expect}`."]
    found: list[str] = []
    if verdict.frame is not None and verdict.values:
        known = {str(what): what for what in prepared.scenarios[number].checks[index].about}
        values = " and ".join(_seen(known, name, value) for name, value in verdict.values)
        found.append(f"{capital(moment_in(prepared, number, run.trial, verdict.frame))} {values}.")
    elif verdict.reason:
        stop = run.trace.stopped
        when = f" {moment_in(prepared, number, run.trial, stop.frame)}" if stop is not None and stop.frame >= 0 else ""
        found.append(
            f"The script stopped{when}, before this could be seen."
            if stop is not None
            else f"{capital(verdict.reason)}."
        )
    if verdict.because:
        found.append(verdict.because)
    return found[:3]


def _seen(known: dict[str, Observable], name: str, value: Any) -> str:
    """A value that a check looked at, by the words of the check: `score`, `was(score)`, `told("Full")`."""
    if name in known:
        return was(known[name], value)
    for word, when in (("was", "just before"), ("first", "at the beginning")):
        what = known.get(name.removeprefix(f"{word}(").removesuffix(")"))
        if name.startswith(f"{word}(") and what is not None:
            return f"{was(what, value)} {when}"
    return f"`{name}` was {value_text(value)}"


_AS_THEY_ARE: Final = frozenset({"parts", "values"})


def _either(template: str, plain: str, facts: dict[str, Any]) -> str:
    try:
        return fill(template, facts)
    except KeyError:
        return fill(plain, facts) if plain else template.format_map(_Open(facts))


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
