"""What comes in from outside as text, cleaned in one place: for the database, for the page, and for people's eyes."""

from __future__ import annotations

import unicodedata
from typing import Any, Final

from pydantic import BaseModel, model_validator

_UNSEEN: Final = dict.fromkeys(
    [
        *(number for number in range(32) if chr(number) not in "\t\n\r"),
        *range(127, 160),
        *range(0xD800, 0xE000),  # halves of a character
        0xAD,
        0x61C,
        *range(0x200B, 0x2010),  # zero width, and marks of direction
        *range(0x2028, 0x202F),
        *range(0x2060, 0x2070),
        0xFEFF,
        *range(0xFFF9, 0xFFFC),
    ]
)
"""Characters that nobody sees: controls, halves of a pair, zero width, marks of direction."""
DEEPEST: Final = 60
"""How deep what is given may be nested: more than any form of ours."""


def clean_text(text: str) -> str:
    """A text without the characters that nobody sees, each letter written in one way."""
    return unicodedata.normalize("NFC", text.translate(_UNSEEN))


def cleaned(value: Any, deep: int = 0) -> Any:
    """The same value with every text in it cleaned. Raises `ValueError` where it is nested too deep."""
    if isinstance(value, str):
        return clean_text(value)
    if isinstance(value, (list, tuple, dict)) and deep >= DEEPEST:
        raise ValueError("this is nested too deep")
    if isinstance(value, dict):
        return {cleaned(key, deep + 1): cleaned(item, deep + 1) for key, item in value.items()}
    if isinstance(value, (list, tuple)):
        return [cleaned(item, deep + 1) for item in value]
    return value


class Given(BaseModel):
    """Whatever a browser sends."""

    @model_validator(mode="before")
    @classmethod
    def _clean(cls, data: Any) -> Any:
        return cleaned(data)
