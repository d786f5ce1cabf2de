"""`python -m hobtrial`: the command `hob`, once everything it needs is set up."""

from .cli.main import app

app(prog_name="hob")
