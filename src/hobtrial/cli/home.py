"""Where this machine keeps the records of a checkout."""

from __future__ import annotations

import hashlib
import os
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).resolve().parents[3]


def home() -> Path:
    """The folder of the demo's records.

    As root it is below /var/lib, because PostgreSQL's user must be able to enter every folder
    above it; otherwise it is in the checkout itself.
    """
    if "HOB_HOME" in os.environ:
        return Path(os.environ["HOB_HOME"])
    if os.geteuid() == 0:
        return Path("/var/lib/hobtrial") / hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
    return ROOT / ".hob"
