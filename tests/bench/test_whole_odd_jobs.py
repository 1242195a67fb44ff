"""Whole jobs in inches of things that are less usual: lined, unequal, with open sides, gathered, altered; the cut sizes are read back from the paper.

What is expected is reckoned here from the trade's formulas, with pencil-and-paper numbers, not asked of the program.
"""

import math

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.bench.frompaper import T, drawn, sixteenth, told
from tests.bench.hands import CTRL, Hands, Keys

from omnipel.bench.parts.sections import SectionTile
from omnipel.core.job.document import LiningSchool
from omnipel.core.words import refs


def test_a_lined_and_padded_drum_by_keys_alone(hands: Hands) -> None:
    """The lining's inside keeps the gap; padding and outer lie outside of it, each at its own girth; the lining hangs 3/16 longer."""
    hands.begin_drum("Wool barrel no. 3/4", "44 3/8", "21")
    hands.go("thickness of padding")
    hands.write_over("1/4")
    session = hands.window.session
    hands.go("lining")
    hands.press(Keys.Key_Down)
    settle(hands.window)
    assert session.open_job.cover.lining.school is LiningSchool.BAGGED
    pdf = hands.print_it("A0", 2)
    c, thin, pad, a, own = 1 / 2, 0.25 / 25.4, 1 / 4, 1 / 2, 3 / 8
    outer, lining = c + thin + pad + T / 2, c + thin / 2
    rings = {"wall": 44.375 + 2 * math.pi * outer, "lining wall": 44.375 + 2 * math.pi * lining}
    assert told(pdf, "wall") == pytest.approx([sixteenth(s) for s in (rings["wall"] + 2 * a, 21 + outer + 2 * a)])
    expect = rings["lining wall"] + 2 * own, 21 + 3 / 16 + lining + 2 * own
    assert told(pdf, "lining wall") == pytest.approx([sixteenth(s) for s in expect])
    assert drawn(pdf, "lining lid") == pytest.approx([rings["lining wall"] / math.pi + 2 * own] * 2, abs=0.005)


def test_a_chest_whose_left_end_is_narrower_and_lower(hands: Hands, qtbot: QtBot) -> None:
    """By the line of the tape card; the one remedy leads to five panels, each cut out of planes that stand off by the gap all round."""
    window, session = hands.window, hands.window.session
    hands.begin_box("Ø chest, «left»")
    hands.write("A 24, B 16, C 20 1/2, L 12 1/4, M 18")
    session.try_all()
    look = next(card for card in window.tally.cards if card.finding.code == "slope-ignored")
    qtbot.mouseClick(look.remedies[0].button, Qt.MouseButton.LeftButton)
    settle(window)
    assert session.open_job.cover.scheme == "five-panels"
    pdf = hands.print_it("A0", 2)
    u, a, below = 1 / 2 + T / 2, 1 / 2, 1 + 5 / 8
    turn, tilt = (16 - 12.25) / 2 / 24, (20.5 - 18) / 24
    out, up = u * math.hypot(1, turn), u * math.hypot(1, tilt)
    wide = {x: 2 * (8 + (x - 12) * turn + out) for x in (12 + u, -12 - u)}
    high = {x: 20.5 + (x - 12) * tilt + up for x in (12 + u, -12 - u)}
    right, left = 12 + u, -12 - u
    long = (right - left) * math.hypot(1, turn)
    assert told(pdf, "right wall") == pytest.approx([sixteenth(s) for s in (wide[right] + 2 * a, high[right] + a + below)])
    assert told(pdf, "left wall") == pytest.approx([sixteenth(s) for s in (wide[left] + 2 * a, high[left] + a + below)])
    sewn = np.array(
        [(0, 0), (long, 0), (long, high[right]), (0, high[left])]
    )  # its upper edge rises: the seam allowance leans with it
    rise = math.atan2(high[right] - high[left], long)
    tall = sewn[2, 1] + a * math.cos(rise) + a * (math.tan(rise) + math.sin(rise) * math.tan(rise)) + below
    assert told(pdf, "long wall") == pytest.approx([sixteenth(long + 2 * a), sixteenth(tall)], abs=1 / 16)
    assert drawn(pdf, "right wall") == pytest.approx((wide[right] + 2 * a, high[right] + a + below), abs=0.005)


