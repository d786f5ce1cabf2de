"""One trial with everything that the Trial screen shows: the trace, its checks, the reference's run
behind it and where the two part.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from ..events import PAIR_EVENTS
from ..exercise import scenario_text
from ..explaining import stop_words
from ..judging import (
    Parting,
    Prepared,
    PreparedScenario,
    Put,
    by_hand,
    first_parting,
    judge,
    names_for,
    read_shown,
    written_back,
)
from ..scene import PieceSpec
from ..script import Script
from ..trial import (
    OUTCOME,
    Plan,
    PlayerInput,
    Trace,
    asides_json,
    event_json,
    log_json,
    samples_json,
    steps_json,
    trace_json,
    variable,
)
from ..words import Stop, frame_of, seconds_of


def replay(
    prepared: Prepared,
    source: str | bytes,
    scenario: PreparedScenario,
    trial: int = 0,
    *,
    put: Iterable[Put] = (),
    shown: Iterable[str] = (),
    beside: bool = True,
) -> dict[str, Any]:
    """Plays one trial of a scenario with the whole trace; `beside` the reference's run, or alone: then there is
    nothing of the reference in it.

    `put` was put in place by hand; `shown` is on show like a listed variable. A text that cannot be read has no
    trace: `trace` is null and everything else is still there. Raises `UsageError` for what cannot be put or shown.
    """
    settings = prepared.exercise.settings
    reading = prepared.read(source)
    names = names_for(prepared, reading if isinstance(reading, Script) else None)
    more = [what for what in read_shown(shown, names) if isinstance(reading, Script)]
    scenario = by_hand(scenario, trial, put, more, names) if put or more else scenario
    plan = scenario.plans[trial]
    trace = (
        prepared.play(prepared.weave(reading), scenario, trial, record=True) if isinstance(reading, Script) else None
    )
    reference = prepared.reference_trace(scenario, trial) if beside else None
    watched = [*(variable(each.name) for each in settings.variable), OUTCOME]
    parting = first_parting(watched, trace, reference) if trace and reference else None
    return {
        "scenario": scenario.spec.name,
        "trial": trial,
        "trials": list(scenario.labels),
        "visible": scenario.spec.visible,
        "last_frame": plan.last_frame,
        "seed": plan.seed,
        "luck": list(plan.luck) if isinstance(plan.luck, tuple) else plan.luck,
        "arrange": [line.text for line in plan.arrange],
        "variables": [
            *variables_json(prepared),
            *({"name": str(what), "meaning": "", "label": None} for what in more if what not in watched),
        ],
        "inputs": _inputs(plan, trace),
        "checks": _checks(prepared, scenario, trial, trace) if trace else [],
        "trace": {**trace_json(trace), "log": log_json(trace), "stopped": stop_json(trace.stopped)} if trace else None,
        "asides": asides_json(trace) if trace else None,
        "samples": samples_json(trace) if trace else {},
        "overlaps": _overlaps(trace) if trace else [],
        "straight": settings.style == "straight",
        "steps": steps_json(trace) if trace else [],
        "reference": {
            "samples": samples_json(reference),
            "outcome": reference.outcome,
            "steps": steps_json(reference),
        }
        if reference
        else None,
        "parting": _parting_json(parting, trace) if beside else None,
        "scene": scene_json(prepared),
        "toml": scenario_text(written_back(scenario, trial)) if beside else "",
        "predict": predict_json(scenario),
    }


def stop_json(stop: Stop | None) -> dict[str, Any] | None:
    """Why a run was stopped, as the screens show it: in plain words, and in Python's."""
    if stop is None:
        return None
    facts = {"line": stop.line, "kind": stop.kind, "message": stop.message, "limit": stop.limit}
    return {**stop.as_json(), "plain": stop_words({**facts, "handler": stop.handler})}


def predict_json(scenario: PreparedScenario) -> dict[str, Any] | None:
    """What is to be predicted before the run is seen, and the frame that it is about."""
    wanted = scenario.spec.predict
    return None if wanted is None else {"names": list(wanted.names), "frame": frame_of(wanted.at)}


