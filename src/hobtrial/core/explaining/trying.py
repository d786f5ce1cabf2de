"""One edit tried: what rules it out is asked first, from what costs least to what costs most.

By what was recorded, then played only to where the script parts from the reference, then over the scenarios that show
what went wrong, and then over all of them.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterable
from dataclasses import replace
from typing import Any, Final, Literal

from ..judging import CLOSE, TRIALS_OF_AN_EDIT, Played, Prepared, parting, play_scenario, same_steps
from ..script import Script, Woven
from ..script.tree import walk
from ..trial import Trace
from .comparing import apart_on, mended_agree, puts_off, turned
from .finding import Edit
from .recorded import UNKNOWN, answer
from .slips.order import SLIPS
from .stopping import only_avoids
from .subject import Subject
from .tried import Budget, Tried
from .witness import seen

TEST: Final = re.compile(r"(\s*(?:if|elif|while)\b)(.+):\s*")
"""A line with a test, up to its keyword, and the test."""
ONLY_ASKS: Final = frozenset(("outcome", "len", "abs", "min", "max", "round", "int", "str"))
"""Functions that change nothing, as tests call them."""
UNSEEN: Final = "unseen"
"""A change that mends, but not as its slip would: another slip may write the same."""
TOO_EARLY: Final = "too early"
"""A change that does nothing for what goes wrong first: it may for something that goes wrong later."""


def try_edit(
    prepared: Prepared,
    edit: Edit,
    text: str,
    subject: Subject,
    played: list[Played],
    budget: Budget,
    *,
    early: bool,
) -> Tried | Literal["unseen", "too early"] | None:
    """An edit on the scenarios that show what went wrong and then on all; `early` asks for the first parting only."""
    lines = {span.line for span in edit.spans}
    last = subject.last_parting
    passed = [
        number for number, trace in subject.traces.items() if edit.everywhere or reaches(trace, lines, last[number])
    ]
    reached = [number for number in passed if number in subject.probes] or passed[:1]
    if _answers_alike(subject, reached, text, lines):
        budget.ruled_out += 1
        return None
    woven = subject.edited(text)
    if woven is None or not budget.take(len(reached)):
        return None
    budget.read(text)
    if not any(_gets_on(prepared, woven, number, played[number], subject, budget, early) for number in reached):
        return TOO_EARLY if early else None
    if not budget.take(_trials(prepared, reached)):
        return None
    after = {
        number: play_scenario(prepared, woven, number, like=played[number], few=True, granted=budget.left)
        for number in reached
    }
    budget.count(after.values())
    mends = {ref for number in reached for ref in turned(played[number], after[number], held=True)}
    eased = frozenset(
        what
        for number in reached
        for what in subject.partings[number]
        if not mends and same_steps(what, after[number].trace, subject.theirs[number])
    )
    if (not mends and not eased) or not isinstance(prepared.read(text), Script):
        return None
    broken = {ref for number in reached for ref in turned(played[number], after[number], held=False)}
    probed = [played[number] for number in reached]
    first = eased | {what for number, index in mends for what in prepared.scenarios[number].checks[index].about}
    if not mended_agree(prepared, first, mends, probed, after) and not puts_off(prepared, first, probed, after):
        return None  # neither can come out over all scenarios any more
    others = [run.number for run in played if run.number not in after]
    if not budget.take(_trials(prepared, others)):
        return None
    for number in others:
        after[number] = play_scenario(prepared, woven, number, like=played[number], few=True, granted=budget.left)
        budget.count([after[number]])
        broken |= set(turned(played[number], after[number], held=False))
        if len(broken) > len(mends) + 1 or (eased and broken):
            return None
    mends = {ref for run in played for ref in turned(run, after[run.number], held=True)}
    if len(broken) >= len(mends) and not eased:
        return None  # a check may have held only because nothing happened, but not as many as that
    refs = mends | broken
    about = eased | {what for number, index in refs for what in prepared.scenarios[number].checks[index].about}
    firm = not broken and not eased and mended_agree(prepared, about, mends, played, after)
    if not firm and not puts_off(prepared, about, played, after):
        return None
    if only_avoids(edit, subject, after, mends):
        return None
    facts = witnessed(edit, {number for number, _ in mends} & set(subject.traces) or set(reached), subject)
    if facts is None:
        return UNSEEN
    found, scenario = facts
    ordered = tuple(after[run.number] for run in played)
    apart = apart_on(prepared, played, after)
    return Tried(edit, text, woven, ordered, frozenset(mends), found, scenario, about, 0, firm, bool(eased), apart)


def reaches(trace: Trace, lines: set[int], last: int) -> bool:
    """Whether a trial ran any of the lines up to a frame; the heads of handlers count as run."""
    if trace.stopped is not None and trace.stopped.line in lines:
        return True
    return any(
        near in trace.lines and trace.lines[near][0][0] <= last for line in lines for near in (line, line + 1, line + 2)
    )


def _answers_alike(subject: Subject, numbers: Iterable[int], text: str, lines: set[int]) -> bool:
    """Whether an edit of a test alone would have answered every time just as the script did, by what was recorded."""
    if len(lines) != 1:
        return False
    line, changed = next(iter(lines)), text.split("\n")
    if len(changed) != len(subject.script.lines):
        return False
    before, now = TEST.fullmatch(subject.script.lines[line - 1]), TEST.fullmatch(changed[line - 1])
    if before is None or now is None or before[1] != now[1]:
        return False
    try:
        old, test = (ast.parse(each[2].strip(), mode="eval").body for each in (before, now))
    except SyntaxError:
        return False
    if not (only_asks(old) and only_asks(test)):
        return False
    for number in numbers:
        trace, last = subject.traces[number], subject.last_parting[number]
        if trace.thinned or trace.stopped is not None:
            return False  # a test that stopped the script gave no answer
        for asked in trace.tests:
            if asked.line == line and asked.frame <= last + CLOSE:
                given = answer(test, dict(asked.parts))
                if given is UNKNOWN or bool(given) is not asked.answer:
                    return False
    return True


def only_asks(test: ast.expr) -> bool:
    """Whether a test changes nothing: it stores no name, and calls nothing but what only asks."""
    return not any(
        isinstance(node, ast.NamedExpr)
        or (isinstance(node, ast.Call) and not (isinstance(node.func, ast.Name) and node.func.id in ONLY_ASKS))
        for node in walk(test)
    )


def _gets_on(
    prepared: Prepared, woven: Woven, number: int, before: Played, subject: Subject, budget: Budget, first: bool
) -> bool:
    """Whether an edited script parts later than before, or no more, on anything that is broken in a scenario.

    Only the trial that was looked at is played, and only to where the script itself parts: for the first time, or for
    the last.
    """
    partings = subject.partings[number]
    if first and partings:
        begins = min(partings.values())
        partings = {what: frame for what, frame in partings.items() if frame <= begins + CLOSE}
    scenario = prepared.scenarios[number]
    if not partings:
        return True
    plan = scenario.plans[before.trial]
    until = min(plan.last_frame, max(partings.values()) + CLOSE + 2)
    edited = prepared.play_plan(woven, scenario, replace(plan, last_frame=until), passes=budget.left)
    budget.add(edited.passes, edited.last_frame + 1)
    theirs = subject.theirs[number]
    for what, frame in partings.items():
        now = parting(what, edited, theirs)
        stopped = edited.stopped is not None and edited.stopped.frame <= frame
        if not stopped and (now is None or now.frame > frame):
            return True
    return False


def _trials(prepared: Prepared, numbers: list[int]) -> int:
    """How many trials scenarios have for an edited script."""
    return sum(min(len(prepared.scenarios[number].plans), TRIALS_OF_AN_EDIT) for number in numbers)


def witnessed(edit: Edit, numbers: set[int], subject: Subject) -> tuple[dict[str, Any], int] | None:
    """The evidence of the student's own run, and the scenario that it is from; nothing where no run bears it out."""
    own = SLIPS[edit.slip].witness
    hidden = [not scenario.spec.visible for scenario in subject.prepared.scenarios]
    for number in sorted(numbers, key=lambda number: (hidden[number], number)):
        trace = subject.traces[number]
        general = seen(edit, trace, subject.parts[number])
        facts = own(edit, trace) if own is not None else {}
        if facts is not None and (general is not None or own is not None):
            return {**(general or {}), **facts}, number
    return None
