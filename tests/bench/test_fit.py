"""The Fit station in the window: a cover is tried on, measured, explained, altered, learnt from, made again."""

import io
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtWidgets import QAbstractButton, QApplication, QCheckBox, QDialog, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.atfit import at_fit, no_window_of_its_own, rest, told
from tests.bench.conftest import in_dialog
from tests.shop.test_photos import picture

from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.fit.again import AgainDialog, next_name
from omnipel.bench.stations.fit.family import FamilyDialog
from omnipel.bench.stations.fit.learnt import LearntDialog
from omnipel.bench.stations.fit.station import FitStation
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.job.trying import Deed, Stage, Went
from omnipel.core.words.phrases import mm, tr
from omnipel.shop.starter import starter
from omnipel.shop.timelog import person


def typed(qtbot: QtBot, station: FitStation, key: str, text: str) -> None:
    field = station.table.fields[key]
    field.setFocus()
    field.line.selectAll()
    qtbot.keyClicks(field.line, text)
    qtbot.keyClick(field.line, Qt.Key.Key_Return)
    QApplication.processEvents()


def test_a_cover_is_tried_on_by_keys_and_what_is_wrong_is_said_and_put_right(inch_window: Window, qtbot: QtBot) -> None:
    window, session = inch_window, inch_window.session
    qtbot.keyClick(window, Qt.Key.Key_7, Qt.KeyboardModifier.ControlModifier)
    assert window.here == "fit"
    station = window.stations["fit"]
    assert QApplication.focusWidget() is station.strip.another
    assert station.strip.another.accessibleName() == "+ first try-on"
    with no_window_of_its_own():
        qtbot.keyClick(station.strip.another, Qt.Key.Key_Space)
        QApplication.processEvents()
    assert session.open_job.tries[0].stage is Stage.FIRST
    assert len(session.open_job.tries[0].day) == 10
    went = station.form.went
    assert QApplication.focusWidget() is went[Went.NOT]
    qtbot.keyClick(went[Went.NOT], Qt.Key.Key_Space)
    assert session.open_job.tries[0].went is Went.NOT
    first = "edge:lower edge"
    assert first in list(station.table.fields)[:3]
    planned = station.table.fitting.sizes[first].planned.value
    typed(qtbot, station, first, "2x34 1/2")
    assert session.open_job.tries[0].made[first] == pytest.approx(69.0 * 25.4)
    assert "in" in station.table.offs[first].accessibleName()
    words = station.because.sentence.text()
    assert words.startswith("Lower edge, all around: ")
    assert "short over 1 seam" in words
    assert session.tell(tr("{by}", by=mm(planned - 69.0 * 25.4))) in words
    assert " mm" not in " · ".join(widget.accessibleName() for widget in station.findChildren(QWidget))
    typed(qtbot, station, "panel:lid/across", "69")
    assert station.table.fields["again:girth"].line.hasFocus()  # Enter goes on to the next
    assert "measure it again" in station.because.sentence.text()
    session.undo()
    for wrong in ("abc", "-3", "1e12"):
        typed(qtbot, station, first, wrong)
        assert session.open_job.tries[0].made[first] == pytest.approx(69.0 * 25.4)
    rest(window, qtbot)
    assert window.tally.fitted.went.value.text() == "does not go on"
    assert window.tally.goes_on.isHidden()
    assert "less" in window.tally.fitted.made.value.text()
    assert window.rail.buttons["fit"].stands == "does not go on"

    _strip_in(window, qtbot, station)


def _strip_in(window: Window, qtbot: QtBot, station: FitStation) -> None:
    """A strip is chosen: drafted, judged, sewn; and taken back."""
    session, righting = window.session, station.fitting.righting
    strip = next(option for option in righting.options if option.what.deed is Deed.STRIP)
    tick = station.righted.ticks[Deed.STRIP, strip.what.on]
    before = sewing_of(session).plan
    qtbot.keyClick(tick, Qt.Key.Key_Space)
    assert [one.deed for one in session.open_job.alterations] == [Deed.STRIP]
    assert session.open_job.alterations[0].since == session.open_job.tries[0].id
    draft = session.draft
    assert isinstance(draft, Drafted)
    assert "strip 1" in {panel.name for panel in draft.panels}
    rest(window, qtbot)
    assert window.tally.fitted.after.value.text() == "goes on"
    plan = sewing_of(session).plan
    assert plan is not None
    assert before is not None
    assert len([s for s in plan.steps if s.key.startswith("alter:1/")]) >= 4
    assert plan.span().likely > before.span().likely
    station.righted.to_sew.click()
    assert window.here == "sew"
    assert window.stations["sew"].step.key.startswith("alter:1/")
    session.undo()
    assert session.open_job.alterations == ()
    window.show_station("panels")
    assert "strip 1" not in window.stations["panels"].size_names()
    assert window.tally.goes_on.under.text() == "as drafted · when tried on: does not go on"


