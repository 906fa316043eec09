"""The catalogue of an application: from a file, or asked of the installed application itself."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from rimecrest.cli.common import read_text
from rimecrest.core.catalogue.catalogue import Catalogue, parse_catalogue
from rimecrest.core.errors import RimecrestError
from rimecrest.core.words import tr
from rimecrest.link.launch import describe_application


def catalogue_for(app: str, file: Path | None = None) -> Catalogue:
    """The catalogue in a file; without one, what the installed application says of itself.

    Raises:
        RimecrestError: the file is no catalogue, or there is no such application here.
    """
    if file is not None:
        return parse_catalogue(read_text(file), str(file))
    with TemporaryDirectory() as folder:
        try:
            described = describe_application(app, Path(folder))
        except RimecrestError as error:
            raise RimecrestError(error.sentence, tr("Name its catalogue: --catalogue FILE.")) from None
        return parse_catalogue(read_text(described), app)
