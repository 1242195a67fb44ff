"""The window in another language: it fits, also where words are two fifths longer; what is typed is read; it is picked and opened anew."""

import re
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QDialogButtonBox, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle
from tests.bench.layout import faults
from tests.bench.test_words import texts
from tests.wild import some

from omnipel.bench.commands import tongue as commands
from omnipel.bench.commands.dress import set_dark, set_scale
from omnipel.bench.speech import SPEECH
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import ENGLISH, Pseudo, Tongue, tr
from omnipel.core.words.units import Unit
from omnipel.shop.demo import unpack
from omnipel.shop.store import Store
from omnipel.tongues import tongue_of

STATIONS = ("object", "tape", "cover", "panels", "cloth", "sew", "fit")
JOBS = ("Rain butt", "Sprayer pump case", "Settling tank", "Bottling trolley", "Barrow wheel", "Platform scale")


@pytest.fixture
def speaking(open_window: Callable[..., Window], tmp_path: Path) -> Iterator[Callable[[Tongue], Window]]:
    """A window on the sample shop that speaks a language."""

    def opened(tongue: Tongue) -> Window:
        SPEECH.tongue = tongue
        return open_window(tmp_path / "shop.sqlite", samples=True)

    yield opened
    SPEECH.tongue = ENGLISH


@pytest.mark.parametrize(
    ("tongue", "size", "scale", "job"),
    some(
        [
            (tongue_of("de"), (1280, 800), 1.0),
            (tongue_of("de"), (1024, 720), 1.0),
            (tongue_of("de"), (1280, 800), 1.5),
            (Pseudo(), (1280, 800), 1.0),
            (Pseudo(), (1024, 720), 1.0),
        ],
        JOBS,
        of=15,
    ),
)
def test_longer_words_fit(
    speaking: Callable[[Tongue], Window], qtbot: QtBot, tongue: Tongue, size: tuple[int, int], scale: float, job: str
) -> None:
    window = speaking(tongue)
    window.resize(*size)
    set_scale(window, scale)
    set_dark(window, scale > 1.0)
    settle(window)
    found = {"shelf": faults(window)}
    for station in STATIONS:
        open_job(window, job, station)
        window.session.try_all()
        at_rest(window, qtbot)
        found[station] = faults(window)
    assert {station: what for station, what in found.items() if what} == {}


def test_every_word_of_the_window_is_german(speaking: Callable[[Tongue], Window], qtbot: QtBot) -> None:
    window = speaking(tongue_of("de"))
    seen: set[str] = set(texts(window))
    for station in STATIONS:
        open_job(window, "Sprayer pump case", station)
        at_rest(window, qtbot)
        seen |= set(texts(window))
    english = re.compile(
        r"\b(the|of|and|seam|hem|wall|cloth|finished|measure|width|length|height|drop|panel|cover)\b", re.IGNORECASE
    )
    typed = {card.name for card in window.session.store.cards()}
    shown = {re.sub(r"<[^>]*>", " ", text) for text in seen}
    assert {text for text in shown if english.search(text) and not any(name in text for name in typed)} == set()
    assert {word for word in ("Zuschnitt", "Fadenlauf", "Reißverschluss", "Futter") if any(word in text for text in shown)} >= {
        "Zuschnitt",
        "Futter",
    }
    assert any(re.search(r"\d,\d", text) for text in shown)
    assert not any(re.search(r"\d\.\d", text) for text in shown if "omnipel" not in text.casefold())


def test_a_decimal_comma_is_typed_shown_and_left_alone(speaking: Callable[[Tongue], Window], qtbot: QtBot) -> None:
    window = speaking(tongue_of("de"))
    open_job(window, "Honey extractor", "cover")
    session = window.session
    session.set(refs.of_job("unit"), Unit.CM, tr("unit"))
    cover = window.stations["cover"]
    window.go_to(refs.choice("seam_allowance"))
    field = cover.decides()[refs.choice("seam_allowance")].focusProxy()

    def write(words: str) -> None:
        field.setFocus()
        field.selectAll()
        qtbot.keyClicks(field, words)
        qtbot.keyClick(field, Qt.Key.Key_Return)

    write("1,7")
    assert session.open_job.cover.seam_allowance == pytest.approx(17.0)
    assert field.text() == "1,7"
    before = session.store.history(session.key)  # type: ignore[arg-type]
    write(field.text())
    assert session.store.history(session.key) == before  # type: ignore[arg-type]
    write("1.9")
    assert session.open_job.cover.seam_allowance == pytest.approx(19.0)
    assert field.text() == "1,9"
    write("viel")
    assert session.open_job.cover.seam_allowance == pytest.approx(19.0)
    assert any(
        "„viel“ ist kein Maß dieses Auftrags; erwartet wird eine Zahl oder eines von Umfang" in text for text in texts(window)
    )


def test_the_toolkits_own_buttons_speak_it(qapp: QApplication, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LANGUAGE", "de")
    commands.take_tongue()
    buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
    try:
        assert buttons.button(QDialogButtonBox.StandardButton.Cancel).text() == "Abbrechen"
        assert SPEECH.voice().language == "de"
    finally:
        monkeypatch.setenv("LANGUAGE", "en")
        commands.take_tongue()
        buttons.deleteLater()
    assert SPEECH.tongue is ENGLISH


ANEW = """
import sys
from pathlib import Path
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication
from omnipel.bench import app
from omnipel.bench.commands import tongue
from omnipel.bench.window.window import Window

tongue.picked_from = lambda *_: "de"
seen = []
known = Window.__init__

def made(window, session):
    known(window, session)
    seen.append(window)
    QTimer.singleShot(300, lambda: act(window))

def act(window):
    if len(seen) == 1:
        card = next(c for c in window.session.store.cards() if c.name == "Rain butt")
        window.session.open(card.id)
        window.show_station("panels")
        window.run_command("language")
        return
    print(window.here, window.session.open_job.name, window.rail.grab().isNull(), window.commands[0].words)
    print([b.text() for b in window.findChildren(type(window.unit_button)) if b.text().startswith("Zoll")][:1])
    QTimer.singleShot(0, window.close)

Window.__init__ = made
sys.exit(app.run(shop=Path(sys.argv[1])))
"""


def test_it_is_picked_and_the_window_opens_anew_where_it_was(tmp_path: Path) -> None:
    shop = tmp_path / "shop.sqlite"
    unpack(shop).close()
    done = subprocess.run([sys.executable, "-c", ANEW, str(shop)], capture_output=True, text=True, check=False, timeout=120)
    assert done.returncode == 0, done.stderr
    first, second = done.stdout.splitlines()
    assert first.startswith("panels Rain butt")
    assert second == "['Zoll auf 1/16']"
    store = Store(shop)
    assert store.setting(commands.SETTING, "") == "de"
    store.close()


def test_a_language_is_offered_by_its_own_name(sample_window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    offered: list[str] = []

    def picked(_parent: QWidget, _title: object, entries: list[tuple[str, object]]) -> object:
        offered.extend(words for words, _ in entries)
        return None

    monkeypatch.setattr(commands, "picked_from", picked)
    sample_window.run_command("language")
    assert offered == ["as the desktop has it (English)", "English", "Deutsch"]
    assert sample_window.isVisible()
