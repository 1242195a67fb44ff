"""Whole jobs in inches, from the first start of an empty shop to the paper; the cut sizes are read back from the paper.

What is expected is reckoned here from the trade's formulas, with pencil-and-paper numbers, not asked of the program.
"""

import io
import math

import pytest
from pdfminer.high_level import extract_text
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.bench.frompaper import T, drawn, sixteenth, told
from tests.bench.hands import CTRL, Hands, Keys

from omnipel.bench.parts.tapefield import TapeField
from omnipel.core.job.document import ClearanceSchool, ClosureKind
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit


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
    field = window.stations["cover"].decides()[refs.SEAM_ALLOWANCE]
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
