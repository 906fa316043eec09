"""The agent on a colleague's computer: enrol, pull, apply, report.

`pull` is a flow that yields each thing it wants done; `carry_out` does the things for real and may be
stopped between any two of them.
"""
