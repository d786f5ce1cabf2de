"""Wording: slips with conditions."""

from typing import Final

from .entry import Entry, Variant

CONDITIONS: Final[dict[str, Entry]] = {
    "assign-for-compare": Entry(
        title="`{met}` stores where it should ask",
        example=("if (score := 5):", "if score == 5:"),
        nudge="Does this test ask for a value, or does it store one?",
        pointer="Line {line} has `{met}`. That stores a value and does not compare.",
        note="`==` asks whether two values are the same. `=` and `:=` store.",
    ),
    "boundary": Entry(
        title="`{test}` is off at its boundary",
        for_class="The test of `{subject}` is off at its boundary",
        example=("if score > 5:", "if score >= 5:"),
        nudge="What should happen when `{subject}` is exactly {value}?",
        nudge_plain="What should happen when `{subject}` is just at its boundary, neither below nor above?",
        pointer="Line {line} asked `{test}`. `{subject}` was {value}, so the answer was {answer}.",
        pointer_plain="Line {line} asks `{test}`. Look at what it says when both sides are equal.",
        note="The sign leaves out, or takes in, the value at the boundary itself. "
        "Try the numbers just below, at and above it.",
    ),
    "flipped": Entry(
        title="`{met}` asks for the opposite",
        example=("if score < 5:", "if score >= 5:"),
        nudge="For which values should the answer be yes? Try one and say it aloud.",
        pointer="Line {line} asked `{met}`. {seen}, so the answer was {answer}.",
        pointer_plain="Line {line} asks `{met}`. It says yes when it should say no.",
        note="Read the test aloud with real values. The branch under it runs when the answer is yes.",
    ),
    "exact-only": Entry(
        title="`{test}` is right for one value only",
        for_class="The test of `{name}` is right for one value only",
        example=("if heat == 200:", "if heat >= 200:"),
        nudge="Must `{name}` be exactly {number}, or can it jump past that?",
        pointer="Line {line} asked `{test}`. {seen}, so the answer was {answer}.",
        pointer_plain="Line {line} asks `{test}`. A value that jumps past {number} is missed.",
        note="`==` fits one value alone. `>=` also takes in what lies beyond.",
        variants={
            "places": Variant(
                title="`{test}` is right for one place only",
                for_class="Places are compared with `==`",
                nudge="Must the two stand in exactly the same place, or is it enough that they touch?",
                pointer="Line {line} asks `{test}`. Two pieces hardly ever stand in just the same place.",
                note="`hob.overlaps(bowl)` asks whether two pieces touch.",
            ),
        },
    ),
    "and-or": Entry(
        title="`{test}` joins its parts the wrong way",
        example=("if lit or swept:", "if lit and swept:"),
        nudge="Must all parts be so, or is one enough? Are all parts there?",
        pointer="Line {line} asked `{test}`. {seen}, so the answer was {answer}.",
        pointer_plain="Line {line} asks `{test}`. Think about when it should say yes.",
        note="`and` says yes if all parts are so. `or` says yes if one of them is.",
        variants={
            "too_many": Variant(
                title="`{too_many}` is asked too, and nobody asked for that",
                for_class="A test asks for more than the brief does",
                nudge="Which parts of this test does the brief ask for?",
                pointer="Line {line} also asks `{too_many}`. The brief does not ask for that.",
            ),
            "left_out": Variant(
                title="`{test}` leaves out a part",
                for_class="A test leaves out a part",
                nudge="What must be so before this may happen? Is every part of it asked?",
                pointer="Line {line} asked `{test}`, and the answer was {answer}. It does not ask `{left_out}`.",
            ),
        },
    ),
    "always-true": Entry(
        title="`{test}` always has the same answer",
        example=('if bread == "rye" or "wheat":', 'if bread == "rye" or bread == "wheat":'),
        nudge="Can this test ever have the other answer? Try a value for which it should.",
        pointer="Line {line} asked `{test}`. The answer was {answer} each time.",
        note="Each side of `or` is a test of its own. A text or a number alone counts as yes.",
    ),
    "split-chain": Entry(
        title="`if` and `elif` are mixed up at `{test}`",
        example=("if heat < 50:\n    …\nif heat < 200:", "if heat < 50:\n    …\nelif heat < 200:"),
        nudge="Can two of these branches run one after the other, and should they?",
        pointer="Line {line} begins with `{word}`, so `{test}` is asked {asked_when}. It should begin with `{right}`.",
        note="`elif` is asked only if the tests above said no. Each `if` is asked again.",
    ),
    "branch-order": Entry(
        title="The branch of `{test}` stands in the wrong place",
        example=("if heat > 50:\n    …\nelif heat > 200:", "if heat > 200:\n    …\nelif heat > 50:"),
        nudge="Which branch is asked first, and does it take what another one is for?",
        pointer="The test at line {line} stands in the wrong place. The first yes in a chain wins.",
        note="In a chain only the first branch with a yes runs. Ask for the narrow case first.",
    ),
    "missing-limit": Entry(
        title="`{name}` has no limit",
        example=("lives -= 1", "if lives > 0:\n    lives -= 1"),
        nudge="What are the smallest and largest values that `{name}` may have?",
        pointer="Line {line} made `{name}` {new}. It was {old}, and should have stayed.",
        pointer_plain="Line {line} changes `{name}` and does not ask how far it may go.",
        note="A limit needs a test before the change, or `min` and `max`.",
    ),
    "missing-condition": Entry(
        title="`{what}` comes too early",
        for_class="Something comes too early or out of order",
        example=("stage += 1", "if stage == 0:\n    stage += 1"),
        nudge="What must be so before this may happen?",
        pointer="Line {line} ran, and `{test}` was not asked before it.",
        note="A test before the line keeps it from running too early.",
    ),
    "extra-condition": Entry(
        title="`{test}` is asked, and nobody asked for that",
        for_class="Something waits for a test that nobody asked for",
        example=("if lit:\n    swept = True", "swept = True"),
        nudge="What does the brief say must be so before this may happen?",
        pointer="Line {line} asked `{test}`. {seen}, so nothing happened. The brief does not ask for that.",
        pointer_plain="Line {line} asks `{test}` first. The brief does not ask for that.",
        variants={
            "made_by": Variant(
                pointer="Line {made_by} made `{name}` {new}. Line {line} asks `{test}`, so nothing happened there. "
                "The brief does not ask for that.",
            ),
        },
        note="Each test keeps something from happening. Read in the brief when it should.",
    ),
    "missing-else": Entry(
        title="Anything else is taken as `{right}`",
        for_class="Anything else is taken as the last choice",
        example=("else:\n    price = 4", 'elif bread == "wheat":\n    price = 4'),
        nudge="What happens when the answer is none of those that were expected?",
        pointer="The `else` at line {line} takes whatever is left. Also answers that are no choice at all.",
        note="`else` takes all that is left. The last choice needs a test of its own.",
    ),
    "wrong-indent": Entry(
        title="`{met}` stands in the wrong block",
        for_class="A line stands in the wrong block",
        example=("if score >= 5:\n    win()\n    board(…)", "if score >= 5:\n    win()\nboard(…)"),
        nudge="Which lines belong to the test, loop or function above them?",
        pointer="Line {line} is indented as part of another block. So it runs at the wrong moments.",
        note="The space at the beginning of a line says which block it belongs to.",
    ),
}
