"""How releases travel: a `Repository`, opened by its address.

`FolderRepository` is a local or mounted folder; signed repositories join beside it.
"""
