"""Whole jobs in inches, from the first start of an empty shop to the paper; the cut sizes are read back from the paper.

What is expected is reckoned here from the trade's formulas, with pencil-and-paper numbers, not asked of the program.
"""

import io
import math

import numpy as np
import pytest
from pdfminer.high_level import extract_pages, extract_text
from pdfminer.layout import LTCurve, LTTextContainer
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.bench.hands import CTRL, Hands, Keys

from omnipel.bench.parts.sections import SectionTile
from omnipel.bench.parts.tapefield import TapeField
from omnipel.core.job.document import ClearanceSchool, ClosureKind, LiningSchool
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_length
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit

POINT = 1.0 / 72.0
TILE = (841.0 - 30.0) / 25.4
"""The frame of a tile on the largest paper, in."""
T = 0.5 / 25.4
"""Thickness of the cloth a new job begins with, in."""


def drawn(pdf: bytes, panel: str) -> tuple[float, float]:
    """Length and height in inches of a panel's cut line, measured on its own sheet."""
    for page in extract_pages(io.BytesIO(pdf)):
        words = [box.get_text() for box in page if isinstance(box, LTTextContainer)]
        if any(text.casefold().startswith(f"{panel}, cut ") and "print at 100" in text for text in words):
            sizes = [
                np.ptp(np.array(item.pts), axis=0) * POINT for item in page if isinstance(item, LTCurve) and len(item.pts) > 3
            ]
            inside = [s for s in sizes if s[0] < TILE - 0.1]
            return tuple(max(inside, key=lambda s: s[0] * s[1]))
    raise AssertionError(f"no sheet of {panel}")


def told(pdf: bytes, panel: str) -> tuple[float, float]:
    """Cut length and height of a panel in inches as the cutting sheet says."""
    lines = [
        line.strip()
        for line in extract_text(io.BytesIO(pdf), page_numbers=[0, 1]).replace("\xa0", " ").splitlines()
        if line.strip()
    ]
    at = next(i for i, line in enumerate(lines) if line.split("  ")[0] == panel or line.startswith(f"{panel} "))
    cut = next(line for line in lines[at:] if line.startswith("cut ") and "×" in line)
    first, second = cut.removeprefix("cut ").split("finished")[0].split("×")
    return tuple(parse_length(text.strip().removesuffix(" in"), Unit.INCH_16) / 25.4 for text in (first, second))


def sixteenth(length: float) -> float:
    return math.floor(length * 16.0 + 0.5) / 16.0


def test_a_drum_by_keys_alone(hands: Hands) -> None:
    hands.first_start()
    hands.press(Keys.Key_Space)  # the drum is picked
    hands.write("Brine 1/2 drum")
    assert hands.window.session.open_job.name == "Brine 1/2 drum"
    hands.press(Keys.Key_2, CTRL)
    hands.write("69 7/16")
    hands.write("2'1 3/4")
    hands.go("seam allowance")
    hands.write_over("3/8")
    hands.go("closing seam")
    hands.write_over("3/4")
    hands.go("gap or ease")
    hands.write_over("0.7")
    hands.press(Keys.Key_Z, CTRL)  # Enter took it: one press brings the old gap back, not the typed text
    assert hands.window.session.open_job.cover.clearance.amount == pytest.approx(12.7)
    pdf = hands.print_it("A0", 2)
    u = 1 / 2 + T / 2
    ring = 69 + 7 / 16 + 2 * math.pi * u
    wall = ring + 2 * 3 / 4, 25.75 + u + 3 / 8 + 1 + 5 / 8
    lid = 2 * (ring / (2 * math.pi) + 3 / 8)
    assert told(pdf, "wall") == pytest.approx([sixteenth(size) for size in wall])
    assert told(pdf, "lid") == pytest.approx([sixteenth(lid)] * 2)
    assert drawn(pdf, "lid") == pytest.approx((lid, lid), abs=0.005)


def test_a_press_from_a_card_with_another_scheme(hands: Hands, qtbot: QtBot) -> None:
    window, session = hands.window, hands.window.session
    hands.begin_box("Ana's press: / 3")
    tape = window.stations["tape"]
    hands.write("A 15 1/2, B 9, C 12 1/4, Q 7")  # there is no Q: nothing is taken
    assert session.open_job.readings == ()
    assert "Q" in tape.readings.card_note.text()
    tape.readings.card.selectAll()
    hands.write("c 12 1/4 ; A 15 1/2 / 15 1/2; b 22.86cm")
    assert [r.place for r in session.open_job.readings] == ["height", "length", "width"]
    hands.press(Keys.Key_3, CTRL)
    cover = window.stations["cover"]
    qtbot.mouseClick(next(c for c in cover.strip.cards if c.scheme.key == "wall-and-top"), Qt.MouseButton.LeftButton)
    for field, words in ((refs.choice("hem.width"), "2"), (refs.choice("hem.turn_under"), "1/2"), (refs.CLEARANCE, "3/8")):
        hands.decide(field, words)
    for _ in range(3):  # through the other units and back: nothing moves
        hands.press(Keys.Key_U, CTRL)
    assert session.unit is Unit.INCH_16
    pdf = hands.print_it("A0", 2)
    u = 3 / 8 + T / 2
    long, wide = 15.5 + 2 * u, 9 + 2 * u
    wall = 2 * (long + wide) + 2 * 1 / 2, 12.25 + u + 1 / 2 + 2 + 1 / 2
    top = long + 2 * 1 / 2, wide + 2 * 1 / 2
    assert told(pdf, "wall") == pytest.approx([sixteenth(size) for size in wall])
    assert told(pdf, "top") == pytest.approx([sixteenth(size) for size in top])
    assert drawn(pdf, "top") == pytest.approx(top, abs=0.005)


