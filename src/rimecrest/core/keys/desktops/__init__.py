"""Which chords never reach an application, because something before it takes them.

`profile` reads one profile: a kind of desktop session, an input method, or a screen reader. The profiles are
data files in `data/`, with the keys that each comes with; what a machine really has is read
by `rimecrest.rollout.desktop`.
"""
