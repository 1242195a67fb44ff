"""A form, a scheme, an export and a station from outside the program run through all of it: core, files, papers, command line, window."""

import io
import json
import math
from collections.abc import Callable
from pathlib import Path

import pytest
from pdfminer.high_level import extract_text
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from omnipel.bench.commands.explaining import HelpDialog
from omnipel.bench.commands.goto import goals
from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.stations import STATIONS
from omnipel.bench.window.window import Window
from omnipel.cli import main
from omnipel.core.advice.measuring import Measuring
from omnipel.core.covers import SCHEMES, lawful_pairs, schemes_for
from omnipel.core.draft import Drafted, draft
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.forms import FORMS
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.document import read, write
from omnipel.shop.starter import starter
from tests import toys
from tests.bench.conftest import in_dialog, open_window, settle
from tests.core.covers.test_slopes import check, everything_read
from tests.core.drafting.test_one_size import measured_alike
from tests.exchange.printed import pdf

__all__ = ["open_window"]


@pytest.fixture(autouse=True)
def toy(monkeypatch: pytest.MonkeyPatch) -> None:
    """One registry line each."""
    monkeypatch.setitem(FORMS, toys.FORM.key, toys.FORM)
    monkeypatch.setitem(SCHEMES, toys.SCHEME.key, toys.SCHEME)
    monkeypatch.setitem(EXPORTS, toys.EXPORT.id, toys.EXPORT)
    monkeypatch.setitem(CONSTRUCTIONS, toys.CONSTRUCTION.key, toys.CONSTRUCTION)
    monkeypatch.setitem(KINDS, toys.KIND.key, toys.KIND)
    monkeypatch.setitem(STATIONS, "whiteboard", toys.STATION)


def test_what_the_form_offers_brings_the_schemes() -> None:
    assert {("half-log", "blanket"), ("half-log", "traced-ends"), ("box", "blanket"), ("traced", "traced-ends")} <= set(
        lawful_pairs()
    )
    assert "wall-and-lid" not in [scheme.key for scheme in schemes_for(toys.FORM)]


@pytest.mark.parametrize("scheme", ["blanket", "traced-ends"])
def test_it_drafts_with_true_slopes_and_sizes(scheme: str) -> None:
    job = starter("half-log", scheme)
    drafted = draft(job)
    assert isinstance(drafted, Drafted), [str(f.text) for f in drafted.findings]
    assert check(job) > 3
    assert check(everything_read(job), 3e-3) > 3
    for panel in drafted.panels:
        measured_alike(panel)
    if scheme == "blanket":
        u = job.cover.clearance.amount + job.cover.cloth.thickness / 2
        assert drafted.cover.sizes["blanket_length"].value == pytest.approx(942.0 + math.pi * u, abs=1e-6)
        assert [h.length.value for h in drafted.cover.hardware if h.length] == [1600.0]


def test_its_readings_check_one_another() -> None:
    job = starter("half-log", "blanket", with_readings=False)
    assert [place.key for place in Measuring(job).to_take] == ["over", "length"]
    found = Measuring(starter("half-log", "blanket")).best_check
    assert found is not None
    assert (found.place.key, found.checks) == ("edges", 2)


