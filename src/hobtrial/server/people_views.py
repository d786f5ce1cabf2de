"""What the pages of people are given, and what they send."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.cards import LONGEST_CARD
from ..core.exercise import LevelName
from ..core.roster import LONGEST_NAME
from .given import Given

Name = Annotated[str, Field(min_length=1, max_length=LONGEST_NAME, pattern=r"\S")]
Secret = Annotated[str, Field(max_length=1000)]


class Me(BaseModel):
    """Who is signed in, and what the page for signing in must know."""

    role: Literal["nobody", "student", "teacher", "owner"]
    name: str
    class_name: str | None
    demo: bool
    """Whether this is the demo, whose links let one in."""
    first: bool
    """Whether there is no teacher yet."""


class TeacherIn(Given):
    """A teacher at the door."""

    name: Annotated[str, Field(max_length=200)]
    password: Secret


class StudentIn(Given):
    """A student at the door."""

    class_word: Annotated[str, Field(max_length=200)]
    card: Annotated[str, Field(max_length=LONGEST_CARD * 2)]


class FirstIn(Given):
    """The first teacher, with the end of the link that the server printed."""

    token: Annotated[str, Field(max_length=200)]
    name: Name
    password: Secret


class DemoIn(Given):
    """Somebody who looks at the demo, with the end of a link that it printed."""

    token: Annotated[str, Field(max_length=200)]


class NewPassword(Given):
    """A password in the place of another one."""

    old: Secret
    new: Secret


class GivenPassword(Given):
    """A password that the owner gives a teacher."""

    new: Secret


class NewTeacher(Given):
    """A teacher to add."""

    name: Name
    password: Secret


class TeacherLine(BaseModel):
    """A teacher in the list; how many classes they have is for the owner only."""

    id: int
    name: str
    owner: bool
    classes: int | None
    you: bool


class Id(BaseModel):
    """The number of what was made."""

    id: int


class ClassHead(BaseModel):
    """A class in the list."""

    id: int
    name: str
    students: int
    rounds: int
    put_away_at: datetime | None


class NewClass(Given):
    """A class to make."""

    name: Name


class ChangedClass(Given):
    """What changes about a class; what is not given stays."""

    name: Name | None = None
    put_away: bool | None = None


class NewStudents(Given):
    """Students to add to a class."""

    names: Annotated[list[Name], Field(min_length=1, max_length=500)]


class ChangedStudent(Given):
    """What changes about a student; what is not given stays."""

    name: Name | None = None
    left: bool | None = None
    class_id: Annotated[int, Field(ge=1, lt=2**31)] | None = None
    level: LevelName | Literal[""] | None = None
    """Their level in the class; an empty one takes it away."""


class WhichCards(Given):
    """Whose cards are made; of everybody who has none where nobody is named."""

    student_ids: Annotated[list[Annotated[int, Field(ge=1, lt=2**31)]], Field(max_length=500)] | None = None


class StudentLine(BaseModel):
    """A student of a class."""

    id: int
    name: str
    has_card: bool
    card_made_at: datetime | None
    left_at: datetime | None
    level: LevelName | None
    tries: int


class SharedWith(BaseModel):
    """A teacher by name."""

    id: int
    name: str


class ClassView(BaseModel):
    """A class with its students."""

    id: int
    name: str
    word: str | None
    put_away_at: datetime | None
    teachers: list[SharedWith]
    others: list[SharedWith]
    """Teachers of the school who do not have it."""
    students: list[StudentLine]


class CardView(BaseModel):
    """A card, which is shown this once."""

    student_id: int
    name: str
    card: str


class CardSheet(BaseModel):
    """Cards to print and cut."""

    class_name: str
    word: str
    cards: list[CardView]


What = Literal["new", "same", "linked", "renamed", "back"]


class ListedStudent(BaseModel):
    """A student of a list as they would come in: under which name, and what that changes."""

    source_id: str
    name: str
    what: What
    before: str | None
    """The name that the class knows them by, where it is another one."""
    clash: str | None
    """Why this name cannot be used."""


class ListedClass(BaseModel):
    """A class of a list, and what taking it over would do."""

    source_id: str
    title: str
    class_id: int | None
    """The class that it is here already."""
    chosen: bool
    students: list[ListedStudent]
    leaving: list[str]
    """Who is in the class here and no longer in the list."""


class ListRead(BaseModel):
    """A school's list as it was read; `done` says whether it was taken over."""

    classes: list[ListedClass]
    done: bool


class MarkerLine(BaseModel):
    """A server or worker that marks. `quiet` are the seconds since it last said what it does."""

    id: int
    name: str
    processes: int
    begun_at: datetime
    doing: int
    done: int
    last_error: str
    stopped: bool
    quiet: float


class WaitingTexts(BaseModel):
    """Texts that wait: those that students check, those that were handed in, and rounds that are marked again."""

    desks: int
    handed_in: int
    again: int


class MarkersView(BaseModel):
    """What marks, what waits, and how many texts were marked in the last minute."""

    markers: list[MarkerLine]
    waiting: WaitingTexts
    a_minute: int


class StopMarker(Given):
    """Whether one that marks is to stop."""

    stopped: bool
