"""The Roll-out place: every seat a hexagon, told by state and sign; releasing from here.

`board` says which state each seat is in, without any widget; `seat_map` draws it; `place` joins both.
"""
