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
) -> None:
    """Hand in scripts for a class; the server marks them."""
    from .loading import load as run

    raise typer.Exit(run(exercise, class_name, files, students))


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
    port: Annotated[
        int, typer.Option(min=1, max=65535, help="The port to serve on; a free one if it is taken.")
    ] = 8765,
) -> None:
    """Set up everything, load the demo and serve it."""
    from .demo import run

    raise typer.Exit(run(reset=reset, port=port))


@app.command()
def serve(
    port: Annotated[
        int, typer.Option(min=1, max=65535, help="The port to serve on; a free one if it is taken.")
    ] = 8765,
) -> None:
    """Serve on the database that HOB_DATABASE names, without the demo."""
    from .serve import run

    raise typer.Exit(run(port=port))


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
