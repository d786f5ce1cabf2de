"""All commands and their options; what each does stands in a file of its own."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Annotated, Optional

import typer

from .logs import set_up

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False, rich_markup_mode=None)


@app.callback()
def begin(
    verbose: Annotated[
        int, typer.Option("--verbose", "-v", count=True, help="Log what is done; given twice, every scenario too.")
    ] = 0,
) -> None:
    """Runs, marks and explains beginners' small game scripts."""
    set_up(verbose)


ExercisePath = Annotated[Path, typer.Argument(help="The folder of an exercise, or that folder zipped.")]
ScriptPaths = Annotated[list[Path], typer.Argument(help="Scripts: files, folders or zips.")]


@app.command()
def mark(
    exercise: ExercisePath,
    script: ScriptPaths,
    json_file: Annotated[Optional[Path], typer.Option("--json", help="Write the whole report to this file.")] = None,
    csv_file: Annotated[Optional[Path], typer.Option("--csv", help="Write a row a script to this file.")] = None,
    junit_file: Annotated[Optional[Path], typer.Option("--junit", help="Write JUnit XML to this file.")] = None,
    jobs: Annotated[int, typer.Option(min=1, max=64, help="Worker processes.")] = os.cpu_count() or 2,
) -> None:
    """Mark scripts on an exercise and explain what went wrong."""
    from .marking import Files
    from .marking import mark as run

    raise typer.Exit(run(exercise, script, Files(json_file, csv_file, junit_file), jobs))


@app.command()
def new(
    name: Annotated[Path, typer.Argument(help="The folder to make; its last part is the exercise's name.")],
) -> None:
    """Make an exercise folder that runs at once."""
    from .new import new as run

    raise typer.Exit(run(name))


@app.command()
def load(
    exercise: ExercisePath,
    class_name: Annotated[str, typer.Argument(metavar="CLASS", help="The class, made if it is not there yet.")],
    files: Annotated[list[Path], typer.Argument(help="Scripts: files, folders or zips.")],
    students: Annotated[
        Optional[Path], typer.Option("--students", help="A CSV file with the names of the class.")
    ] = None,
    teacher: Annotated[
        Optional[str], typer.Option("--teacher", help="Whose class it is; needed where there are several teachers.")
    ] = None,
) -> None:
    """Hand in scripts for a class; the server marks them."""
    from .loading import load as run

    raise typer.Exit(run(exercise, class_name, files, students, teacher))


teachers = typer.Typer(no_args_is_help=True, help="Add and remove teachers, and give them passwords.")
app.add_typer(teachers, name="teacher")

TeacherName = Annotated[str, typer.Argument(metavar="NAME", help="The teacher's name.")]


@teachers.command("add")
def teacher_add(name: TeacherName) -> None:
    """Add a teacher; the password is asked for, or read from the first line of the input."""
    from .teachers import add

    raise typer.Exit(add(name))


@teachers.command("password")
def teacher_password(name: TeacherName) -> None:
    """Give a teacher another password; all their sessions end."""
    from .teachers import password

    raise typer.Exit(password(name))


@teachers.command("remove")
def teacher_remove(
    name: TeacherName,
    to: Annotated[str, typer.Option("--to", help="Who gets the drafts, and the classes that nobody else has.")],
) -> None:
    """Remove a teacher."""
    from .teachers import remove

    raise typer.Exit(remove(name, to))


BackupFile = Annotated[Path, typer.Argument(metavar="FILE", help="The backup, in pg_dump's own format.")]


@app.command()
def backup(file: BackupFile) -> None:
    """Write all records to a file."""
    from .backups import backup as run

    raise typer.Exit(run(file))


@app.command()
def restore(
    file: BackupFile,
    yes: Annotated[bool, typer.Option("--yes", help="Do not ask before what is there now is replaced.")] = False,
) -> None:
    """Put the records of a backup in the place of those that are there now."""
    from .backups import restore as run

    raise typer.Exit(run(file, yes=yes))


