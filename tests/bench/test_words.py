"""In a made-up language no text of the window is left in plain letters, and every template can be gathered for translators."""

import ast
import html
import importlib.util
import re
import unicodedata
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication, QComboBox, QDialog, QListWidget, QMenu, QPlainTextEdit, QTextEdit, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import open_job, settle
from tests.wild import one_in

from omnipel.bench.commands.cutting import CuttingDialog
from omnipel.bench.commands.habits import HabitsDialog, RoundingDialog
from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.commands.registry import all_commands
from omnipel.bench.speech import SPEECH
from omnipel.bench.stations.cloth.clothdialog import ClothDialog
from omnipel.bench.stations.cloth.cutdialog import CutDialog
from omnipel.bench.stations.cloth.daydialog import DayDialog
from omnipel.bench.stations.cloth.fitdialog import FitDialog
from omnipel.bench.stations.cloth.goods import GoodsDialog, GoodsList
from omnipel.bench.stations.cloth.stashdialog import StashDialog
from omnipel.bench.stations.panels.byhand import ByHandDialog
from omnipel.bench.window.window import Window
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.rounding import roundings
from omnipel.core.job.document import Job
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import ENGLISH, Pseudo
from omnipel.core.words.units import Unit
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.machine import LANGUAGES
from omnipel.shop.sample import SAMPLES
from omnipel.tongues.names import READ

STATIONS = ("object", "tape", "cover", "panels", "cloth")
VALUES = re.compile(r"\b(in|mm|cm|m|ft|yd|sq|Ctrl|Shift|Enter|Omnipel|[A-Z]{1,2})\b")
"""Units, keys, letters of readings and the program's name are no words."""
EXAMPLES = "12 5/8, 3'4 1/2, 31.8cm, 2x14 3/8, girth/2, 31*pi"
PLAIN = re.compile(r"[a-zA-Z]{2,}(?!\u0307)")
SOURCES = Path(__file__).parents[2] / "src" / "omnipel"


class Listening(Pseudo):
    """The made-up language, which remembers what it was asked for."""

    def __init__(self) -> None:
        self.asked: set[str] = set()

    def gettext(self, message: str) -> str:
        self.asked.add(message)
        return super().gettext(message)


@pytest.fixture
def pseudo() -> Iterator[Listening]:
    SPEECH.tongue = listening = Listening()
    yield listening
    SPEECH.tongue = ENGLISH


def gathered() -> set[str]:
    """Every template in the translators' catalogue, singular and plural."""
    spec = importlib.util.spec_from_file_location("messages", Path(__file__).parents[2] / "tools" / "messages.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return {
        text
        for message in module.catalogue()
        if message.id
        for text in ([message.id] if isinstance(message.id, str) else message.id)
    }


def nameless(job: Job, i: int) -> Job:
    """A sample job in which everything a person wrote stands in other letters."""
    cover = job.cover
    return replace(
        job,
        name=f"Ж{i}",
        owner="Ж" if job.owner else "",
        place="Ж" if job.place else "",
        notes="Ж" if job.notes else "",
        thing=replace(job.thing, sticks_out=tuple(replace(t, name=f"Я{k}") for k, t in enumerate(job.thing.sticks_out))),
        readings=tuple(replace(r, note="Ж" if r.note else "") for r in job.readings),
        cover=replace(
            cover,
            cloth=replace(cover.cloth, name="Ж"),
            lining=replace(cover.lining, cloth=replace(cover.lining.cloth, name="Ж")),
            features=tuple(replace(f, name=f"Ю{k}") for k, f in enumerate(cover.features)),
            overrides=tuple(replace(o, reason="Ж") for o in cover.overrides),
        ),
    )


def texts(root: QWidget) -> Iterator[str]:
    """Everything that widgets show or read aloud."""
    for widget in (root, *root.findChildren(QWidget)):
        for getter in ("text", "placeholderText", "toolTip", "accessibleName", "accessibleDescription", "title", "windowTitle"):
            get = getattr(widget, getter, None)
            if callable(get) and isinstance(found := get(), str):
                yield found
        if isinstance(widget, QComboBox):
            yield from (widget.itemText(i) for i in range(widget.count()))
        if isinstance(widget, QListWidget):
            yield from (widget.item(i).text() for i in range(widget.count()))
        if isinstance(widget, QTextEdit | QPlainTextEdit):
            yield widget.toPlainText()
        if isinstance(widget, QMenu):
            yield from (action.text() for action in widget.actions())


def left_plain(text: str) -> str:
    """What of a text was not looked up; "" when all was."""
    shown = unicodedata.normalize("NFC", html.unescape(re.sub(r"<[^>]*>", "", text)).replace(EXAMPLES, ""))
    return text if PLAIN.search(VALUES.sub("", shown)) else ""


