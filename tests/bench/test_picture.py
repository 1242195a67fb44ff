"""The picture is the form: a part is chosen where it is seen, something is put where the picture was clicked, and all of it by keys as well."""

import re

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QApplication, QCheckBox, QPushButton
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.bench.hands import Hands, Keys

from omnipel.bench.parts.sections import SectionTile
from omnipel.bench.stations.cover.station import CoverStation
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.drafting.pieces import named
from omnipel.core.drafting.walking import walk
from omnipel.core.job.finish import FinishKind
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


def opened(window: Window, form: str, scheme: str) -> CoverStation:
    """The Cover station on a new job in inches."""
    window.session.add(starter(form, scheme, Unit.INCH_16), tr("new"))
    window.show_station("cover")
    settle(window)
    station = window.stations["cover"]
    assert isinstance(station, CoverStation)
    return station


def click(qtbot: QtBot, station: CoverStation, place: np.ndarray) -> None:
    """Click on the picture where a place in space is seen."""
    sketch = station.picture.sketch
    x, y = sketch.view.matrix()[:2] @ place
    qtbot.mouseClick(sketch, Qt.MouseButton.LeftButton, pos=sketch.to_screen(float(x), float(y)).toPoint())
    settle(station.window())


def drafted(window: Window) -> Drafted:
    """What is on the desk."""
    made = window.session.draft
    assert isinstance(made, Drafted)
    return made


def seam_place(window: Window, name: str, share: float) -> np.ndarray:
    """A place along a seam."""
    cover = drafted(window).cover
    seam = next(s for s in cover.seams if s.name == name)
    return walk(seam.b, named(cover.pieces), cover.flat, np.array([share]))[0]


def test_a_pocket_is_put_where_the_picture_was_clicked(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "drum", "wall-and-lid")
    body = drafted(sample_window).body
    mesh = np.concatenate([face.points for face in body.mesh().faces])
    radius, top = float(mesh[:, 0].max()), float(mesh[:, 2].max())
    click(qtbot, station, np.array((60.0, -np.sqrt((radius + 13.0) ** 2 - 60.0**2), top - 300.0)))
    assert station.chosen == refs.panel("wall")
    assert station.adding.spot is not None
    station.adding.buttons["pocket"].click()
    settle(sample_window)
    (pocket,) = sample_window.session.open_job.cover.features
    assert pocket.kind == "pocket"
    assert pocket.face == "front"
    assert pocket.from_centre == pytest.approx(60.0, abs=4.0)
    assert pocket.from_top == pytest.approx(300.0 + 12.0, abs=6.0)  # the lid lies over the top by the gap
    for length in (pocket.from_centre, pocket.from_top):
        assert length / 25.4 * 16.0 == pytest.approx(round(length / 25.4 * 16.0))
    lying = drafted(sample_window).cover.lying[pocket.id]
    assert lying.place[2] == pytest.approx(top - 300.0, abs=6.0)
    assert station.chosen == refs.feature(pocket.id)
    click(qtbot, station, np.array(lying.place) + (0.0, 0.0, 10.0))
    assert station.chosen == refs.feature(pocket.id)


def test_what_is_put_on_is_dragged_along_the_cover(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "drum", "wall-and-lid")
    station.adding.buttons["pocket"].click()
    settle(sample_window)
    (pocket,) = sample_window.session.open_job.cover.features
    sketch = station.picture.sketch
    grip = np.array(drafted(sample_window).cover.lying[pocket.id].place) + (0.0, 0.0, 10.0)
    place = np.array((-40.0, -np.sqrt(float(grip[0] ** 2 + grip[1] ** 2) - 1600.0), grip[2] + 90.0))

    def spot(there: np.ndarray) -> QPoint:
        x, y = sketch.view.matrix()[:2] @ there
        return sketch.to_screen(float(x), float(y)).toPoint()

    view = sketch.view
    qtbot.mousePress(sketch, Qt.MouseButton.LeftButton, pos=spot(grip))
    for share in (0.4, 0.7, 1.0):
        qtbot.mouseMove(sketch, spot(grip + (place - grip) * share))
    assert "across" in sketch.said
    qtbot.mouseRelease(sketch, Qt.MouseButton.LeftButton, pos=spot(place))
    settle(sample_window)
    (moved,) = sample_window.session.open_job.cover.features
    assert sketch.view == view  # the pocket was dragged, not the picture turned
    assert moved.from_centre == pytest.approx(pocket.from_centre - 40.0 - grip[0], abs=6.0)
    assert moved.from_top == pytest.approx(pocket.from_top - 90.0, abs=6.0)
    assert moved.from_top / 25.4 * 16.0 == pytest.approx(round(moved.from_top / 25.4 * 16.0))
    assert drafted(sample_window).cover.lying[pocket.id].place[2] == pytest.approx(grip[2] + 80.0, abs=6.0)
    qtbot.mousePress(sketch, Qt.MouseButton.LeftButton, pos=QPoint(8, 8))
    qtbot.mouseMove(sketch, QPoint(60, 20))
    qtbot.mouseRelease(sketch, Qt.MouseButton.LeftButton, pos=QPoint(60, 20))
    assert sketch.view != view
    sample_window.session.undo()
    assert sample_window.session.open_job.cover.features == (pocket,)