def test_files_papers_and_command_line_know_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["new", "half-log", "blanket", "--unit", "in/16", "-o", str(tmp_path / "log.json")]) == 0
    job = read(tmp_path / "log.json")
    assert job.unit is Unit.INCH_16
    write(job, tmp_path / "again.json")
    assert read(tmp_path / "again.json") == job
    assert main(["draft", str(tmp_path / "log.json"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [panel["name"] for panel in told["panels"]] == ["blanket"]
    assert main(["export", str(tmp_path / "log.json"), "--pdf", str(tmp_path / "log.pdf"), "--paper", "A0"]) == 0
    assert "blanket" in extract_text(str(tmp_path / "log.pdf"), page_numbers=[0])
    card = pdf(draft(job), "card", "A4")
    assert "Over the arch" in extract_text(io.BytesIO(card)) or "over the arch" in extract_text(io.BytesIO(card))
    assert main(["new", "--list"]) == 0
    assert "half-log blanket" in capsys.readouterr().out


def test_the_window_shows_it_from_first_start_to_paper(open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    session = window.session
    session.store.set("unit", "in/16")
    window.run_command("new")
    qtbot.mouseClick(window.stations["object"].cards["half-log"], Qt.MouseButton.LeftButton)
    assert session.open_job.thing.form == "half-log"
    window.show_station("tape")
    tape = window.stations["tape"]
    tape.readings.card.setText("A 37 1/2, B 36")
    tape.readings.card.setFocus()
    qtbot.keyClick(tape.readings.card, Qt.Key.Key_Return)
    assert isinstance(session.draft, Drafted)
    window.show_station("cover")
    strip = window.stations["cover"].strip
    assert {card.scheme.key for card in strip.cards} == {"traced-ends", "blanket"}
    next(card for card in strip.cards if card.scheme.key == "blanket").click()
    assert refs.option("strap") in window.stations["cover"].field_words()
    field = window.stations["cover"].decides()[refs.option("strap")]
    assert "16" in field.line.text()
    window.show_station("panels")
    settle(window)
    window.grab()
    assert "blanket_length" in window.stations["panels"].size_names()
    printed = pdf(session.draft, "pattern", "A0")
    # half around at π(d/2 + u), along with u at both ends, and the double hem on every side
    assert "cut 42 3⁄8 × 40 1⁄4 in" in extract_text(io.BytesIO(printed), page_numbers=[0])
    window.show_station("shelf")
    for _ in range(3):
        settle(window)
        window.grab()


def test_a_construction_cuts_buys_and_is_offered_for_every_seam(
    open_window: Callable[..., Window], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(starter("drum", "wall-and-lid"), tr("new"))
    window.show_station("cover")
    seams = window.stations["cover"].seams
    window.stations["cover"].choose(refs.seam("wall to lid"))
    assert "glued" in seams.card.fields["kind"].values
    seams.card._set("kind", "glued")
    job, drafted = window.session.open_job, window.session.draft
    assert isinstance(drafted, Drafted)
    panels = {panel.name: panel for panel in drafted.panels}
    assert (panels["wall"].edge("lid edge").finish.width, panels["lid"].edge("rim").finish.width) == (40.0, 0.0)
    glue = next(h.length.value for h in drafted.cover.hardware if str(h.name) == "glue" and h.length is not None)
    assert glue == pytest.approx(drafted.cover.sizes["wall_sew_length"].value)
    assert "wide" in seams.card.fields
    write(job, tmp_path / "glued.json")
    assert main(["draft", str(tmp_path / "glued.json"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert next(s["kind"] for s in told["seams"] if s["name"] == "wall to lid") == "glued"


def test_something_of_a_new_kind_is_put_on_in_the_window_and_told_on_the_command_line(
    open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(starter("box", "traced-ends"), tr("new"))
    window.show_station("cover")
    settle(window)
    cover = window.stations["cover"]
    cover.adding.kind.show_value("badge")
    cover.adding.side.show_value("left")
    cover.adding.add_it.click()
    settle(window)
    card = cover.features.card
    assert {"options.layers", "options.rim", "from_centre", "from_top", "width", "height", "face"} <= set(card.fields)
    card._set("options.layers", tr("layers"), 3.0)
    drafted, job = window.session.draft, window.session.open_job
    assert isinstance(drafted, Drafted)
    assert next(h.count for h in drafted.cover.hardware if str(h.name) == "badge") == 3
    assert drafted.cover.lying[job.cover.features[0].id].piece == "left end"
    write(job, tmp_path / "badge.json")
    assert main(["draft", str(tmp_path / "badge.json"), "--json"]) == 0
    (told,) = json.loads(capsys.readouterr().out)["features"]
    assert (told["kind"], told["face"], told["piece"]) == ("badge", "left", "left end")
    assert told["place"][0] < 0.0


def test_an_export_is_in_menu_dialog_and_command_line(open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path) -> None:
    write(starter("half-log", "blanket"), tmp_path / "log.json")
    assert main(["export", str(tmp_path / "log.json"), "--toy", str(tmp_path / "toy.txt")]) == 0
    assert (tmp_path / "toy.txt").read_text() == "TOY 1 panels\n"
    window = open_window(tmp_path / "shop.sqlite")
    assert not next(c for c in window.commands if c.id == "export-toy").when(window)
    window.session.add(starter("half-log", "blanket"), tr("new"))
    window.show_station("panels")

    def in_the_dialog(dialog: PapersDialog) -> None:
        assert dialog.export is toys.EXPORT
        assert not dialog.on_paper.isVisible()
        dialog.file = tmp_path / "by window.txt"
        qtbot.keyClick(dialog, Qt.Key.Key_Return)

    in_dialog(PapersDialog, in_the_dialog)
    qtbot.keyClick(window, Qt.Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert (tmp_path / "by window.txt").read_bytes() == b"TOY 1 panels\n"
    assert "Read it." in window.working.text.text()


def test_a_station_is_on_the_rail_in_the_menu_and_in_help(
    open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path
) -> None:
    window = open_window(tmp_path / "shop.sqlite")
    window.session.add(starter("half-log", "blanket", name="Shed stove"), tr("new"))
    window.show_station("object")
    assert window.rail.buttons["whiteboard"].isVisible()
    qtbot.keyClick(window, Qt.Key.Key_8, Qt.KeyboardModifier.ControlModifier)
    assert window.here == "whiteboard"
    board = window.stations["whiteboard"]
    assert (board.entered, board.text()) == (1, "Shed stove")
    window.session.set(refs.of_job("name"), "Other stove", tr("named"))
    assert board.text() == "Other stove"
    window.run_command("explain")
    assert "Says how the job is called." in window.findChild(HelpDialog).told.text()
    assert ("on the whiteboard", ("ref", refs.of_job("name"))) in goals(window)
    window.session.undo()
    assert board.text() == "Shed stove"
