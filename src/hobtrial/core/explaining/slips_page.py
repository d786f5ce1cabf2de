"""The page of all slips, made from the catalogue: `python -m hobtrial.core.explaining.slips_page > docs/slips.md`."""

from __future__ import annotations

import sys
from collections.abc import Iterator

from .slips.order import NARROWER, SLIPS, documentation
from .slips.slip import Group
from .wording import CHAPTERS, Entry

HEAD = """# The slips

What Hob Trial can name in a script that lost marks. This page is made from the catalogue
(`src/hobtrial/core/explaining/wording/`); change the wording there and make the page again. `{braces}` are filled from
the script's own names and values. Each slip is told in three steps: a **nudge** (a question), a **pointer** (the line,
with its values) and the **fix**. Where the evidence does not settle it, the finding is `unsettled` and says only what
happened.
"""


def page() -> str:
    """The whole page, in Markdown."""
    return "\n".join(_lines())


def _lines() -> Iterator[str]:
    yield HEAD
    found = recognitions()
    for chapter, entries in CHAPTERS.items():
        yield f"## {chapter}\n"
        for slip, entry in entries.items():
            yield from _entry(slip, entry, entry.recognised or found[slip])
    yield "## Which one stands alone\n"
    yield "Of two slips that mend the same checks, one of a narrower group stands alone. From narrow to broad:\n"
    for group in Group:
        ids = [slip.id for slip in SLIPS.values() if slip.group == group]
        broad = [f"`{slip.id}` in its broad form" for slip in SLIPS.values() if slip.broad and group == Group.REFERENCE]
        yield f"{group + 1}. {', '.join([*(f'`{name}`' for name in ids), *broad])}"
    yield "\nWithin a group the first of each pair stands alone:\n"
    yield f"{'; '.join(f'`{a}` before `{b}`' for a, b in NARROWER)}."
    yield ""


def _entry(slip: str, entry: Entry, recognised: str) -> Iterator[str]:
    yield f"### `{slip}`\n"
    yield f"{entry.title}\n"
    wrong, right = entry.example
    if wrong:
        yield f"```python\n{wrong}\n# right:\n{right}\n```\n"
    yield f"{recognised}\n"
    yield f"- *Nudge.* {entry.nudge}"
    if entry.nudge_plain:
        yield f"  Without values: {entry.nudge_plain}"
    yield f"- *Pointer.* {entry.pointer}"
    if entry.pointer_plain:
        yield f"  Without values: {entry.pointer_plain}"
    yield f"- *For the teacher.* {entry.note}\n"


def recognitions() -> dict[str, str]:
    """For each slip the sentence of its file that says how it is recognised."""
    texts = {slip: " ".join(text.split()) for slip, text in documentation().items()}
    return {slip: text[text.index("Recognised by") :] for slip, text in texts.items()}


if __name__ == "__main__":
    sys.stdout.write(page())
