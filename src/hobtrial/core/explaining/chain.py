"""Mistakes one on top of the other: the likeliest change is made, and the search goes on with what is left."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any, Final

from ..judging import HELD, Played, Prepared, parting, reference_of
from ..script import Script
from ..script.tree import origins
from ..trial import Observable, Trace
from .comparing import agrees
from .finding import CheckRef
from .one_change import examined, search
from .slips.order import narrower
from .slips.slip import Group
from .subject import Subject
from .tried import Budget, Tried
from .why import why

MOST_RECORDED: Final = 150_000
"""Passes of a full trace of a run that a limit stopped: it takes three times as long as one for the marks."""
OF_A_LOOP: Final = 20_000
"""Of those the passes of the handler that did not come to its end."""
MOST_ROUNDS: Final = 6
"""Mistakes explained one on top of the other in one script."""
MOST_RIVALS: Final = 2
"""Further slips that are named beside one, where several mend the same at the same cost."""


@dataclass(frozen=True, eq=False)
class Link:
    """One mistake that was found: the script it was found in, and the edits that mend it."""

    base: Script
    lines: tuple[int, ...]
    """For each line of it the line that it comes from in the script as handed in."""
    best: Tried
    rivals: tuple[Tried, ...]

    @property
    def after(self) -> list[Played]:
        """The scenarios once it is mended."""
        return list(self.best.played)

    @property
    def shown(self) -> bool:
        """Whether it is more than likely: one edit of the script's own, which the drawn runs bear out."""
        return self.best.proven and not self.best.edit.copied and not self.rivals


@dataclass(frozen=True, eq=False)
class Chain:
    """Mistakes found one on top of the other, and the script with all of them mended."""

    links: tuple[Link, ...]
    script: Script
    first: list[Played]
    """The script as it was handed in, in all scenarios."""
    played: list[Played]
    """The script with all of them mended."""
    handed_in: Subject
    """The script as it was handed in."""


def chain_of(prepared: Prepared, script: Script, played: list[Played], budget: Budget) -> Chain:
    """The mistakes of a script. Where steps of it come to nothing, it is gone through once more without them."""
    handed_in = subject_of(prepared, script, played)
    chain = _follow(prepared, handed_in, played, budget, steps=True)
    if not all(link.best.firm or agrees(prepared, link.best.about, chain.played) for link in chain.links):
        chain = _follow(prepared, handed_in, played, budget, steps=False)
    return _proven(prepared, chain, budget)


def _follow(prepared: Prepared, handed_in: Subject, played: list[Played], budget: Budget, *, steps: bool) -> Chain:
    """Mends one mistake after the other; with `steps`, also such as do not agree yet."""
    links: list[Link] = []
    script = handed_in.script
    base, now = script, played
    lines = tuple(range(1, len(script.lines) + 1))
    while len(links) < MOST_ROUNDS and any(run.broken for run in now):
        subject = subject_of(prepared, base, now) if links else handed_in
        found = [tried for tried in search(prepared, subject, now, budget) if steps or tried.firm]
        found = [tried for tried in found if _may_be_said(tried, budget)]
        found = _without_handlers(found)
        if not found:
            break
        links.append(Link(base, lines, found[0], tuple(_rivals(found, budget))))
        lines = origins(lines, base.text, found[0].edit.spans)
        reading = prepared.read(found[0].text)
        assert isinstance(reading, Script)
        base, now = reading, list(found[0].played)
    return Chain(tuple(links), base, played, now, handed_in)


def _without_handlers(found: list[Tried]) -> list[Tried]:
    """Whole handlers of the reference are not said to be missing where a change of the script's own mends as much."""
    own = [tried for tried in found if tried.firm and not tried.edit.copied]
    return [
        tried
        for tried in found
        if tried.edit.group != Group.HANDLER or not any(tried.mends <= each.mends for each in own)
    ]


def _may_be_said(tried: Tried, budget: Budget) -> bool:
    """What copies the reference mends whatever is wrong: it is said only where the drawn runs bear it out."""
    return not tried.edit.copied or (tried.firm and examined(tried, budget).proven)


def _proven(prepared: Prepared, chain: Chain, budget: Budget) -> Chain:
    """The chain with what its end proves: where all is mended, drawn runs bear out each change on the way there."""
    doubtful = [link for link in chain.links if not link.best.proven]
    if not doubtful:
        return chain
    links: list[Link] = []
    woven = prepared.weave(chain.script)
    for link in chain.links:
        if not link.best.proven:
            drawn = budget.examination.answer(woven, link.best.about)
            link = replace(link, best=replace(link.best, drawn=drawn))
        if not link.best.proven:
            return replace(chain, links=tuple(links), played=links[-1].after if links else chain.first)
        links.append(link)
    return replace(chain, links=tuple(links))


