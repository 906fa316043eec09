"""Surfaces, items and hotkeys: what one layer says (`Layout`), and what a colleague sees (`Outcome`).

`outcome(stack)` lays the layers of a seat over one another; `compare` says in words what differs.
"""
