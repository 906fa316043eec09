"""Handing macros over: a signed bundle with all they need, and taking one in without half doing anything.

`build_bundle` gathers macros, those they run, the panels they ask and their companions; `read_bundle` reads
and verifies; `arrivals` compares with a workspace; `take_in` is the one edit that brings in what was decided.
"""

from rimecrest.core.bundle.arriving import Arrival, Missing, arrivals, take_in
from rimecrest.core.bundle.bundle import Bundle, build_bundle, read_bundle
from rimecrest.core.bundle.existing import Existing
from rimecrest.core.bundle.needs import Needs, needed

__all__ = [
    "Arrival",
    "Bundle",
    "Existing",
    "Missing",
    "Needs",
    "arrivals",
    "build_bundle",
    "needed",
    "read_bundle",
    "take_in",
]