def test_a_cosy_with_its_sides_open_for_spout_and_handle(hands: Hands, qtbot: QtBot) -> None:
    """Two things stick out to the sides, told by keys; the halves are gathered, their padding is not, and the sides stay open where they were proposed to."""
    window, session = hands.window, hands.window.session
    hands.first_start()
    hands.press(Keys.Key_Space)
    hands.write("Stove pot")
    hands.sticks_out("spout", "right", "port", from_the_top="3", stands_out="2 1/2", size="1 1/4")
    hands.sticks_out("handle", "left", "port", from_the_top="3 1/2", stands_out="2", size="2")
    assert [(t.name, t.face.value) for t in session.open_job.thing.sticks_out] == [("spout", "right"), ("handle", "left")]
    hands.press(Keys.Key_2, CTRL)
    window.stations["tape"].field.setFocus()
    hands.write("22 1/2")
    hands.write("7 3/4")
    hands.press(Keys.Key_3, CTRL)
    cards = window.stations["cover"].strip.cards
    qtbot.mouseClick(next(c for c in cards if c.scheme.key == "gathered-halves"), Qt.MouseButton.LeftButton)
    settle(window)
    assert session.open_job.cover.cloth.gather_limit == 3.0  # nobody had chosen a cloth: the scheme's own
    for _ in range(2):
        session.try_all()
        card = next(card for card in window.tally.cards if card.finding.code == "port-missing")
        opened = next(b for b in card.remedies if " open over " in b.text.text())
        qtbot.mouseClick(opened.button, Qt.MouseButton.LeftButton)
        settle(window)
    assert not session.draft.findings  # type: ignore[union-attr]
    pdf = hands.print_it("A0", 2)
    pad, inset, a = 4 / 25.4, 1 / 2, 1 / 4
    t = 0.3 / 25.4 + pad
    u = 1 / 2 + t / 2
    ring = 22.5 + 2 * math.pi * u
    body = 7.75 + u + t / 2 + ring * (1 - 2.4 / 3) / (2 * math.pi)
    high = body + 5 / 8 + 1 / 8 + 3 / 4
    half = ring / 2 * 2.4 + 2 * a, high + a + 2 * 5 / 16
    assert told(pdf, "front half") == told(pdf, "back half") == pytest.approx([sixteenth(size) for size in half])
    assert told(pdf, "padding front half") == pytest.approx([sixteenth(s) for s in (ring / 2 - 2 * inset, body - 1 / 4)])
    assert drawn(pdf, "padding front half") == pytest.approx((ring / 2 - 2 * inset, body - 1 / 4), abs=0.005)
    for side, name, down, size in (("right", "spout", 3, 1.25), ("left", "handle", 3.5, 2)):
        opened = session.open_job.cover.seams[f"{side} side"]
        middle = high - (7.75 - down + t / 2)  # from the upper edge down the side
        room = size / 2 + 1 / 2 + 1 / 8
        kept = (opened.open_from / 25.4, opened.open_to / 25.4)
        assert kept == pytest.approx((middle - room, middle + room), abs=0.2), name
    ribbons = [h for h in session.draft.cover.hardware if str(h.name) == "ribbon"]  # type: ignore[union-attr]
    assert [h.length.value / 25.4 for h in ribbons if h.length] == [pytest.approx(ring * 0.8 + 20)]


def test_a_drum_with_a_gathered_wall_and_a_piped_edge(hands: Hands) -> None:
    """A seam and an edge are decided by their lists, by keys; what is cut and bought follows."""
    window, session = hands.window, hands.window.session
    hands.begin_drum("Frilled <i>stool</i>", "38 1/4", "14 1/2")
    hands.press(Keys.Key_3, CTRL)
    cover = window.stations["cover"]

    def pick(tiles: QWidget, wanted: str) -> None:
        """By the arrow keys to the tile that is wanted, and Space."""
        settle(window)
        for _ in range(30):
            focused = QApplication.focusWidget()
            assert isinstance(focused, SectionTile)
            if focused.text() == wanted:
                hands.press(Keys.Key_Space)
                settle(window)
                return
            hands.press(Keys.Key_Right)
        raise AssertionError((wanted, [tile.text() for tile in tiles.tiles]))

    cover.go_to(refs.seam("wall to lid", "kind"))
    pick(cover.seams.card.fields["kind"], "gathered")
    hands.decide(refs.seam("wall to lid", "fuller"), "1.6")
    cover.go_to(refs.edge("lower edge", "finish"))
    pick(cover.edges.card.fields["finish"], "piped")
    assert not [f for f in session.draft.findings if f.severity.value != "note"]  # type: ignore[union-attr]
    pdf = hands.print_it("A0", 2)
    u, a = 1 / 2 + T / 2, 1 / 2
    ring = 38.25 + 2 * math.pi * u
    assert told(pdf, "wall") == pytest.approx([sixteenth(ring * 1.6 + 2 * a), sixteenth(14.5 + u + 2 * a)])
    assert told(pdf, "lid") == pytest.approx([sixteenth(ring / math.pi + 2 * a)] * 2)
    bought = {str(h.name): h.length.value / 25.4 for h in session.draft.cover.hardware if h.length}  # type: ignore[union-attr]
    assert bought["piping cord"] == pytest.approx(ring * 1.6)


def test_a_drum_that_does_not_go_on_gets_a_strip_that_stands_on_the_paper(hands: Hands, qtbot: QtBot) -> None:
    hands.begin_drum("Brine / west", "69 7/16", "25 3/4")
    hands.press(Keys.Key_7, CTRL)
    hands.press(Keys.Key_Space)  # the first try-on
    hands.press(Keys.Key_Space)  # does not go on
    window, session = hands.window, hands.window.session
    station = window.stations["fit"]
    station.table.fields["again:girth"].setFocus()
    hands.write_over("72 15/16")  # a hand's breadth more than was read
    hands.write("72 5/8")  # the lower edge, as planned
    assert session.open_job.tries[0].made["again:girth"] == pytest.approx(72.9375 * 25.4)
    qtbot.waitUntil(lambda: session.works.idle, timeout=20_000)
    assert "the girth was read" in station.because.sentence.text()
    tick = next(box for box in station.righted.ticks.values() if "strip" in box.accessibleName())
    tick.setFocus()
    hands.press(Keys.Key_Space)
    by = session.open_job.alterations[0].by / 25.4
    assert 3.0 < by < 4.0
    assert by * 16.0 == pytest.approx(round(by * 16.0))  # a round number of the tape's own
    pdf = hands.print_it("A0", 2)
    long, wide = 25.75 + 1 / 2 + T / 2 + 1 / 2 + 1 + 5 / 8, by + 2 * 1 / 2
    assert told(pdf, "strip 1") == pytest.approx((sixteenth(long), sixteenth(wide)))
    assert drawn(pdf, "strip 1") == pytest.approx((long, wide), abs=0.005)
