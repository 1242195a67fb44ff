"""One running window: who is started later hands over what is to be opened; and a job is dragged off the shelf as a file."""

import json
import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtNetwork import QLocalServer, QLocalSocket
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.jobs import drum

from omnipel.bench.app import _came
from omnipel.bench.door import Door, door_of, handed_over
from omnipel.bench.window.window import Window
from omnipel.exchange.files.travel import read_job
from omnipel.shop.document import write


@pytest.fixture(autouse=True)
def runtime(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "run").mkdir()
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path / "run"))


def later(qtbot: QtBot, ask: Callable[[], bool]) -> bool:
    """What another process is told, asked from a thread while the window goes on."""
    made: list[bool] = []
    thread = threading.Thread(target=lambda: made.append(ask()))
    thread.start()
    qtbot.waitUntil(lambda: not thread.is_alive(), timeout=20_000)
    return made[0]


def test_files_opened_later_go_to_the_window_that_is_there(
    open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path
) -> None:
    shop, file = tmp_path / "shop.sqlite", tmp_path / "drum & co.omnipel.json"
    write(drum(), file)
    assert not handed_over(shop, [file])  # nobody is there
    window = open_window(shop)
    door = Door(shop, lambda files, new: _came(window, files, new=new))
    assert door.open()
    (tmp_path / "link.sqlite").symlink_to(shop)
    assert later(qtbot, lambda: handed_over(tmp_path / "link.sqlite", [file]))
    qtbot.waitUntil(lambda: window.session.job is not None, timeout=20_000)
    assert window.session.open_job.name == drum().name
    before = len(window.session.store.cards())
    assert later(qtbot, lambda: handed_over(shop, new=True))
    qtbot.waitUntil(lambda: len(window.session.store.cards()) == before + 1, timeout=20_000)
    assert later(qtbot, lambda: handed_over(shop))  # only to the front
    assert not later(qtbot, lambda: handed_over(tmp_path / "other.sqlite", [file]))
    door.close()
    assert not later(qtbot, lambda: handed_over(shop, [file]))


@pytest.mark.parametrize(
    "line", [b"\n", b"{\n", b"[1]\n", b'{"open": 3}\n', b"\xff\xfe\n", json.dumps({"open": [1, None]}).encode() + b"\n"]
)
def test_nonsense_at_the_door_is_refused_and_the_window_stays(line: bytes, qtbot: QtBot, tmp_path: Path) -> None:
    came: list[list[Path]] = []
    door = Door(tmp_path / "shop.sqlite", lambda files, _new: came.append(files))
    assert door.open()
    socket = QLocalSocket()
    socket.connectToServer(str(door.path))
    assert socket.waitForConnected(2000)
    socket.write(line)
    socket.flush()
    qtbot.waitUntil(lambda: socket.bytesAvailable() > 0, timeout=20_000)
    answer = bytes(socket.readAll().data())
    assert answer in (b"NO\n", b"OK\n")
    assert (answer == b"OK\n") is bool(came)
    socket.abort()
    door.close()


def test_only_our_own_door_is_used(tmp_path: Path) -> None:
    shop = tmp_path / "shop.sqlite"
    door_of(shop).write_text("something else")
    assert not handed_over(shop)
    door = Door(shop, lambda _files, _new: None)
    assert not door.open()
    assert door_of(shop).read_text() == "something else"
    door_of(shop).unlink()
    left = QLocalServer()
    left.listen(str(door_of(shop)))
    left.close()
    assert door.open()
    door.close()


def test_a_job_is_dragged_off_the_shelf_as_a_file_that_travels(sample_window: Window) -> None:
    settle(sample_window)
    model = sample_window.shelf.model
    card = next(card for card in model.cards if card.name == "West butt")
    index = model.at(model.places[card.id])
    assert model.flags(index) & model.flags(index).ItemIsDragEnabled
    carried = model.mimeData([index])
    (url,) = carried.urls()
    assert read_job(Path(url.toLocalFile())) == sample_window.session.store.job(card.id)
    assert Path(url.toLocalFile()).name == "West butt.omnipel"
    assert model.mimeTypes() == ["text/uri-list"]
