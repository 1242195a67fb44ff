"""Files are written whole or not at all, whatever happens meanwhile."""

import errno
import multiprocessing
import os
import random
import resource
import shutil
import signal
import sqlite3
import stat
import tempfile
import time
from collections.abc import Iterator
from multiprocessing.connection import Connection
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.shop.powerless import run_powerless, write

from omnipel.core.words.phrases import Voice
from omnipel.shop.reasons import REASONS, reason_of
from omnipel.shop.whole import FIRST, LAST, NotWritten, write_whole
from omnipel.tongues import tongue_of


@pytest.fixture
def open_folder() -> Iterator[Path]:
    """A folder that others can reach into."""
    folder = Path(tempfile.mkdtemp(prefix="omnipel-test-"))
    folder.chmod(0o755)
    yield folder
    folder.chmod(0o755)
    shutil.rmtree(folder)


@settings(max_examples=60)
@given(
    st.binary(max_size=200), st.one_of(st.none(), st.sampled_from([0o600, 0o644, 0o664, 0o755])), st.sampled_from([0, 0o22, 0o77])
)
def test_content_mode_and_umask(content: bytes, mode: int | None, umask: int) -> None:
    before = os.umask(umask)
    try:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / ("ж" * 120 + ".pdf")  # 244 bytes: no room for anything before or behind it
            if mode is not None:
                path.write_bytes(b"old")
                path.chmod(mode)
            write_whole(path, content)
            assert path.read_bytes() == content
            assert stat.S_IMODE(path.stat().st_mode) == (0o666 & ~umask if mode is None else mode)
            assert [p.name for p in Path(folder).iterdir()] == [path.name]
    finally:
        os.umask(before)


def test_a_link_stays_a_link(tmp_path: Path) -> None:
    real, link = tmp_path / "real.json", tmp_path / "link.json"
    real.write_text("old")
    link.symlink_to(real)
    write_whole(link, "new")
    assert link.is_symlink()
    assert real.read_text() == "new"


def write_for_ever(path: Path, told: Connection) -> None:
    """Write one of two contents over the other until killed."""
    for i in range(1_000_000):
        write_whole(path, bytes([i % 7]) * 300_000)
        if i == 0:
            told.send(i)


def test_forty_kills_leave_the_file_whole_and_their_leftovers_are_swept(tmp_path: Path) -> None:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["tests.shop.test_whole"])
    path, dice, left = tmp_path / "pattern.pdf", random.Random(8), 0
    for _ in range(40):
        hear, tell = context.Pipe(duplex=False)
        child = context.Process(target=write_for_ever, args=(path, tell))
        child.start()
        hear.recv()
        time.sleep(dice.random() * 0.02)
        os.kill(child.pid or 0, signal.SIGKILL)
        child.join()
        child.close()
        hear.close()
        tell.close()
        content = path.read_bytes()
        assert len(content) == 300_000
        assert len(set(content)) == 1
        left += len(list(tmp_path.iterdir())) - 1
    for leftover in tmp_path.glob(f"{FIRST}*{LAST}"):
        os.utime(leftover, (0, 0))
    write_whole(path, b"last")
    assert [p.name for p in tmp_path.iterdir()] == ["pattern.pdf"]


def too_small_a_disk(path: Path, told: Connection) -> None:
    """Write more than the disk takes."""
    resource.setrlimit(resource.RLIMIT_FSIZE, (50_000, 50_000))
    try:
        write_whole(path, b"x" * 60_000)
    except NotWritten as error:
        told.send(str(error))


def test_on_a_full_disk_the_old_file_stays_and_the_message_names_it(tmp_path: Path) -> None:
    path = tmp_path / "job.json"
    path.write_text("good")
    context = multiprocessing.get_context("forkserver")
    hear, tell = context.Pipe(duplex=False)
    child = context.Process(target=too_small_a_disk, args=(path, tell))
    child.start()
    words = hear.recv()
    child.join()
    assert str(path) in words
    assert LAST not in words
    assert "[Errno" not in words
    assert path.read_text() == "good"
    assert [p.name for p in tmp_path.iterdir()] == ["job.json"]


def test_who_may_not_write_is_told_and_changes_nothing(open_folder: Path) -> None:
    path = open_folder / "theirs.json"
    path.write_text("good")
    open_folder.chmod(0o555)
    assert run_powerless(write, path) == f"{path}: permission denied"
    path.chmod(0o444)
    open_folder.chmod(0o777)  # the folder would let it be replaced, the file is not to be written
    assert run_powerless(write, path) == f"{path}: permission denied"
    assert path.read_text() == "good"
    assert run_powerless(write, open_folder / "new.json") == "written"


@pytest.mark.parametrize(
    ("name", "words"),
    [("folder", "that is a folder"), ("none/file", "there is no folder"), ("a" * 300, "too long"), ("z\0", "null")],
)
def test_what_cannot_be_written_is_said_in_one_line(name: str, words: str, tmp_path: Path) -> None:
    (tmp_path / "folder").mkdir()
    with pytest.raises(NotWritten) as caught:
        write_whole(tmp_path / name, b"")
    assert words in str(caught.value)
    assert "\n" not in str(caught.value)
    assert [p.name for p in tmp_path.iterdir()] == ["folder"]


def test_the_systems_reasons_are_told_in_the_language_of_the_desktop() -> None:
    """Its own words come in the language of its library, and may begin with a noun."""
    german = Voice(tongue=tongue_of("de"))
    for number, reason in REASONS.items():
        words = german.say(reason_of(OSError(number, "Something in whatever language")))
        assert words == german.say(reason)
        assert words != Voice().say(reason)
    full = sqlite3.OperationalError("database or disk is full")
    full.sqlite_errorcode = sqlite3.SQLITE_FULL | 1 << 8  # as it comes: the kind in the lowest byte
    assert german.say(reason_of(full)) == "auf dem Datenträger ist kein Platz mehr"
    assert Voice().say(reason_of(OSError(errno.EPROTO, "Protocol error"))) == "Protocol error"  # what has no words of ours
