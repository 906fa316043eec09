"""Messages from outside that are broken, huge or mean: nothing is fetched, nothing runs, the rest works."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, Qt, QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from rimecrest.core.errors import RimecrestError
from rimecrest_standins.post.message_parts import checked_addresses, file_name
from rimecrest_standins.post.received import received
from tests.programs import Post

HEAD = "From: a@b.example\nTo: c@d.example\nSubject: Mean\nMIME-Version: 1.0\n"


def deliver(post: Post, content: str | bytes) -> None:
    """Have a message come in and be shown."""
    place = post.box.mailbox.folder / "new" / f"19000000{len(post.listed()):02d}.M1P1.other"
    place.write_bytes(content.encode() if isinstance(content, str) else content)
    post.do("look-for-new")
    post.box.choose([place.name])


def html(body: str) -> str:
    return f"{HEAD}Content-Type: text/html; charset=utf-8\n\n{body}\n"


opened: list[str] = []


def _hear(event: str, args: tuple[Any, ...]) -> None:
    if event == "open" and isinstance(args[0], str):
        opened.append(args[0])
    elif event == "socket.connect":
        opened.append(f"socket {args[1]}")


sys.addaudithook(_hear)


def test_no_picture_outside_of_the_message_is_fetched(post: Post, tmp_path: Path) -> None:
    picture = tmp_path / "seen.png"
    picture.write_bytes(b"no picture")
    opened.clear()
    deliver(post, html(f'<p>Hi<img src="http://127.0.0.1:9/x.png"><img src="file://{picture}"></p>'
                       f'<link rel="stylesheet" href="{picture}"><script>steal()</script>'))  # fmt: skip
    post.window.grab()
    assert str(picture) not in opened
    assert not [each for each in opened if each.startswith("socket")]
    assert "steal" not in post.read("message.text")
    assert "not fetched" in post.box.view_of.reader.notice.text()


def test_a_picture_in_the_message_needs_no_notice(post: Post) -> None:
    deliver(post, html('<p>Hi <img src="data:image/png;base64,AAAA"></p>'))
    assert post.box.view_of.reader.notice.text() == ""


def test_a_link_is_opened_by_a_click_only_and_only_of_the_web_or_mail(
    post: Post, monkeypatch: pytest.MonkeyPatch
) -> None:
    seen: list[str] = []

    def heard(url: QUrl) -> bool:
        seen.append(url.toString())
        return True

    monkeypatch.setattr(QDesktopServices, "openUrl", heard)
    deliver(post, html('<p><a href="https://vessry.example/">WWWWWWWWWWWW</a></p>'))
    view = post.box.view_of.reader.view
    post.window.grab()
    assert seen == []
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(60, 26))
    assert seen == ["https://vessry.example/"]
    deliver(post, html('<p><a href="file:///etc/passwd">WWWWWWWWWWWW</a></p>'))
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(60, 26))
    assert len(seen) == 1
    assert "begins with https:" in post.said


def test_a_page_beyond_bounds_shows_its_plain_text(post: Post) -> None:
    deep = "<div>" * 5000 + "deep" + "</div>" * 5000
    deliver(post, f'{HEAD}Content-Type: multipart/alternative; boundary="x"\n\n--x\n'
                  f"Content-Type: text/plain\n\nThe plain words.\n--x\n"
                  f"Content-Type: text/html\n\n{deep}\n--x--\n")  # fmt: skip
    assert post.read("message.text").strip() == "The plain words."
    assert "Shown is its plain text" in post.box.view_of.reader.notice.text()
    deliver(post, html(deep))
    assert "deep" in post.read("message.text")
    assert not post.box.view_of.reader.view.shows_page


def test_a_word_without_an_end_is_broken(post: Post) -> None:
    deliver(post, HEAD + "\n" + "x" * 300_000)
    assert post.read("message.text").count(" ") > 10


@pytest.mark.parametrize(
    "content",
    [
        b"",
        b"\n\n\n",
        b"\xff\xfe\x00\x01" * 500,
        b"Subject: =?utf-8?q?=ff=fe?=\nDate: never\nFrom: <<<>>>,,,;\nTo: \"unclosed\n\nx",
        b"Subject: =?nonsense?b?!!!?=\nContent-Type: text/plain; charset=nonsense\n\nx",
        b"Content-Type: multipart/mixed; boundary=x\n\n--x\nContent-Type: multipart/mixed; boundary=x\n\n--x",
        b"Content-Type: multipart/alternative\n\nno boundary",
        b"Content-Type: text/html\nContent-Transfer-Encoding: base64\n\n!!!!",
        b"Content-Type: message/rfc822\n\nSubject: inner\n\ninner",
        b"From: " + b"a," * 20_000 + b"\n\nx",
    ],
)  # fmt: skip
def test_what_is_broken_is_shown_as_far_as_it_goes(post: Post, content: bytes) -> None:
    deliver(post, content)
    QApplication.processEvents()
    post.window.grab()
    assert len(post.listed()) == 11
    assert post.do("reply") or post.said
    assert post.window.documents.all[0] is post.box


def test_a_message_too_large_is_not_read(post: Post) -> None:
    place = post.box.mailbox.folder / "cur" / "1900000000.M1P1.other:2,"
    with place.open("wb") as file:
        file.write(b"Subject: Large\n\n")
        file.truncate(65 * 1024 * 1024)
    post.do("look-for-new")
    post.do("choose-message", name="Large")
    assert "more than 64 MiB" in post.box.view_of.reader.notice.text()
    assert not post.do("reply")


def test_files_have_names_that_stay_in_their_folder(post: Post, tmp_path: Path) -> None:
    deliver(post, f'{HEAD}Content-Type: multipart/mixed; boundary="x"\n\n--x\n'
                  'Content-Disposition: attachment; filename="../../.bashrc"\n\none\n--x\n'
                  'Content-Disposition: attachment; filename="../../.bashrc"\n\ntwo\n--x--\n')  # fmt: skip
    names = post.read("files")
    assert len(set(names)) == 2
    assert not any("/" in name or name.startswith(".") for name in names)


def test_a_link_in_place_of_a_message_is_no_message(post: Post, tmp_path: Path) -> None:
    (tmp_path / "folder").mkdir()
    (post.box.mailbox.folder / "new" / "folder").symlink_to(tmp_path / "folder")
    (post.box.mailbox.folder / "new" / "gone").symlink_to(tmp_path / "gone")
    post.do("look-for-new")
    assert len(post.listed()) == 10


@settings(max_examples=150, deadline=None, suppress_health_check=list(HealthCheck))
@given(
    st.binary(max_size=400),
    st.sampled_from([b"", b"Subject: ", b"Content-Type: multipart/mixed; boundary=a\n\n"]),
)
def test_any_bytes_are_read_as_some_message(content: bytes, begin: bytes) -> None:
    assert received(begin + content).written()


@given(st.text(max_size=60))
def test_a_files_name_is_a_name(name: str) -> None:
    made = file_name(name)
    assert made
    assert "/" not in made
    assert not made.startswith(".")


@given(st.text(alphabet='ab@.<>,;" \n\r', max_size=30))
def test_what_passes_for_an_address_can_be_sent_to(field: str) -> None:
    try:
        found = checked_addresses(field)
    except RimecrestError:
        return
    assert all(address.domain.count(".") and "\n" not in str(address) for address in found)
