"""Where this machine keeps the records of a checkout."""

from __future__ import annotations

import hashlib
import os
import secrets
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).resolve().parents[3]
RECORDS: Final = Path("/var/lib/hobtrial")


def home(root: Path = ROOT, records: Path = RECORDS) -> Path:
    """The folder of a checkout's records.

    As root it is below /var/lib, because PostgreSQL's user must be able to enter every folder above it; otherwise it
    is in the checkout itself. Which of those below /var/lib it is stands in a file of the checkout, so that a folder
    that is moved or renamed keeps its records.
    """
    if "HOB_HOME" in os.environ:
        return Path(os.environ["HOB_HOME"])
    if os.geteuid() != 0:
        return root / ".hob"
    note = root / ".hob" / "records"
    try:
        name = note.read_text(encoding="ascii").strip()
    except (OSError, UnicodeDecodeError):
        name = ""
    if not name.isalnum():
        earlier = hashlib.sha256(str(root).encode()).hexdigest()[:12]  # by its path, as it once was
        name = earlier if (records / earlier).is_dir() else secrets.token_hex(6)
        note.parent.mkdir(parents=True, exist_ok=True)
        note.write_text(name, encoding="ascii")
    return records / name
