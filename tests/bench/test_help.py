"""F1 on anything: two or three sentences that say what it is for, with a drawing where one helps."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle
from tests.wild import some

from omnipel.bench.commands.explaining import HelpDialog, subject_of
from omnipel.bench.parts.coverview import CoverView
from omnipel.bench.parts.focusorder import walked
from omnipel.bench.stations.cover.sectioncut import SectionCut
from omnipel.bench.stations.sew.card import SectionPicture
from omnipel.bench.window.window import Window
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.fields import EDGE_FIELDS, FEATURE_FIELDS, FIELDS, SEAM_FIELDS
from omnipel.core.explained import explained
from omnipel.core.forms import FORMS
from omnipel.core.words import refs
from omnipel.shop.sample import SAMPLES

STATIONS = ("object", "tape", "cover", "panels", "cloth", "sew", "fit")


def sentences(told: str) -> list[str]:
    return [part for part in re.split(r"(?<=[.!?…])\s+", told) if part.strip()]


def test_every_choice_of_every_job_is_explained() -> None:
    for sample in SAMPLES:
        job = sample()
        form = FORMS[job.thing.form]
        asked = [refs.reading(place.key) for place in form.places(job.readings, job.thing)]
        asked += [refs.option(option.key) for option in SCHEMES[job.cover.scheme].options]
        asked += [ref for ref in FIELDS if ref.id == "" and ref.of is refs.Of.CHOICE and ref != refs.FEATURES]
        asked += [refs.edge("lower edge", part) for part in EDGE_FIELDS] + [
            refs.seam("wall to lid", part) for part in SEAM_FIELDS
        ]
        asked += [refs.feature(feature.id, part) for feature in job.cover.features for part in ("", *FEATURE_FIELDS)]
        for ref in asked:
            told = explained(ref, job)
            assert 1 <= len(told) <= 3, str(ref)
            assert all(str(one).strip() for one in told), str(ref)


@pytest.mark.parametrize(("job", "station"), some(["Sprayer pump case", "Rain butt", "Platform scale"], STATIONS, of=9))
def test_whatever_has_the_focus_is_explained(sample_window: Window, qtbot: QtBot, job: str, station: str) -> None:
    open_job(sample_window, job, station)
    sample_window.session.try_all()
    at_rest(sample_window, qtbot)
    seen = 0
    for widget in walked(sample_window, [sample_window.stations[station]]):
        subject = subject_of(sample_window, widget)
        dialog = HelpDialog(sample_window, subject)
        told = dialog.told.text()
        assert subject.words.strip(), widget
        assert 2 <= len(sentences(told)) <= 8, (widget, told)
        assert 40 <= len(told) <= 700, (widget, told)
        assert "<" not in told
        assert "{" not in told
        dialog.deleteLater()
        seen += 1
    assert seen > 15


def pressed(window: Window, qtbot: QtBot, widget: QWidget) -> HelpDialog:
    widget.setFocus()
    qtbot.keyClick(QApplication.focusWidget() or window, Qt.Key.Key_F1)
    QApplication.processEvents()
    (dialog,) = [one for one in window.findChildren(HelpDialog) if one.isVisible()]
    return dialog


def test_it_stays_beside_the_window_until_it_is_closed(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "tape")
    tape = sample_window.stations["tape"]
    dialog = pressed(sample_window, qtbot, tape.field.line)
    assert dialog.windowTitle() == "Reading: girth"
    assert "level all the way" in dialog.told.text()
    (picture,) = dialog.findChildren(CoverView)
    assert picture.tape is not None
    qtbot.keyClick(dialog, Qt.Key.Key_F1)
    settle(sample_window)
    assert not any(one.isVisible() for one in sample_window.findChildren(HelpDialog))
    dialog = pressed(sample_window, qtbot, tape.field.line)
    qtbot.keyClick(dialog, Qt.Key.Key_Escape)
    settle(sample_window)
    assert not any(one.isVisible() for one in sample_window.findChildren(HelpDialog))


def test_a_drawing_stands_where_one_helps(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "cover")
    cover = sample_window.stations["cover"]
    shown = {}
    for ref, kind in ((refs.CLEARANCE, SectionCut), (refs.SEAM_ALLOWANCE, SectionPicture), (refs.HEM_WIDTH, SectionPicture)):
        sample_window.go_to(ref)
        settle(sample_window)
        dialog = HelpDialog(sample_window, subject_of(sample_window, cover.decides()[ref]))
        assert len(dialog.findChildren(kind)) == 1, ref
        shown[ref] = dialog.picture
        dialog.deleteLater()
    seam, hem = (shown[ref].section for ref in (refs.SEAM_ALLOWANCE, refs.HEM_WIDTH))  # type: ignore[union-attr]
    assert len(seam.layers) == 2
    assert len(hem.layers) == 1
    cover.choose(refs.panel("wall"))
    dialog = HelpDialog(sample_window, subject_of(sample_window, cover.tree))
    (picture,) = dialog.findChildren(CoverView)
    assert refs.panel("wall") in picture.shining
    assert dialog.windowTitle() == "Wall"
    dialog.deleteLater()


def test_the_first_start_and_the_shelf_are_explained(open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path) -> None:
    empty = open_window(tmp_path / "empty.sqlite")
    for widget in walked(empty, []):
        assert len(sentences(HelpDialog(empty, subject_of(empty, widget)).told.text())) >= 2
