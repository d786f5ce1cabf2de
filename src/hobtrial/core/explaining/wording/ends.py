"""Wording: slips with the display, the end and the restart."""

from typing import Final

from .entry import Entry, Variant

ENDS: Final[dict[str, Entry]] = {
    "stale-display": Entry(
        title="The scoreboard lags behind",
        example=('board("Buns", score)\nscore += 1', 'score += 1\nboard("Buns", score)'),
        nudge="When the value changes, who tells the scoreboard?",
        pointer="Line {line} runs at the wrong moment. The scoreboard is shown the old value, not the new one.",
        note="The scoreboard does not follow a variable. It must be told after each change.",
        variants={
            "told": Variant(
                title="The old value is shown",
                nudge="Which value does this line tell: the old one or the new one?",
                pointer="Line {line} runs at the wrong moment. It tells the old value, not the new one.",
                note="A text is made when its line runs. What changes later does not change it.",
            ),
            "untold": Variant(pointer="Line {line} changes a value. The scoreboard is not told right after it."),
        },
    ),
    "win-not-told": Entry(
        title="The script knows the end, and the player does not",
        example=('if score >= 5:\n    tell("Full")', 'if score >= 5:\n    win("Full")'),
        nudge="How does the player learn that the game is over?",
        pointer="Line {line} knows that the game is over. `{end}` is never called there.",
        note="Only `win` and `lose` end the game. A text or a variable does not.",
    ),
    "no-end": Entry(
        title="Nothing ever calls `{end}`",
        example=("score += 1", "score += 1\nif score >= 5:\n    win()"),
        nudge="When is the game over, and where does the script ask for that?",
        pointer="No line tests for the end with `{end}`. It is due when `{test}`.",
        note="The end needs a test after each change that can lead to it.",
    ),
    "both-ends": Entry(
        title="Won and lost at one moment, and the wrong one first",
        example=(
            "if score >= 5:\n    win()\nif lives <= 0:\n    lose()",
            "if lives <= 0:\n    lose()\nelif score >= 5:\n    win()",
        ),
        nudge="What should happen if both ends come at one moment?",
        pointer="Line {line} is asked on the wrong side of the other end. The first end counts.",
        note="The first end counts, a later one is ignored. The order of the tests decides.",
    ),
    "acts-after-end": Entry(
        title="`{function}` goes on after the end",
        example=(
            "def take():\n    score += 1",
            'def take():\n    if outcome() != "playing":\n        return\n    score += 1',
        ),
        nudge="What should still change after the game is over?",
        pointer="{when} line {at_line} made `{name}` {new}. The game was over by then.",
        pointer_plain="`{function}` also runs after the game is over.",
        note="Handlers go on running after the end. A test of `outcome()` stops them.",
    ),
    "restarts-mid-game": Entry(
        title="`{function}` begins again in the middle of a game",
        example=('@on(pressed("r"))\ndef begin():', 'def begin():\n    if outcome() == "playing":\n        return'),
        nudge="What should the restart do while the game is still being played?",
        pointer="`{function}` at line {line} does not ask whether the game is over.",
        note="A restart should ask for `outcome()` first.",
    ),
    "half-reset": Entry(
        title="The restart leaves out `{missing}`",
        for_class="The restart does not put everything back",
        example=("score = 0\nagain()", "score = 0\nhob.restore()\nagain()"),
        nudge="What is different at the beginning of the second game?",
        pointer="`{function}` at line {line} begins again. It does not do `{missing}`.",
        note="List all that changes in a game: variables, pieces, display, outcome. Each must be put back.",
    ),
    "reset-too-much": Entry(
        title="The restart clears `{name}` too",
        example=("score = 0\nbest = 0", "score = 0"),
        nudge="Which values should live on into the next game?",
        pointer="Line {line} does `{met}` at the restart. That should be kept.",
        note="Some values belong to one game, others to all games.",
    ),
}
