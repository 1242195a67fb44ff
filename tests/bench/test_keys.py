"""A whole job by keys alone, from the first start of an empty shop to the booklet on disk, and how many keys that takes."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QRadioButton, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, in_dialog, settle
from tests.exchange.test_booklet import pages_of

from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.window.window import Window
from omnipel.core.job.trying import Went
from omnipel.core.words.units import Unit

Key, Mod = Qt.Key, Qt.KeyboardModifier


class Keyboard(QObject):
    """Presses keys where the focus is, and counts them; holding Ctrl or Shift down is a key, too."""

    def __init__(self) -> None:
        super().__init__()
        self.typed = self.others = 0

    def press(self, *keys: Key, held: Mod = Mod.NoModifier, times: int = 1) -> None:
        """Keys that are no letters of a text."""
        self.others += bool(held & Mod.ControlModifier) + bool(held & Mod.ShiftModifier)
        for key in keys * times:
            self.others += 1
            QTest.keyClick(QApplication.focusWidget(), key, held)
            QApplication.processEvents()

    def write(self, words: str) -> None:
        """A text, and Enter."""
        self.typed += len(words)
        for letter in words:
            here = QApplication.focusWidget()
            assert here is not None, f"nothing takes the keys for “{words}”"
            QTest.keyClicks(here, letter)
        self.press(Key.Key_Return)


class NoMouse(QObject):
    """Fails a job that was helped along by a mouse."""

    def __init__(self) -> None:
        super().__init__()
        self.seen: list[str] = []

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.MouseButtonPress, QEvent.Type.Wheel):
            self.seen.append(str(watched))
        return False


@contextmanager
def without_a_mouse() -> Iterator[None]:
    app, watching = QApplication.instance(), NoMouse()
    assert app is not None
    app.installEventFilter(watching)
    try:
        yield
    finally:
        app.removeEventFilter(watching)
    assert watching.seen == []


def walk(keys: Keyboard, there: Callable[[QWidget], bool], place: Callable[[], QWidget]) -> None:
    """Arrow keys towards something that is seen."""
    for _ in range(20):
        here = QApplication.focusWidget()
        if there(here):
            return
        away = place().mapTo(here.window(), place().rect().center()) - here.mapTo(here.window(), here.rect().center())
        level = abs(away.y()) <= here.height() // 2
        keys.press((Key.Key_Right if away.x() > 0 else Key.Key_Left) if level else Key.Key_Down if away.y() > 0 else Key.Key_Up)
    raise AssertionError("arrow keys do not lead there")


def first_start(window: Window, keys: Keyboard, unit: str, form: str) -> None:
    """Which unit, that something is measured, what it is."""
    asked = f"I measure in {unit}"
    buttons = {one.accessibleName(): one for one in window.findChildren(QRadioButton)}
    walk(keys, lambda here: here.accessibleName() == asked, lambda: buttons[asked])
    keys.press(Key.Key_Tab, Key.Key_Space)
    assert window.here == "object"
    cards = window.stations["object"].cards
    walk(keys, lambda here: here is cards[form], lambda: cards[form])
    keys.press(Key.Key_Space)


JOBS = {
    "a drum, in inches": ("inches to 1/16", "drum", "Brine drum", ("69 7/16", "25 3/4"), 18),
    "a crate, in inches": ("inches to 1/8", "box", "Apple crate", ("22", "15 1/2", "18 3/4"), 20),
    "a crock, in millimetres": ("millimetres", "cap-body", "Rye crock", ("754", "310"), 16),
    "a tub, in centimetres": ("centimetres", "tub", "Wash tub", ("141,5", "170", "38,5"), 18),
}


def drafted_by_keys(window: Window, keys: Keyboard, qtbot: QtBot, name: str) -> None:
    """From the first start until the cover is drafted and nothing is worked at behind the window."""
    unit, form, called, readings, _ = JOBS[name]
    first_start(window, keys, unit, form)
    keys.write(called)
    keys.press(Key.Key_2, held=Mod.ControlModifier)
    for reading in readings:
        keys.write(reading)
    at_rest(window, qtbot)
    assert window.session.draft.panels, [str(f.text) for f in window.session.draft.findings]
    assert not [f for f in window.session.draft.findings if f.severity.value == "stop"]


@pytest.mark.parametrize("name", JOBS)
def test_from_the_first_start_to_the_booklet(
    open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, name: str
) -> None:
    _, _, called, _, most = JOBS[name]
    monkeypatch.setenv("HOME", str(tmp_path))
    window, keys = open_window(tmp_path / "shop.sqlite"), Keyboard()
    with without_a_mouse():
        drafted_by_keys(window, keys, qtbot, name)

        def write_it(dialog: QDialog) -> None:
            qtbot.waitUntil(lambda: dialog.write_it.isEnabled(), timeout=30_000)  # type: ignore[attr-defined]
            keys.press(Key.Key_Return)

        in_dialog(PapersDialog, write_it)
        keys.press(Key.Key_P, held=Mod.ControlModifier | Mod.ShiftModifier)
        settle(window)
    (booklet,) = tmp_path.glob("*.pdf")
    pages = list(pages_of(booklet.read_bytes()))
    assert called in pages[0].text
    assert len(pages) >= 8
    assert window.session.unit in (Unit.INCH_16, Unit.INCH_8, Unit.MM, Unit.CM)
    print(f"{name}: {keys.typed} letters and figures, {keys.others} other keys; {len(pages)} sheets")
    assert keys.others <= most


def test_on_through_every_step_until_it_was_tried_on(
    open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What was sewn, how it went on and what it measures: by keys alone, one for each step."""
    monkeypatch.setenv("HOME", str(tmp_path))
    window, keys = open_window(tmp_path / "shop.sqlite"), Keyboard()
    session = window.session
    with without_a_mouse():
        drafted_by_keys(window, keys, qtbot, "a crate, in inches")
        before = keys.others
        keys.press(Key.Key_6, held=Mod.ControlModifier)
        station = window.stations["sew"]
        plan = station.sewing.plan
        assert plan is not None
        steps = len(plan.steps)
        for _ in range(steps + 1):  # the first begins
            keys.press(Key.Key_Space)
        assert session.open_job.sewing.done == {step.key for step in plan.steps}
        assert keys.others - before == 2 + steps + 1
        before = keys.others
        keys.press(Key.Key_7, held=Mod.ControlModifier)
        keys.press(Key.Key_Return)  # the first try-on
        fit = window.stations["fit"]
        walk(keys, lambda here: here is fit.form.went[Went.RIGHT], lambda: fit.form.went[Went.RIGHT])
        keys.press(Key.Key_Space)
        first = next(iter(fit.table.fields))
        for _ in range(12):
            if fit.table.fields[first].isAncestorOf(QApplication.focusWidget()):
                break
            keys.press(Key.Key_Tab)
        planned = [fit.table.fitting.sizes[key].planned.value for key in list(fit.table.fields)[:2]]
        for length in planned:
            whole, eighths = divmod(round(length / 25.4 * 8.0), 8)
            keys.write(f"{whole} {eighths}/8")
    (tried,) = session.open_job.tries
    assert tried.went is Went.RIGHT
    assert list(tried.made.values()) == pytest.approx(planned, abs=25.4 / 16.0)
    assert window.rail.buttons["fit"].stands == "just right"
    at_rest(window, qtbot)
    assert not session.unsaved
    print(f"tried on: {keys.others - before} keys beside what was typed; {steps} steps, one key for each and one to begin")
    assert keys.others - before <= 16
