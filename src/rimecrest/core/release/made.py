"""Who made a release, when, and from what: a file beside its package, so that equal content stays equal."""

from rimecrest.core.model import Record
from rimecrest.core.release.package_files import ReleaseNumber


class Made(Record):
    """`<number>.json` beside `<number>.crestpack`."""

    release: ReleaseNumber
    by: str = ""
    """The name of whoever made it, for people."""
    at: str = ""
    """When, in ISO 8601, UTC."""
    workspace: str = ""
    """SHA-256 of the package, in hexadecimal: the state of the workspace that it was made from."""
