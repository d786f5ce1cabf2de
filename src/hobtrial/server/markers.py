"""What marks, for whoever looks after the server: what each does, what waits, and a way to stop one."""

from __future__ import annotations

from collections import Counter

from fastapi import HTTPException

from ..crew import DESK_CHECK, HANDED_IN
from ..crew.queue import TURNS
from ..store import Markers
from .answering import Router
from .deps import Parts
from .people_views import MarkerLine, MarkersView, StopMarker, WaitingTexts
from .views import Sorry

router = Router(prefix="/api/markers", tags=["teachers"], responses={404: {"model": Sorry}})


@router.get("")
def markers(parts: Parts) -> MarkersView:
    """All that mark, and what waits to be marked."""
    with parts.store.transaction() as connection:
        rows, waiting = Markers.all(connection), Markers.waiting(connection)
        a_minute = Markers.last_minute(connection)
    of = Counter[int]()
    for priority, texts in waiting.items():
        of[-(-priority // TURNS)] += texts
    return MarkersView(
        markers=[MarkerLine(**row) for row in rows],
        waiting=WaitingTexts(
            desks=of[DESK_CHECK], handed_in=of[HANDED_IN], again=of.total() - of[DESK_CHECK] - of[HANDED_IN]
        ),
        a_minute=a_minute,
    )


@router.put("/{marker_id}", status_code=204)
def stop(marker_id: int, given: StopMarker, parts: Parts) -> None:
    """Stops one that marks, or lets it go on. What it is at is taken up by others."""
    with parts.store.transaction() as connection:
        if not 0 < marker_id < 2**31 or not Markers.stop(connection, marker_id, stopped=given.stopped):
            raise HTTPException(404, "This one does not mark any more.")
