"""The Keys place: the key bed, the contexts, the map, the sheet that says why, and arranging all keys at
once.

`place.KeysPlace` is its face; `bed.KeyBed` and `map.KeyMap` know nothing of the program around them.
"""
