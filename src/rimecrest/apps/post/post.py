"""All of Post's declarations, gathered."""

from rimecrest.apps.post import composing, filing, reading  # noqa: F401  (importing them declares their commands)
from rimecrest.apps.post.declared import declarations
from rimecrest.apps.post.surfaces import lay_out

lay_out(declarations)

__all__ = ["declarations"]
