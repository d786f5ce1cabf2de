"""Wording: scripts that stop, cannot be read, or whose mistake stays open."""

from typing import Final

from .entry import Entry

RUNS: Final[dict[str, Entry]] = {
    "endless-loop": Entry(
        title="A loop that does not end",
        example=("while lives > 0:\n    pass", "@on(frame)\ndef look():"),
        nudge="What has to change inside the loop for it to end?",
        pointer="{message}",
        recognised="Recognised by the limit of loop passes: the run was stopped there.",
        note="While a loop goes round, the game stands still. Handlers already run again and again by themselves.",
    ),
    "gone-piece": Entry(
        title="`{piece}` is used after it was removed",
        example=("which.remove()\nwhich.tell(…)", "which.tell(…)\nwhich.remove()"),
        nudge="Is each piece still there when the script uses it?",
        pointer="{message}",
        note="A removed piece is gone. Use it first and remove it last, or `restore` it.",
    ),
    "unreadable": Entry(
        title="The script cannot be read: {kind}",
        example=("if score = 5:", "if score == 5:"),
        nudge="Python cannot read this file yet. Which line looks different from its neighbours?",
        pointer="Line {line}: {message}",
        recognised="Recognised by Python's parser and the allow-list: nothing was run.",
        note="Nothing ran, so there are no marks yet. {instead}",
    ),
    "craft": Entry(
        title="The brief asks for something: {asked}",
        for_class="The script is not built as the brief asks: {asked}",
        example=("if score == 5:", "if score >= 5:"),
        nudge="Does the script do it in the way that the brief asks for?",
        pointer="{reason}. The brief asks for it: {asked}.",
        recognised="Recognised by the lines of the exercise that look at how a script is built.",
        note="The game may go as asked. This is about the way in which it is written. {because}",
    ),
    "unsettled": Entry(
        title="{summary}",
        recognised="What is left when no change mends and the two runs do not settle the reason.",
        nudge="{question}",
        quiet="{quiet_question}",
        pointer="{happened}",
        note="What happened is certain; why is left open.",
    ),
}
