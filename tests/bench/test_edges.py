"""Edges of openings at the Cover station: a card for each, filled by hand, in the job's own unit."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from tests.bench.conftest import settle

from omnipel.bench.parts.sections import SectionTiles
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.finish import FinishKind
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


def test_an_edge_is_drawn_in_bound_and_left_as_usual(sample_window: Window) -> None:
    window, session = sample_window, sample_window.session
    session.add(starter("drum", "wall-and-lid", Unit.INCH_16), tr("new"))
    window.show_station("cover")
    station = window.stations["cover"]

    def card():  # type: ignore[no-untyped-def]
        station.choose(refs.edge("lower edge"))
        return station.edges.card

    def pick(part: str, words: str) -> None:
        field = card().fields[part]
        if isinstance(field, SectionTiles):
            next(tile for tile in field.tiles if tile.text() == words).click()
            return
        i = [field.itemText(k) for k in range(field.count())].index(words)
        field.setCurrentIndex(i)
        field.activated.emit(i)

    pick("held_by", "drawcord")  # the hem of 1 in is wide enough for a cord of 1/4
    assert session.open_job.cover.edges == {"lower edge": EdgeChoice(held_by=Hold.CORD)}
    field = card().fields["drawn_to"].focusProxy()
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "48 1/2")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert session.open_job.cover.edges["lower edge"].drawn_to == 48.5 * 25.4
    assert isinstance(session.draft, Drafted)
    assert session.draft.cover.edges[0].drawn_to == 48.5 * 25.4
    pick("finish", "bound")
    assert session.open_job.cover.edges["lower edge"].finish.kind is FinishKind.BOUND  # type: ignore[union-attr]
    assert "casing-too-narrow" in [f.code for f in session.draft.findings]
    pick("held_by", "elastic")  # a binding is no tunnel: the edge becomes one
    assert session.open_job.cover.edges["lower edge"].finish.kind is FinishKind.ELASTIC_CASING  # type: ignore[union-attr]
    assert "casing-too-narrow" not in [f.code for f in session.draft.findings]
    pick("held_by", "held by nothing")
    pick("finish", "as usual")
    assert session.open_job.cover.edges == {}
    for _ in range(6):
        session.undo()
    assert session.open_job.cover.edges == {}


def test_a_seam_is_piped_and_left_open_and_a_panel_parted(sample_window: Window) -> None:
    window, session = sample_window, sample_window.session
    session.add(starter("drum", "wall-and-lid", Unit.INCH_16), tr("new"))
    window.show_station("cover")
    station = window.stations["cover"]
    station.go_to(refs.seam("close the wall", "kind"))
    assert station.chosen == refs.seam("close the wall")
    next(tile for tile in station.seams.card.fields["kind"].tiles if tile.text() == "piped").click()
    for part, words in (("open_from", "4 1/2"), ("open_to", "7 1/4"), ("start", "1")):
        length = station.seams.card.fields[part].focusProxy()
        length.setFocus()
        length.selectAll()
        QTest.keyClicks(length, words)
        QTest.keyClick(length, Qt.Key.Key_Return)
    chosen = session.open_job.cover.seams["close the wall"]
    assert (chosen.kind, chosen.open_from, chosen.open_to, chosen.start) == ("piped", 4.5 * 25.4, 7.25 * 25.4, 25.4)
    assert isinstance(session.draft, Drafted)
    assert [edge.name for edge in session.draft.cover.edges] == ["lower edge", "close the wall, left open"]
    assert "close the wall, left open" in station.edges.names
    assert {str(h.name) for h in session.draft.cover.hardware} == {"piping strip", "piping cord"}
    station.choose(refs.panel("wall"))
    station.partings.part_it.click()
    assert [(p.panel, p.from_top) for p in session.open_job.cover.parted] == [("wall", False)]
    at = station.partings.fields[session.open_job.cover.parted[0].id].focusProxy()
    at.setFocus()
    at.selectAll()
    QTest.keyClicks(at, "9 3/8")
    QTest.keyClick(at, Qt.Key.Key_Return)
    lower = next(p for p in session.draft.panels if p.name == "wall, lower part")
    assert lower.width.value == 9.375 * 25.4
    assert "zip" in {str(h.name) for h in session.draft.cover.hardware}
    assert not [f for f in session.draft.findings if f.severity == "stop"]


def test_who_works_by_keys_stays_where_they_were(sample_window: Window) -> None:
    """Cards are made anew after each change; Tab goes on to the next field all the same, and a list stays at hand."""
    window, session = sample_window, sample_window.session
    session.add(starter("drum", "wall-and-lid", Unit.INCH_16), tr("new"))
    window.show_station("cover")
    station = window.stations["cover"]
    station.choose(refs.seam("wall to lid"))
    settle(window)
    field = station.seams.card.fields["allowance"].focusProxy()
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "5/8")
    QTest.keyClick(field, Qt.Key.Key_Tab)
    settle(window)
    assert session.open_job.cover.seams["wall to lid"].allowance == 25.4 * 5 / 8
    assert QApplication.focusWidget().accessibleName() == "wall to lid: of its other side"
    station.choose(refs.edge("lower edge"))
    settle(window)
    station.edges.card.fields["held_by"].setFocus()
    QTest.keyClick(station.edges.card.fields["held_by"], Qt.Key.Key_Down)
    settle(window)
    assert session.open_job.cover.edges["lower edge"].held_by is Hold.CORD
    assert QApplication.focusWidget() is station.edges.card.fields["held_by"]
