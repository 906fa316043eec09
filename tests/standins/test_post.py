"""Post by hand and by macro: the mailbox, reading, filing, writing, sending."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QInputDialog, QLineEdit, QMessageBox, QToolButton

from rimecrest.core.errors import RimecrestError
from rimecrest.kit.documents.name_list import NameList
from rimecrest_standins.post.maildir import ANSWERED, FLAGGED, SEEN
from rimecrest_standins.post.message_parts import Written, build
from tests.programs import CTRL, SHIFT, Post, parsed

NEWEST, OLDEST = "Tides until Sunday", "Berths of the week"


def field(post: Post, name: str) -> QLineEdit:
    return post.message.form.fields[name]


def test_it_has_what_an_office_writes_messages_with(post: Post) -> None:
    own = [command for command in post.window.catalogue.commands if not command.id.startswith("post:field-")]
    assert len(own) >= 60
    assert {context.id for context in post.window.catalogue.contexts} >= {
        "list", "reading", "composing", "address"
    }  # fmt: skip
    for name in ("from", "subject", "chosen.messages", "folders", "templates", "unread"):
        assert post.read(name) is not None


def test_the_newest_message_is_above_and_shown(post: Post) -> None:
    assert (post.listed()[0], post.listed()[-1]) == (NEWEST, OLDEST)
    assert post.read("subject") == NEWEST
    assert post.read("from") == "Wren Sundby <wren.sundby@berth.vessry.example>"
    assert "Brinholt should not lie at Fish quay" in post.read("message.text")
    assert post.read("unread") == 4


def test_enter_reads_escape_goes_back_and_both_are_undone(post: Post) -> None:
    key = post.box.key
    post.press(Qt.Key.Key_Return)
    assert post.box.innermost() == ("reading",)
    assert post.box.view_of.reader.view.hasFocus()
    assert SEEN in post.box.mailbox.flags("Inbox", key)
    assert post.read("unread") == 3
    post.press(Qt.Key.Key_Escape)
    assert post.box.innermost() == ("list",)
    post.press(Qt.Key.Key_Z, CTRL)
    assert post.read("unread") == 4
    assert SEEN not in post.box.mailbox.flags("Inbox", key)


def test_home_and_end_go_to_the_ends_of_the_list(post: Post) -> None:
    post.press(Qt.Key.Key_End)
    assert post.read("subject") == OLDEST
    assert post.read("chosen.messages") == [OLDEST]
    post.press(Qt.Key.Key_Home)
    assert post.read("subject") == NEWEST
    post.press(Qt.Key.Key_End, SHIFT)
    assert len(post.read("chosen.messages")) == 10


def test_letters_typed_in_the_list_change_nothing(post: Post) -> None:
    before = post.box.place()
    post.type("delete me")
    assert post.box.place() == before
    assert len(post.listed()) == 10


def test_delete_moves_to_the_bin_and_undo_brings_back(post: Post) -> None:
    post.press(Qt.Key.Key_Down)
    post.press(Qt.Key.Key_Down, SHIFT)
    assert post.read("chosen.messages") == ["Hazard notes", "Running late again"]
    post.press(Qt.Key.Key_Delete)
    assert len(post.listed()) == 8
    # What is in their place is chosen: the next Delete does not hit something out of sight.
    assert post.read("chosen.messages") == ["Lost: one blue glove"]
    post.do("go-to-folder", name="bin")
    assert post.listed() == ["Hazard notes", "Running late again"]
    post.do("undo")
    assert len(post.box.mailbox.keys("Inbox")) == 10
    assert post.read("chosen.messages") == ["Hazard notes", "Running late again"]
    post.do("redo")
    assert len(post.box.mailbox.keys("Bin")) == 2


def test_for_good_is_asked_and_only_from_the_bin(post: Post, monkeypatch: pytest.MonkeyPatch) -> None:
    answers = [QMessageBox.StandardButton.No, QMessageBox.StandardButton.Yes]
    monkeypatch.setattr(QMessageBox, "exec", lambda _: answers.pop(0))
    assert not post.do("delete-for-good")
    assert "Nothing is chosen in the bin" in post.said
    post.do("delete-messages")
    post.do("go-to-folder", name="Bin")
    post.do("delete-for-good")
    assert len(post.box.mailbox.keys("Bin")) == 1
    post.do("delete-for-good")
    assert post.box.mailbox.keys("Bin") == []
    assert not list(Path(post.box.mailbox.folder / ".Bin" / "cur").iterdir())


def test_flags_and_marks_are_files_names(post: Post) -> None:
    post.do("flag-message")
    key = post.box.key
    assert post.box.mailbox.path("Inbox", key).name.endswith(f":2,{FLAGGED}")
    post.do("mark-read")
    assert post.box.mailbox.path("Inbox", key).name.endswith(f":2,{FLAGGED}{SEEN}")
    post.do("flag-message")
    assert post.box.mailbox.path("Inbox", key).name.endswith(f":2,{SEEN}")
    order = post.listed()
    post.do("mark-all-read")
    assert post.read("unread") == 0
    assert post.listed() == order  # a mark is no new date
    post.do("undo")
    assert post.read("unread") == 3


def test_folders_of_ones_own(post: Post) -> None:
    post.do("new-folder", name="Winter")
    assert post.box.folder == "Winter"
    assert post.read("folders") == ["Inbox", "Drafts", "Outbox", "Bin", "Winter"]
    post.do("go-to-folder", name="inbox")
    post.do("choose-message", name="posters for the winter")
    post.do("move-messages", to="winter")
    post.do("go-to-folder", name="Winter")
    assert post.listed() == ["Posters for the winter"]
    assert not post.do("remove-folder")
    assert "There are messages in “Winter”" in post.said
    post.do("rename-folder", to="Cold")
    assert post.listed() == ["Posters for the winter"]
    for _ in range(3):
        post.do("undo")
    assert "Posters for the winter" in [
        post.box.mailbox.heads("Inbox", k).subject for k in post.box.mailbox.keys("Inbox")
    ]
    for _ in range(3):
        post.do("redo")
    assert len(post.box.mailbox.keys("Cold")) == 1
    for _ in range(3):
        post.do("undo")
    assert post.read("folders") == ["Inbox", "Drafts", "Outbox", "Bin"]
    post.do("go-to-folder", name="Bin")
    for wrong in ("bin", "a/b", ".x", " "):
        assert not post.do("new-folder", name=wrong)
    assert not post.do("remove-folder")
    assert "always there" in post.said


def test_a_folder_is_chosen_from_a_list(post: Post) -> None:
    post.press(Qt.Key.Key_J, CTRL)
    post.press(Qt.Key.Key_V)
    post.qtbot.waitUntil(lambda: bool(post.window.findChildren(NameList)))
    chooser = post.window.findChildren(NameList)[-1]
    QTest.keyClicks(chooser.field, "out")
    QTest.keyClick(chooser.field, Qt.Key.Key_Return)
    post.qtbot.waitUntil(lambda: len(post.listed()) == 9)
    assert [post.box.mailbox.heads("Outbox", k).subject for k in post.box.mailbox.keys("Outbox")] == [NEWEST]


def test_searching_narrows_the_list_and_escape_ends_it(post: Post, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("late", True))
    post.press(Qt.Key.Key_F, CTRL)
    assert post.listed() == ["Running late again", "Late on Monday"]
    assert "2 messages with “late” in Inbox" in post.box.view_of.searched.text()
    post.press(Qt.Key.Key_Escape)
    assert len(post.listed()) == 10
    post.do("search-messages", words="gas bottles")
    assert post.listed() == []
    assert "no messages" in post.box.view_of.reader.notice.text()
    post.do("search-messages", words="gas bottles", where="texts")
    assert post.listed() == ["Hazard notes"]


def test_sorting(post: Post) -> None:
    post.do("sort-messages", by="subject", order="rising")
    assert post.listed() == sorted(post.listed(), key=str.casefold)
    post.do("sort-messages", by="date", order="rising")
    assert post.listed()[0] == OLDEST
    post.do("sort-messages", by="size")
    assert post.listed()[0] == OLDEST  # it has a file


def test_what_another_program_delivers_is_found(post: Post) -> None:
    place = post.box.mailbox.folder / "new" / "1900000000.M1P1.other"
    place.write_text(
        "From: a@b.example\nSubject: From outside\nDate: Mon, 16 Nov 2026 09:00:00 +0000\n\nHello\n"
    )
    post.press(Qt.Key.Key_F5)
    assert "From outside" in post.listed()
    # What it takes away is told, and keeps nobody from the rest.
    post.do("choose-message", name="From outside")
    place.unlink()
    assert not post.do("save-message", path="/tmp/never.eml")
    assert "not in “Inbox” any more" in post.said


def test_a_file_of_a_message_is_shown_with_its_size_and_saved(post: Post, tmp_path: Path) -> None:
    post.do("choose-message", name=OLDEST)
    button = post.box.view_of.reader.files.findChild(QToolButton)
    assert button is not None
    assert button.text() == "berths.csv · 84 bytes"
    assert post.read("files") == ["berths.csv"]
    post.do("save-file", name="berths.csv", path=str(tmp_path / "b.csv"))
    assert (tmp_path / "b.csv").read_text().startswith("Day;Vessel;Berth")
    post.do("save-message", path=str(tmp_path / "m.eml"))
    assert b"Subject: Berths of the week" in (tmp_path / "m.eml").read_bytes()


def test_words_are_copied_from_a_message(post: Post) -> None:
    post.press(Qt.Key.Key_Return)
    assert not post.do("copy-text")
    post.press(Qt.Key.Key_A, CTRL)
    post.press(Qt.Key.Key_C, CTRL)
    assert "Low water is at 11:20" in QApplication.clipboard().text()


def test_the_mailbox_cannot_be_closed_by_itself(post: Post) -> None:
    assert not post.do("close")
    assert "The mailbox stays open" in post.said
    post.do("new")
    post.do("close")
    assert post.window.documents.all == [post.box]


# Writing


def test_a_message_is_written_by_keys_and_lies_complete_in_the_outbox(post: Post) -> None:
    post.press(Qt.Key.Key_N, CTRL)
    assert field(post, "to").hasFocus()
    assert post.message.innermost() == ("address",)
    post.type("Kaia Voe <kaia.voe@mail.vessry.example>")
    post.press(Qt.Key.Key_Tab)
    post.press(Qt.Key.Key_Tab)
    post.type("Your fare")
    post.press(Qt.Key.Key_Return)
    assert post.message.page.hasFocus()
    post.type("You get it ")
    post.press(Qt.Key.Key_B, CTRL)
    post.type("back")
    post.press(Qt.Key.Key_B, CTRL)
    post.type(".")
    post.press(Qt.Key.Key_J, CTRL)
    post.press(Qt.Key.Key_X, SHIFT)
    assert post.window.document is post.box
    assert "“Your fare” lies in the outbox" in post.said
    (message,) = post.sent()
    assert message["To"] == "Kaia Voe <kaia.voe@mail.vessry.example>"
    assert message["Subject"] == "Your fare"
    assert message["Date"]
    assert message["Message-ID"]
    assert message.get_content_type() == "multipart/alternative"
    plain, page = message.iter_parts()
    assert plain.get_content().strip() == "You get it back."
    assert "font-weight" in page.get_content()
    assert not [name for name in message if name.startswith("Rimecrest")]


def test_fields_are_undone_as_one_step_each(post: Post) -> None:
    post.do("new")
    post.type("a@b.example")
    post.press(Qt.Key.Key_Tab)
    post.press(Qt.Key.Key_Tab)
    post.type("Berths")
    post.press(Qt.Key.Key_Z, CTRL)
    assert (field(post, "to").text(), field(post, "subject").text()) == ("a@b.example", "")
    post.press(Qt.Key.Key_Z, CTRL)
    assert field(post, "to").text() == ""
    post.press(Qt.Key.Key_Z, CTRL, SHIFT)
    post.press(Qt.Key.Key_Z, CTRL, SHIFT)
    assert (field(post, "to").text(), field(post, "subject").text()) == ("a@b.example", "Berths")


def test_text_and_fields_are_undone_in_their_order(post: Post) -> None:
    post.do("new")
    post.do("go-to-part", name="text")
    post.type("one")
    post.do("set-subject", to="Two")
    post.type(" three")
    for _ in range(2):
        post.do("undo")  # " three" is a blank and a word
    assert (post.text.split("\n")[0], post.read("subject")) == ("one", "Two")
    post.do("undo")
    assert (post.text, post.read("subject")) == ("one", "")
    post.do("undo")
    assert post.text == ""
    assert not post.message.modified() or post.message.shown()
    for _ in range(4):
        post.do("redo")
    assert (post.text, post.read("subject")) == ("one three", "Two")


@pytest.mark.parametrize("written", ["", "nobody", "a@b", "a@b.example, x", "a b@c.example"])
def test_no_message_goes_without_an_address(post: Post, written: str) -> None:
    post.do("new")
    post.do("set-to", to=written)
    assert not post.do("send")
    assert post.sent() == []
    assert post.message.field("to") == written


def test_a_draft_keeps_what_is_not_finished_and_is_there_once(post: Post) -> None:
    post.do("new")
    post.do("set-to", to="Kaia, half@")
    post.do("set-subject", to="Grüße")
    post.do("go-to-part", name="text")
    post.type("Dear")
    post.do("save")
    post.type(" Kaia")
    post.do("save")
    assert len(post.drafts()) == 1
    post.do("close")
    post.do("go-to-folder", name="Drafts")
    assert post.listed() == ["Grüße"]
    post.do("edit-again")
    assert (post.message.field("to"), post.read("subject"), post.text) == (
        "Kaia, half@",
        "Grüße",
        "Dear Kaia",
    )
    assert not post.message.modified()
    post.do("set-to", to="kaia@mail.vessry.example")
    post.do("send")
    assert post.drafts() == []
    assert len(post.sent()) == 1


def test_leaving_a_message_asks_and_its_draft_is_kept(post: Post, monkeypatch: pytest.MonkeyPatch) -> None:
    post.do("new")
    post.do("set-subject", to="Not lost")

    def save(box: QMessageBox) -> int:
        next(button for button in box.buttons() if button.text() == "Save").click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", save)
    post.do("close")
    assert [message["Subject"] for message in post.drafts()] == ["Not lost"]


def test_a_reply_quotes_below_and_marks_what_it_answers(post: Post) -> None:
    post.do("choose-message", name=OLDEST)
    key = post.box.key
    post.do("reply")
    assert post.message.field("to") == "Runa Skarv <runa.skarv@berth.vessry.example>"
    assert post.read("subject") == "Re: Berths of the week"
    assert post.message.page.hasFocus()
    post.type("Thank you.")
    lines = post.text.split("\n")
    assert lines[0] == "Thank you."
    assert lines[2] == "On 2026-11-02 08:01, Runa Skarv <runa.skarv@berth.vessry.example> wrote:"
    assert "The plan of the week is attached. Brinholt stays at North until Thursday." in lines
    post.do("send")
    (message,) = post.sent()
    assert message["In-Reply-To"] == "<first-0@vessry.example>"
    assert ANSWERED in post.box.mailbox.flags("Inbox", key)
    marks = post.box.model.index(post.box.model.rows[key], 0)
    assert post.box.model.data(marks, Qt.ItemDataRole.DisplayRole) == "↩"
    assert post.box.model.data(marks, Qt.ItemDataRole.AccessibleTextRole) == "read, answered"
    post.do("reply")
    post.do("set-subject", to="Re: Berths of the week")
    post.do("close")


def test_reply_to_all_leaves_oneself_out(post: Post) -> None:
    place = post.box.mailbox.folder / "new" / "1900000000.M1P1.other"
    place.write_text(
        "From: a@b.example\nTo: me@care.vessry.example, c@d.example\nCc: e@f.example\nSubject: All\n\nHello\n"
    )
    post.do("new")
    post.do("set-sender", to="Me <me@care.vessry.example>")
    post.do("close")
    post.do("look-for-new")
    post.do("choose-message", name="All")
    post.do("reply-all")
    assert (post.message.field("to"), post.message.field("copy")) == (
        "a@b.example",
        "c@d.example, e@f.example",
    )


def test_forwarding_takes_the_files_along(post: Post) -> None:
    post.do("choose-message", name=OLDEST)
    post.do("forward")
    assert post.read("subject") == "Fwd: Berths of the week"
    assert post.read("files") == ["berths.csv"]
    assert field(post, "to").hasFocus()
    post.do("set-to", to="x@y.example")
    post.do("send")
    (message,) = post.sent()
    (file,) = message.iter_attachments()
    assert (file.get_filename(), file.get_content()[:3]) == ("berths.csv", "Day")


def test_who_wrote_is_answered_once_though_they_wrote_to_themselves_too(post: Post) -> None:
    place = post.box.mailbox.folder / "new" / "1900000000.M1P1.other"
    place.write_text("From: a@b.example\nTo: A <A@b.example>, c@d.example\nSubject: All\n\nHello\n")
    post.do("look-for-new")
    post.do("choose-message", name="All")
    post.do("reply-all")
    assert (post.message.field("to"), post.message.field("copy")) == ("a@b.example", "c@d.example")


def test_no_end_of_a_line_begins_another_head() -> None:
    written = Written("a@b.example", "c@d.example", "", "One\nBcc: x@y.example", "x", "<p>x</p>",
                      answers="<1@b>\r\nBcc: x@y.example", template="T\nBcc: x@y.example")  # fmt: skip
    message = build(written, datetime(2026, 11, 1), draft=True)
    assert parsed(message.as_bytes())["Bcc"] is None


def test_files_go_along_and_come_out(post: Post, tmp_path: Path) -> None:
    (tmp_path / "größe.bin").write_bytes(bytes(range(256)))
    post.do("new")
    post.do("attach-file", path=str(tmp_path / "größe.bin"))
    assert post.read("files") == ["größe.bin"]
    button = post.message.file_row.findChild(QToolButton)
    assert button is not None
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert post.read("files") == []
    post.do("undo")
    post.do("set-to", to="x@y.example")
    post.do("send")
    (file,) = post.sent()[0].iter_attachments()
    assert (file.get_filename(), file.get_content()) == ("größe.bin", bytes(range(256)))
    post.do("new")
    for wrong in (tmp_path, tmp_path / "gone"):
        assert not post.do("attach-file", path=str(wrong))


def test_addresses_are_offered_and_taken_out(post: Post) -> None:
    assert "Kaia Voe <kaia.voe@mail.vessry.example>" in post.read("addresses")
    post.do("new")
    post.do("add-address", address="Kaia Voe <kaia.voe@mail.vessry.example>")
    post.do("add-address", address="x@y.example")
    assert post.message.field("to") == "Kaia Voe <kaia.voe@mail.vessry.example>, x@y.example"
    post.press(Qt.Key.Key_J, CTRL)
    post.press(Qt.Key.Key_D, SHIFT)
    assert post.message.field("to") == "Kaia Voe <kaia.voe@mail.vessry.example>"
    assert not post.do("add-address", address="nobody")


def test_heads_cannot_be_smuggled_in(post: Post) -> None:
    post.do("new")
    post.do("set-to", to="x@y.example")
    post.do("set-subject", to="One\r\nBcc: all@vessry.example")
    post.do("send")
    (message,) = post.sent()
    assert message["Bcc"] is None
    assert message["Subject"] == "One Bcc: all@vessry.example"


def test_the_seat_says_who_writes(post: Post) -> None:
    post.do("new")
    for wrong in ("", "nobody", "a@b.example, c@d.example"):
        assert not post.do("set-sender", to=wrong)
    post.do("set-sender", to="Ailis Tarn <ailis.tarn@care.vessry.example>")
    assert post.message.writer.text() == "Ailis Tarn <ailis.tarn@care.vessry.example>"
    post.do("set-to", to="x@y.example")
    post.do("send")
    assert post.sent()[0]["From"] == "Ailis Tarn <ailis.tarn@care.vessry.example>"


# Macros and the recorder


def test_a_macro_files_and_answers_as_one_step(post: Post) -> None:
    said = post.run(
        'do choose-message name="Late on Monday"\ndo flag-message on=yes\ndo reply\nwrite "We are sorry."\n'
    )
    assert "done" in said or not said
    assert post.text.startswith("We are sorry.")
    post.window.documents.show(post.box)
    key = post.box.key
    assert FLAGGED in post.box.mailbox.flags("Inbox", key)
    post.do("undo")
    assert FLAGGED not in post.box.mailbox.flags("Inbox", key)


def test_a_macro_that_fails_takes_moves_back(post: Post) -> None:
    said = post.run('do delete-messages\ndo choose-message name="There is none"\n')
    assert "There is no message “There is none”" in said
    assert len(post.listed()) == 10
    assert post.box.mailbox.keys("Bin") == []
    assert post.read("subject") == NEWEST


def test_a_macro_reads_what_is_chosen(post: Post) -> None:
    post.run('do select-on by=2\ndo new\ndo set-subject to="{from}"\n')
    assert post.read("subject").endswith("@post.invalid")


def test_what_is_done_by_hand_is_recorded_by_meaning(post: Post) -> None:
    recorder = post.window.recorder
    recorder.start("Late")
    post.do("choose-message", name=NEWEST)
    row = post.box.table.visualRect(post.box.model.index(6, 2)).center()
    QTest.mouseClick(post.box.table.viewport(), Qt.MouseButton.LeftButton, pos=row)
    post.press(Qt.Key.Key_J, CTRL)
    post.press(Qt.Key.Key_R)
    post.type("Sorry.")
    field(post, "subject").setFocus()
    field(post, "subject").selectAll()
    post.type("Late")
    post.press(Qt.Key.Key_Return)
    post.type("Bye")
    text = recorder.stop()
    steps = [line for line in text.splitlines() if line.startswith(("do", "write"))]
    assert steps == [
        f'do choose-message name="{NEWEST}"',
        'do choose-message name="Late on Monday"',
        "do reply",
        'write "Sorry."',
        'do set-subject to="Late"',
        'write "Bye"',
    ]
    # Played again, it leads to the same.
    shown = (post.text, post.message.shown())
    post.do("close") if not post.message.modified() else post.message.saved() or post.do("close")
    post.run("\n".join(steps) + "\n")
    assert (post.text, post.message.shown()) == shown


def test_choosing_several_by_mouse_is_recorded(post: Post) -> None:
    post.window.recorder.start("Some")
    table = post.box.table
    for row, held in ((1, Qt.KeyboardModifier.NoModifier), (3, SHIFT)):
        spot: QPoint = table.visualRect(post.box.model.index(row, 2)).center()
        QTest.mouseClick(table.viewport(), Qt.MouseButton.LeftButton, held, spot)
    post.press(Qt.Key.Key_Delete)
    steps = [line for line in post.window.recorder.stop().splitlines() if line.startswith("do")]
    assert steps == ['do choose-message name="Hazard notes"', "do select-on by=2", "do delete-messages"]


def test_macros_are_not_kept_in_messages(post: Post) -> None:
    post.do("new")
    with pytest.raises(RimecrestError, match="A message keeps no macros"):
        post.message.put_macro("x", "macro")