def _rivals(found: list[Tried], budget: Budget) -> list[Tried]:
    """Edits of other slips that mend the same checks as the best at the same cost; the narrower slip stands alone."""
    best = found[0]
    rivals: dict[str, Tried] = {}
    for tried in found[1:]:
        edit = tried.edit
        alike = tried.firm and tried.mends == best.mends and tried.apart == best.apart and tried.cost <= best.cost
        if edit.slip == best.edit.slip or edit.copied or not alike or narrower(best.edit, edit):
            continue
        if edit.slip not in rivals and len(rivals) < MOST_RIVALS and examined(tried, budget).proven:
            rivals[edit.slip] = tried
    return list(rivals.values())


def subject_of(prepared: Prepared, script: Script, played: Iterable[Played]) -> Subject:
    """A script with the full traces of its broken scenarios."""
    broken = [run for run in played if run.broken and not loops(run)]
    traces = traces_of(prepared, script, broken)
    theirs = {run.number: reference_of(prepared, run) for run in broken}
    about = {run.number: about_broken(prepared, run) for run in broken}
    parts: dict[int, int] = {}
    partings: dict[int, dict[Observable, int]] = {}
    for run in broken:
        found = {
            what: each.frame
            for what in sorted(about[run.number] & set(run.trace.samples), key=str)
            if (each := parting(what, run.trace, theirs[run.number])) is not None
        }
        stop = run.trace.stopped
        partings[run.number] = found
        ended = stop.frame if stop is not None else run.trace.last_frame
        parts[run.number] = min(found.values(), default=ended)
    whole = frozenset().union(*about.values())
    probes = _probes(prepared, script, broken, traces, theirs)
    return Subject(prepared, script, traces, theirs, partings, parts, whole, probes)


def _probes(
    prepared: Prepared, script: Script, broken: list[Played], traces: dict[int, Trace], theirs: dict[int, Trace]
) -> frozenset[int]:
    """For each cause of a broken check the shortest scenario that shows it: what mends none of them is dropped."""
    causes: dict[tuple[Any, ...], int] = {}
    for run in sorted(broken, key=lambda run: (run.trials * run.trace.planned, run.number)):
        for index, verdict in enumerate(run.verdicts):
            if verdict.verdict != HELD:
                needs = prepared.scenarios[run.number].checks[index].about
                cause = why(verdict, needs, script, traces[run.number], theirs[run.number])
                causes.setdefault(cause.key, run.number)
    return frozenset(causes.values())


def loops(run: Played) -> bool:
    """Whether a loop went round until its limit: that is the mistake, and its trials are costly."""
    return run.trace.stopped is not None and run.trace.stopped.kind == "loop"


def about_broken(prepared: Prepared, run: Played) -> frozenset[Observable]:
    """What the checks of a scenario that do not hold are about."""
    return frozenset(
        what
        for index, verdict in enumerate(run.verdicts)
        if verdict.verdict != HELD
        for what in prepared.scenarios[run.number].checks[index].about
    )


def traces_of(prepared: Prepared, script: Script, played: Iterable[Played]) -> dict[int, Trace]:
    """The full traces of the broken scenarios, by their numbers."""
    woven = prepared.weave(script)
    found: dict[int, Trace] = {}
    for run in played:
        if run.broken:
            scenario, most = prepared.scenarios[run.number], _to_record(prepared, run)
            trace = prepared.play(woven, scenario, run.trial, record=True, passes=most)
            # where and why it stopped is told as it was marked, also where the full trace ends before that
            found[run.number] = trace if most is run.granted else replace(trace, stopped=run.trace.stopped)
    return found


def _to_record(prepared: Prepared, run: Played) -> int | None:
    """How many passes a full trace may take. One that was stopped after many is as clear after fewer."""
    stop = run.trace.stopped
    if stop is None or not stop.limit:
        return run.granted
    most = MOST_RECORDED
    if loops(run):  # the last handler spent all that one may spend
        most = min(max(run.trace.passes - prepared.limits.passes_a_handler, 0) + OF_A_LOOP, MOST_RECORDED)
    return most if run.trace.passes > most else run.granted


def marks_of(prepared: Prepared, refs: Iterable[CheckRef]) -> float:
    """The marks of some checks together."""
    return sum(prepared.scenarios[number].checks[index].spec.marks for number, index in refs)
