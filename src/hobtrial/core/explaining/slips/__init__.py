"""The slips that are recognised by one change, a file each, in the order in which they are tried.

Each file has `SLIP`, its id; `edits`, the changes that would mend it; and `witness`, the facts of
the student's own run that bear it out, or nothing where the run does not.
"""
