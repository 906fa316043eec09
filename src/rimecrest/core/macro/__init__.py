"""Macros: the `.steps` language from text to running.

`parse_macro` reads, `format_macro` writes, `check_macro` compares with a catalogue, `run_macro` is the flow
that yields each thing it wants done. None of it knows which application carries the steps out.
"""
