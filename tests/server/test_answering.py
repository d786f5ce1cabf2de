"""Views become JSON where they are made, and answers that set something themselves are left as they are."""

import unittest

from fastapi import FastAPI, Response
from pydantic import BaseModel, Field
from starlette.testclient import TestClient

from hobtrial.server.answering import Router


class View(BaseModel):
    """A view."""

    number: float
    named: str = Field(alias="from", default="here")


router = Router(prefix="/api")


@router.get("/now")
def now() -> View:
    """A view, made in a thread."""
    return View(number=1)


@router.post("/later", status_code=202)
async def later() -> View:
    """A view, made in the loop, with another status."""
    return View(number=2.5)


@router.get("/list")
def several() -> list[View]:
    """Views, which FastAPI makes JSON of."""
    return [View(number=3)]


@router.get("/itself")
def itself(response: Response) -> View:
    """A view with a header of its own."""
    response.headers["x-own"] = "yes"
    return View(number=4)


@router.delete("/none", status_code=204)
def none() -> None:
    """Nothing."""


class Answers(unittest.TestCase):
    def setUp(self) -> None:
        app = FastAPI()
        app.include_router(router)
        self.client = TestClient(app)
        self.described = app.openapi()

    def test_views_statuses_and_headers(self) -> None:
        self.assertEqual(self.client.get("/api/now").json(), {"number": 1.0, "from": "here"})
        made = self.client.post("/api/later")
        self.assertEqual((made.status_code, made.json()["number"]), (202, 2.5))
        self.assertEqual(made.headers["content-type"], "application/json")
        self.assertEqual(self.client.get("/api/list").json(), [{"number": 3.0, "from": "here"}])
        own = self.client.get("/api/itself")
        self.assertEqual((own.headers["x-own"], own.json()["number"]), ("yes", 4))
        self.assertEqual(self.client.delete("/api/none").status_code, 204)

    def test_the_description_still_says_what_comes(self) -> None:
        for path, method, status in (("/api/now", "get", "200"), ("/api/later", "post", "202")):
            answers = self.described["paths"][path][method]["responses"][status]
            self.assertIn("View", answers["content"]["application/json"]["schema"]["$ref"])