def test_a_wheel_that_stands_on_the_ground(hands: Hands, qtbot: QtBot) -> None:
    window, session = hands.window, hands.window.session
    hands.first_start()
    qtbot.mouseClick(window.stations["object"].cards["wheel"], Qt.MouseButton.LeftButton)
    hands.write("Barrow wheel")
    hands.press(Keys.Key_2, CTRL)
    tape = window.stations["tape"]
    hands.write("1763")  # a millimetre tape, in an inch job: asked about, not taken
    assert session.open_job.readings == ()
    assert "1 763 in" in tape.field.note.text().replace("\u202f", " ")
    window.go_to(refs.reading("part_girth"))
    assert tape.field.line.text() == ""
    hands.write("36 1/2")
    window.go_to(refs.reading("part_girth"))
    tape.beside.setFocus()
    hands.write_over("4")
    window.go_to(refs.reading("width"))
    hands.write("3 1/4")
    window.go_to(refs.reading("hub"))
    hands.write("2 1/2")
    radius = 8.0
    for _ in range(60):  # the wheel whose arc above both marks is 36 1/2: r = arc / 2(π − acos((r − 4)/r))
        radius = 36.5 / (2 * (math.pi - math.acos((radius - 4) / radius)))
    assert session.draft.measured.numbers["diameter"].value / 25.4 == pytest.approx(2 * radius, abs=1e-6)  # type: ignore[union-attr]
    pdf = hands.print_it("A0", 2)
    disc = 2 * (radius + 1 / 2 + T / 2 + 1 / 2)
    first = session.draft.panels[0]  # type: ignore[union-attr]
    assert told(pdf, first.name)[0] == pytest.approx(sixteenth(disc))
    assert drawn(pdf, first.name)[0] == pytest.approx(disc, abs=0.005)


def test_what_was_typed_belongs_to_its_job(hands: Hands, qtbot: QtBot) -> None:
    window, session = hands.window, hands.window.session
    hands.first_start()
    hands.press(Keys.Key_2, CTRL)
    tape = window.stations["tape"]
    top_level = [w for w in QApplication.topLevelWidgets() if w.isVisible()]
    assert top_level == [window]
    qtbot.keyClicks(tape.field.line, "12 5/8")
    first = session.key
    hands.press(Keys.Key_N, CTRL)
    hands.press(Keys.Key_2, CTRL)
    assert tape.field.line.text() == ""
    hands.write("70")
    assert session.open_job.reading("girth").repeats == (pytest.approx(70 * 25.4),)  # type: ignore[union-attr]
    hands.press(Keys.Key_Z, CTRL)
    assert session.open_job.readings == ()
    session.open(first)
    assert tape.place == "girth" or tape.place == ""
    assert session.open_job.readings == ()
    hands.window.show_station("tape")
    hands.write("10")
    hands.write("655")
    if session.open_job.reading("drop") is None:
        hands.press(Keys.Key_Return)  # asked; it is so
    assert [f.code for f in session.draft.findings if f.severity.value != "note"], "a drum 10 round and 655 high is no drum"


def test_a_choice_that_is_not_what_it_reads_says_so_and_typing_it_takes_it(hands: Hands) -> None:
    window, session = hands.window, hands.window.session
    hands.first_start()
    hands.press(Keys.Key_2, CTRL)
    hands.write("69 7/16")
    hands.write("25 3/4")
    session.set(refs.SEAM_ALLOWANCE, 12.0, tr("from a metric pattern"))
    window.show_station("cover")
    window.go_to(refs.SEAM_ALLOWANCE)
    field = window.stations["cover"].fields[refs.SEAM_ALLOWANCE]
    assert field.line.text().replace("\u202f", " ") == "≈ 1/2"
    field.setFocus()
    hands.write_over("1/2")
    assert session.open_job.cover.seam_allowance == pytest.approx(12.7)
    assert field.line.text() == "1/2"


