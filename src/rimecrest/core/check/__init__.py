"""What is wrong with an estate: findings, one row per rule, checked again only where an edit falls.

`check` runs the rules of `rules.RULES` over a workspace. Everything here is pure, and knows nothing of what
would mend a finding (`core.mend`), of free keys (`core.suggest`) or of why a key does something
(`core.explain`).
"""
