"""A server on a database of the demo, and whoever asks it."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from starlette.testclient import TestClient

from hobtrial.cli.demo import links_of_demo
from hobtrial.server import create_app
from hobtrial.store import Cluster

HOST = "127.0.0.1:8765"
ORIGIN = {"origin": f"http://{HOST}"}


def own_cluster(test: unittest.TestCase) -> Cluster:
    """A PostgreSQL of a test's own, to be killed and filled; it is gone afterwards."""
    folder = Path(tempfile.mkdtemp(prefix="hob-test-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "postgresql", throwaway=True)
    cluster.start()
    test.addCleanup(cluster.stop)
    return cluster


@contextmanager
def served(dsn: str, **more: Any) -> Iterator[TestClient]:
    """The application on a database with the demo in it, asked by its sample teacher."""
    links = links_of_demo()
    with TestClient(create_app(dsn, demo=links, **more), base_url=f"http://{HOST}") as client:
        sign_in(client, links.teacher_token)
        yield client


def sign_in(client: TestClient, token: str) -> None:
    """Signs in with a link of the demo."""
    answer = client.post("/api/sign-in/demo", json={"token": token}, headers=ORIGIN)
    if answer.status_code != 204:
        raise AssertionError(answer.text)
