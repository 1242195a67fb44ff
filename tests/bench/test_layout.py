"""All sample jobs at all stations, light and dark, 90 to 160 % text, two window sizes: no text cut off, nothing over anything; colours that
can be read."""

from dataclasses import dataclass

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QFontMetrics
from PySide6.QtWidgets import QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle
from tests.bench.layout import faults
from tests.wild import one_in, some

from omnipel.bench.commands.dress import set_dark, set_scale
from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.look import DARK, LIGHT, LOOK
from omnipel.bench.stations.cover.parts import CLOTH, LAYERS, WHOLE
from omnipel.bench.stations.cover.schemes import SchemeCard
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr


@dataclass(frozen=True)
class Look:
    """How a window is looked at."""

    size: tuple[int, int]
    scale: float
    dark: bool


@pytest.mark.parametrize(
    ("size", "scale", "dark", "first"),
    [
        ((1280, 800), 1.0, False, 0),
        ((1024, 720), 1.5, False, 3),
        ((1024, 720), 1.0, True, 1),
        ((1280, 800), 1.5, False, 2),
        ((1600, 1000), 1.6, True, 4),
        ((1024, 720), 0.9, False, 5),
    ][:: one_in(2)],
)
def test_every_job_at_every_station(
    sample_window: Window, qtbot: QtBot, size: tuple[int, int], scale: float, dark: bool, first: int
) -> None:
    """Each size with some of the jobs, by turns."""
    sample_window.resize(*size)
    set_dark(sample_window, dark)
    set_scale(sample_window, scale)
    settle(sample_window)
    found = {("shelf", ""): faults(sample_window)}
    for card in sample_window.session.store.cards()[first :: one_in(24)]:
        sample_window.session.open(card.id)
        sample_window.session.try_all()
        for station in ("object", "tape", "cover", "panels", "cloth", "sew", "fit"):
            sample_window.show_station(station)
            at_rest(sample_window, qtbot)
            if station == "panels" and sample_window.session.draft and sample_window.session.draft.seams:
                sample_window.go_to(refs.seam(sample_window.session.draft.seams[0].seam.name))
                QApplication.processEvents()
            found[(station, card.name)] = faults(sample_window)
    wrong = {place: what for place, what in found.items() if what}
    assert not wrong, "\n".join(f"{place}: {what[:3]}" for place, what in list(wrong.items())[:12])