def test_the_sew_station_and_fit_write_into_the_same_try_on(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    station = at_fit(sample_window, "Press motor")
    station.strip.another.click()
    key = "edge:lower edge"
    typed(qtbot, station, key, "1690")
    sample_window.show_station("sew")
    sew = sample_window.stations["sew"]
    plan = sew.sewing.plan
    stop = next(step for step in plan.steps if step.stop)
    sew._look(stop.number)
    assert sew.card.made.fields[key].stored == 1690.0
    sew.card.made._measured(station.fitting.sizes[key], 1695.0)
    assert [one.made for one in session.open_job.tries] == [{key: 1695.0}]
    sample_window.show_station("fit")
    assert station.table.fields[key].stored == 1695.0


def test_days_words_and_places_are_kept_and_what_is_no_day_is_refused(sample_window: Window, qtbot: QtBot) -> None:
    station = at_fit(sample_window, "Press motor")
    session, form = sample_window.session, station.form
    station.strip.another.click()
    day = session.open_job.tries[0].day
    for wrong in ("yesterday", "2026-13-40", "31.12."):
        form.day.setText(wrong)
        form.day.editingFinished.emit()
        assert session.open_job.tries[0].day == day == form.day.text()
    form.day.setText("2026-10-14")
    form.day.editingFinished.emit()
    form.words.setFocus()
    qtbot.keyClicks(form.words, "pulls at the cable")
    qtbot.keyClick(form.words, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    form.stage.activated.emit(form.stage.values.index(Stage.FINISHED))
    one = session.open_job.tries[0]
    assert (one.day, one.words, one.stage) == ("2026-10-14", "pulls at the cable", Stage.FINISHED)
    view = station.picture.view
    qtbot.waitUntil(lambda: view.seen is not None and view.isVisible(), timeout=5000)
    middle = QPoint(view.width() // 2, view.height() // 2)
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=middle)
    (spot,) = session.open_job.tries[0].spots
    draft = session.draft
    assert isinstance(draft, Drafted)
    assert spot.piece in draft.cover.flat
    assert view._on_screen(view.spots[0][1]).toPoint().manhattanLength() == pytest.approx(middle.manhattanLength(), abs=4)
    assert "1 place" in station.picture.where.text()
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=middle)
    assert session.open_job.tries[0].spots == ()
    form.gone.click()
    assert session.open_job.tries == ()
    assert not form.isVisible()
    session.undo()
    assert session.open_job.tries[0].words == "pulls at the cable"


def press(dialog: QDialog, name: str) -> None:
    next(b for b in dialog.findChildren(QAbstractButton) if b.accessibleName() == name).click()
    QApplication.processEvents()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def test_lines_are_switched_off_and_forgotten_and_proposals_follow(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    station = at_fit(sample_window, "Honey extractor")
    rest(sample_window, qtbot)
    fitting = station.fitting
    line = fitting.experience.lines["seam:canvas"]
    assert line.n >= 3
    assert "your seams on canvas" in told(station.learnt)
    assert any(finding.code == "learnt" for finding in fitting.findings)
    cards = [card for card in sample_window.tally.cards if card.finding.code == "learnt"]
    assert cards
    dialog = LearntDialog(sample_window, session, fitting)
    qtbot.addWidget(dialog)
    dialog.show()
    assert "West butt" in told(dialog)
    assert "3 covers" not in told(dialog).replace(f"{line.n} covers", "")
    box = next(b for b in dialog.findChildren(QCheckBox) if "seams on canvas" in b.accessibleName())
    box.click()
    assert fitting.experience.line("seam:canvas") is None
    assert not any(tr("seams").template in session.tell(f.text) for f in fitting.findings)
    fitting.switch("seam:canvas", True)
    press(dialog, "Forget so far: your seams on canvas")
    assert "seam:canvas" not in fitting.experience.lines
    press(dialog, "Count all again: your seams on canvas")
    assert fitting.experience.lines["seam:canvas"].now == line.now
    remedy = next(f for f in fitting.findings if "seams on canvas" in session.tell(f.text)).remedies[0]
    session.remedy(remedy)
    assert session.open_job.cover.seam_take == pytest.approx(line.now.mean, abs=0.05)
    sample_window.show_station("panels")
    sums = [term.name for panel in session.draft.panels for term in panel.cut_width.terms]  # type: ignore[union-attr]
    assert "your seams on canvas" in {session.tell(name) for name in sums}
    sewing = sewing_of(session)
    factors = dict(sewing.person.factors)
    assert factors
    for act, there in (("used: your minutes", False), ("used: your minutes", True), ("Forget so far: your minutes", False),
                       ("Count all again: your minutes", True)):  # fmt: skip
        press(dialog, act)
        assert dict(sewing.person.factors) == (factors if there else {})
        assert person(session.store) == sewing.person
    dialog.reject()


def test_made_again_by_the_dialog_with_what_is_ticked(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    station = at_fit(sample_window, "West butt")
    rest(sample_window, qtbot)
    old = session.open_job
    assert "the girth was read 3 5/16 in short" in station.because.sentence.text()

    def act(dialog: AgainDialog) -> None:
        assert dialog.name.text() == "West butt 3"  # 2 is there already
        words = [session.tell(one.words) for one in dialog.proposed]
        assert any(text.startswith("girth: 77") for text in words), words
        assert "before" in told(dialog)
        assert "+ " in told(dialog)
        ticks = [box for box in dialog.findChildren(QCheckBox) if ":" in box.accessibleName() and box is not dialog.same]
        off = next(box for box in ticks if "seams" in box.accessibleName())
        qtbot.mouseClick(off, Qt.MouseButton.LeftButton, pos=QPoint(8, off.height() // 2))
        dialog.made.click()

    in_dialog(AgainDialog, act)
    station.learnt.again.click()
    new = session.open_job
    assert new.name == "West butt 3"
    assert new.kin.again_of == "West butt"
    assert new.kin.thing == old.kin.thing != ""
    assert next(r for r in new.readings if r.place == "girth").repeats == (pytest.approx(1974.85),)
    assert new.cover.seam_take == 0.0
    assert new.tries == ()
    assert sample_window.here == "panels"
    assert next_name(old, {"West butt"}) == "West butt 2"


def test_a_family_is_made_in_several_sizes(inch_window: Window, qtbot: QtBot) -> None:
    session = inch_window.session

    def act(dialog: FamilyDialog) -> None:
        for text in ("60", "80 1/2", "80 1/2", "wrong"):
            dialog.more.setFocus()
            dialog.more.line.selectAll()
            qtbot.keyClicks(dialog.more.line, text)
            qtbot.keyClick(dialog.more.line, Qt.Key.Key_Return)
        assert len(dialog.sizes) == 2
        assert "×" in told(dialog)
        dialog.make.click()

    in_dialog(FamilyDialog, act)
    inch_window.run_command("family")
    names = {card.name for card in session.store.cards()}
    assert len(names) == 3
    assert session.open_job.kin.family
    assert session.open_job.readings[0].repeats == (pytest.approx(80.5 * 25.4),)


def test_what_is_not_drafted_says_so_and_a_station_of_nothing_shows_nothing(
    open_window: Callable[..., Window], tmp_path: Path
) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(starter("drum", "wall-and-lid", with_readings=False), tr("new"))
    station = at_fit(window)
    assert station.empty.isVisible()
    assert not station.inner.isVisible()
    assert window.tally.fitted.went.value.text() == "not yet"
    job = starter("cap-body", "cap")
    window.session.add(replace(job, name="Cap"), tr("new"))
    window.show_station("fit")
    station.strip.another.click()
    station.form._went(Went.STRUGGLES)
    assert station.fitting.righting is not None
    assert isinstance(station.window(), Window)
    assert not isinstance(station.window(), QDialog)
    assert Image.open(io.BytesIO(picture())).size == (300, 200)