def test_piping_is_dragged_along_its_seam_from_and_to(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "box", "saddle-and-ends")
    session, sketch, ref = sample_window.session, station.picture.sketch, refs.seam("saddle to right end")
    station.choose(ref)
    assert not sketch.rails.ends()
    session.set(ref.at("kind"), "piped", tr("piped"))
    settle(sample_window)
    (rail,) = sketch.rails.rails
    whole = float(rail.at[-1])
    assert whole == pytest.approx(drafted(sample_window).cover.joins["saddle to right end"], abs=0.5)

    def spot(at: float) -> QPoint:
        return sketch.to_screen(*(rail.place(at) @ sketch.view.matrix().T)[:2]).toPoint()

    def drag(at: float, to: float) -> None:
        qtbot.mousePress(sketch, Qt.MouseButton.LeftButton, pos=spot(at))
        for share in (0.3, 0.6, 1.0):
            qtbot.mouseMove(sketch, spot(at + (to - at) * share))
        assert "to" in sketch.said or "from" in sketch.said
        qtbot.mouseRelease(sketch, Qt.MouseButton.LeftButton, pos=spot(to))
        settle(sample_window)

    drag(0.0, 200.0)
    drag(whole, 900.0)
    chosen = session.open_job.cover.seams[ref.id]
    assert (chosen.start, chosen.stop) == (pytest.approx(200.0, abs=8.0), pytest.approx(900.0, abs=8.0))
    seam = next(s for s in drafted(sample_window).cover.seams if s.name == ref.id)
    assert seam.stretch is not None
    assert abs(seam.stretch[1] - seam.stretch[0]) == pytest.approx(chosen.stop - chosen.start, abs=0.5)
    drag(chosen.stop, whole)
    assert session.open_job.cover.seams[ref.id].stop == 0.0


