"""Chords and sequences, contexts, and the one function that says who wins a key.

`parse_sequence` and `format_sequence` are the only way from and to text; `standing` is what a running
application, the checks and `rimecrest why` all call.
"""
