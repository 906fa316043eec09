"""Chords and sequences, contexts, and the one function that says who wins a key.

`parse_sequence` and `format_sequence` are the only way from and to text; `standing` is what a running
application, the checks and `rimecrest why` all call.
"""

from rimecrest.core.keys.bindings import (
    PERSONAL,
    Binding,
    Ruling,
    contest,
    deciding,
    rule,
    standing,
    strength,
    strength_of,
    winners_on,
    working,
)
from rimecrest.core.keys.chords import (
    Chord,
    Sequence,
    extends,
    format_chord,
    format_sequence,
    key_name,
    normalise,
    parse_chord,
    parse_sequence,
    touches,
)
from rimecrest.core.keys.contexts import ANYWHERE, FIELD, Context, Contexts
from rimecrest.core.keys.traits import NOWHERE, Traits
from rimecrest.core.keys.trie import PATIENCE, KeyTrie, Step

__all__ = [
    "ANYWHERE",
    "FIELD",
    "NOWHERE",
    "PATIENCE",
    "PERSONAL",
    "Binding",
    "Chord",
    "Context",
    "Contexts",
    "KeyTrie",
    "Ruling",
    "Sequence",
    "Step",
    "Traits",
    "contest",
    "deciding",
    "extends",
    "format_chord",
    "format_sequence",
    "key_name",
    "normalise",
    "parse_chord",
    "parse_sequence",
    "rule",
    "standing",
    "strength",
    "strength_of",
    "touches",
    "winners_on",
    "working",
]