def variables_json(prepared: Prepared) -> list[dict[str, Any]]:
    """The listed variables."""
    return [
        {"name": each.name, "meaning": each.meaning, "label": each.label}
        for each in prepared.exercise.settings.variable
    ]


def _inputs(plan: Plan, trace: Trace | None) -> list[dict[str, Any]]:
    """The inputs, each key up when it really came up."""
    keys = trace.keys if trace else ()
    ends = {
        (key, frame): next((up for up, other, down in keys if other == key and not down and up > frame), None)
        for frame, key, down in keys
        if down
    }
    found = []
    for given in (*plan.inputs, *(PlayerInput("answer", frame, text) for frame, text in plan.answers)):
        up = ends.get((given.what, given.frame)) if given.kind == "hold" else None
        found.append({**given.as_json(), "up": up if up is not None else given.up})
    return found


def _parting_json(parting: Parting | None, trace: Trace | None) -> dict[str, Any] | None:
    """The first parting; a run that was stopped parts at the latest there."""
    if parting is not None:
        return parting.as_json()
    stop = trace.stopped if trace else None
    if stop is None:
        return None
    return {
        "frame": max(stop.frame, 0),
        "seconds": round(seconds_of(max(stop.frame, 0)), 3),
        "what": "the script stops",
    }


def _checks(prepared: Prepared, scenario: PreparedScenario, trial: int, trace: Trace) -> list[dict[str, Any]]:
    """The verdicts over this trial, each with its index among the scenario's checks and what it is about."""
    return [
        {
            **judge(check, trace, lambda: prepared.reference_trace(scenario, trial)).as_json(),
            "index": index,
            "about": [str(what) for what in check.about],
            "event": event_json(check.event) if check.event is not None else None,
        }
        for index, check in enumerate(scenario.checks)
        if check.trial in (None, trial)
    ]


def scene_json(prepared: Prepared) -> dict[str, Any]:
    """The scene as it is set up: boxes in squares, and what each kind that comes later is like."""
    scene = prepared.scene
    moulds = {each.kind: each.mould for each in scene.spawner}
    moulds |= {each.kind: each for each in reversed(scene.piece) if each.kind not in moulds}
    return {
        "width": scene.width,
        "height": scene.height,
        "background": scene.background,
        "places": list(scene.places),
        "own_looks": sorted(prepared.exercise.looks),
        "pieces": [_piece_json(piece) for piece in scene.piece],
        "kinds": [_piece_json(mould) for mould in moulds.values()],
        "facts": [
            {
                "name": fact.name,
                "start": fact.start,
                "range": list(fact.range) if fact.range else None,
                "choices": list(fact.choices) if fact.choices else None,
            }
            for fact in scene.fact
        ],
    }


def _piece_json(piece: PieceSpec) -> dict[str, Any]:
    return {
        "name": piece.name,
        "kind": piece.kind,
        "at": list(piece.at),
        "look": piece.all_looks[0],
        "facing": piece.facing,
        "hidden": piece.hidden,
        "size": list(piece.size),
        "solid": piece.solid,
        "zone": piece.zone,
        "keys": _steering_keys(piece),
    }


def _steering_keys(piece: PieceSpec) -> list[str]:
    """The keys that move a piece by themselves, so that no handler need wait for them."""
    steered = piece.motion.steered
    if steered is None:
        return []
    if steered.jump:
        return list(steered.keys[:3])
    return list({"x": steered.keys[:2], "y": steered.keys[2:]}.get(steered.axes, steered.keys))


def _overlaps(trace: Trace) -> list[dict[str, Any]]:
    """The overlaps that were watched, with whether any handler ran at their beginning or while they lasted."""
    handled = {came.event.about for came in trace.events if came.handlers and came.event.kind in PAIR_EVENTS}
    return [
        {
            "pair": [each.first, each.second],
            "first": each.since,
            "last": each.last,
            "handled": (each.first, each.second) in handled,
        }
        for each in trace.overlaps
    ]
