"""Stand-in applications for the demo: Letters, Grid and Post.

Each is only a document and its commands. The rest comes from Rimecrest, as it would for any application.
"""
