"""Wording: slips with events."""

from typing import Final

from .entry import Entry, Variant

EVENTS: Final[dict[str, Entry]] = {
    "no-handler": Entry(
        title="Nothing waits for `{event}`",
        example=("# no handler", '@on(pressed("space"))\ndef ring():'),
        nudge="Which things can happen in the game, and which of them does the script wait for?",
        pointer="In the game {came}. No handler waits for that.",
        pointer_plain="Nothing in the script waits for `{event}`.",
        note="Each thing that can happen needs a handler with its `@on`.",
    ),
    "not-registered": Entry(
        title="`{function}` is never called",
        example=("def take():", "@on(meets(hob, bun))\ndef take():"),
        nudge="When does each function run, and what makes it run?",
        pointer="Line {line} makes the function `{function}`. No `@on` stands above it, and nothing calls it.",
        note="A function waits until it is called. `@on` with an event makes it a handler.",
    ),
    "wrong-event": Entry(
        title="`{met}` where `{right}` is meant",
        for_class="A handler waits for another event than `{right}`",
        example=('@on(pressed("a"))', '@on(pressed("space"))'),
        nudge="Which event should each handler wait for?",
        pointer="Line {line} waits for `{met}`. The event that is meant is `{right}`.",
        note="Check the key, the pair or the moment against the brief.",
        variants={
            "too_many": Variant(
                title="`{too_many}` is waited for too",
                for_class="A handler waits for one event too many",
                nudge="Which events should set this off, and which others do?",
                pointer="Line {line} also waits for `{too_many}`. Only {right} is meant.",
            ),
        },
    ),
    "every-frame": Entry(
        title="What should happen once happens all the time",
        example=("@on(overlaps(hob, soot))", "@on(meets(hob, soot))"),
        nudge="How many times should this happen here, and how many times did it happen?",
        pointer="Line {line} waits for `{event}`. It {acted} {often}, one right after the other.",
        note="The handler runs thirty times a second while this lasts. An event that comes once fits here: `{once}`.",
        variants={
            "asks": Variant(
                pointer="Line {line} asks `{asks}` all the time. It {acted} {often} while the key was down.",
            ),
        },
    ),
    "no-once-guard": Entry(
        title="`{what}` comes again and again",
        example=('if score >= 5:\n    tell("Full")', 'if score >= 5 and not full:\n    full = True\n    tell("Full")'),
        nudge="How often should this happen in one game, and what keeps it from coming again?",
        pointer="What stands under line {line} ran {often}. It should run once in a game.",
        note="A variable can remember that it has happened. The test asks for it too.",
    ),
    "once-only": Entry(
        title="`{test}` is asked only once",
        for_class="A test is asked only once, at the beginning",
        example=("if score >= 5:\n    win()", "@on(frame)\ndef look():\n    if score >= 5:\n        win()"),
        nudge="When is this test asked, and is the answer known by then?",
        pointer="Line {line} asked `{test}` at the beginning. It was not asked again.",
        note="A test outside of handlers runs once, before the game begins. It must be asked when things change.",
    ),
    "not-removed": Entry(
        title="The thing stays after `{event}`",
        example=("score += 1", "score += 1\nwhich.remove()"),
        nudge="Where is the thing after this happened, and can it happen with it again?",
        pointer="`{function}` does not remove the piece. So it can be met again, and counts again.",
        note="A thing that is used up must go. `remove` takes it out of the game.",
    ),
    "handled-twice": Entry(
        title="One deed counts twice",
        example=("@on(meets(hob, bun), overlaps(hob, bun))", "@on(meets(hob, bun))"),
        nudge="How many lines of the script run when this happens once?",
        pointer="Line {line} does once more what another line does too. So it counts twice.",
        note="Two handlers of one event both run. So do a handler and a call of it.",
    ),
    "unheard-message": Entry(
        title='The message "{met}" reaches nobody',
        example=('send("bel")\n@on(heard("bell"))', 'send("bell")\n@on(heard("bell"))'),
        nudge="Is each message written the same where it is sent and where it is heard?",
        pointer='Line {line} has the message "{met}". On the other side it is "{right}".',
        note="A message is heard only under the very same text.",
        variants={
            "unsent": Variant(
                title='Nothing sends the message "{unsent}"',
                for_class="A message is waited for, and nothing sends it",
                nudge="Which line sends each message that a handler waits for?",
                pointer='A handler waits for the message "{unsent}". No line sends it.',
            ),
        },
    ),
    "no-call": Entry(
        title="`{met}` stands without `()`",
        example=("win", "win()"),
        nudge="Which lines name something to do, and do they really do it?",
        pointer="Line {line} names `{met}` and does not call it. Nothing happens.",
        note="The brackets make it happen. A name alone only says which one is meant.",
    ),
    "event-as-question": Entry(
        title="`{met}` is an event, not a question",
        example=('if pressed("a"):', 'if is_down("a"):'),
        nudge="Is this something to wait for, or something to ask right now?",
        pointer="Line {line} asks `{met}`. That is for waiting. To ask what is so now, write `{right}`.",
        note="Events stand in `@on`. In a test there must be a question.",
    ),
    "starter-left-in": Entry(
        title="`{met}` of the starter is still there",
        example=('tell("The bell is still silent")', 'tell("Ding")'),
        nudge="Which lines were there when you began, and are all of them still needed?",
        pointer="Line {line} is a line of the starter. Here it does harm.",
        note="A starter shows how to begin. Some of its lines have to go.",
    ),
    "no-feedback": Entry(
        title="{wanted} never comes",
        for_class="A text, sound or display that is asked for never comes",
        example=("score += 1", 'score += 1\nboard("Buns", score)'),
        nudge="What should the player see or hear when this happens?",
        pointer="{wanted} should come. No line of the script does that where it is needed.",
        note="The player knows only what is shown, told or heard.",
        variants={
            "met": Variant(
                title="{met} where {right} is meant",
                for_class="A text or sound is not the one that is asked for",
                nudge="Is each text and sound written just as the brief has it?",
                pointer="Line {line} has {met}. It should be {right}.",
            ),
        },
    ),
}
