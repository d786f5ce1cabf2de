"""`hob new NAME`: an exercise folder that runs at once, to be changed from there."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from .marking import complain

FILES: Final[dict[str, str]] = {
    "exercise.toml": """\
format = 1
title = "TITLE"
seconds = 6

# The scene: a sheet of squared paper, the origin at the bottom left.
[scene]
width = 32
height = 18

[[scene.piece]]
name = "hob"
at = [4, 2]
size = [1.2, 1.6]
motion = {steered = {speed = 6, axes = "x"}}

[[scene.piece]]
name = "bun_1"
kind = "bun"
at = [9, 2]

# What the exercise is about.
[[variable]]
name = "score"
meaning = "buns on the shelf"
start = 0
label = "Buns"

# What must be so in the script itself.
[[craft]]
expect = "handles meets(hob, bun)"
marks = 1
concept = "events"

# What the player does, and what must then be true.
[[scenario]]
name = "To the bun"
[[scenario.input]]
at = 0.5
hold = "right"
until = "meets(hob, bun)"
[[scenario.check]]
at = 0.2
expect = "score == 0"
concept = "variables"
because = "The game begins with no buns."
[[scenario.check]]
after = "meets(hob, bun)"
expect = "score == 1 and bun_1.removed"
marks = 2
concept = "events"
because = "Each bun that the hob meets counts one and is removed."
""",
    "brief.md": """\
# TITLE

1. `score` begins at 0.
2. When the hob meets a bun, the score goes up by one and the bun is removed.
""",
    "starter.py": "score = 0\n",
    "reference.py": """\
score = 0
board("Buns", score)


@on(meets(hob, bun))
def shelve(which):
    global score
    score += 1
    which.remove()
    board("Buns", score)
""",
}


COMPANIONS: Final = {
    "also/counts_in_game.py": """\
game.score = 0
board("Buns", game.score)


@on(meets(bun, hob))
def shelve(found, walker):
    game.score = game.score + 1
    found.remove()
    board("Buns", game.score)
""",
    "wrong/forgets_global.py": """\
# missing-global
score = 0
board("Buns", score)


@on(meets(hob, bun))
def shelve(which):
    score += 1
    which.remove()
    board("Buns", score)
""",
}
"""A companion of each kind: a right script built otherwise, and a wrong one that says its slip."""


def new(folder: Path) -> int:
    """Makes the folder. Gives the exit status: 1 where there is something of that name."""
    if folder.exists():
        complain([f"{folder} is there already; choose another name"])
        return 1
    title = folder.name.replace("-", " ").replace("_", " ").strip().capitalize() or "New exercise"
    title = title.replace('"', "").replace("\\", "")
    try:
        folder.mkdir(parents=True)
        for name, text in (FILES | COMPANIONS).items():
            (folder / name).parent.mkdir(exist_ok=True)
            (folder / name).write_text(text.replace("TITLE", title), encoding="utf-8")
    except OSError as error:
        complain([f"{folder} cannot be made: {error.strerror}"])
        return 1
    print(f"{folder} is an exercise. Mark its own solution with: hob mark {folder} {folder / 'reference.py'}")
    return 0
