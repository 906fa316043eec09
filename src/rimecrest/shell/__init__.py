"""What each of our Qt programs shares: start, theme and fonts, pictures, key codes, typed text, the link.

It knows no surface, no document and no workspace on disk.
"""
