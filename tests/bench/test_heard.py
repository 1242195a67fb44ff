"""Heard, seen and reached: what changes is announced, names say what a thing is, nothing to hit is too small."""

import pytest
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QSlider
from tests.bench.conftest import open_job, settle

from omnipel.bench.parts import announce as announcing
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr

STATIONS = ("object", "tape", "cover", "panels")
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


def test_what_is_said_and_what_moves_is_announced(sample_window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    open_job(sample_window, "Rain butt", "cover")
    listener = Listener()
    monkeypatch.setattr(announcing, "QAccessible", listener)
    sample_window.session.say("look", tr("Nothing is drafted yet."))
    assert listener.heard == ["Nothing is drafted yet."]
    assert (
        QAccessible.queryAccessibleInterface(sample_window.working.text).text(QAccessible.Text.Name) == "Nothing is drafted yet."
    )
    sample_window.session.set(refs.CLEARANCE, 25.4, tr("clearance 1"))
    settle(sample_window)
    assert any(words.startswith("Goes on?: yes") for words in listener.heard)
    assert any(words.startswith("Cloth in panels:") for words in listener.heard)
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
