"""Dialogs on a small screen and with large text: they fit on it, nothing in them is cut off, and what ends them is in sight."""

import pytest
from PySide6.QtWidgets import QAbstractButton, QApplication, QDialog, QLineEdit, QScrollArea
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job
from tests.bench.layout import faults
from tests.bench.test_help_in_dialogs import ALL, settle_on
from tests.wild import one_in

from omnipel.bench.commands.dress import set_dark, set_scale
from omnipel.bench.window.window import Window

FRAME = 40
"""A window's title takes so much of a screen's height, px."""
LARGE = 1.6


@pytest.mark.parametrize(
    ("screen", "scale", "dark"), [((1024, 768), 1.5, False), ((1280, 800), LARGE, True), ((1024, 768), 1.0, False)][:: one_in(2)]
)
def test_every_dialog_fits_on_the_screen(
    sample_window: Window, qtbot: QtBot, screen: tuple[int, int], scale: float, dark: bool
) -> None:
    sample_window.resize(*screen)
    set_dark(sample_window, dark)
    set_scale(sample_window, scale)
    open_job(sample_window, "Rain butt", "cloth")
    at_rest(sample_window, qtbot)
    wrong: dict[str, object] = {}
    for kind, made in ALL.items():
        dialog = made(sample_window)
        dialog.show()
        for _ in range(4):
            settle_on(dialog)
        dialog.resize(min(dialog.width(), screen[0]), min(dialog.height(), screen[1] - FRAME))  # as a desktop does
        for _ in range(4):
            settle_on(dialog)
        if dialog.width() > screen[0] or dialog.height() > screen[1] - FRAME:
            wrong[f"{kind.__name__} is"] = dialog.size().toTuple()
        found = faults(dialog)
        if found:
            wrong[kind.__name__] = found[:3]
        away = [
            button.text()
            for button in dialog.findChildren(QAbstractButton)
            if button.isVisible() and button.text() and not in_sight(dialog, button)
        ]
        if away:
            wrong[f"{kind.__name__} hides"] = away
        dialog.reject()
    assert wrong == {}


def in_sight(dialog: QDialog, button: QAbstractButton) -> bool:
    """Whether a button is within its dialog, or can be scrolled to."""
    parent = button.parentWidget()
    while parent is not None and parent is not dialog:
        if isinstance(parent, QScrollArea):
            return True
        parent = parent.parentWidget()
    return dialog.rect().adjusted(-1, -1, 1, 1).contains(button.rect().translated(button.mapTo(dialog, button.rect().topLeft())))


def test_fields_in_dialogs_grow_with_the_text(sample_window: Window, qtbot: QtBot) -> None:
    """What is typed can be read while it is typed: a field is as high as its letters, at every size of text."""
    open_job(sample_window, "Rain butt", "cloth")
    at_rest(sample_window, qtbot)
    letters: dict[float, set[int]] = {}
    for scale in (0.9, 1.0, 1.5):
        set_scale(sample_window, scale)
        QApplication.processEvents()
        for made in list(ALL.values())[:: one_in(2)]:
            dialog = made(sample_window)
            dialog.show()
            settle_on(dialog)
            fields = [field for field in dialog.findChildren(QLineEdit) if field.isVisible()]
            assert all(field.height() >= field.fontMetrics().height() for field in fields), type(dialog)
            letters.setdefault(scale, set()).update(field.fontMetrics().ascent() for field in fields)
            dialog.reject()
    small, usual, large = (max(found) for found in letters.values())
    assert small < usual < large
    assert large == pytest.approx(1.5 * usual, abs=2)
