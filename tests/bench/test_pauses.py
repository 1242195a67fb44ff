"""What is made in pauses, or only when it is looked at, is there in time and as the job stands; and rows of words that hold their numbers together."""

import re
import threading
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPointF
from PySide6.QtGui import QTextLayout, QTextOption
from PySide6.QtWidgets import QApplication, QLabel
from pytestqt.qtbot import QtBot
from shiboken6 import delete
from tests.bench.conftest import open_job, settle
from tests.wild import tried

from omnipel.bench.deliverer import while_there
from omnipel.bench.parts.wrapped import Wrapped
from omnipel.bench.pictures import Asked, Made, made
from omnipel.bench.stations import STATIONS
from omnipel.bench.stations.cover.parts import CLOTH, LAYERS, WHOLE
from omnipel.bench.stations.cover.schemes import with_scheme
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job, LiningSchool
from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.seen import Seen
from omnipel.core.pictures.worn import worn
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.typeset import held
from omnipel.core.words.units import Unit
from omnipel.shop.starter import starter


def test_stations_are_made_in_pauses_and_never_while_somebody_types(
    sample_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = sample_window
    monkeypatch.setattr("omnipel.bench.deliverer.PAUSE_S", 600.0)  # whatever the machine does meanwhile
    assert set(window.stations) == {"shelf"}
    window.session.open(window.session.store.cards()[0].id)
    window.show_station("object")
    window.session.pace.busy()
    for _ in range(20):
        qtbot.wait(10)
    assert set(window.stations) == {"shelf", "object"}
    monkeypatch.setattr("omnipel.bench.deliverer.PAUSE_S", 0.01)
    window.session.pace.busy()
    qtbot.waitUntil(lambda: set(window.stations) == {"shelf", *STATIONS}, timeout=60_000)
    assert window.here == "object"
    assert window.stack.currentWidget() is window.stations["object"]
    qtbot.waitUntil(lambda: not window.loading.isActive(), timeout=60_000)
    made = dict(window.stations)
    for key in STATIONS:
        window.show_station(key)
        settle(window)
    assert window.stations == made


@pytest.mark.parametrize(
    ("page", "ref", "value", "unit"),
    [
        (CLOTH, refs.SEAM_ALLOWANCE, 17.0, Unit.MM),
        (CLOTH, refs.CLOTH_WIDTH, 1270.0, Unit.INCH_16),
        (LAYERS, refs.PADDING, 4.0, Unit.MM),
        (LAYERS, refs.QUILTING_ACROSS, 0.03, Unit.MM),
        (WHOLE, refs.CLEARANCE, 19.0, Unit.MM),
    ],
)
def test_a_page_that_was_not_looked_at_shows_the_job_when_it_is(
    sample_window: Window, page: refs.Ref, ref: refs.Ref, value: float, unit: Unit
) -> None:
    open_job(sample_window, "Sprayer pump case", "cover")
    session, station = sample_window.session, sample_window.stations["cover"]
    session.set(refs.of_job("unit"), unit, tr("unit"))

    def shown() -> str:
        station.choose(page)
        settle(sample_window)
        field = {WHOLE: station.whole, CLOTH: station.cloth, LAYERS: station.layers}[page].fields[ref]
        assert field.isVisible()
        return str(field.line.text() if hasattr(field, "line") else field.text())

    before = shown()
    station.choose(CLOTH if page == WHOLE else WHOLE)
    session.set(ref, value, tr("from elsewhere"))
    settle(sample_window)
    after = shown()
    assert after != before
    station.choose(CLOTH if page == WHOLE else WHOLE)
    session.undo()
    settle(sample_window)
    assert shown() == before
    # And what a layer asks is there as soon as there is that layer.
    station.choose(WHOLE)
    assert refs.LINING_WIDTH in station.field_words()
    job = session.open_job
    none = replace(job.cover, lining=replace(job.cover.lining, school=LiningSchool.NONE), padding=0.0)
    session.apply(replace(job, cover=none), tr("one layer"))
    assert refs.PADDING_MATERIAL not in station.field_words()
    station.go_to(refs.PADDING)
    assert station.chosen == LAYERS
    settle(sample_window)
    assert station.layers.fields[refs.PADDING].isAncestorOf(QApplication.focusWidget())


lengths = st.builds(
    lambda whole, over, under, unit: f"{whole} {over}/{under}{unit}",
    st.integers(1, 999),
    st.integers(1, 63),
    st.sampled_from([2, 4, 8, 16, 32, 64]),
    st.sampled_from(["", " in"]),
) | st.builds(lambda n, unit: f"{n} {unit}", st.integers(1, 9999), st.sampled_from(["mm", "cm", "m", "in", "g"]))
words = st.sampled_from(["cut", "around, wider by", "and (hem)", "2 cords of", "at mark 3:", "≈", "the lower edge lies"])


@tried(60)
@given(st.lists(lengths | words, min_size=3, max_size=14), st.integers(40, 400))
def test_no_row_of_words_ends_within_a_number(parts: list[str], wide: int) -> None:
    text = " ".join(parts)
    made = Wrapped(text)
    assert made.text() == text
    assert QLabel.text(made) == held(text)
    assert held(text).replace("\u00a0", " ") == text
    layout = QTextLayout(QLabel.text(made), made.font())
    option = QTextOption()
    option.setWrapMode(QTextOption.WrapMode.WordWrap)
    layout.setTextOption(option)
    layout.beginLayout()
    rows: list[str] = []
    while (line := layout.createLine()).isValid():
        line.setLineWidth(wide)
        line.setPosition(QPointF(0.0, 0.0))
        rows.append(QLabel.text(made)[line.textStart() : line.textStart() + line.textLength()])
    layout.endLayout()
    assert "".join(rows) == held(text)
    for row, following in zip(rows, rows[1:], strict=False):
        if re.search(r"\d $", row):  # a number may end a row where nothing belongs to it
            assert not re.match(r"\d+/\d|(mm|cm|m|in|g)\b", following)


def test_the_whole_picture_is_made_behind_the_window_and_only_of_the_job_as_it_stands(
    sample_window: Window, qtbot: QtBot
) -> None:
    open_job(sample_window, "Juice flagon", "cover")
    session, sketch = sample_window.session, sample_window.stations["cover"].picture.sketch
    threads: list[str] = []

    def noted(asked: Asked) -> Made:
        threads.append(threading.current_thread().name)
        return made(asked)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("omnipel.bench.parts.coverview.made", noted)
        for amount in (14.0, 17.0):
            session.set(refs.ANY_CLEARANCE.at("amount"), amount, tr("clearance"))
            assert sketch.soon.isActive()  # what is written comes first
            before = sketch.scene
            qtbot.waitUntil(lambda: not sketch.soon.isActive(), timeout=60_000)
            assert sketch.scene is not before
            assert not sketch.scene.patient  # seen as soon as nothing else is to be done, whatever hides what
            assert not session.pictures.ready()
        sketch.turn(0.4, 0.1)
        qtbot.waitUntil(lambda: sketch.scene.patient, timeout=60_000)
    assert threads == [threads[0]] != [threading.current_thread().name]  # once, for what was changed last
    draft = session.draft
    assert isinstance(draft, Drafted)
    right = Seen(worn(draft.cover, draft.body, draft.job.thing.sticks_out), sketch.view).drawing(sketch.shining)
    shown = Drawing(tuple(item for item in sketch.drawing.items if isinstance(item, Path) and item.layer is not Layer.TAPE))
    assert [(p.layer, p.fill, len(p.points)) for p in shown.items] == [(p.layer, p.fill, len(p.points)) for p in right.items]
    sample_window.show_station("panels")
    sample_window.show_station("cover")
    assert sketch.scene.patient  # it is not made again


def test_what_was_compared_or_undone_is_not_drafted_again(
    sample_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    sample_window.session.add(starter("drum", "wall-and-lid"), tr("new"))
    sample_window.show_station("cover")
    session, station = sample_window.session, sample_window.stations["cover"]
    others = [card for card in station.strip.cards if card.scheme.key != session.open_job.cover.scheme]
    qtbot.waitUntil(lambda: all(card.lines or card.why for card in others), timeout=60_000)
    before, jobs = session.draft, [made.job for made in session.drafts.lately]
    assert isinstance(before, Drafted)
    drafted: list[Job] = []
    monkeypatch.setattr("omnipel.core.draft.draft", lambda job: drafted.append(job) or draft(job))
    chosen = next(card for card in others if card.lines)
    assert with_scheme(session.open_job, chosen.scheme) in jobs
    chosen.click()
    assert session.open_job.cover.scheme == chosen.scheme.key
    assert session.open_job not in drafted
    fresh = draft(session.open_job)
    assert isinstance(fresh, Drafted)
    assert isinstance(session.draft, Drafted)
    assert [(p.name, p.cut_length.value) for p in session.draft.panels] == [(p.name, p.cut_length.value) for p in fresh.panels]
    session.undo()
    assert session.open_job not in drafted
    assert isinstance(session.draft, Drafted)
    assert session.draft.cover is before.cover


def test_what_was_made_for_what_is_gone_is_dropped(qapp: QApplication) -> None:
    asker, got = QLabel(), list[int]()
    taken = while_there(asker, got.append)
    taken(1)
    delete(asker)
    taken(2)
    assert got == [1]