@pytest.mark.parametrize("colours", [LIGHT, DARK])
def test_text_can_be_read_on_every_ground(colours: object) -> None:
    def luminance(colour: str) -> float:
        parts = [int(colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
        linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    def contrast(a: str, b: str) -> float:
        high, low = sorted((luminance(getattr(colours, a)), luminance(getattr(colours, b))), reverse=True)
        return (high + 0.05) / (low + 0.05)

    for ground in ("ground", "surface", "glow"):
        for text in ("ink", "soft", "accent", "look", "stop", "fine"):
            if ground != "glow" or text in ("ink", "soft"):
                assert contrast(text, ground) >= 4.5, (text, ground)
    assert contrast("on_accent", "accent") >= 4.5


@pytest.mark.parametrize(
    ("job", "look"),
    some(
        ["Honey extractor", "Sprayer pump case", "Bottling trolley", "Fermenting crock", "Sorting turntable"],
        [Look((1280, 800), 1.0, False), Look((1024, 720), 1.0, True), Look((1280, 800), 1.5, False)],
        of=8,
    ),
)
def test_every_part_of_a_cover_at_its_station(sample_window: Window, qtbot: QtBot, job: str, look: Look) -> None:
    sample_window.resize(*look.size)
    set_dark(sample_window, look.dark)
    set_scale(sample_window, look.scale)
    open_job(sample_window, job, "cover")
    sample_window.session.try_all()  # else remedies come while one looks
    cover = sample_window.stations["cover"]
    wrong = {}
    for ref in list(cover.tree.every()):
        cover.choose(ref)
        at_rest(sample_window, qtbot)
        found = faults(sample_window)
        if found:
            wrong[str(ref)] = found[:3]
    assert not wrong, wrong


@pytest.mark.parametrize(
    ("size", "scale"), [((1024, 720), 1.5), ((1280, 800), 1.5), ((1024, 720), 1.0), ((1500, 950), 1.0)][:: one_in(2)]
)
def test_every_step_can_be_read_whole(sample_window: Window, qtbot: QtBot, size: tuple[int, int], scale: float) -> None:
    """What is done and what is to be minded stands there in full; what has no room is a page further down."""
    sample_window.resize(*size)
    set_scale(sample_window, scale)
    open_job(sample_window, "Rain butt", "sew")
    at_rest(sample_window, qtbot)
    station = sample_window.stations["sew"]
    card, page = station.card, station.page
    turned = 0
    for step in sample_window.stations["sew"].sewing.plan.steps[:: one_in(3)]:
        sample_window.go_to(refs.step(step.key))
        at_rest(sample_window, qtbot)
        assert page.verticalScrollBar().value() == 0, step.key  # another step is read from its beginning
        assert faults(sample_window) == [], step.key
        assert card.width() <= page.viewport().width(), step.key
        inner = card.rest.inner
        least = inner.heightForWidth(inner.width()) if inner.hasHeightForWidth() else inner.minimumSizeHint().height()
        assert inner.height() >= least - 2, step.key
        if card.picture.isVisible():
            assert card.picture.height() >= 110, step.key
            assert card.picture.geometry().bottom() <= card.height(), step.key
        bars = [bar for bar in (page.verticalScrollBar(), card.rest.verticalScrollBar()) if bar.maximum()]
        assert len(bars) <= 1, step.key  # nothing scrolls in what scrolls
        station.inner.setFocus()
        for bar in bars:
            for _ in range(2 + bar.maximum() // bar.pageStep()):
                qtbot.keyClick(station.inner, Qt.Key.Key_PageDown)
            assert bar.value() == bar.maximum(), step.key
            turned += 1
    if scale > 1.0:
        assert turned
    qtbot.keyClick(station.inner, Qt.Key.Key_O)  # the whole order of work
    at_rest(sample_window, qtbot)
    plan = station.plan_mode
    assert faults(sample_window) == []
    low = card.rest.whole
    set_scale(sample_window, 1.0 if scale > 1.0 else 1.6)  # while one is there: it stands as if one had come with it
    set_scale(sample_window, scale)
    at_rest(sample_window, qtbot)
    assert card.rest.whole == low
    assert faults(sample_window) == []
    assert plan.table.height() >= LOOK.px(190)
    assert plan.width() <= station.table.width()
    assert plan.table.isColumnHidden(4) == (plan.table.viewport().width() < LOOK.px(440))
    assert plan.why.mapTo(plan, plan.why.rect().bottomLeft()).y() <= plan.show_it.y()
    assert plan.paces.geometry().bottom() <= plan.height()


@pytest.mark.parametrize("station", ["cloth", "tape", "cover", "panels"][:: one_in(4)])
def test_text_made_larger_and_small_again_leaves_everything_where_it_was(
    sample_window: Window, qtbot: QtBot, station: str
) -> None:
    def places() -> list[tuple[str, tuple[int, ...]]]:
        sample_window.session.try_all()
        cards = [card for card in sample_window.findChildren(SchemeCard) if card.isVisible()]
        cloth = sample_window.session.cloth  # all this is drafted, laid and looked for behind the window
        qtbot.waitUntil(
            lambda: all(card.lines for card in cards) and (station == "shelf" or cloth.current is not None), timeout=60_000
        )
        fitting = fitting_of(sample_window.session)
        qtbot.waitUntil(lambda: not fitting.waiting and sample_window.session.works.idle, timeout=60_000)
        if station == "cloth":
            qtbot.waitUntil(
                lambda: cloth.advising is not None and cloth.advising.of is cloth.current and cloth.advising.done, timeout=60_000
            )
        for _ in range(20):  # a layout may ask for another
            settle(sample_window)
        seen = [w for w in sample_window.findChildren(QWidget) if w.isVisible() and w.width() > 0]
        here = [
            (f"{type(w).__name__} {w.accessibleName()} {w.text() if isinstance(w, QLabel) else ''}", w.geometry().getRect())
            for w in seen
        ]
        return sorted(here)  # type: ignore[arg-type]

    def moved(before: list[tuple[str, tuple[int, ...]]]) -> list[tuple[str, tuple[int, ...], tuple[int, ...]]]:
        now = places()
        assert [name for name, _ in now] == [name for name, _ in before]
        far = 4  # Qt reckons with the frame of a tick box once or twice
        both = zip(before, now, strict=True)
        return [(name, a, b) for (name, a), (_, b) in both if max(abs(x - y) for x, y in zip(a, b, strict=True)) > far]

    sample_window.resize(1100, 760)
    open_job(sample_window, "Press motor", station)
    before = places()
    for scale, width in ((1.6, 1100), (1.0, 1024), (1.0, 1500), (1.0, 1100)):
        set_scale(sample_window, scale)
        sample_window.resize(width, 760)
        settle(sample_window)
    assert moved(before) == []
    open_job(sample_window, "Rain butt", station)
    set_scale(sample_window, 1.6)
    open_job(sample_window, "Press motor", station)  # what asks about its cover is made anew, with large text
    set_scale(sample_window, 1.0)
    assert moved(before) == []


@pytest.mark.parametrize("part", range(4))
def test_what_decides_a_cover_and_all_its_seams_and_edges_needs_no_scrolling(sample_window: Window, part: int) -> None:
    for card in sample_window.session.store.cards()[part :: 4 * one_in(6)]:
        open_job(sample_window, card.name, "cover")
        _unscrolled(sample_window, card.name)


def _unscrolled(window: Window, job: str) -> None:
    station, draft = window.stations["cover"], window.session.draft
    joins = draft.cover.joins if isinstance(draft, Drafted) else ()
    for ref in (WHOLE, CLOTH, LAYERS, *map(refs.seam, joins), *map(refs.edge, station.edges.names)):
        station.choose(ref)
        for _ in range(6):
            QApplication.processEvents()
        page = station.pages.currentWidget()
        assert page.verticalScrollBar().maximum() == 0, (job, ref)


@pytest.mark.parametrize("dark", [False, True])
def test_with_large_text_the_chosen_part_stands_below_its_picture_both_in_sight(sample_window: Window, dark: bool) -> None:
    set_dark(sample_window, dark)
    set_scale(sample_window, 1.5)
    open_job(sample_window, "Bottling trolley", "cover")
    station = sample_window.stations["cover"]
    viewport = station.columns.viewport()

    def seen(widget: QWidget) -> int:
        """How much of its height is in sight, px."""
        top = widget.mapTo(viewport, widget.rect().topLeft()).y()
        return min(top + widget.height(), viewport.height()) - max(top, 0)

    assert station.columns.stacked
    for ref in (refs.seam("wall to top"), refs.panel("wall"), WHOLE):
        station.choose(ref)
        settle(sample_window)
        assert seen(station.picture.sketch) == station.picture.sketch.height() >= 150
        assert seen(station.title) == station.title.height()
        assert seen(station.pages) >= 130
        assert station.way.mapTo(viewport, station.way.rect().topLeft()).y() > station.pages.mapTo(viewport, QPoint(0, 0)).y()
    set_scale(sample_window, 1.0)
    settle(sample_window)
    assert not station.columns.stacked
    assert station.left.indexOf(station.way) == 1
    assert station.above.height() > 300


def test_the_name_of_a_scheme_is_written_out(sample_window: Window) -> None:
    names = set()
    for job in ("Bottling trolley", "Wax melter cosy", "Settling tank", "Bench cushion"):
        open_job(sample_window, job, "cover")
        for card in sample_window.stations["cover"].strip.cards:
            (words, font), *_ = card._written()
            assert QFontMetrics(font).horizontalAdvance(words) <= card.width() - LOOK.px(62) - 22, words
            names.add(words.removeprefix("✓ "))
    assert len(names) > 8


def test_what_cannot_be_done_yet_at_panels_is_grey(sample_window: Window) -> None:
    open_job(sample_window, "Feed bin", "panels")
    station = sample_window.stations["panels"]
    assert not station.by_hand.isEnabled()
    assert not station.print_it.isEnabled()
    assert not station.where.isVisible()
    assert station.empty.isVisible()
    open_job(sample_window, "Rain butt", "panels")
    assert station.by_hand.isEnabled()
    assert station.print_it.isEnabled()
    assert station.where.isVisible()
    assert not station.empty.isVisible()


def test_in_the_tally_only_what_has_changed_is_marked(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Platform scale", "cover")
    tally = sample_window.tally
    lines = (tally.goes_on, tally.seams, tally.cloth)
    assert not any(line.timer.isActive() for line in lines)
    qtbot.waitUntil(lambda: sample_window.session.cloth.current is not None, timeout=30_000)
    sample_window.session.set(refs.choice("clearance.amount"), 21.0, tr("gap"))
    assert [line.timer.isActive() for line in lines] == [True, False, False]  # how much cloth that takes is reckoned
    qtbot.waitUntil(tally.cloth.timer.isActive, timeout=30_000)
    open_job(sample_window, "Press motor", "cover")  # another job is no change
    assert not any(line.timer.isActive() for line in lines)
