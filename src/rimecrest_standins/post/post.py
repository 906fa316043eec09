"""All of Post's declarations, gathered."""

from rimecrest_standins.post import composing, filing, reading  # noqa: F401  (importing them declares their commands)
from rimecrest_standins.post.declared import declarations
from rimecrest_standins.post.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
