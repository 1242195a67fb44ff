"""The simulated wireless tape: real readings over a real socket, and nothing lost when the connection is."""

import threading
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job

from omnipel.bench.window import Window
from omnipel.bench.wireless import WirelessTape
from omnipel.exchange.tape_device import TapeDevice, send_all


def sent(qtbot: QtBot, device: TapeDevice, lines: list[str]) -> list[str]:
    """Send from a thread, as another process would, while the window goes on."""
    answers: list[str] = []
    thread = threading.Thread(target=lambda: answers.extend(send_all(lines, device)))
    thread.start()
    qtbot.waitUntil(lambda: not thread.is_alive(), timeout=10_000)
    return answers


def test_readings_over_the_air_are_real_readings(
    sample_window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path))
    open_job(sample_window, "Feed bin", "tape")
    station = sample_window.stations["tape"]
    assert station.place == "drop"
    station.listen.click()
    answers = sent(qtbot, TapeDevice(tmp_path / "omnipel-tape"), ["52.5 cm", "hello", "-4"])
    assert [a.split()[0] for a in answers] == ["OK", "NO", "NO"]
    assert sample_window.session.open_job.reading("drop").repeats == (525.0,)  # type: ignore[union-attr]
    assert sample_window.session.store.job(sample_window.session.key).reading("drop") is not None  # type: ignore[arg-type]
    station.listen.click()


def test_a_lost_connection_loses_nothing_and_doubles_nothing(qtbot: QtBot, tmp_path: Path) -> None:
    path, taken = tmp_path / "tape", []

    def take(text: str) -> str:
        taken.append(text)
        return ""

    first = WirelessTape(path, take)
    assert first.start() == ""
    device = TapeDevice(path, pause=0.05)
    assert sent(qtbot, device, ["100"])[0].startswith("OK")
    first.stop()
    answers: list[str] = []
    thread = threading.Thread(target=lambda: answers.append(device.send(7, "200")))
    thread.start()  # nobody listens: it keeps the reading and looks again
    qtbot.wait(150)
    second = WirelessTape(path, take)
    assert second.start() == ""
    qtbot.waitUntil(lambda: not thread.is_alive(), timeout=10_000)
    device.close()
    assert answers == ["OK 7"]
    assert second.answer("READ tape 7 200") == "OK 7"  # sent again: not taken again
    assert taken == ["100", "200"]
    second.stop()


def test_without_a_bench_the_device_says_so(tmp_path: Path) -> None:
    with pytest.raises(ConnectionError, match="no bench"):
        TapeDevice(tmp_path / "none", tries=2, pause=0.01).send(1, "5")


def test_the_tape_card_names_every_reading(sample_window: Window, tmp_path: Path) -> None:
    from pdfminer.high_level import extract_text

    open_job(sample_window, "Press motor", "tape")
    card = tmp_path / "card.pdf"
    sample_window.write_tape_card(card)
    text = extract_text(str(card))
    for place in sample_window.stations["tape"].places:
        assert str(place.words) in text
