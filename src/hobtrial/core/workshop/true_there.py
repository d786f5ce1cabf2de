"""reference's run + a moment → sentences that are perhaps true there, each with the check that says it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

from ..events import PAIR_EVENTS
from ..judging import Prepared
from ..trial import OUTCOME, Trace, variable
from ..words import UNSET, frame_of, plural, seconds_of

MOST_TOGETHER: Final = 4
"""Variables that one check asks for together."""
PASSED_OVER: Final = frozenset(("frame", "held", "overlaps", "finished", "appeared", "gone"))
"""Events that go on and on, and such as another one causes: a check names that one."""
ENDS: Final = {"playing": "the game goes on", "won": "the game is won", "lost": "the game is lost"}


def true_there(
    prepared: Prepared, trace: Trace, what: str, first: int, last: int
) -> Iterator[tuple[str, dict[str, Any]]]:
    """Sentences with their checks about a lane, at a frame or along a span; whether they hold is seen afterwards."""
    if what == "came":
        yield from _about_events(prepared, trace, first, last)
    elif what == "told":
        yield from _about_story(trace, first, last)
    elif what == "outcome":
        yield from _about_outcome(prepared, trace, first, last)
    else:
        yield from _about_variable(prepared, trace, what, first, last)


def _about_variable(
    prepared: Prepared, trace: Trace, name: str, first: int, last: int
) -> Iterator[tuple[str, dict[str, Any]]]:
    samples = trace.samples.get(variable(name))
    if samples is None or not samples.values:
        return
    value = samples.at(first)
    if value is UNSET or not isinstance(value, (int, float, str, bool)):
        return
    at = _time(first)
    label = next((each.label for each in prepared.exercise.settings.variable if each.name == name), None)
    expect = _is(name, value)
    if last > first:
        numbers = [v for frame, v in samples.changes() if frame <= last and isinstance(v, (int, float))]
        yield f"{name} is {value!r} all along", {"always": True, "from": at, "until": _time(last), "expect": expect}
        yield f"{name} does not change from here on", {"unchanged": [name], "from": at}
        if numbers and not isinstance(value, bool):
            yield f"{name} is never more than {max(numbers)}", {"always": True, "expect": f"{name} <= {max(numbers)}"}
        yield f"{name} never goes down", {"never": True, "expect": f"{name} < was({name})"}
        return
    when, moment = _moment_of(trace, first)
    for words, tail, more in _facts(prepared, trace, name, value, first):
        yield f"{words} {when}{tail}", {**moment, "expect": more}
        yield from _after(prepared, trace, first, more, words + tail)
    if label:
        yield f"the scoreboard shows {name} all the time", {"always": True, "expect": f"{name} == board({label!r})"}
    yield f"{name} is {value!r} from here on", {"always": True, "from": at, "expect": expect}
    yield f"{name} is {value!r} by {at:g} s", {"by": at, "expect": expect}
    yield from _steps(prepared, trace, name)
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        most = max(v for v in samples.values if isinstance(v, (int, float)))
        yield f"{name} is never more than {most}", {"always": True, "expect": f"{name} <= {most}"}
        least = min(v for v in samples.values if isinstance(v, (int, float)))
        yield f"{name} is never less than {least}", {"always": True, "expect": f"{name} >= {least}"}
    yield f"{name} is {value!r} at the end", {"end": True, "expect": expect}
    yield f"{name} does not change at all", {"unchanged": [name]}
    yield f"{name} is as in the reference all through", {"same": [name]}


def _is(name: str, value: Any) -> str:
    """That a variable has a value, as it is written."""
    if isinstance(value, bool):
        return name if value else f"not {name}"
    return f"{name} == {value!r}"


def _moment_of(trace: Trace, frame: int) -> tuple[str, dict[str, Any]]:
    """When something is so, in words and as a check has it; the last frame is the end."""
    if frame == trace.last_frame:
        return "at the end", {"end": True}
    return f"at {_time(frame):g} s", {"at": _time(frame)}


def _facts(prepared: Prepared, trace: Trace, name: str, value: Any, frame: int) -> Iterator[tuple[str, str, str]]:
    """What can be said of a variable at a moment, alone and with what belongs to it.

    In words, with what is said after the moment, and as it is asked.
    """
    expect, words = _is(name, value), f"{name} is {value!r}"
    yield words, "", expect
    label = next((each.label for each in prepared.exercise.settings.variable if each.name == name), None)
    if label:
        yield words, ", and the scoreboard shows it", f"{expect} and board({label!r}) == {value!r}"
    outcome = trace.samples[OUTCOME].at(frame)
    yield words, f", and {ENDS[str(outcome)]}", f"{expect} and outcome == {outcome!r}"
    for more_words, more in _with_it(trace, frame, name):
        yield words, f", and {more_words}", f"{expect} and {more}"
    values = {each.name: trace.samples[variable(each.name)].at(frame) for each in prepared.exercise.settings.variable
              if variable(each.name) in trace.samples}  # fmt: skip
    plain = {each: found for each, found in values.items() if isinstance(found, (int, float, str))}
    moved = {each: found for each, found in plain.items() if each == name or _changes_with(trace, each, name, frame)}
    pairs = [{name: value, each: found} for each, found in plain.items() if each != name]
    for some in (moved, *(pairs if len(pairs) < MOST_TOGETHER else ()), plain):
        if 2 <= len(some) <= MOST_TOGETHER:
            all_words = " and ".join(f"{each} is {found!r}" for each, found in some.items())
            all_expect = " and ".join(_is(each, found) for each, found in some.items())
            yield all_words, "", all_expect
            yield all_words, f", and {ENDS[str(outcome)]}", f"{all_expect} and outcome == {outcome!r}"


def _changes_with(trace: Trace, other: str, name: str, frame: int) -> bool:
    """Whether another variable changed with this one, the last time that this one did; or neither has yet."""
    mine, theirs = _changed(trace, name, frame), _changed(trace, other, frame)
    return bool(theirs) == bool(mine) and (not mine or mine[-1] in theirs)


def _changed(trace: Trace, name: str, frame: int) -> list[int]:
    """The frames of the game, up to one, in which a variable changed."""
    return [at for at, _ in trace.samples[variable(name)].changes() if 0 < at <= frame]


def _with_it(trace: Trace, frame: int, name: str) -> Iterator[tuple[str, str]]:
    """What else came in the frame in which a variable last changed: a look, a sound, a message."""
    changed = _changed(trace, name, frame)
    if not changed:
        return
    for piece, kept in trace.pieces.items():
        looks = [(at, look) for at, look in kept.get("look", []) if at <= frame]
        if looks and abs(looks[-1][0] - changed[-1]) <= 1 and looks[-1][0] > 0:
            yield f"{piece} looks like {looks[-1][1]}", f"{piece}.look == {looks[-1][1]!r}"
    for sound in dict.fromkeys(each.name for each in trace.sounds if abs(each.frame - changed[-1]) <= 1):
        yield f'"{sound}" sounded', f"sounded({sound!r})"
    for text in dict.fromkeys(each.text for each in trace.messages if abs(each.frame - changed[-1]) <= 1):
        yield f'"{text}" was sent', f"sent({text!r})"


def _steps(prepared: Prepared, trace: Trace, name: str) -> Iterator[tuple[str, dict[str, Any]]]:
    """By how much a variable changes each time something comes."""
    samples = trace.samples[variable(name)]
    for event in dict.fromkeys(_general(prepared, came.event) for came in trace.events if came.handlers):
        moments = [came.frame for came in trace.events if _general(prepared, came.event) == event]
        changes = set()
        for frame in moments:
            before, now = samples.at(max(frame - 1, 0)), samples.at(frame)
            if type(before) not in (int, float) or type(now) not in (int, float):
                return
            changes.add(now - before)
        if len(changes) == 1 and (step := changes.pop()):
            more = f"{name} == was({name}) {'+' if step > 0 else '-'} {abs(step):g}"
            words = f"each time {event} comes: {name} goes {'up' if step > 0 else 'down'} by {abs(step):g}"
            yield words, {"each": event, "expect": more}


def _after(
    prepared: Prepared, trace: Trace, frame: int, expect: str, words: str
) -> Iterator[tuple[str, dict[str, Any]]]:
    """The last event before a moment, and which of its kind it was."""
    handled = [came for came in trace.events if came.handlers and 0 <= came.frame <= frame]
    told = [came for came in handled if came.event.kind not in PASSED_OVER]
    if not told:
        return
    event = _general(prepared, told[-1].event)
    nth = len({(came.frame, came.event) for came in handled if _general(prepared, came.event) == event})
    check: dict[str, Any] = {"after": event, "expect": expect}
    if nth > 1:
        check["nth"] = nth
    which = "" if nth == 1 else f" for the {_nth(nth)} time"
    yield f"after {event} came{which}, {words}", check


def _about_outcome(prepared: Prepared, trace: Trace, first: int, last: int) -> Iterator[tuple[str, dict[str, Any]]]:
    value = trace.samples[OUTCOME].at(first)
    words = ENDS[str(value)]
    at, expect = _time(first), f"outcome == {value!r}"
    told = [line.text for line in trace.story if line.text and 0 <= line.frame <= first]
    if told and value != "playing":
        both = f"{expect} and told({told[-1]!r})"
        yield f'{words}, and "{told[-1]}" is told by {at:g} s', {"by": at, "expect": both}
        yield from _after(prepared, trace, first, both, f'{words} and "{told[-1]}" is told')
    if last > first:
        yield f"{words} all along", {"always": True, "from": at, "until": _time(last), "expect": expect}
        yield "the outcome does not change from here on", {"unchanged": ["outcome"], "from": at}
        return
    for piece, look in _looks(trace, first):
        more = f"{expect} and {piece}.look == {look!r}"
        yield f"{words}, and {piece} looks like {look} at {at:g} s", {"at": at, "expect": more}
        yield from _after(prepared, trace, first, more, f"{words} and {piece} looks like {look}")
    yield from _after(prepared, trace, first, expect, words)
    yield f"{words} at {at:g} s", {"at": at, "expect": expect}
    yield f"{words} by {at:g} s", {"by": at, "expect": expect}
    yield f"{words} from here on", {"always": True, "from": at, "expect": expect}
    yield f"{words} at the end", {"end": True, "expect": expect}
    yield "the outcome is as in the reference all through", {"same": ["outcome"]}


def _looks(trace: Trace, frame: int) -> list[tuple[str, str]]:
    """The pieces that do not look as at the beginning, and what they look like."""
    looks = {piece: [look for at, look in kept.get("look", []) if at <= frame] for piece, kept in trace.pieces.items()}
    return [(piece, str(found[-1])) for piece, found in looks.items() if found and found[-1] != found[0]]


def _about_story(trace: Trace, first: int, last: int) -> Iterator[tuple[str, dict[str, Any]]]:
    lines = [line for line in trace.story if line.text]
    near = sorted(lines, key=lambda line: abs(line.frame - first))[:1]
    for line in near:
        at = _time(min(line.frame + 1, trace.last_frame))
        times = sum(each.text == line.text for each in lines)
        yield f'"{line.text}" is told by {at:g} s', {"by": at, "expect": f"told({line.text!r})"}
        often = "once" if times == 1 else f"{times} times"
        yield f'"{line.text}" is told {often} at all', {"end": True, "expect": f"times(told({line.text!r})) == {times}"}


def _about_events(prepared: Prepared, trace: Trace, first: int, last: int) -> Iterator[tuple[str, dict[str, Any]]]:
    """What changes with the event that came nearest to a moment."""
    came = [each for each in trace.events if each.handlers and each.frame >= 0]
    if not came:
        return
    nearest = min(came, key=lambda each: abs(each.frame - first))
    for listed in prepared.exercise.settings.variable:
        if variable(listed.name) in trace.samples:
            yield from _steps(prepared, trace, listed.name)
            value = trace.samples[variable(listed.name)].at(nearest.frame)
            if isinstance(value, (int, float, str)):
                yield from _after(
                    prepared, trace, nearest.frame, f"{listed.name} == {value!r}", f"{listed.name} is {value!r}"
                )
    at = _time(min(first, trace.last_frame))
    for listed in prepared.exercise.settings.variable:
        value = trace.samples[variable(listed.name)].at(first) if variable(listed.name) in trace.samples else UNSET
        if listed.label and isinstance(value, (int, float, str)):
            shown = f"board({listed.label!r}) == {value!r}"
            yield f"the scoreboard shows {value!r} as {listed.label} at {at:g} s", {"at": at, "expect": shown}
            yield from _after(prepared, trace, first, shown, f"the scoreboard shows {value!r} as {listed.label}")
    when, moment = _moment_of(trace, min(first, trace.last_frame))
    for kind, left in _left(prepared, trace, first).items():
        yield f"{plural(left, kind)} on the scene {when}", {**moment, "expect": f"count({kind}) == {left}"}
    for sound in dict.fromkeys(each.name for each in trace.sounds if each.frame <= first):
        yield f'"{sound}" sounded {when}', {**moment, "expect": f"sounded({sound!r})"}
    for text in dict.fromkeys(each.text for each in trace.messages if each.frame <= first):
        yield f'"{text}" was sent {when}', {**moment, "expect": f"sent({text!r})"}
        yield f'"{text}" was sent by {at:g} s', {"by": at, "expect": f"sent({text!r})"}
    places = [place for at_frame, place in trace.places if at_frame <= first]
    if places:
        yield f"the player is in {places[-1]} {when}", {**moment, "expect": f"place == {places[-1]!r}"}
    if nearest.event.kind in PAIR_EVENTS:
        text = _general(prepared, nearest.event)
        often = len({each.frame for each in came if _general(prepared, each.event) == text})
        yield f"{text} comes {often} times at all", {"end": True, "expect": f"times({text}) == {often}"}


def _left(prepared: Prepared, trace: Trace, frame: int) -> dict[str, int]:
    """How many pieces of each kind of several are there in a frame."""
    kinds = [piece.kind for piece in prepared.scene.piece]
    found: dict[str, int] = {}
    for piece in prepared.scene.piece:
        if kinds.count(piece.kind) < 2:
            continue
        gone = [value for at, value in trace.pieces.get(piece.name, {}).get("removed", []) if at <= frame]
        found[piece.kind] = found.get(piece.kind, 0) + (not (gone and gone[-1]))
    return found


def _general(prepared: Prepared, event: Any) -> str:
    """An event as a check names it: of the kind that a piece is of, where it is one of several."""
    if event.kind not in (*PAIR_EVENTS, "clicked", "appeared", "gone"):
        return str(event)
    kinds = {piece.name: piece.kind for piece in prepared.scene.piece}
    names = [kinds.get(str(each)) or _stem(str(each)) for each in event.about]
    return f"{event.kind}({', '.join(names)})"


def _stem(name: str) -> str:
    """The kind of a piece that a spawner made, by its name."""
    stem, _, number = name.rpartition("_")
    return stem if stem and number.isdigit() else name


def _nth(number: int) -> str:
    endings = {1: "st", 2: "nd", 3: "rd"}
    return f"{number}{'th' if number % 100 in (11, 12, 13) else endings.get(number % 10, 'th')}"


def _time(frame: int) -> float:
    """A frame in seconds, in few digits that mean the same frame."""
    for digits in range(1, 5):
        rounded = round(seconds_of(frame), digits)
        if frame_of(rounded) == frame:
            return rounded
    return seconds_of(frame)
