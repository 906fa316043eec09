"""The specialist's program: one package per place, around one `Session`.

Views never change state: they draw it and emit edits; the session applies, saves and checks them.
"""
