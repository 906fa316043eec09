"""How releases travel: the repository that they go through, publishing, and the agent on a seat.

The studio publishes into a `Repository`; the agent of each seat pulls from it and reports back.
"""
