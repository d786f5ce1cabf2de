"""A student's feedback sheet as a page of its own, to print or to save: no scripts, nothing fetched."""

from __future__ import annotations

import re
from typing import Final

from jinja2 import Environment, PackageLoader, select_autoescape
from markupsafe import Markup, escape

from ..core.reporting import StudentReport
from .views import SubmissionView

_PAGES: Final = Environment(
    loader=PackageLoader("hobtrial.server", "templates"), autoescape=select_autoescape(default=True), trim_blocks=True
)


def feedback_page(view: SubmissionView, shown: StudentReport) -> str:
    """The sheet of a try. `shown` is what its student may see (`for_student`)."""
    return _PAGES.get_template("feedback.html").render(view=view, shown=shown)


def _in_code(text: str) -> Markup:
    """A sentence with its pieces of script set as such."""
    parts = re.split(r"`([^`]*)`", text)
    return Markup("").join(
        Markup("<code>{}</code>").format(part) if number % 2 else escape(part) for number, part in enumerate(parts)
    )


_PAGES.filters["in_code"] = _in_code
_PAGES.filters["number"] = lambda value: f"{value:g}"
