"""The Macros place: shelves, steps as sentences, and the text beside them; both views are always one.

`shelves`, `steps` and `editor` show them; `place` joins
all with the session.
"""
