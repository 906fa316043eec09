"""Why a key or item does what it does on one seat, and what every key of a keyboard does in one place.

`why` and `why_item` give a chain of verdicts from a `Standpoint`: the studio of any seat, an application of
its own. `bed_state` is what the key bed and the wall chart are drawn from.
"""
