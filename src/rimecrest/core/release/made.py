"""Who made a release, and when: a file beside its package, so that equal content stays equal."""

from rimecrest.core.model import Record
from rimecrest.core.release.package_files import ReleaseNumber


class Made(Record):
    """`<number>.json` beside `<number>.crestpack`."""

    release: ReleaseNumber
    by: str = ""
    """The name of whoever made it, for people."""
    at: str = ""
    """When, in ISO 8601, UTC."""
