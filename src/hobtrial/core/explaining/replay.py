"""One trial with everything that the Trial screen shows: the trace, its checks, the reference's run
behind it and where the two part.
"""

from __future__ import annotations

from typing import Any

from ..judging import Course, Played, Prepared, play_scenario
from ..scene import PieceSpec
from ..script import Script
from ..trial import OUTCOME, Trace, samples_json, trace_json, variable
from ..words import frame_of, seconds_of
from .parting import Parting, first_parting


def replay(prepared: Prepared, source: str | bytes, number: int) -> dict[str, Any]:
    """Plays a scenario with the whole trace, beside the reference's run.

    A text that cannot be read has no trace: `trace` is null and everything else is still there.
    """
    course = prepared.courses[number]
    settings = prepared.exercise.settings
    reading = prepared.read(source)
    played = (
        play_scenario(prepared, prepared.weave(reading), number, record=True) if isinstance(reading, Script) else None
    )
    reference = prepared.reference_trace(number)
    watched = [*(variable(each.name) for each in settings.variable), OUTCOME]
    parting = first_parting(watched, played.trace, reference) if played else None
    return {
        "scenario": course.scenario.name,
        "last_frame": course.plan.last_frame,
        "seed": course.plan.seed,
        "arrange": [line.text for line in course.plan.arrange],
        "variables": [{"name": each.name, "meaning": each.meaning, "label": each.label} for each in settings.variable],
        "inputs": [each.as_json() for each in course.plan.inputs],
        "checks": _checks(course, played) if played else [],
        "trace": trace_json(played.trace) if played else None,
        "samples": samples_json(played.trace) if played else {},
        "overlaps": _overlaps(played.trace) if played else [],
        "reference": {"samples": samples_json(reference), "outcome": reference.outcome},
        "parting": _parting_json(parting, played),
        "scene": scene_json(prepared, frame_of(settings.length(course.scenario))),
    }


def _parting_json(parting: Parting | None, played: Played | None) -> dict[str, Any] | None:
    """The first parting; a run that was stopped parts at the latest there."""
    if parting is not None:
        return parting.as_json()
    stop = played.trace.stopped if played else None
    if stop is None:
        return None
    return {
        "frame": max(stop.frame, 0),
        "seconds": round(seconds_of(max(stop.frame, 0)), 3),
        "what": "the script stops",
    }


def _checks(course: Course, played: Played) -> list[dict[str, Any]]:
    """The verdicts, each with the things that it is about."""
    pairs = zip(course.checks, played.verdicts, strict=True)
    return [
        {**verdict.as_json(), "about": [str(what) for what in expectation.needs]} for (_, expectation), verdict in pairs
    ]


def scene_json(prepared: Prepared, last_frame: int) -> dict[str, Any]:
    """The scene as it is set up: boxes in squares, and the kinds that spawners add."""
    scene = prepared.scene
    return {
        "width": scene.width,
        "height": scene.height,
        "last_frame": last_frame,
        "pieces": [
            {
                "name": piece.name,
                "kind": piece.kind,
                "size": list(piece.size),
                "look": piece.all_looks[0],
                "solid": piece.solid,
                "keys": _steering_keys(piece),
            }
            for piece in scene.piece
        ],
        "spawned": [
            {"kind": each.kind, "size": list(each.size), "look": each.look or each.kind} for each in scene.spawner
        ],
    }


def _steering_keys(piece: PieceSpec) -> list[str]:
    """The keys that move a piece by themselves, so that no handler need wait for them."""
    steered = piece.motion.steered
    if steered is None:
        return []
    return list({"x": steered.keys[:2], "y": steered.keys[2:]}.get(steered.axes, steered.keys))


def _overlaps(trace: Trace) -> list[dict[str, Any]]:
    """The overlaps that were watched, with whether any handler ran at their beginning or while they lasted."""
    handled = {came.event.split("(")[1] for came in trace.events if came.handlers and "(" in came.event}
    return [
        {
            "pair": pair.split(" "),
            "first": first,
            "last": last,
            "handled": f"{pair.replace(' ', ', ')})" in handled,
        }
        for pair, first, last in trace.overlaps
    ]
