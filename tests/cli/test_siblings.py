"""`hob serve --processes`: several behind one port; one that ends is begun again, and all end with the first."""

import os
import signal
import time
import unittest
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from hobtrial.cli.demo import load
from hobtrial.cli.serving import listen, shared
from tests.cli.test_serving import MINUTE, address, ask, begin
from tests.support import database, quiet_port


def siblings_of(port: int) -> list[int]:
    """The further processes that listen at a port: their parents are told to by the command."""
    found = []
    for each in Path("/proc").iterdir():
        with suppress(OSError):
            if each.name.isdecimal() and b"hobtrial.cli.siblings" in (each / "cmdline").read_bytes():
                parent = (each / "stat").read_text().rpartition(")")[2].split()[1]
                if str(port).encode() in Path(f"/proc/{parent}/cmdline").read_bytes():
                    found.append(int(each.name))
    return found


class Several(unittest.TestCase):
    def test_one_that_is_killed_is_begun_again_and_all_end_with_the_first(self) -> None:
        dsn = database("several_processes")
        load(dsn, [])
        port = quiet_port()
        lines = begin(
            self, "serve", "--port", str(port), "--processes", "2", HOB_DATABASE=dsn, HOB_WORKERS="1", HOB_LOG="words"
        )
        url = address(lines, "Hob Trial is at")
        first = self.until(lambda: siblings_of(port))
        for _ in range(8):  # each time another connection
            self.assertEqual(ask(url, "/healthz")[0], 200)
        os.kill(first[0], signal.SIGKILL)
        again = self.until(lambda: [each for each in siblings_of(port) if each != first[0]])
        self.assertEqual(ask(url, "/healthz")[0], 200)
        parent = int(Path(f"/proc/{again[0]}/stat").read_text().rpartition(")")[2].split()[1])
        os.kill(parent, signal.SIGKILL)
        self.until(lambda: not Path(f"/proc/{again[0]}").exists() or not siblings_of(port))

    def until(self, look: Callable[[], Any]) -> Any:
        """What `look` gives, once it gives something."""
        end = time.monotonic() + MINUTE
        while time.monotonic() < end:
            found = look()
            if found:
                return found
            time.sleep(0.1)
        raise AssertionError("it did not come")


class Places(unittest.TestCase):
    def test_a_port_is_shared_by_our_own_and_by_nobody_else(self) -> None:
        with listen(0) as first:
            port = first.getsockname()[1]
            with shared(port, "127.0.0.1") as second:
                self.assertEqual(second.getsockname()[1], port)
            with listen(port) as other:  # another program that asks for it gets a free one
                self.assertNotEqual(other.getsockname()[1], port)
