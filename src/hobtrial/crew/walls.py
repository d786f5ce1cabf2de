"""The second wall: what the operating system lets a worker do once it has begun.

Another user where the server is root, no new privileges, a short list of system calls, and limits of
memory, files, processes and processor time. Whatever got past the language meets it. All modules must
be imported before: afterwards nothing can be opened.
"""

from __future__ import annotations

import ctypes
import errno
import os
import resource
from typing import Any, Final

pyseccomp: Any
try:
    import pyseccomp
except (ImportError, OSError, RuntimeError):  # Debian's libseccomp2 is not here
    pyseccomp = None

MEMORY: Final = 512 * 2**20
"""Bytes of address space that a task may add: ten times what the largest trace takes."""
TASK_SECONDS: Final = 120
"""Processor seconds of one task, and of its explanation: a last guard. What a script may do is counted in passes,
and a busy machine takes several times as long for them as a quiet one.
"""
NOBODY: Final = 65534
NO_NEW_PRIVILEGES: Final = 38  # PR_SET_NO_NEW_PRIVS of linux/prctl.h

SYSTEM_CALLS: Final = (
    "read mmap munmap mremap mprotect madvise brk futex rt_sigreturn rt_sigaction rt_sigprocmask sigaltstack "
    "clock_gettime clock_nanosleep nanosleep gettimeofday getrandom poll ppoll getrusage exit exit_group "
    "restart_syscall sched_yield fstat lseek"
).split()
"""What a worker needs to compute and to answer. Opening, forking, killing, exec and sockets are not in it."""


def raise_walls() -> list[str]:
    """Raises the wall, for good. Gives the parts that could not be raised, each in a few words."""
    missing: list[str] = []
    for name in (resource.RLIMIT_CORE, resource.RLIMIT_FSIZE):
        resource.setrlimit(name, (0, 0))
    resource.setrlimit(resource.RLIMIT_NOFILE, (3, 3))
    if os.geteuid() == 0:
        os.setgroups([])
        os.setgid(NOBODY)
        os.setuid(NOBODY)
    resource.setrlimit(resource.RLIMIT_NPROC, (0, 0))
    if ctypes.CDLL(None, use_errno=True).prctl(NO_NEW_PRIVILEGES, 1, 0, 0, 0) != 0:
        missing.append("no new privileges")
    if not _filter_system_calls():
        missing.append("the filter of system calls (libseccomp2)")
    return missing


def _filter_system_calls() -> bool:
    if pyseccomp is None:
        return False
    listed = pyseccomp.SyscallFilter(pyseccomp.ERRNO(errno.EPERM))
    for call in SYSTEM_CALLS:
        listed.add_rule(pyseccomp.ALLOW, call)
    for stream in (1, 2):
        listed.add_rule(pyseccomp.ALLOW, "write", pyseccomp.Arg(0, pyseccomp.EQ, stream))
    listed.add_rule(pyseccomp.ALLOW, "prlimit64", pyseccomp.Arg(0, pyseccomp.EQ, 0))  # only of itself
    try:
        listed.load()
    except OSError:
        return False
    return True


def renew_limits() -> None:
    """Grants the processor time and memory of one task on top of what was used so far."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    seconds = int(used.ru_utime + used.ru_stime) + TASK_SECONDS
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, resource.RLIM_INFINITY))


def limit_memory() -> None:
    """Bounds the address space to what is mapped now and `MEMORY` more. Call it before the wall."""
    with open("/proc/self/statm", encoding="ascii") as file:
        mapped = int(file.read().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (mapped + MEMORY, mapped + MEMORY))


def used() -> dict[str, float]:
    """Processor seconds so far and the most memory so far, in bytes."""
    usage = resource.getrusage(resource.RUSAGE_SELF)
    return {"seconds": usage.ru_utime + usage.ru_stime, "memory": usage.ru_maxrss * 1024}