def test_a_drum_whose_stops_are_put_right_by_the_one_button(hands: Hands, qtbot: QtBot) -> None:
    """A port too near the lid, a hem deeper than the wall, a zip of which nobody said how long it is."""
    window, session = hands.window, hands.window.session
    hands.begin_drum("Brine drum", "69 7/16", "12 3/4")
    hands.press(Keys.Key_3, CTRL)
    cover = window.stations["cover"]
    qtbot.mouseClick(cover.adding.add_it, Qt.MouseButton.LeftButton)
    settle(window)
    for words, typed in (("port down from the top edge", "1/2"), ("port across", "3"), ("port right of centre", "-4 1/4")):
        field = next(f for f in cover.features.findChildren(TapeField) if f.isVisible() and f.line.accessibleName() == words)
        field.line.setFocus()
        hands.write_over(typed)
        settle(window)
    hands.decide(refs.choice("hem.width"), "14")
    session.set(refs.choice("closure.kind"), ClosureKind.ZIP, tr("a zip"))
    said = []
    while session.draft is not None and session.draft.stops:
        assert len(said) < 6
        session.try_all()
        said.append(window.tally.next.text.text())
        assert "mm" not in said[-1]
        qtbot.mouseClick(window.tally.next.button, Qt.MouseButton.LeftButton)
        settle(window)
    port, hem = session.open_job.cover.features[0], session.open_job.cover.hem
    for length in (port.from_top, port.from_centre, hem.width, session.open_job.cover.closure.length):
        assert length / 25.4 * 16.0 == pytest.approx(round(length / 25.4 * 16.0))  # all of it is round in inches
    assert port.from_centre / 25.4 == pytest.approx(-4.25)
    assert port.from_top / 25.4 == pytest.approx(1.5 + 3 / 8, abs=1 / 16 + 0.02)  # half the port, and its room
    assert any("port" in words for words in said)
    assert any("Hem" in words for words in said), said
    assert session.store.history(session.key)[1] >= len(said)  # type: ignore[arg-type]
    pdf = hands.print_it("A0", 2)
    u = 1 / 2 + T / 2
    ring = 69 + 7 / 16 + 2 * math.pi * u
    wall = ring + 2 * 1 / 2, 12.75 + u + 1 / 2 + hem.width / 25.4 + hem.turn_under / 25.4
    assert told(pdf, "wall") == pytest.approx([sixteenth(size) for size in wall])


def test_a_box_with_ease_by_direction_padding_and_a_pocket(hands: Hands, qtbot: QtBot) -> None:
    """By the dimension an inch across, an inch and a quarter along, a quarter on the drop; a quarter of padding; a pocket on the front."""
    window, session = hands.window, hands.window.session
    hands.begin_box('Mangle <b>"7"</b>')
    hands.write("A 15 1/2, B 9, C 12 1/4")
    hands.press(Keys.Key_3, CTRL)
    cover = window.stations["cover"]
    qtbot.mouseClick(next(c for c in cover.strip.cards if c.scheme.key == "five-panels"), Qt.MouseButton.LeftButton)
    window.go_to(refs.CLEARANCE_SCHOOL)
    settle(window)
    hands.press(Keys.Key_Down)
    settle(window)
    assert session.open_job.cover.clearance.school is ClearanceSchool.DIMENSION
    typed = ((refs.CLEARANCE, "1"), (refs.EASE_ALONG, "1 1/4"), (refs.EASE_DROP, "1/4"), (refs.PADDING, "1/4"))
    for field, words in typed:
        hands.decide(field, words)
    cover.choose(refs.choice())
    settle(window)
    cover.adding.kind.show_value("pocket")
    qtbot.mouseClick(cover.adding.add_it, Qt.MouseButton.LeftButton)
    settle(window)
    for part, words in (("width", "8 1/2"), ("height", "5 3/8"), ("from_top", "6"), ("from_centre", "-1 1/4")):
        cover.features.card.fields[part].line.setFocus()
        hands.write_over(words)
        settle(window)
    pocket = session.open_job.cover.features[0]
    kept = (pocket.width, pocket.height, pocket.from_top, pocket.from_centre)
    assert kept == pytest.approx([length * 25.4 for length in (8.5, 5.375, 6.0, -1.25)], abs=1e-9)
    pdf = hands.print_it("A0", 2)
    t = T + 1 / 4
    long, wide, high = 15.5 + 1.25 + t, 9 + 1 + t, 12.25 + 1 / 4 + t / 2
    front = long + 2 * 1 / 2, high + 1 / 2 + 1 + 5 / 8
    assert told(pdf, "top") == pytest.approx([sixteenth(size) for size in (long + 1, wide + 1)])
    assert told(pdf, "front wall") == told(pdf, "back wall") == pytest.approx([sixteenth(size) for size in front])
    assert told(pdf, "pocket") == pytest.approx([9.5, 5.375 + 1 / 2 + 3 / 4 + 3 / 8])
    assert drawn(pdf, "front wall") == pytest.approx(front, abs=0.005)
    assert "batting" in extract_text(io.BytesIO(pdf), page_numbers=[0])


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
