"""Giving a button its picture: found, drawn, imported, pasted, of letters; kept, put back, copied out."""

from __future__ import annotations

import io
import os
from pathlib import Path

import pytest
from PIL import Image, ImageDraw
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QColor, QDragEnterEvent, QDropEvent, QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import BrokenFile
from rimecrest.core.pictures.checked import checked_picture, follows_scheme
from rimecrest.core.pictures.drawing import Drawing
from rimecrest.core.workspace.folder import read_workspace
from rimecrest.shell import pictures as pictures_module
from rimecrest.shell.pictures import PictureBook
from rimecrest.studio.pictures import converting
from rimecrest.studio.pictures.bringing_in import from_file
from rimecrest.studio.pictures.canvas import SIDE, Canvas
from rimecrest.studio.pictures.chooser import PictureChooser
from rimecrest.studio.pictures.found import MOST, RECENT, found, note_taken
from rimecrest.studio.pictures.letters import letters_svg
from rimecrest.studio.pictures.wall import called, spoken
from tests.core.test_pictures import DOUBLING, HEAD
from tests.studio.conftest import CTRL, NONE, SHIFT, Studio

HAZARD = "department.freight:hazard-note"
FILE = "hazard-note.svg"


@pytest.fixture
def chooser(studio: Studio) -> PictureChooser:
    """The chooser of Hazard note's picture is open."""
    studio.click_item(HAZARD)
    studio.press(Qt.Key.Key_Space)
    studio.push("card-picture")
    found = studio.find("picture-chooser")
    assert isinstance(found, PictureChooser)
    return found


def picture(studio: Studio) -> str:
    return str(studio.item(HAZARD).picture)  # type: ignore[union-attr]


def stored(studio: Studio, file: str = FILE) -> bytes:
    return read_workspace(studio.folder).pictures[file]


def cell(canvas: Canvas, x: int, y: int) -> QPoint:
    side = SIDE / canvas.drawing.size
    return QPoint(int((x + 0.5) * side), int((y + 0.5) * side))


def stroke(
    canvas: Canvas, *cells: tuple[int, int], button: Qt.MouseButton = Qt.MouseButton.LeftButton
) -> None:
    first, last = cell(canvas, *cells[0]), cell(canvas, *cells[-1])
    QTest.mousePress(canvas, button, NONE, first)
    for each in cells[1:]:
        QTest.mouseMove(canvas, cell(canvas, *each))
    QTest.mouseRelease(canvas, button, NONE, last)
    QApplication.processEvents()


def png(side: int = 64, colour: str = "#A8480A") -> bytes:
    image = Image.new("RGBA", (side, side))
    ImageDraw.Draw(image).ellipse((4, 4, side - 5, side - 5), fill=colour)
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


# Finding


def test_a_word_finds_pictures_and_enter_takes_the_first(studio: Studio, chooser: PictureChooser) -> None:
    studio.type("ferry")
    assert chooser.wall.names()[0] == "set:ferry"
    assert chooser.preview.caption == "Enter takes this one"
    studio.press(Qt.Key.Key_Return)
    assert picture(studio) == "set:ferry"
    assert chooser.preview.caption == "As colleagues see it, at 16 to 48 pixels"
    assert chooser.isVisible()
    studio.press(Qt.Key.Key_Down)
    studio.press(Qt.Key.Key_Right)
    studio.press(Qt.Key.Key_Return)
    assert picture(studio) == chooser.wall.names()[1]
    studio.press(Qt.Key.Key_Escape)
    assert picture(studio) == "set:solid.ferry"
    # All that was tried is one step of undo.
    studio.session.undo()
    assert picture(studio) == "set:alert-outline"


