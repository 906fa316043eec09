"""Keyboards: where each key lies, and what it gives on each national layout.

`keyboard(code)` is one national keyboard, `known_keyboards()` the codes that exist. The tables in `tables/`
are written by `tools/keyboards.py` from the system's XKB data.
"""
