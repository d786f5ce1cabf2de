"""The slips that are recognised by one change, a file each.

Each file has `SLIP`, its id; `edits`, the changes that would mend it; and, where the run must bear
it out in a way of its own, `witness`: the facts of the student's own run, or nothing where the run
does not. The order in which they are tried stands in `order.py`.
"""