def test_what_was_taken_last_and_what_is_used_here_is_at_hand(
    studio: Studio, chooser: PictureChooser
) -> None:
    studio.type("ferry")
    studio.press(Qt.Key.Key_Return)
    chooser.field.clear()
    assert "set:ferry" in chooser.wall.names()[:3]
    studio.push("picture-used-here")
    assert {"set:ferry", "set:table-plus"} <= set(chooser.used.names())
    studio.press(Qt.Key.Key_End)
    studio.press(Qt.Key.Key_Return)
    assert picture(studio) == chooser.used.names()[-1]


def test_before_anything_is_typed_its_own_picture_comes_first_then_what_was_taken_then_what_fits() -> None:
    fitting = found("clock", "", "")
    current, one, other, *earlier = fitting[3 : 4 + RECENT]
    # As many as are shown, so that none is left that was taken before.
    for name in (*earlier, one, other, "pictures/quay.svg"):
        note_taken(name)
    shown = found("", current, "clock")
    assert shown[: 4 + len(earlier)] == [current, other, one, *reversed(earlier), fitting[0]]
    assert len(shown) == len(set(shown)) == MOST
    note_taken(one)
    assert found("", "", "clock")[:2] == [one, other]


def test_a_word_that_nothing_has_says_so(studio: Studio, chooser: PictureChooser) -> None:
    studio.type("qqqqqq")
    assert chooser.wall.count() == 0
    studio.press(Qt.Key.Key_Return)
    assert picture(studio) == "set:alert-outline"


def test_each_picture_says_the_set_that_it_is_of_to_whoever_asks(
    studio: Studio, chooser: PictureChooser
) -> None:
    studio.type("ferry")
    rows = [row for at in range(chooser.wall.count()) if (row := chooser.wall.item(at)) is not None]
    said = {chooser.wall.name_of(row): row.toolTip() for row in rows}
    assert said["set:ferry"] == "ferry"
    assert said["set:solid.ferry"] == "ferry (solid)"
    assert called("set:solid.ferry") == "ferry"
    assert [row.data(Qt.ItemDataRole.AccessibleTextRole) for row in rows] == list(said.values())


@pytest.mark.parametrize(
    ("name", "words"), [("own:two.parts.svg", "two.parts"), ("own:berth", "berth"), ("app:new", "new")]
)
def test_a_picture_of_ones_own_is_called_by_its_file(name: str, words: str) -> None:
    assert called(name) == spoken(name) == words


# Drawing


def test_the_button_shows_what_is_drawn_as_it_is_drawn(studio: Studio, chooser: PictureChooser) -> None:
    studio.push("picture-drawn")
    canvas = chooser.drawn.canvas
    begun = canvas.drawing
    assert "ink" in begun.cells
    studio.push("colour-asks")
    stroke(canvas, (0, 0), (3, 0))
    assert picture(studio) == f"own:{FILE}"
    drawn = Drawing.of(stored(studio))
    assert [drawn.at((x, 0)) for x in range(4)] == ["asks"] * 4
    pixmap = studio.place.stage.frame.painting.pictures.pixmap(
        f"own:{FILE}", studio.desk.scheme.color("ink"), 20
    )
    assert pixmap is not None
    assert pixmap.toImage().pixelColor(1, 0).name().upper() == "#A8480A"
    stroke(canvas, (0, 0), (0, 0), button=Qt.MouseButton.RightButton)
    assert Drawing.of(stored(studio)).at((0, 0)) == ""
    studio.press(Qt.Key.Key_Z, CTRL)
    assert Drawing.of(stored(studio)).at((0, 0)) == "asks"
    studio.press(Qt.Key.Key_Z, CTRL)
    assert Drawing.of(stored(studio)) == begun
    studio.press(Qt.Key.Key_Z, CTRL | SHIFT)
    assert Drawing.of(stored(studio)).at((3, 0)) == "asks"
    studio.press(Qt.Key.Key_Escape)
    assert not chooser.isVisible()
    assert Drawing.of(stored(studio)).at((3, 0)) == "asks"
    studio.session.undo()
    assert picture(studio) == "set:alert-outline"
    assert FILE not in read_workspace(studio.folder).pictures


