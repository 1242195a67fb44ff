"""What those hear who do not see the window, and whether those can read it who see less: every station, through the toolkit's own interface."""

from collections import Counter
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QRect, Qt
from PySide6.QtGui import QAccessible, QAccessibleInterface, QColor, QImage
from PySide6.QtWidgets import QApplication, QCheckBox, QComboBox, QLabel, QLineEdit, QPushButton, QRadioButton, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle
from tests.bench.test_heard import ratio
from tests.wild import one_in, some

from omnipel.bench.commands.dress import set_dark, set_scale
from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.parts.look import DARK, LIGHT, Colours
from omnipel.bench.window.window import Window
from omnipel.exchange.exports import EXPORTS

STATIONS = ("object", "tape", "cover", "panels", "cloth", "sew", "fit")
JOBS = ("Sprayer pump case", "Rain butt", "Platform scale", "Settling tank")
Role = QAccessible.Role
STOPS = {
    *(Role.Button, Role.CheckBox, Role.RadioButton, Role.ComboBox, Role.EditableText, Role.SpinBox, Role.Slider, Role.ButtonMenu),
    *(Role.Tree, Role.TreeItem, Role.List, Role.ListItem, Role.Table, Role.Cell, Role.Graphic, Role.Chart, Role.Grouping),
    *(Role.StaticText, Role.PageTab, Role.Link),
}
"""What can be stopped at: each tells what it is, not only that it is a part of a window."""


def tree(of: QAccessibleInterface) -> Iterator[QAccessibleInterface]:
    """Everything below that is to be seen."""
    for k in range(of.childCount()):
        child = of.child(k)
        if child is not None and child.isValid() and not child.state().invisible:
            yield child
            yield from tree(child)


def said(one: QAccessibleInterface) -> tuple[str, str]:
    return one.text(QAccessible.Text.Name), one.text(QAccessible.Text.Description)


def wrong(window: QWidget) -> list[str]:
    """What cannot be understood by ear alone."""
    found = []
    for one in tree(QAccessible.queryAccessibleInterface(window)):
        name, more = said(one)
        told = f"{one.role()} {name!r} {more!r} {type(one.object()).__name__}"
        if one.state().focusable and (not name.strip() or one.role() not in STOPS):
            found.append(told)
        if one.role() in (Role.Graphic, Role.Chart) and not name.strip():
            found.append(f"a picture without a name: {told}")
        if one.role() is Role.ComboBox and not (more or one.relations(QAccessible.RelationFlag.Label)):
            found.append(f"nothing says what is picked: {told}")  # its name is what is picked
        if one.state().focusable and "<" in name:
            found.append(f"marks are read out: {told}")
    return found


def stops(window: QWidget, qtbot: QtBot) -> list[QWidget]:
    """Everything that Tab stops at, in its order."""
    first = QApplication.focusWidget()
    assert first is not None
    found = [first]
    for _ in range(300):
        qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
        if QApplication.focusWidget() is first:
            return found
        if QApplication.focusWidget() is not found[-1]:  # within a sum it goes from term to term
            found.append(QApplication.focusWidget())
    raise AssertionError("Tab never comes back")


@pytest.mark.parametrize(("job", "station"), some(JOBS, STATIONS, of=12))
def test_everything_has_a_name_and_a_role_and_tab_walks_it_once(
    sample_window: Window, qtbot: QtBot, job: str, station: str
) -> None:
    open_job(sample_window, job, station)
    sample_window.session.try_all()
    at_rest(sample_window, qtbot)
    assert wrong(sample_window) == []
    sample_window.rail.buttons[station].setFocus()
    order = stops(sample_window, qtbot)
    twice = [f"{type(w).__name__} {w.accessibleName()}" for w in order if order.count(w) > 1]
    assert twice == []
    heard = [
        one.object()
        for one in tree(QAccessible.queryAccessibleInterface(sample_window))
        if one.state().focusable and not one.state().disabled and isinstance(one.object(), QWidget)
    ]
    reached = {id(widget) for widget in order} | {id(widget.focusProxy()) for widget in order if widget.focusProxy()}
    by_tab = [w for w in heard if w.focusPolicy().value & Qt.FocusPolicy.TabFocus.value and not grouped(w, order)]
    assert [f"{type(w).__name__} {w.accessibleName()}" for w in by_tab if id(w) not in reached] == []
    body = sample_window.stations[station]
    places = [k for k, one in enumerate(order) if body.isAncestorOf(one)]
    assert places == list(range(places[0], places[0] + len(places)))  # the station in one go, then the tally, then the rail


