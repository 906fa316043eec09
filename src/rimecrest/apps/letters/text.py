"""The text of a letter: writing, choosing, formatting and finding are those of all formatted text."""

from rimecrest.apps.letters.declared import declarations
from rimecrest.embed.formatted_text.declared import declare_text

declare_text(declarations, "letter")
