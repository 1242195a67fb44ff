"""Heard, seen and reached: what changes is announced, names say what a thing is, nothing to hit is too small."""

import re

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible, QColor
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QSlider
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle

from omnipel.bench.commands.dress import set_dark
from omnipel.bench.parts import announce as announcing
from omnipel.bench.parts.look import LOOK, style_sheet
from omnipel.bench.parts.sections import SectionTile
from omnipel.bench.parts.strokes import luminance
from omnipel.bench.stations.cover.schemes import SchemeCard
from omnipel.bench.stations.panels.ledger import second_side
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Of
from omnipel.core.words.units import Unit
from omnipel.shop.sample import SAMPLES

STATIONS = ("object", "tape", "cover", "panels", "cloth")
LEAST = 24
"""Nothing to hit is lower than this, px at 100 %."""


class Listener:
    """Stands in for the toolkit's way of telling a screen reader."""

    AnnouncementPoliteness = QAccessible.AnnouncementPoliteness

    def __init__(self) -> None:
        self.heard: list[str] = []

    @staticmethod
    def isActive() -> bool:  # as the toolkit has it
        return True

    def updateAccessibility(self, event: object) -> None:
        self.heard.append(event.message())  # type: ignore[attr-defined]


def test_what_is_said_and_what_moves_is_announced(sample_window: Window, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "cover")
    listener = Listener()
    monkeypatch.setattr(announcing, "QAccessible", listener)
    sample_window.session.say("look", tr("Nothing is drafted yet."))
    assert listener.heard == ["Nothing is drafted yet."]
    assert (
        QAccessible.queryAccessibleInterface(sample_window.working.text).text(QAccessible.Text.Name) == "Nothing is drafted yet."
    )
    qtbot.waitUntil(lambda: sample_window.session.cloth.current is not None, timeout=30_000)
    sample_window.session.set(refs.CLEARANCE, 25.4, tr("clearance 1"))
    settle(sample_window)
    assert any(words.startswith("Goes on?: yes") for words in listener.heard)
    qtbot.waitUntil(lambda: any(words.startswith("Cloth to buy:") for words in listener.heard), timeout=30_000)
    sample_window.show_station("panels")
    settle(sample_window)
    number = sample_window.stations["panels"].sizes.numbers[0]
    number.setFocus()
    settle(sample_window)
    said = QAccessible.queryAccessibleInterface(sample_window.working.text).text(QAccessible.Text.Name)
    assert said.startswith("Lid, finished length")
    shares = sample_window.working.tape.segments()
    assert shares[0][0] == 0.0
    assert max(high for _, high, _ in shares) == pytest.approx(1.0)


@pytest.mark.parametrize("job", ["Bottling trolley", "Fermenting crock", "Sprayer pump case"])
def test_all_that_can_be_hit_is_large_enough_and_has_a_name(sample_window: Window, job: str) -> None:
    for station in STATIONS:
        open_job(sample_window, job, station)
        sample_window.session.try_all()
        settle(sample_window)
        kinds = (QAbstractButton, QComboBox, QLineEdit, QSlider)
        found = [w for kind in kinds for w in sample_window.findChildren(kind) if w.isVisible() and w.isEnabled()]
        assert not [(w.accessibleName(), w.height()) for w in found if w.height() < LEAST], station
        unnamed = [w for w in found if not QAccessible.queryAccessibleInterface(w).text(QAccessible.Text.Name)]
        assert not unnamed, (station, unnamed)


def test_a_note_is_one_line_and_the_rest_is_there_when_it_is_asked_for(sample_window: Window) -> None:
    open_job(sample_window, "Rain butt", "cover")
    (card,) = sample_window.tally.cards
    assert card.head.text() == "cut along the cloth"
    assert not card.text.isVisible()
    assert "does not go across" in card.accessibleName()
    card.why.click()
    assert card.text.isVisible()
    card.why.click()
    assert not card.text.isVisible()


