"""One trial with everything that the Trial screen shows: the trace, its checks, the reference's run
behind it and where the two part.
"""

from __future__ import annotations

from typing import Any

from ..judging import Prepared, play_scenario
from ..script import Script
from ..trial import OUTCOME, Trace, samples_json, trace_json, variable
from ..words import frame_of
from .parting import first_parting


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
        "variables": [{"name": each.name, "meaning": each.meaning} for each in settings.variable],
        "inputs": [
            {"key": each.key, "down": each.down, "up": each.up, "held": each.held} for each in course.plan.inputs
        ],
        "checks": [verdict.as_json() for verdict in played.verdicts] if played else [],
        "trace": trace_json(played.trace) if played else None,
        "samples": samples_json(played.trace) if played else {},
        "overlaps": _overlaps(played.trace) if played else [],
        "reference": {"samples": samples_json(reference), "outcome": reference.outcome},
        "parting": parting.as_json() if parting else None,
        "scene": scene_json(prepared, frame_of(settings.length(course.scenario))),
    }


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
                "look": piece.look or piece.kind,
                "solid": piece.solid,
            }
            for piece in scene.piece
        ],
        "spawned": [
            {"kind": each.kind, "size": list(each.size), "look": each.look or each.kind} for each in scene.spawner
        ],
    }


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
