"""Free keys for a target, and all keys of a layer at once. The only part of the core with NumPy and SciPy.

Import `free_keys` and `arrange` from their own modules, when somebody asks: they cost at the start.
"""
