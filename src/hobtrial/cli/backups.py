"""`hob backup FILE` and `hob restore FILE`: all records in pg_dump's own format."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path
from typing import Final

from ..core.words import HobError, UsageError
from ..store import program_of
from .home import home
from .marking import complain
from .records import database_of, make_ready

MAGIC: Final = b"PGDMP"
"""What a file of pg_dump's own format begins with."""


def backup(file: Path) -> int:
    """Writes a backup: whole, or not at all. Gives the exit status."""
    beside = file.with_name(f".{file.name}.part")
    try:
        address = database_of(home())
        beside.touch(mode=0o600)  # a backup is as private as the records
        _run(address, "pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--file={beside}")
        beside.replace(file)
    except (HobError, OSError) as error:
        beside.unlink(missing_ok=True)
        complain(str(error).split("\n"))
        return 1
    print(f"All records are in {file} ({file.stat().st_size:,} bytes). Whoever has this file has the records.")
    return 0


def restore(file: Path, *, yes: bool) -> int:
    """Puts a backup in the place of the records, in one transaction. Gives the exit status."""
    try:
        with file.open("rb") as stream:
            if stream.read(len(MAGIC)) != MAGIC:
                raise UsageError(f"{file} is not a backup; ./hob backup FILE makes one")
        address = database_of(home())
        if not yes and not _agreed(f"Everything that is there now is replaced by what is in {file}."):
            print("Nothing was changed.")
            return 1
        options = ("--clean", "--if-exists", "--no-owner", "--no-privileges", "--single-transaction", "--exit-on-error")
        _run(address, "pg_restore", *options, f"--dbname={_without_password(address)}", str(file))
        make_ready(address)  # a backup of an older version has older tables
    except (HobError, OSError) as error:
        complain(str(error).split("\n"))
        return 1
    print(f"The records are those of {file} now. A server that runs takes them up by itself.")
    return 0


def _agreed(what: str) -> bool:
    if not sys.stdin.isatty():
        raise UsageError(f"{what} Say --yes if that is meant.")
    return input(f"{what} Go on (yes or no)? ").strip().casefold() == "yes"


def _run(address: str, program: str, *arguments: str) -> None:
    """Runs one of PostgreSQL's programs; the password goes by the environment, where no list of processes shows it."""
    command = [str(program_of(program)), *arguments]
    if program == "pg_dump":
        command.append(f"--dbname={_without_password(address)}")
    done = subprocess.run(command, env=_environment(address), capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise HobError(f"PostgreSQL's {program} failed. It says:\n{done.stderr.strip()}")


def _without_password(address: str) -> str:
    from psycopg.conninfo import conninfo_to_dict, make_conninfo

    return make_conninfo("", **{key: value for key, value in conninfo_to_dict(address).items() if key != "password"})


def _environment(address: str) -> dict[str, str]:
    from psycopg.conninfo import conninfo_to_dict

    password = conninfo_to_dict(address).get("password")
    return {**os.environ, **({"PGPASSWORD": str(password)} if password else {})}