def test_it_is_drawn_by_the_keyboard_alone(studio: Studio, chooser: PictureChooser) -> None:
    studio.push("picture-drawn")
    canvas = chooser.drawn.canvas
    chooser.drawn.begin(Drawing.empty(16))
    assert canvas.hasFocus()
    studio.press(Qt.Key.Key_Right)
    studio.press(Qt.Key.Key_Space)
    assert canvas.drawing.at((1, 0)) == "ink"
    assert canvas.accessibleDescription() == "Column 2, row 1: ink"
    studio.press(Qt.Key.Key_Space)
    assert canvas.drawing.at((1, 0)) == ""
    studio.type("r")
    studio.press(Qt.Key.Key_Space)
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_Down):
        studio.press(key)
    studio.press(Qt.Key.Key_Escape)
    assert chooser.isVisible()
    assert not any(canvas.drawing.cells)
    studio.press(Qt.Key.Key_Space)
    for key in (Qt.Key.Key_Left, Qt.Key.Key_Left, Qt.Key.Key_Up, Qt.Key.Key_Up):
        studio.press(key)
    studio.press(Qt.Key.Key_Space)
    assert sum(map(bool, canvas.drawing.cells)) == 8
    studio.type("f")
    studio.press(Qt.Key.Key_Right)
    studio.press(Qt.Key.Key_Down)
    studio.press(Qt.Key.Key_Space)
    assert sum(map(bool, canvas.drawing.cells)) == 9
    studio.type("s")
    studio.press(Qt.Key.Key_Right)
    assert canvas.drawing.at((4, 2)) == "ink"
    assert Drawing.of(stored(studio)) == canvas.drawing


def test_mirror_grid_and_shapes(studio: Studio, chooser: PictureChooser) -> None:
    studio.push("picture-drawn")
    canvas = chooser.drawn.canvas
    chooser.drawn.begin(Drawing.empty(20))
    studio.push("drawing-mirror")
    studio.choose("both")
    stroke(canvas, (0, 0))
    assert sum(map(bool, canvas.drawing.cells)) == 4
    studio.push("drawing-mirror")
    studio.choose("nowhere")
    studio.push("tool-line")
    stroke(canvas, (5, 5), (9, 7), (9, 5))
    assert [canvas.drawing.at((x, 5)) for x in range(4, 11)] == ["", *["ink"] * 5, ""]
    assert canvas.drawing.at((9, 7)) == ""
    studio.push("tool-ellipse")
    stroke(canvas, (5, 10), (13, 18))
    assert canvas.drawing.at((9, 10)) == "ink"
    studio.push("tool-shift")
    stroke(canvas, (0, 0), (1, 0))
    assert canvas.drawing.at((10, 10)) == "ink"
    studio.push("drawing-grid")
    studio.choose("32 × 32")
    assert canvas.drawing.size == 32
    assert Drawing.of(stored(studio)).size == 32
    studio.push("drawing-undo")
    assert canvas.drawing.size == 20


def test_back_as_it_was_and_no_picture(studio: Studio, chooser: PictureChooser) -> None:
    studio.push("picture-drawn")
    stroke(chooser.drawn.canvas, (0, 0))
    assert picture(studio) == f"own:{FILE}"
    studio.push("picture-back")
    assert picture(studio) == "set:alert-outline"
    assert FILE not in read_workspace(studio.folder).pictures
    assert chooser.isVisible()
    studio.push("picture-none")
    item = studio.item(HAZARD)
    assert item is not None
    assert item.face == "words"  # type: ignore[union-attr]
    studio.type("x")
    studio.push("picture-found")
    studio.type("ferry")
    studio.press(Qt.Key.Key_Return)
    assert picture(studio) == "set:ferry"


