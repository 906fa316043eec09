"""The job itself: keys, catalogues, layouts, macros, conflicts, the workspace, releases.

Nothing in here knows a window, a socket, a database or a clock. Whoever needs the time passes it in.
"""
