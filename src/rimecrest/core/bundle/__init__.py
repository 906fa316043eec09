"""Handing macros over: a signed bundle with all they need, and taking one in without half doing anything.

`build_bundle` gathers macros, those they run, the panels they ask and their companions; `read_bundle` reads
and verifies; `arrivals` compares with a workspace; `take_in` is the one edit that brings in what was decided.
"""
