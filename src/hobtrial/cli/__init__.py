"""The command `hob`: marks, plays, serves and tests."""
