"""The slips, a file each; `SLIP` of each file is the slip as one value (`slip.py`).

A new slip is one file here, one entry in `wording` and its cases in `tests/slips`. Where it explains the same checks as
another of its group, `order.py` says which of the two stands alone.
"""