def test_what_others_show_as_well_is_told_and_changes_with_it(
    studio: Studio, chooser: PictureChooser
) -> None:
    studio.push("picture-drawn")
    stroke(chooser.drawn.canvas, (0, 0))
    studio.press(Qt.Key.Key_Escape)
    table = next(i for i in studio.row() if "table" in i)
    studio.press(Qt.Key.Key_Escape)
    studio.click_item(f"department.freight:{table}")
    studio.press(Qt.Key.Key_Space)
    studio.push("card-picture")
    studio.push("picture-used-here")
    other = studio.find("picture-chooser")
    assert isinstance(other, PictureChooser)
    other.presenter.take(f"own:{FILE}")
    other.turn_to("drawn")
    stroke(other.drawn.canvas, (1, 1))
    assert "1 other thing" in studio.find("picture-note").text()  # type: ignore[attr-defined]
    assert list(read_workspace(studio.folder).pictures) == [FILE]


# From outside


def test_a_file_is_dropped_on_the_chooser(studio: Studio, chooser: PictureChooser, tmp_path: Path) -> None:
    path = tmp_path / "Lane marker.png"
    path.write_bytes(png())
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    held = Qt.MouseButton.LeftButton
    QApplication.sendEvent(
        chooser, QDragEnterEvent(QPoint(20, 20), Qt.DropAction.CopyAction, data, held, NONE)
    )
    event = QDropEvent(QPointF(20, 20), Qt.DropAction.CopyAction, data, held, NONE)
    QApplication.sendEvent(chooser, event)
    assert picture(studio) == "own:lane-marker.png"
    assert follows_scheme(stored(studio, "lane-marker.png"))
    assert "clear at every size" in studio.find("picture-outcome").text()  # type: ignore[attr-defined]
    # Another one takes its place; the first, which nothing shows, goes.
    other = tmp_path / "other.png"
    other.write_bytes(png(48))
    chooser.bring_in(lambda: from_file(other))
    assert list(read_workspace(studio.folder).pictures) == ["other.png"]


def test_a_picture_of_another_program_is_pasted_and_its_own_copied_out(
    studio: Studio, chooser: PictureChooser
) -> None:
    QApplication.clipboard().setImage(QImage.fromData(png(200)))
    studio.press(Qt.Key.Key_Tab)
    studio.press(Qt.Key.Key_V, CTRL)
    assert picture(studio) == "own:hazard-note.png"
    QApplication.clipboard().clear()
    studio.push("picture-copy")
    data = QApplication.clipboard().mimeData()
    assert data is not None
    assert data.hasImage()
    assert Image.open(io.BytesIO(data.data("image/png").data())).size == (48, 48)
    QApplication.clipboard().setText("no picture")
    studio.push("picture-imported")
    studio.push("picture-paste")
    assert "There is no picture on the clipboard." in studio.said
    assert picture(studio) == "own:hazard-note.png"


def test_on_the_stage_a_picture_is_pasted_onto_one_button_and_no_more(studio: Studio) -> None:
    QApplication.clipboard().setImage(QImage.fromData(png(200)))
    studio.click_item(HAZARD)
    studio.click_item("department.freight:table", CTRL)
    studio.press(Qt.Key.Key_V, CTRL)
    assert "Choose the button that shall have the picture" in studio.said
    assert studio.session.edits == 0
    studio.click_item(HAZARD)
    studio.press(Qt.Key.Key_V, CTRL)
    assert picture(studio) == "own:hazard-note.png"
    assert "“Hazard note” has the picture." in studio.said


def test_letters_are_a_picture(studio: Studio, chooser: PictureChooser) -> None:
    chooser.letters.setFocus()
    studio.type("LS")
    assert picture(studio) == f"own:{FILE}"
    assert checked_picture(stored(studio), "x") == letters_svg("LS")
    assert follows_scheme(stored(studio))


SVG = f'{HEAD} viewBox="0 0 24 24"><g style="fill:#123456"><rect x="2" width="20" height="9"/></g></svg>'