@app.command()
def forget(
    months: Annotated[
        Optional[int],
        typer.Option(min=1, max=600, help="How many months back; HOB_RETENTION_MONTHS where none are given."),
    ] = None,
) -> None:
    """Delete what was handed in longer ago, and classes that were put away as long ago."""
    from .forgetting import forget as run

    raise typer.Exit(run(months))


@app.command()
def play(
    exercise: ExercisePath,
    script: ScriptPaths,
    scenario: Annotated[
        Optional[str], typer.Option(help="The scenario to play; the first where none is named.")
    ] = None,
    trace: Annotated[Optional[Path], typer.Option(help="Write each whole trace into this folder.")] = None,
    live: Annotated[bool, typer.Option("--live", help="Play by hand, and begin again when the file changes.")] = False,
    port: Annotated[int, typer.Option(min=1, max=65535, help="With --live: the port to serve on.")] = 8766,
) -> None:
    """Play one scenario and show what happened; or, live, play by hand in the browser."""
    if live:
        from .live import live as serve

        raise typer.Exit(serve(exercise, script, port))
    from .playing import play as run

    raise typer.Exit(run(exercise, script, scenario, trace))


@app.command()
def prove(
    exercise: ExercisePath,
    json_file: Annotated[Optional[Path], typer.Option("--json", help="Write the whole proof to this file.")] = None,
    jobs: Annotated[int, typer.Option(min=1, max=64, help="Worker processes.")] = os.cpu_count() or 2,
) -> None:
    """Prove that an exercise is fit to be set: planted slips, branches, marks for nothing."""
    from .proving import prove as run

    raise typer.Exit(run(exercise, json_file, jobs))


@app.command()
def demo(
    reset: Annotated[bool, typer.Option("--reset", help="Begin again: forget everything that was kept.")] = False,
    yes: Annotated[bool, typer.Option("--yes", help="With --reset: do not ask.")] = False,
    port: Annotated[
        int, typer.Option(min=1, max=65535, help="The port to serve on; a free one if it is taken.")
    ] = 8765,
) -> None:
    """Set up everything, load the demo and serve it."""
    from .demo import run

    raise typer.Exit(run(reset=reset, yes=yes, port=port))


@app.command()
def serve(
    port: Annotated[
        Optional[int],
        typer.Option(min=1, max=65535, help="The port to serve on; HOB_PORT or 8765 where none is given."),
    ] = None,
    processes: Annotated[
        Optional[int],
        typer.Option(min=1, max=32, help="Processes that answer requests; HOB_PROCESSES or one a core, at most 4."),
    ] = None,
) -> None:
    """Serve on the database that HOB_DATABASE names, without the demo."""
    from .serve import run

    raise typer.Exit(run(port=port, processes=processes))


@app.command()
def worker(
    database: Annotated[
        Optional[str], typer.Option(help="The database to mark for, as an address; HOB_DATABASE where none is given.")
    ] = None,
    workers: Annotated[
        Optional[int],
        typer.Option(min=1, max=64, help="Processes that mark; HOB_WORKERS or 2 where no number is given."),
    ] = None,
) -> None:
    """Mark for a database, on any machine and beside any number of others, until Ctrl-C."""
    from .worker import run

    raise typer.Exit(run(database=database, workers=workers))


@app.command()
def dev(
    port: Annotated[
        int, typer.Option(min=1, max=65535, help="The port of the server; the front end has its own.")
    ] = 8765,
) -> None:
    """Serve the server and the front end, each taken up again when its files change."""
    from .dev import run

    raise typer.Exit(run(port=port))


@app.command()
def check() -> None:
    """Check the code: what tests begin with, and what a commit must pass."""
    from .test import check as run

    raise typer.Exit(run())


@app.command()
def test(
    quick: Annotated[bool, typer.Option("--quick", help="Leave out the browser and the checks of the code.")] = False,
    only: Annotated[Optional[str], typer.Option("--only", help="Only tests whose name has this in it.")] = None,
    result: Annotated[Optional[Path], typer.Option("--beside", hidden=True)] = None,
) -> None:
    """Check the code and run all tests."""
    from .test import beside, run

    if result is not None:
        raise typer.Exit(beside(result))

    raise typer.Exit(run(quick=quick, only=only))
