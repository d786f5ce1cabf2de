"""What opening a round and handing in are given and give back."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from .given import Given


class NewRound(Given):
    """A class and an exercise to open a round for."""

    version_id: Annotated[int, Field(ge=1, lt=2**31)]
    class_name: str = Field(min_length=1, max_length=60, pattern=r"\S")


class Opened(BaseModel):
    """The number of a round."""

    id: int


class Added(BaseModel):
    """How many students a list added."""

    added: int


class Waiting(BaseModel):
    """How many texts wait to be marked."""

    waiting: int


class DoubtView(BaseModel):
    """A file whose student is not sure."""

    file: str
    candidates: list[str]
    why: str


class LeftOut(BaseModel):
    """A file that cannot be handed in, and why."""

    file: str
    why: str


class HandedIn(BaseModel):
    """What became of files that were handed in; the doubtful ones wait for an answer."""

    handed_in: int
    doubtful: list[DoubtView]
    left_out: list[LeftOut]
    students: list[str]
