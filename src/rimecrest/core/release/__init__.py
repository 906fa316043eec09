"""Releases: what is handed to seats, as bytes and as values.

`build_package` and `read_package` are the `.crestpack`; `Audience` says which seat gets what; `StackState` is
what one application on one seat loads, be it from an installed release or from the studio's draft. Signing
and waves join here as further functions over the same values.
"""

from typing import TYPE_CHECKING

from rimecrest.core.late import late_names

if TYPE_CHECKING:
    from rimecrest.core.release.audience import Assignment, Audience, audience_of, parse_audience, seat_id
    from rimecrest.core.release.package import Package, Release, build_package, read_package, understand
    from rimecrest.core.release.pictures import freeze, frozen_pictures, named_pictures, picture_names
    from rimecrest.core.release.profile import Enrolment, Installed, Owed, Profile, Reports, default_folder
    from rimecrest.core.release.receipt import Receipt, parse_receipt
    from rimecrest.core.release.stack import ShelvedMacro, StackState, encoded
    from rimecrest.core.release.stack_sources import draft_stack, released_stack

__all__ = [
    "Assignment",
    "Audience",
    "Enrolment",
    "Installed",
    "Owed",
    "Package",
    "Profile",
    "Receipt",
    "Reports",
    "Release",
    "ShelvedMacro",
    "StackState",
    "audience_of",
    "build_package",
    "default_folder",
    "draft_stack",
    "encoded",
    "freeze",
    "frozen_pictures",
    "named_pictures",
    "parse_audience",
    "picture_names",
    "parse_receipt",
    "read_package",
    "released_stack",
    "seat_id",
    "understand",
]

__getattr__ = late_names(
    __name__,
    {
        "audience": "Assignment Audience audience_of parse_audience seat_id",
        "package": "Package Release build_package read_package understand",
        "pictures": "freeze frozen_pictures named_pictures picture_names",
        "profile": "Enrolment Installed Owed Profile Reports default_folder",
        "receipt": "Receipt parse_receipt",
        "stack": "ShelvedMacro StackState encoded",
        "stack_sources": "draft_stack released_stack",
    },
)
