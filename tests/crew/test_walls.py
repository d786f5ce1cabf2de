"""The worker's wall, with the language switched off: canaries that plain Python sends against it."""

import os
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from tests.support import ROOT

PROGRAMS = {
    "read a file": "open('{secret}').read()",
    "read the passwords": "open('/etc/passwd').read()",
    "read its own memory map": "open('/proc/self/maps').read()",
    "write a file": "open('{folder}/new', 'w')",
    "open by the system call": "os.open('{secret}', os.O_RDONLY)",
    "list a folder": "os.listdir('{folder}')",
    "make a folder": "os.mkdir('{folder}/new')",
    "remove a file": "os.unlink('{secret}')",
    "rename a file": "os.rename('{secret}', '{folder}/new')",
    "make a link": "os.symlink('{secret}', '{folder}/new')",
    "change a file's rights": "os.chmod('{secret}', 0o777)",
    "change folder": "os.chdir('/')",
    "fork": "os.fork()",
    "start a program": "subprocess.run(['/bin/true'])",
    "become a program": "os.execv('/bin/true', ['true'])",
    "a shell": "os.system('true') == 0 and (_ for _ in ()).throw(SystemExit) or 1 / 0",
    "a thread": "import _thread; _thread.start_new_thread(print, ())",
    "kill a sibling": "os.kill({sibling}, signal.SIGKILL)",
    "kill its parent": "os.kill(os.getppid(), signal.SIGKILL)",
    "a socket": "socket.socket()",
    "a local socket": "socket.socket(socket.AF_UNIX)",
    "a pair of sockets": "socket.socketpair()",
    "a pipe": "os.pipe()",
    "copy a stream": "os.dup(1)",
    "write to another stream": "os.write(5, b'x')",
    "become root": "os.setuid(0); 1 / 0",
    "another limit": "import resource; resource.setrlimit(resource.RLIMIT_NOFILE, (99, 99))",
    "a limit of another process": "import resource; resource.prlimit({sibling}, resource.RLIMIT_CPU, (1, 1))",
    "look into a sibling": "ctypes.CDLL(None, use_errno=True).ptrace(16, {sibling}, 0, 0) == 0 or 1 / 0",
    "load a module": "import _sqlite3",
    "map a file": "import mmap; mmap.mmap(os.open('{secret}', 0), 0)",
    "the environment of a sibling": "open('/proc/{sibling}/environ').read()",
    "change the host's name": "socket.sethostname('x')",
}


def canary(program: str) -> subprocess.CompletedProcess[str]:
    """Sends a program against the wall."""
    environment = {"PYTHONPATH": f"{ROOT / 'src'}:{ROOT}", "PATH": os.defpath}
    command = [sys.executable, "-m", "tests.crew.canary"]
    return subprocess.run(
        command, input=program, env=environment, cwd=ROOT, capture_output=True, text=True, timeout=90, check=False
    )


class Walls(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.folder.chmod(0o777)
        self.secret = self.folder / "secret"
        self.secret.write_text("the canary sings")
        self.secret.chmod(0o666)
        self.sibling = subprocess.Popen(["sleep", "120"], env={"SECRET": "x"})
        self.addCleanup(self.sibling.wait)
        self.addCleanup(self.sibling.kill)

    def test_a_program_that_only_computes_gets_through(self) -> None:
        self.assertEqual(canary("x = sum(range(1000)); y = 'a' * 10; import math").stdout, "got through []\n")

    def test_nothing_else_does(self) -> None:
        for name, program in PROGRAMS.items():
            with self.subTest(name):
                filled = (
                    program.replace("{secret}", str(self.secret))
                    .replace("{folder}", str(self.folder))
                    .replace("{sibling}", str(self.sibling.pid))
                )
                done = canary(filled)
                self.assertNotIn("got through", done.stdout, done.stderr)
                self.assertTrue(done.stdout.endswith(" []\n"), done.stdout + done.stderr)
        self.assertEqual(self.secret.read_text(), "the canary sings")
        self.assertEqual([path.name for path in self.folder.iterdir()], ["secret"])
        self.assertIsNone(self.sibling.poll())

    def test_memory_has_an_end(self) -> None:
        self.assertTrue(canary("x = [bytearray(2**20) for _ in range(4096)]").stdout.startswith("MemoryError"))

    def test_processor_time_has_an_end(self) -> None:
        program = "import resource; resource.setrlimit(resource.RLIMIT_CPU, (1, 1))\nwhile True: pass"
        begin = time.monotonic()
        self.assertLess(canary(program).returncode, 0)
        self.assertLess(time.monotonic() - begin, 60)

    def test_where_seccomp_is_missing_this_is_said(self) -> None:
        program = "from unittest import mock\nfrom hobtrial.crew import walls\nwith mock.patch.object(walls, 'pyseccomp', None):\n    print(walls.raise_walls())"
        environment = {"PYTHONPATH": str(ROOT / "src"), "PATH": os.defpath}
        done = subprocess.run(
            [sys.executable, "-c", program], env=environment, capture_output=True, text=True, check=True
        )
        self.assertEqual(done.stdout, "['the filter of system calls (libseccomp2)']\n")
