"""What comes from other programs, by file, drop or clipboard, made a picture that every door takes."""

from __future__ import annotations

from pathlib import Path

from msgspec import Struct
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMimeData
from PyQt6.QtGui import QImage

from rimecrest.core.errors import BrokenFile, RimecrestError
from rimecrest.core.files import read_plain
from rimecrest.core.pictures.images import LARGEST, SIZES, blurred_at, read_image, stored_png
from rimecrest.core.pictures.looks import drawn
from rimecrest.core.words import listed, tr
from rimecrest.studio.pictures.converting import converted, in_one_colour
from rimecrest.studio.pictures.offered_data import SVG_TYPE


class Arrived(Struct, frozen=True):
    """A picture that came in: what is stored of it, what it was called, where it blurs."""

    content: bytes
    name: str
    blurs: tuple[int, ...] = ()

    @property
    def says(self) -> str:
        """How it came out, for people."""
        if not self.blurs:
            return tr("It is clear at every size that buttons have.")
        if len(self.blurs) == len(SIZES):
            return tr("It blurs at every size that buttons have: a plainer picture would be read.")
        return tr(
            "It blurs at {sizes} pixels: a plainer picture would be read.", sizes=listed(map(str, self.blurs))
        )


def from_file(path: Path) -> Arrived:
    """The picture in a file.

    Raises:
        RimecrestError: it cannot be read, or is no picture that is taken; the sentence says why.
    """
    try:
        if path.is_file() and path.stat().st_size > LARGEST:
            raise BrokenFile(path.name, tr("it is larger than {most} MiB", most=LARGEST >> 20))
        content = read_plain(path, LARGEST)
    except OSError as error:
        raise _refused(path.name, error.strerror or str(error)) from None
    except BrokenFile as error:
        raise _refused(path.name, error.reason) from None
    return _made(content, path.name)


def from_clipboard(data: QMimeData) -> Arrived:
    """The picture that another program copied, or the file of one that was copied in a file manager.

    Raises:
        RimecrestError: there is none, or it is none that is taken.
    """
    for kind in (SVG_TYPE, "image/png", "image/webp"):
        if data.hasFormat(kind):
            return _made(data.data(kind).data(), "" if kind != SVG_TYPE else "clipboard.svg")
    if data.hasImage():
        image = data.imageData()
        if isinstance(image, QImage) and not image.isNull():
            return _made(_as_png(image), "")
    if data.hasUrls() and data.urls()[0].isLocalFile():
        return from_file(Path(data.urls()[0].toLocalFile()))
    raise RimecrestError(
        tr("There is no picture on the clipboard."), tr("Copy one in another program, then paste it here.")
    )


def _as_png(image: QImage) -> bytes:
    content, buffer = QByteArray(), QBuffer()
    buffer.setBuffer(content)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    buffer.close()
    return content.data()


def _made(content: bytes, name: str) -> Arrived:
    stem = Path(name).stem if name and name != "clipboard.svg" else ""
    try:
        if Path(name).suffix.lower() == ".svg":
            plain = in_one_colour(converted(content, name))
            return Arrived(plain, stem, tuple(blurred_at(drawn(plain, 384))))
        image = read_image(content, name)
        if image.getchannel("A").getbbox() is None:
            raise BrokenFile(name, tr("nothing is drawn in it"))
        return Arrived(stored_png(image), stem, tuple(blurred_at(image)))
    except BrokenFile as error:
        raise _refused(name or tr("the clipboard"), error.reason) from None


def _refused(name: str, reason: str) -> RimecrestError:
    return RimecrestError(
        tr("{name} is not taken as a picture: {reason}.", name=name, reason=reason),
        tr("Save it as a PNG in the program that made it, or take another."),
    )
