"""The Layout place: the colleague's window as a stage, edited like a line of text.

`LayoutPlace` joins the parts: `stage` (the window drawn by the application's own surfaces), `overlay` (caret,
selection, marks: all that takes the mouse), `candidates`, `card`, `ruler`.
"""
