"""A change in a few words, for what stands beside *undo*."""

from __future__ import annotations

from .changes import (
    AddRow,
    Change,
    ChangeRow,
    CopyPiece,
    DropFile,
    RemoveRow,
    ReplaceRow,
    SetInputs,
    SetKeys,
    Several,
    WriteText,
)


def in_words(change: Change) -> str:
    """What a change does: "a piece was added"."""
    match change:
        case Several():
            return in_words(change.changes[0])
        case SetKeys():
            return f"{', '.join(change.keys)} changed"
        case AddRow():
            return f"a {change.table} added"
        case ChangeRow():
            return f"{', '.join(change.keys)} of a {change.table} changed"
        case ReplaceRow():
            return f"a {change.table} changed"
        case RemoveRow():
            return f"a {change.table} taken away"
        case SetInputs():
            return "inputs changed"
        case CopyPiece():
            return "a piece copied"
        case WriteText():
            return f"{change.file} written"
        case DropFile():
            return f"{change.file} taken away"
