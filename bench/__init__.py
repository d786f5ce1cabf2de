"""What is fast, side by side with what it is measured against. Each prints ratios; `--short` runs it once, small."""

import sys

from hobtrial.cli.logs import set_up

set_up(0)  # only what goes wrong is logged beside the ratios


def short() -> bool:
    """Whether only a short run is wanted, to see that the bench still works; its numbers say nothing."""
    return "--short" in sys.argv