def test_a_panel_leads_to_what_belongs_to_it_and_is_put_on_the_fold(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "drum", "wall-and-lid")
    station.adding.buttons["pocket"].click()
    settle(sample_window)

    def led(words: str) -> Ref:
        station.choose(refs.panel("wall"))
        found = next(b for b in station.panels.findChildren(QPushButton) if b.text() == words)
        qtbot.mouseClick(found, Qt.MouseButton.LeftButton)
        return station.chosen

    assert led("wall to lid") == refs.seam("wall to lid")
    assert led("lower edge") == refs.edge("lower edge")
    assert led("pocket") == refs.feature(sample_window.session.open_job.cover.features[0].id)
    station.choose(refs.panel("lid"))
    (box,) = [b for b in station.panels.findChildren(QCheckBox) if b.accessibleName() == "lid on the fold"]
    qtbot.mouseClick(box, Qt.MouseButton.LeftButton, pos=QPoint(8, box.height() // 2))
    settle(sample_window)
    assert sample_window.session.open_job.cover.on_fold == ("lid",)
    assert next(panel for panel in drafted(sample_window).panels if panel.name == "lid").fold is not None


def test_a_seam_is_clicked_and_piped(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "box", "saddle-and-ends")
    click(qtbot, station, seam_place(sample_window, "saddle to right end", 0.22))
    assert station.chosen == refs.seam("saddle to right end")
    assert station.seams.card is not None
    tile = next(t for t in station.seams.card.tiles.tiles if t.value == "piped")
    tile.pointed.emit("piped")
    qtbot.waitUntil(lambda: station.seams.card.cost.isVisible(), timeout=20_000)  # type: ignore[union-attr]
    assert "piping cord" in station.seams.card.cost.words.text()
    assert re.search(r"\+ \d+(\.5)?.min", station.seams.card.cost.words.text())  # its cord is made, basted on and sewn
    qtbot.mouseClick(tile, Qt.MouseButton.LeftButton)
    settle(sample_window)
    assert sample_window.session.open_job.cover.seams["saddle to right end"].kind == "piped"
    assert "piping cord" in {str(h.name) for h in drafted(sample_window).cover.hardware}
    assert {"allowance", "under", "wide"} <= set(station.seams.card.fields)


def test_the_lower_edge_is_clicked_and_bound_and_the_cover_comes_apart(sample_window: Window, qtbot: QtBot) -> None:
    station = opened(sample_window, "drum", "wall-and-lid")
    cover = drafted(sample_window).cover
    edge = next(e for e in cover.edges if e.name == "lower edge")
    shares = np.linspace(0.0, 1.0, 200)
    along = walk(edge.runs, named(cover.pieces), cover.flat, shares)
    click(qtbot, station, along[int((along @ station.picture.sketch.view.matrix()[2]).argmax())])
    assert station.chosen == refs.edge("lower edge")
    assert station.edges.card is not None
    qtbot.mouseClick(next(t for t in station.edges.card.tiles.tiles if t.value is FinishKind.BOUND), Qt.MouseButton.LeftButton)
    settle(sample_window)
    finish = sample_window.session.open_job.cover.edges["lower edge"].finish
    assert finish is not None
    assert finish.kind is FinishKind.BOUND
    station.picture.apart.setValue(station.picture.apart.maximum())
    flat = {sheet.name for sheet in station.picture.sketch.scene.sheets}
    assert flat == {"wall", "lid"}
    station.picture.apart.setValue(0)
    way = station.lowering.way
    assert way is not None
    station.lowering.slider.setValue(station.lowering.slider.maximum() // 2)
    lifted = max(float(ring[:, 2].max()) for sheet in station.picture.sketch.scene.sheets for ring in sheet.rings)
    station.lowering.slider.setValue(station.lowering.slider.maximum())
    down = max(float(ring[:, 2].max()) for sheet in station.picture.sketch.scene.sheets for ring in sheet.rings)
    assert lifted - down == pytest.approx(way.travel / 2.0, rel=0.02)


def test_a_seam_is_lapped_by_keys_alone(hands: Hands, qtbot: QtBot) -> None:
    """From the first start: the tree of parts has the focus, two letters find the seam, Tab and arrows the way it is sewn."""
    window = hands.window
    hands.begin_drum("Lye tub", "48 1/2", "20")
    hands.press(Keys.Key_3, Qt.KeyboardModifier.ControlModifier)
    station = window.stations["cover"]
    assert QApplication.focusWidget() is station.tree
    qtbot.keyClicks(station.tree, "wall to")
    settle(window)
    assert station.chosen == refs.seam("wall to lid")
    hands.press(Keys.Key_Tab)
    for _ in range(12):
        focused = QApplication.focusWidget()
        if isinstance(focused, SectionTile) and focused.value == "lapped":
            break
        hands.press(Keys.Key_Right if isinstance(focused, SectionTile) else Keys.Key_Tab)
    hands.press(Keys.Key_Space)
    settle(window)
    assert window.session.open_job.cover.seams["wall to lid"].kind == "lapped"
    assert next(t.seam.kind for t in drafted(window).seams if t.seam.name == "wall to lid") == "lapped"


def test_the_tree_of_parts_can_be_heard(sample_window: Window) -> None:
    """Panels, seams, edges and what is put on are objects of a tree, each with its size."""
    station = opened(sample_window, "drum", "wall-and-lid")
    heard = QAccessible.queryAccessibleInterface(station.tree)
    assert heard.text(QAccessible.Text.Name) == "Parts of the cover"
    said = [heard.child(i).text(QAccessible.Text.Name) for i in range(heard.childCount())]
    wall = next(words for words in said if words.startswith("wall,"))
    assert "×" in wall
    assert any(words.startswith("wall to lid, ") for words in said)
    assert any(words.startswith("lower edge, ") for words in said)
    assert {heard.child(i).role() for i in range(heard.childCount())} <= {
        QAccessible.Role.TreeItem,
        QAccessible.Role.ColumnHeader,
    }
