"""Pictures of items: SVGs frozen into a release or into this folder, drawn in the colour of the scheme."""

from rimecrest.shell.pictures.book import PictureBook

__all__ = ["PictureBook"]