def grouped(widget: QWidget, order: list[QWidget]) -> bool:
    """Whether arrow keys lead to it from one of a group that Tab stops at, or it lies inside of something that takes the keys."""
    exclusive = getattr(widget, "group", lambda: None)()
    if exclusive is not None and exclusive.exclusive():
        return any(one in exclusive.buttons() for one in order)
    return any(one is not widget and one.isAncestorOf(widget) for one in order)


def test_shelf_first_start_and_dialogs_can_be_heard(
    sample_window: Window, open_window: Callable[..., Window], tmp_path: Path
) -> None:
    assert wrong(sample_window) == []
    open_job(sample_window, "Rain butt", "panels")
    papers = PapersDialog(sample_window, sample_window.session, EXPORTS["book"])
    papers.show()
    QApplication.processEvents()
    assert wrong(papers) == []
    papers.close()
    papers.deleteLater()
    empty = open_window(tmp_path / "empty.sqlite")
    settle(empty)
    assert wrong(empty) == []


@pytest.mark.parametrize("colours", [LIGHT, DARK], ids=["light", "dark"])
def test_every_pair_of_colours_that_is_declared(colours: Colours) -> None:
    """All texts on all grounds they are put on 4.5 : 1, lines that carry meaning 3 : 1."""
    grounds = ("ground", "surface")
    pairs = [(text, ground, 4.5) for text in ("ink", "soft", "accent", "look", "stop", "fine") for ground in grounds]
    pairs += [("on_accent", "accent", 4.5), ("ink", "glow", 4.5), ("soft", "glow", 4.5), ("accent", "glow", 3.0)]
    pairs += [("body", "ink", 3.0)] if colours is LIGHT else []
    poor = {
        (one, other): round(found, 2)
        for one, other, least in pairs
        if (found := ratio(QColor(getattr(colours, one)), QColor(getattr(colours, other)))) < least
    }
    assert poor == {}


def painted(image: QImage, box: QRect) -> float:
    """How far the words in a box of the window stand apart from what is behind them: the colour that most of it has, and the farthest from that."""
    seen: Counter[int] = Counter()
    for x in range(max(0, box.left()), min(image.width(), box.right() + 1)):
        for y in range(max(0, box.top()), min(image.height(), box.bottom() + 1)):
            seen[image.pixel(x, y)] += 1
    if len(seen) < 2:
        return 21.0
    behind = QColor(seen.most_common(1)[0][0])
    return max(ratio(QColor(pixel), behind) for pixel in seen)


def words_of(window: QWidget) -> Iterator[tuple[QWidget, str]]:
    for widget in window.findChildren(QWidget):
        if isinstance(widget, QLabel | QPushButton | QCheckBox | QRadioButton | QComboBox | QLineEdit):
            text = widget.currentText() if isinstance(widget, QComboBox) else widget.text()
            shown = text or (widget.placeholderText() if isinstance(widget, QLineEdit) else "")
            if shown.strip() and widget.isVisible() and widget.isEnabled() and not widget.visibleRegion().isEmpty():
                yield widget, shown


@pytest.mark.parametrize(("dark", "station"), some([False, True], ("shelf", *STATIONS), of=8))
def test_all_words_of_the_window_as_they_are_painted(sample_window: Window, qtbot: QtBot, dark: bool, station: str) -> None:
    set_dark(sample_window, dark)
    set_scale(sample_window, 1.3)  # so that a stem is wider than a pixel
    if station != "shelf":
        open_job(sample_window, "Honey extractor", station)
        sample_window.session.try_all()
        at_rest(sample_window, qtbot)
    image = sample_window.grab().toImage()
    found = {}
    checked = 0
    for widget, words in list(words_of(sample_window))[:: one_in(2)]:
        corner = widget.mapTo(sample_window, QPoint(0, 0))
        box = QRect(corner, widget.size()).intersected(image.rect()).adjusted(3, 3, -3, -3)
        if box.width() < 8 or box.height() < 8 or widget.visibleRegion().boundingRect().height() < widget.height() // 2:
            continue
        checked += 1
        apart = painted(image, box)
        if apart < 4.5:
            found[f"{type(widget).__name__} {words[:40]!r}"] = round(apart, 2)
    assert checked >= 3
    assert found == {}
