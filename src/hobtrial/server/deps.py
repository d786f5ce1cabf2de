"""What the routers share: the store, the queue and the marker of the running application."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request

from ..crew import Crew, Marker, Queue
from ..store import Store


@dataclass(frozen=True)
class Services:
    """The parts behind the routers; made once, when the application starts."""

    store: Store
    queue: Queue
    crew: Crew
    marker: Marker


def services(request: Request) -> Services:
    """The services of the application that answers a request."""
    found: Services = request.app.state.services
    return found


Parts = Annotated[Services, Depends(services)]