def test_nothing_is_left_outside(
    pseudo: Listening, open_window: Callable[..., Window], qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    painted: set[str] = set()
    paint = QPainter.drawText

    def noted(painter: QPainter, *arguments: object) -> object:
        painted.update(a for a in arguments if isinstance(a, str))
        return paint(painter, *arguments)  # type: ignore[arg-type]

    monkeypatch.setattr(QPainter, "drawText", noted)
    window = open_window(tmp_path / "shop.sqlite")
    seen = set(texts(window))
    for i, sample in enumerate(SAMPLES):
        window.session.store.add(nameless(sample(), i), "Ж")
    window.show_station("shelf")
    for _ in range(3):
        settle(window)
        window.grab()
    for card in window.session.store.cards()[:: one_in(8)]:
        window.session.open(card.id)
        for station in STATIONS:
            window.show_station(station)
            if station == "cloth" and isinstance(window.session.draft, Drafted):  # laid behind the window
                qtbot.waitUntil(lambda: window.session.cloth.current is not None, timeout=60_000)
            window.run_command("explain")
            QApplication.processEvents()
            window.grab()
            seen.update(texts(window))
    session = window.session
    session.open(next(c.id for c in session.store.cards() if walled(session.store.job(c.id))))
    panels = window.stations["panels"]
    qtbot.waitUntil(lambda: session.cloth.current is not None, timeout=60_000)
    now = session.cloth.current
    assert now is not None
    dialogs: tuple[QDialog, ...] = (
        HabitsDialog(window, session, System.INCH),
        RoundingDialog(window, session, roundings(replace(session.open_job, unit=Unit.INCH_16))),
        CuttingDialog(window, session, session.draft),  # type: ignore[arg-type]
        ByHandDialog(panels, session, panels.size_names()),
        ClothDialog(window, session, Cloth.OUTER),
        StashDialog(window, session, Cloth.OUTER),
        CutDialog(window, session),
        DayDialog(window, session),
        FitDialog(window, session, now.lays[Cloth.OUTER.value]),
        GoodsList(window, session),
        *(GoodsDialog(window, session, line) for line in now.taken.lines),
    )
    for dialog in dialogs:
        seen |= set(texts(dialog))
        dialog.deleteLater()
    papers = PapersDialog(window, session, EXPORTS["book"])
    for export in papers.can:
        papers.what.show_value(export)
        papers._chosen()
        seen |= {text for text in texts(papers) if "/" not in text}  # the proposed file
    papers.deleteLater()
    seen.update(SPEECH.voice().say(command.words) for command in all_commands())
    assert len(seen) > 500
    assert len(painted) > 150

    assert sorted({text for text in seen | painted if left_plain(text)} - set(LANGUAGES)) == []  # names
    own = {text for text in pseudo.asked if any("А" <= letter <= "я" for letter in text)}  # what the person wrote
    made = {text for text in pseudo.asked if any(pattern.fullmatch(text) for _, pattern in READ)}  # names made of names
    assert sorted(pseudo.asked - gathered() - own - made) == []


def test_of_a_job_in_inches_nothing_is_said_in_millimetres(sample_window: Window, qtbot: QtBot) -> None:
    session = sample_window.session
    for station in STATIONS:
        open_job(sample_window, "Rain butt", station)
        qtbot.waitUntil(lambda: session.cloth.current is not None, timeout=60_000)
        settle(sample_window)
        said = list(texts(sample_window.stations[station]))
        assert any(re.search(r"\d (in|yd)\b", text) for text in said) or station == "object"
        assert [text for text in said if re.search(r"\d[\s\u202f]?(mm|cm|m)\b", text)] == []


def walled(job: Job) -> bool:
    return job.cover.scheme == "wall-and-lid" and bool(job.readings)


def calls() -> Iterator[tuple[Path, ast.Call]]:
    """Every call of `tr` and `trn` in the program."""
    for path in sorted(SOURCES.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("tr", "trn"):
                yield path, node


def test_every_template_is_a_constant_and_takes_what_it_is_given() -> None:
    found = 0
    for path, call in calls():
        templates = call.args[: 2 if call.func.id == "trn" else 1]  # type: ignore[attr-defined]
        where = f"{path.name}:{call.lineno}"
        given = {keyword.arg for keyword in call.keywords} | ({"n"} if len(templates) == 2 else set())
        for template in templates:
            assert isinstance(template, ast.Constant), where
            wanted = set(re.findall(r"\{(\w+)\}", template.value))
            assert wanted <= given, where
            assert not re.search(r"\d\s?(mm|cm|in)\b", template.value), f"{where}: a length inside the words"
            found += 1
        asked = set().union(*(re.findall(r"\{(\w+)\}", t.value) for t in templates))  # type: ignore[attr-defined]
        assert given - {"n"} <= asked, f"{where}: not every value is said"
    assert found > 1000
