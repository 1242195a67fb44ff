"""The simulated wireless tape: real readings over a real socket, and nothing lost when the connection is."""

import threading
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job
from tests.wild import one_in

from omnipel.bench.commands.papers import write_export
from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.tape.wireless import Taken, WirelessTape
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.exchange.asked import Order
from omnipel.exchange.devices.tape_device import NoBench, TapeDevice, send_all
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.sample import SAMPLES


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
    station.listening.box.click()
    answers = sent(qtbot, TapeDevice(tmp_path / "omnipel-tape"), ["52.5 cm", "hello", "-4"])
    assert [a.split()[0] for a in answers] == ["OK", "NO", "NO"]
    assert sample_window.session.open_job.reading("drop").repeats == (525.0,)  # type: ignore[union-attr]
    assert sample_window.session.store.job(sample_window.session.key).reading("drop") is not None  # type: ignore[arg-type]
    station.listening.box.click()


def test_a_lost_connection_loses_nothing_and_doubles_nothing(qtbot: QtBot, tmp_path: Path) -> None:
    path, taken = tmp_path / "tape", []

    def take(text: str, _then: Taken) -> str:
        taken.append(text)
        return ""

    first = WirelessTape(path, take, Taken())
    assert first.start() is None
    device = TapeDevice(path, pause=0.05)
    assert sent(qtbot, device, ["100"])[0].startswith("OK")
    first.stop()
    answers: list[str] = []
    thread = threading.Thread(target=lambda: answers.append(device.send(7, "200")))
    thread.start()  # nobody listens: it keeps the reading and looks again
    qtbot.wait(150)
    second = WirelessTape(path, take, first.taken)
    assert second.start() is None
    qtbot.waitUntil(lambda: not thread.is_alive(), timeout=10_000)
    device.close()
    assert answers == ["OK 7"]
    assert second.answer("READ tape 7 200") == "OK 7"  # sent again: not taken again
    assert taken == ["100", "200"]
    second.stop()


def test_without_a_bench_the_device_says_so(tmp_path: Path) -> None:
    with pytest.raises(NoBench, match="no bench"):
        TapeDevice(tmp_path / "none", tries=2, pause=0.01).send(1, "5")


def test_the_tape_card_names_every_reading(sample_window: Window, tmp_path: Path) -> None:
    from pdfminer.high_level import extract_text

    open_job(sample_window, "Press motor", "tape")
    card = tmp_path / "card.pdf"
    session = sample_window.session
    assert session.draft is not None
    write_export(session, EXPORTS["card"], card, Order(session.draft, session.voice, "A4"))
    text = extract_text(str(card))
    for place in sample_window.stations["tape"].places:
        assert str(place.words) in text


def test_several_readings_come_in_one_line_by_their_letters(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Feed bin", "tape")
    station, session = sample_window.stations["tape"], sample_window.session
    before = session.open_job
    assert "is not on the card" in station.take("A 1763, Q 12")
    assert session.open_job == before
    assert station.take("B 52.5 cm; A 1410 / 1412") == ""
    assert session.open_job.reading("drop").repeats == (525.0,)  # type: ignore[union-attr]
    assert session.open_job.reading("girth").repeats == (1410.0, 1412.0)  # type: ignore[union-attr]
    session.undo()
    assert session.open_job == before  # one line is one step


def test_rail_tally_and_shelf_say_the_same(sample_window: Window, qtbot: QtBot) -> None:
    from omnipel.core.standing import State, next_step, states, whole, with_sewing

    shelf = sample_window.shelf
    shelf.sort.show_value("state")
    shelf.refresh()
    qtbot.waitUntil(lambda: len(shelf.model.kept) == len(SAMPLES), timeout=60_000)
    for card in shelf.cards[:: one_in(3)]:
        kept = shelf.model.kept[(card.id, card.revision)]
        sample_window.session.open(card.id)
        sample_window.show_station("tape")
        sample_window.session.try_all()
        draft = sample_window.session.draft
        assert draft is not None
        if isinstance(draft, Drafted):
            qtbot.waitUntil(lambda: sewing_of(sample_window.session).there is not None, timeout=20_000)
        draft, sewn = with_sewing(draft)
        assert kept.state == whole(draft).value
        step = next_step(draft, (), sewn)
        words = sample_window.session.tell(step.words)
        assert sample_window.tally.next.text.text() == words
        assert kept.step == words
        for key, state in states(draft).items():
            assert sample_window.rail.buttons[key].state is state
            if state is State.FINE and not (draft.job.sewing.done if key == "sew" else draft.job.tries):
                begun = "fine" if key not in ("sew", "fit") or draft.stops else "ready"
                assert sample_window.rail.buttons[key].stands == begun, (card.name, key)
