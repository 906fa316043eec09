"""How releases travel. `FolderChannel` is a local or mounted folder; signed repositories join beside it."""

from rimecrest.channel.folder import FolderChannel, open_channel

__all__ = ["FolderChannel", "open_channel"]
