"""One organisation's folder on disk, as an immutable value, and the edits that make the next one.

`open_workspace` reads a folder, `apply` makes an edit and its inverse, `Keeper` saves whole edits or nothing.
What a workspace holds stands in one table, `parts.PARTS`; new identities come from `fresh`.
"""
