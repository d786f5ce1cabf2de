"""How passwords, cards and tokens are kept: as hashes only, from which nothing can be got back.

Passwords are hashed with argon2id, each with a salt of its own. A student types no name, so their card is hashed
with the salt of their class: one hash, which is then looked up. Tokens are 32 random bytes, so a plain hash does.
"""

from __future__ import annotations

import functools
import hashlib
import secrets
import threading
from typing import Final

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from argon2.low_level import Type, hash_secret_raw

MEMORY: Final = 19_456
"""KiB of memory, and below the passes, of one hash: OWASP's lowest advice for argon2id."""
PASSES: Final = 2
AT_ONCE: Final = 4
"""Hashes that are made at once; more would take the memory and the time of those who are signed in."""
SHORTEST_PASSWORD: Final = 10
"""Characters of a password."""
LONGEST_PASSWORD: Final = 200

_turn: Final = threading.BoundedSemaphore(AT_ONCE)
_passwords: Final = PasswordHasher(time_cost=PASSES, memory_cost=MEMORY, parallelism=1)
NOBODYS_SALT: Final = b"no class at all "
"""The salt of no class: a card takes the same time where the class's word is unknown."""


def hashed_password(password: str) -> str:
    """A password as it is kept."""
    with _turn:
        return _passwords.hash(password)


@functools.cache
def _nobodys() -> str:
    """The hash of no password: checking one takes the same time where the name is unknown."""
    return _passwords.hash(secrets.token_urlsafe())


def is_password(kept: str | None, password: str) -> bool:
    """Whether a password is the one that is kept; takes as long where none is."""
    with _turn:
        try:
            return _passwords.verify(kept or _nobodys(), password) and kept is not None
        except (VerificationError, InvalidHashError):
            return False


def hashed_card(card: str, salt: bytes) -> bytes:
    """A card as it is kept, with the salt of its class."""
    with _turn:
        return hash_secret_raw(card.encode(), salt, PASSES, MEMORY, 1, 32, Type.ID)


def new_token() -> str:
    """What a browser keeps of a session, or a link has at its end."""
    return secrets.token_urlsafe(32)


def hashed_token(token: str) -> bytes:
    """A token as it is kept."""
    return hashlib.sha256(token.encode("utf-8", "replace")).digest()