def test_an_svg_is_converted_in_a_process_of_its_own(tmp_path: Path) -> None:
    path = tmp_path / "lane.svg"
    path.write_text(SVG)
    arrived = from_file(path)
    assert b"currentColor" in arrived.content
    assert (arrived.name, arrived.blurs) == ("lane", ())
    two = SVG.replace("</svg>", '<rect width="3" height="3" fill="#ff0000"/></svg>')
    path.write_text(two)
    assert b"currentColor" not in from_file(path).content


@pytest.mark.parametrize(
    ("name", "content", "says"),
    [
        ("x.svg", f'{HEAD} viewBox="0 0 9 9">{DOUBLING}</svg>'.encode(), "its uses repeat one another"),
        ("x.svg", png(), "it is no SVG"),
        ("x.png", SVG.encode(), "it is no PNG, ICO or WebP"),
        ("x.gif", b"GIF89a", "pictures are PNG, SVG, ICO or WebP"),
        ("x.png", png()[:150], "it is damaged"),
    ],
)
def test_what_is_no_picture_is_refused_by_a_sentence_and_nothing_changes(
    studio: Studio, chooser: PictureChooser, tmp_path: Path, name: str, content: bytes, says: str
) -> None:
    path = tmp_path / name
    path.write_bytes(content)
    chooser.bring_in(lambda: from_file(path))
    assert f"{name} is not taken as a picture: {says}" in studio.said
    assert picture(studio) == "set:alert-outline"
    assert not read_workspace(studio.folder).pictures


def test_a_folder_a_pipe_and_a_missing_file_are_no_pictures(
    studio: Studio, chooser: PictureChooser, tmp_path: Path
) -> None:
    for path, why in ((tmp_path, "it is no plain file"), (tmp_path / "gone.png", "No such file")):
        chooser.bring_in(lambda path=path: from_file(path))
        assert f"is not taken as a picture: {why}" in studio.said


def test_making_plain_paths_is_ended_when_it_takes_too_long() -> None:
    with pytest.raises(BrokenFile, match="takes too long"):
        converting.converted(SVG.encode(), "x.svg", longest=0.0)


def test_making_plain_paths_gets_only_so_much_memory(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(converting, "MOST_MEMORY", 1 << 24)
    with pytest.raises(BrokenFile, match="more than this computer gives it"):
        converting.converted(SVG.encode(), "x.svg")


# What bites


def test_the_chooser_goes_with_what_it_is_about(studio: Studio, chooser: PictureChooser) -> None:
    studio.push("place-keys")
    assert not [one for one in studio.window.findChildren(PictureChooser) if one.isVisible()]


def test_enter_twice_and_letters_out_of_the_blue_change_nothing_more(
    studio: Studio, chooser: PictureChooser
) -> None:
    before = len(studio.row())
    studio.type("ferry")
    studio.press(Qt.Key.Key_Return)
    studio.press(Qt.Key.Key_Return)
    chooser.setFocus()
    QTest.keyClick(chooser, Qt.Key.Key_Delete)
    QTest.keyClick(chooser, "x")
    assert len(studio.row()) == before
    assert picture(studio) == "set:ferry"
    assert studio.session.edits == 1


def test_the_name_of_a_picture_leads_to_no_other_folder(qapp: QApplication, tmp_path: Path) -> None:
    book = PictureBook()
    shipped = Path(str(pictures_module.__file__)).parent
    name = next(path.stem for path in sorted(shipped.glob("*.svg")))
    assert book.pixmap(f"set:{name}", QColor("#102030"), 16) is not None
    (tmp_path / "beside.svg").write_bytes((shipped / f"{name}.svg").read_bytes())
    away = os.path.relpath(tmp_path / "beside", shipped)
    for leading in (f"set:{away}", f"set:{tmp_path / 'beside'}", f"set:./{name}", "set:\0"):
        assert book.pixmap(leading, QColor("#102030"), 16) is None, leading
