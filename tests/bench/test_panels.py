"""The Panels station by pointer and by keys: partners of edges, walking a seam, halves on the fold, sizes set by hand."""

import numpy as np
import pytest
import shapely
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle

from omnipel.bench.stations.panels.station import PanelsStation
from omnipel.bench.window.window import Window
from omnipel.core.drafting.onfold import fold_of
from omnipel.core.pictures.drawing import Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.words import refs
from omnipel.core.words.refs import Of


def station_of(window: Window, job: str) -> PanelsStation:
    open_job(window, job, "panels")
    station: PanelsStation = window.stations["panels"]
    return station


def test_pointing_at_an_edge_shows_what_it_is_sewn_to_and_a_click_goes_there(sample_window: Window) -> None:
    station = station_of(sample_window, "Honey extractor")
    edge, partner = refs.panel("lid", "rim"), refs.panel("wall", "lid edge")
    station.board.pointed.emit(edge)
    assert partner in station.board.lit
    assert "sewn to wall, lid edge" in sample_window.working.text.text()
    station.board.pointed.emit(None)
    assert not station.board.lit
    station.board.zoom_by(6.0)
    station.board.clicked.emit(edge)
    x, y = station.made.at(station._panel("wall"), station._panel("wall").edge("lid edge").curve.at(0.5))
    middle = station.board.to_screen(x, y)
    assert (middle.x(), middle.y()) == pytest.approx((station.board.width() / 2, station.board.height() / 2), abs=1.0)
    station.board.pointed.emit(None)
    assert partner in station.board.lit  # what is chosen stays


@pytest.mark.parametrize("job", ["Honey extractor", "Platform scale", "Wax melter cosy"])
def test_a_seam_is_walked_along_both_edges_and_on_the_cover_at_once(sample_window: Window, qtbot: QtBot, job: str) -> None:
    station = station_of(sample_window, job)
    walk, draft = station.walk, sample_window.session.draft
    assert not walk.slider.isEnabled()
    for trued in draft.seams:
        station._seam(trued.seam.name)
        assert walk.slider.isEnabled()
        edges = {
            (item.ref, k): item.points
            for k, item in enumerate(station.board.drawing.items)
            if isinstance(item, Path) and item.layer in (Layer.SEW, Layer.FOLD) and item.ref is not None
        }
        for value in (0, 137, 400):
            walk.slider.setValue(value)
            assert len(station.board.spots) == 2
            for spot, side in zip(station.board.spots, trued.seam.sides, strict=True):
                names = {(draft.cover.panel_of[run.piece], run.edge) for run in side}
                lines = [shapely.LineString(points) for (ref, _), points in edges.items() if (ref.id, ref.part) in names]
                assert min(line.distance(shapely.Point(spot)) for line in lines) < 2.0, (trued.seam.name, value)
            assert station.where.spot.shape == (1, 3)
    marked = next(t for t in draft.seams if len(t.marks) > 1)
    station._seam(marked.seam.name)
    walk.slider.setFocus()
    heard = set()
    for _ in range(401):
        heard |= {word for word in walk.words.whole.split() if word in {mark.label for mark in marked.marks}}
        qtbot.keyClick(walk.slider, Qt.Key.Key_Right)
    assert heard == {mark.label for mark in marked.marks}


def test_a_panel_ticked_on_the_fold_is_drawn_as_its_half(sample_window: Window, qtbot: QtBot) -> None:
    station = station_of(sample_window, "Honey extractor")

    def wide() -> float:
        rings = [
            i.points for i in station.board.drawing.items if isinstance(i, Path) and i.closed and i.ref == refs.panel("wall")
        ]
        return float(np.ptp(rings[0][:, 0]))

    whole = wide()
    box = station.sizes.folds["wall"]
    box.setFocus()
    qtbot.keyClick(box, Qt.Key.Key_Space)
    settle(sample_window)
    assert sample_window.session.open_job.cover.on_fold == ("wall",)
    assert wide() == pytest.approx(whole / 2.0, rel=0.01)
    assert sample_window.focusWidget() is station.sizes.folds["wall"]  # who works by keys is still there
    qtbot.keyClick(station.sizes.folds["wall"], Qt.Key.Key_Space)
    assert wide() == pytest.approx(whole, rel=1e-6)
    offered = {p.name for p in sample_window.session.draft.panels if fold_of(p)}
    assert set(station.sizes.folds) == offered


def test_what_is_set_by_hand_stands_out_and_goes_back_with_one_click(sample_window: Window, qtbot: QtBot) -> None:
    station = station_of(sample_window, "Bottling trolley")
    marked = [number for number in station.sizes.numbers if number.objectName() == "byhand"]
    assert marked
    assert all(any(t.source and t.source.of is Of.BY_HAND for t in number.number.terms) for number in marked)
    back = next(b for b in station.sizes.findChildren(QPushButton) if b.accessibleName().endswith("back to the drafted size"))
    qtbot.mouseClick(back, Qt.MouseButton.LeftButton)
    assert sample_window.session.open_job.cover.overrides == ()
    assert [number for number in station.sizes.numbers if number.objectName() == "byhand"] == []
    assert all(trued.true for trued in sample_window.session.draft.seams)