def heard(widget: object) -> tuple[QAccessible.Role, str]:
    """What the toolkit tells a screen reader a widget is, and its name."""
    interface = QAccessible.queryAccessibleInterface(widget)  # type: ignore[arg-type]
    return interface.role(), interface.text(QAccessible.Text.Name)


def test_one_of_several_is_told_as_a_radio_button_with_its_state(sample_window: Window) -> None:
    open_job(sample_window, "Bottling trolley", "object")
    sample_window.stations["object"].unfold()
    open_job(sample_window, "Bottling trolley", "cover")
    cover = sample_window.stations["cover"]
    cover.choose(refs.seam("wall to top"))
    settle(sample_window)
    groups = [
        list(sample_window.stations["object"].cards.values()),
        [w for w in cover.findChildren(SchemeCard) if w.isVisible()],
        [w for w in cover.findChildren(SectionTile) if w.isVisible()],
    ]
    for group in groups:
        assert len(group) > 1
        assert {heard(card)[0] for card in group} == {QAccessible.Role.RadioButton}
        states = [QAccessible.queryAccessibleInterface(card).state().checked for card in group]
        assert sum(map(bool, states)) == 1


def test_every_seam_is_an_object_with_its_numbers_and_the_board_tells_its_panels(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Honey extractor", "panels")
    station, draft = sample_window.stations["panels"], sample_window.session.draft
    ledger = QAccessible.queryAccessibleInterface(station.ledger)
    names = [ledger.child(k).text(QAccessible.Text.Name) for k in range(ledger.childCount())]
    assert names[0] == "seam 1 of 4, wall to lid, true, 1\u202f951 mm to 1\u202f951 mm"
    assert len(names) == len(draft.seams)
    station.ledger.rows[0].setFocus()
    for trued in (*draft.seams[1:], draft.seams[0]):
        qtbot.keyClick(sample_window.focusWidget(), Qt.Key.Key_Down)
        assert station.ledger.chosen == trued.seam.name
        assert QAccessible.queryAccessibleInterface(sample_window.focusWidget()).state().checked
    told = QAccessible.queryAccessibleInterface(station.board).text(QAccessible.Text.Description)
    for panel in draft.panels:
        assert f"{panel.name}, cut {panel.count} · {panel.cloth.value}, cut " in told


def test_every_panel_of_the_board_is_an_object_that_can_be_chosen(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Bottling trolley", "panels")
    station, draft = sample_window.stations["panels"], sample_window.session.draft
    board = station.board
    assert [ref.id for ref in board.panels] == [panel.name for panel in draft.panels]
    for panel, (ref, spot) in zip(draft.panels, board.panels.items(), strict=True):
        role, name = heard(spot)
        assert (role, name.startswith(f"{panel.name}, cut {panel.count}")) == (QAccessible.Role.CheckBox, True)
        rect = QAccessible.queryAccessibleInterface(spot).rect()
        middle = board.mapToGlobal(board.to_screen(*station.made.at(panel, panel.sew_points.mean(axis=0))).toPoint())
        assert rect.contains(middle)
        assert (spot.width(), spot.height()) >= (24, 24)
        spot.click()  # what a screen reader's press does
        assert station.chosen == {ref} == board.lit
        assert [other for other, one in board.panels.items() if one.isChecked()] == [ref]
    board.setFocus()
    for panel in draft.panels:
        qtbot.keyClick(board, Qt.Key.Key_Right)
        assert station.chosen == {refs.panel(panel.name)}
        assert f"{panel.name}, cut " in heard(sample_window.working.text)[1].lower()
    large = max(board.panels.values(), key=lambda spot: spot.width())
    before = large.width()
    board.zoom_by(3.0)
    qtbot.keyClick(board, Qt.Key.Key_Right)  # what is not seen whole is moved
    assert station.chosen == {ref}
    assert large.width() == pytest.approx(3 * before, rel=0.02)


def ratio(one: QColor, other: QColor) -> float:
    """How far two colours stand apart, 1 … 21."""
    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("dark", [False, True])
def test_lines_that_carry_meaning_stand_out_three_to_one(sample_window: Window, dark: bool) -> None:
    set_dark(sample_window, dark)
    ink, surface, ground, glow = (LOOK.colour(name) for name in ("ink", "surface", "ground", "glow"))
    for name in ("accent", "soft", "stop", "look", "fine"):
        for behind in (surface, ground):
            assert ratio(LOOK.colour(name), behind) >= 3.0, name
    assert ratio(LOOK.colour("accent"), glow) >= 3.0  # the edge of what has changed
    for sample in SAMPLES:
        cloth = QColor(sample().cover.cloth.colour)
        assert ratio(ink, second_side(cloth)) >= 3.0, sample().name  # stripes of a seam's other side
    sheet = style_sheet(LOOK)
    for rule in ("QPushButton {", "QPushButton#remedy {", "QLineEdit, QPlainTextEdit"):
        body = sheet[sheet.index(rule) : sheet.index("}", sheet.index(rule))]
        borders = [part for part in body.split(";") if "border:" in part or "border-color" in part]
        found = [word for part in borders for word in part.replace("{", " ").split() if word.startswith("#") and len(word) == 7]
        assert found, rule
        assert all(ratio(QColor(colour), surface) >= 3.0 for colour in found), rule


def test_every_decision_about_a_cover_is_few_keys_from_entering_it(sample_window: Window, qtbot: QtBot) -> None:
    """From the tree one Tab leads to the first field, Alt and a letter to any; what can be added, the pictures, the tally come after, the rail last."""
    window = sample_window
    for name in ("Press motor", "Rain butt", "Settling tank", "Bottling trolley", "Sorting turntable"):
        open_job(window, name, "object")
        qtbot.keyClick(window, Qt.Key.Key_3, Qt.KeyboardModifier.ControlModifier)
        settle(window)
        station = window.stations["cover"]
        assert QApplication.focusWidget() is station.tree
        stops = [station.tree]
        for _ in range(60):
            qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
            if QApplication.focusWidget() is station.tree:
                break
            stops.append(QApplication.focusWidget())
        fields = [k for k, one in enumerate(stops) if station.whole.isAncestorOf(one)]
        places = [
            max(k for k, one in enumerate(stops) if group.isAncestorOf(one))
            for group in (station.whole, station.adding, station.picture, window.tally, window.rail)
        ]
        assert fields[0] == 1
        assert fields == list(range(1, len(fields) + 1))
        assert places == sorted(places)
        for told in station.whole.findChildren(QLabel):
            letter = re.search("&([a-z])", told.text().lower())
            if not told.isVisible() or told.buddy() is None or letter is None:
                continue
            station.tree.setFocus()
            qtbot.keyClick(station.tree, letter[1], Qt.KeyboardModifier.AltModifier)
            focused = QApplication.focusWidget()
            assert told.buddy() in (focused, focused.focusProxy()) or told.buddy().isAncestorOf(focused), told.text()
            for _ in range(fields[-1]):
                qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Backtab, Qt.KeyboardModifier.ShiftModifier)
                if QApplication.focusWidget() is station.tree:
                    break
            assert QApplication.focusWidget() is station.tree


def test_the_tree_of_parts_says_new_sizes_of_the_same_parts(sample_window: Window) -> None:
    """Whoever listens is not thrown back to its beginning by every reading; a flipped unit is said, too."""
    open_job(sample_window, "Rain butt", "cover")
    tree, session = sample_window.stations["cover"].tree, sample_window.session
    wall = next(ref for ref in tree.every() if ref.of is Of.PANEL and ref.id)
    item, before = tree.items[wall], tree.items[wall].toolTip(0)
    for change in (
        lambda: session.set(refs.reading("girth").at("repeats"), (2101.0,), tr("girth")),
        lambda: session.set(refs.of_job("unit"), Unit.MM, tr("unit")),
    ):
        change()
        settle(sample_window)
        assert tree.items[wall] is item
        assert item.toolTip(0) != before
        assert item.data(0, Qt.ItemDataRole.AccessibleTextRole) == item.toolTip(0)
        before = item.toolTip(0)
