"""How releases travel: a `Repository`, opened by its address.

`FolderRepository` is a local or mounted folder; signed repositories join beside it.
"""

from rimecrest.channel.folder import FolderRepository, lasting_address, open_repository
from rimecrest.channel.repository import Repository

__all__ = ["FolderRepository", "Repository", "lasting_address", "open_repository"]
