"""The text of a letter: writing, choosing, formatting and finding are those of all formatted text."""

from rimecrest_standins.formatted_text.declared import declare_text
from rimecrest_standins.letters.declared import declarations

declare_text(declarations, "letter")
