"""What the browser and a game by hand say to each other. Their JSON Schema is part of the description,
from which the front end's types are made.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from ..core.judging.start import MOST_PUT
from ..core.reporting import ProblemReport
from ..core.words import KEYS
from .given import Given
from .trial_views import EventView, InputView, MessageView, OverlapView, StopView, StoryView, TrialView

MOST_AT_ONCE = 50
"""Inputs in one message: more than a person does in a second."""

Key = Annotated[str, Field(pattern=f"^({'|'.join(sorted(KEYS))})$")]
Short = Annotated[str, Field(max_length=200)]
Luck = (
    Literal["lowest", "highest"]
    | Annotated[list[int | float | Annotated[str, Field(max_length=200)]], Field(max_length=200)]
)
Number = Annotated[float, Field(ge=-1e6, le=1e6)]


class _Said(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class KeyMoved(_Said):
    """A key went down or came up."""

    do: Literal["down", "up"]
    key: Key


class PlayerDid(_Said):
    """A click (on a piece by name, or at a place), a choice, an answer, words, or a dial that was turned."""

    do: Literal["click", "pick", "answer", "type", "set"]
    what: Short = ""
    value: bool | int | Number | Short | tuple[Number, Number] | None = None


class Begin(_Said):
    """Begins again with a script."""

    say: Literal["begin"]
    source: Annotated[str, Field(max_length=100_000)]
    seed: Annotated[int, Field(ge=0, le=2**31)] | None = None
    """Nothing for that of the scenario or of the game before, else 1."""
    luck: Luck | None = None
    scenario: Annotated[int, Field(ge=0, le=10_000)] | None = None
    """The scenario as which the game begins: with what it puts in place, and its luck."""
    frame: Annotated[int, Field(ge=-1, le=18_000)] = -1
    """The frame up to which the scenario's inputs are played before the player takes over."""
    again: bool = False
    """Whether it is the game before that is played up to `frame`, with what was put in place there."""
    put: Annotated[list[Short], Field(max_length=MOST_PUT)] = []
    """What is put in place by hand where the player takes over, such as `lives = 1`."""


class Did(_Said, Given):
    """What the player did."""

    say: Literal["did"]
    inputs: Annotated[list[KeyMoved | PlayerDid], Field(max_length=MOST_AT_ONCE)]


class Pace(_Said):
    """How fast the game runs: 0 holds it."""

    say: Literal["pace"]
    speed: Annotated[float, Field(ge=0, le=1)]


class Keep(_Said):
    """Keeps what was played as a trial."""

    say: Literal["keep"]


class Show(_Said, Given):
    """Puts things on show besides the listed variables, instead of those before."""

    say: Literal["show"]
    names: Annotated[list[Short], Field(max_length=50)]


class Look(_Said):
    """Asks for the game so far as a trial."""

    say: Literal["look"]


class BoardEntry(BaseModel):
    """A value on the scoreboard; `at` is its place on the scene."""

    label: str
    value: Any
    at: tuple[float, float] | None


Drawn = tuple[str, float, float, str, float, float, float, str | None]
"""Kind, x, y, look, size, opacity, facing and what it carries."""


class DidView(InputView):
    """What the player did, with its number in the game; one that was told comes again once its key is up."""

    index: int


class News(BaseModel):
    """What is new in a frame; what is missing is as before. A piece that is null is not there."""

    frame: int
    pieces: dict[str, Drawn | None] = {}
    outcome: str | None = None
    board: list[BoardEntry] | None = None
    offers: list[str] | None = None
    questions: list[str] | None = None
    place: str | None = None
    facts: dict[str, Any] | None = None
    values: dict[str, Any] | None = None
    story: list[StoryView] = []
    sounds: list[str] = []
    inputs: list[DidView] = []
    messages: list[MessageView] = []
    events: list[EventView] = []
    """Those that the strip shows by themselves."""
    overlaps: list[OverlapView] = []
    """Those that ended."""
    stopped: StopView | None = None
    over: bool | None = None


class Began(BaseModel):
    """A game began; what is there is new."""

    say: Literal["began"] = "began"
    source: str
    names: list[str]
    """The script's own variables, which can be put on show."""
    seed: int
    news: News


class Frame(BaseModel):
    """The next frame."""

    say: Literal["frame"] = "frame"
    news: News


class Unread(BaseModel):
    """The script cannot be read, so no game began."""

    say: Literal["unread"] = "unread"
    problems: list[ProblemReport]


class Refused(BaseModel):
    """What was asked for cannot be, and why. The game is as it was."""

    say: Literal["refused"] = "refused"
    why: str


class Looked(BaseModel):
    """The game so far as a trial."""

    say: Literal["looked"] = "looked"
    trial: TrialView


class Kept(BaseModel):
    """What was played is kept under this number; in the workshop, here it is."""

    say: Literal["kept"] = "kept"
    id: int
    scenario: dict[str, Any] | None = None


class Changed(BaseModel):
    """The file on disk is another one now."""

    say: Literal["changed"] = "changed"
    source: str


class Ended(BaseModel):
    """No game runs any more, and why."""

    say: Literal["ended"] = "ended"
    why: str


Heard = Annotated[Begin | Did | Pace | Keep | Show | Look, Field(discriminator="say")]
"""What a browser may say."""
Said = Annotated[Began | Frame | Unread | Refused | Looked | Kept | Changed | Ended, Field(discriminator="say")]
"""What the server says."""

HEARD: TypeAdapter[Begin | Did | Pace | Keep | Show | Look] = TypeAdapter(Heard)


class LiveMessages(BaseModel):
    """Both directions, for the description."""

    heard: Heard
    said: Said
