"""Trace → JSON, as `hob play` writes it and the Trial screen reads it."""

from __future__ import annotations

from typing import Any

from ..events import Event
from ..words import as_json_value
from .trace import Trace


def trace_json(trace: Trace) -> dict[str, Any]:
    """The whole trace. Frames are numbers; reading and `start` are frame -1."""
    return {
        "frames": trace.last_frame + 1,
        "outcome": trace.outcome,
        "stopped": trace.stopped.as_json() if trace.stopped else None,
        "story": [{"frame": line.frame, "line": line.line, "text": line.text, "who": line.who} for line in trace.story],
        **({"log": log_json(trace)} if trace.log else {}),
        "changes": [
            {
                "frame": change.frame,
                "line": change.line,
                "handler": change.handler,
                "scope": change.scope,
                "name": change.name,
                "old": as_json_value(change.old),
                "new": as_json_value(change.new),
            }
            for change in trace.changes
            if change.differs
        ],
        "tests": [
            {
                "frame": test.frame,
                "line": test.line,
                "text": test.text,
                "parts": [{"text": text, "value": as_json_value(value)} for text, value in test.parts],
                "answer": test.answer,
            }
            for test in trace.tests
        ],
        "events": [
            {
                "frame": came.frame,
                "event": event_json(came.event),
                "handlers": list(came.handlers),
                "waiting": came.waiting,
            }
            for came in trace.events
        ],
        "messages": [
            {"frame": sent.frame, "text": sent.text, "heard_by": list(sent.heard_by)} for sent in trace.messages
        ],
        "board": [
            {"frame": shown.frame, "label": shown.label, "value": as_json_value(shown.value)} for shown in trace.board
        ],
        "offers": [{"frame": offered.frame, "label": offered.label, "value": offered.open} for offered in trace.offers],
        "sounds": [{"frame": sound.frame, "name": sound.name} for sound in trace.sounds],
        "pieces": {
            name: {key: [[frame, as_json_value(value)] for frame, value in history] for key, history in track.items()}
            for name, track in trace.pieces.items()
        },
        "lines": {str(line): [list(span) for span in spans] for line, spans in sorted(trace.lines.items())},
        "thinned": list(trace.thinned),
        "final": {name: as_json_value(value) for name, value in trace.final.items()},
    }


def event_json(event: Event) -> dict[str, Any]:
    """An event: its kind, what it is about, and as it is written in a script."""
    return {"kind": event.kind, "about": list(event.about), "text": str(event)}


def asides_json(trace: Trace) -> dict[str, Any]:
    """What the Trial screen shows besides: where on the scene labels stand, questions, places, facts, and
    what came to nothing.
    """
    return {
        "board": [
            {
                "frame": shown.frame,
                "line": shown.line,
                "label": shown.label,
                "value": as_json_value(shown.value),
                "at": list(shown.at) if shown.at is not None else None,
            }
            for shown in trace.board
        ],
        "questions": [{"frame": asked.frame, "line": asked.line, "text": asked.text} for asked in trace.questions],
        "places": [{"frame": frame, "place": place} for frame, place in trace.places],
        "facts": [{"frame": frame, "name": name, "value": as_json_value(value)} for frame, name, value in trace.facts],
        "missed": [{"frame": missed.frame, "what": missed.what, "why": missed.why} for missed in trace.missed],
    }


def steps_json(trace: Trace) -> list[dict[str, Any]]:
    """What a straight script did, one thing after the other; only listed variables, by their listed names."""
    listed = {own: name for name, own in trace.bound.items()}
    return [
        {
            "kind": step.kind,
            "frame": step.frame,
            "line": step.line,
            "text": listed.get(step.text, step.text) if step.kind == "changed" else step.text,
            "value": as_json_value(step.value),
        }
        for step in trace.steps
        if step.kind != "changed" or step.text in listed or step.text == "outcome"
    ]


def samples_json(trace: Trace) -> dict[str, list[list[Any]]]:
    """What was sampled: for each thing the frames in which it changed, with the new value."""
    return {
        str(what): [[frame, as_json_value(value)] for frame, value in timeline.changes()]
        for what, timeline in trace.samples.items()
    }


def log_json(trace: Trace) -> list[dict[str, Any]]:
    """What `print` wrote, where the exercise keeps that out of the story."""
    return [{"frame": line.frame, "line": line.line, "text": line.text} for line in trace.log]
