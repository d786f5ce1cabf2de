"""What the routers share: the store, the queue and the marker of the running application."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends
from starlette.requests import HTTPConnection

from ..crew import Crew, Marker, Players, Queue
from ..store import Store
from .classroom import Classroom
from .demo_links import DemoLinks
from .marking import Marking
from .plays import Plays
from .proofs import Proofs


@dataclass(frozen=True)
class PlayServices:
    """What playing needs; made once, when the application starts."""

    crew: Crew
    players: Players
    plays: Plays


@dataclass(frozen=True)
class Services(PlayServices):
    """The parts behind all routers."""

    store: Store
    queue: Queue
    marker: Marker
    checking: Crew
    """The workers for what is checked at desks."""
    proofs: Proofs
    marking: Marking
    classroom: Classroom
    """The classes at work that are watched."""
    demo: DemoLinks | None
    """The links of the demo; a server for a school has none."""


def services_of(connection: HTTPConnection) -> Services:
    """The services of the application that answers a request or holds a socket."""
    found: Services = connection.app.state.services
    return found


Parts = Annotated[Services, Depends(services_of)]
PlayParts = Annotated[PlayServices, Depends(services_of)]
