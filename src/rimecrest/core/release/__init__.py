"""Releases: what is handed to seats, as bytes and as values.

`build_package` and `read_package` are the `.crestpack`; `Audience` says which seat gets what; `StackState` is
what one application on one seat loads, be it from an installed release or from the studio's draft. Signing
and waves join here as further functions over the same values.
"""
