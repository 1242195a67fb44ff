"""F1 in every dialog: what it, and what has the focus in it, is for, in a few sentences, and the dialog stays."""

from collections.abc import Callable
from dataclasses import fields

from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QApplication, QDialog, QWidget
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle
from tests.bench.test_help import sentences
from tests.wild import one_in

from omnipel.bench.commands.cutting import CuttingDialog
from omnipel.bench.commands.habits import HabitsDialog, RoundingDialog
from omnipel.bench.commands.helping import AboutDialog
from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.fitting import fitting_of
from omnipel.bench.parts.asking import Question, QuestionDialog
from omnipel.bench.parts.dialog import Dialog, Explained
from omnipel.bench.parts.pick import PickDialog
from omnipel.bench.stations.cloth.clothdialog import ClothDialog
from omnipel.bench.stations.cloth.cutdialog import CutDialog
from omnipel.bench.stations.cloth.daydialog import DayDialog
from omnipel.bench.stations.cloth.fitdialog import FitDialog
from omnipel.bench.stations.cloth.goods import GoodsDialog, GoodsList
from omnipel.bench.stations.cloth.stashdialog import StashDialog
from omnipel.bench.stations.fit.again import AgainDialog
from omnipel.bench.stations.fit.family import FamilyDialog
from omnipel.bench.stations.fit.learnt import LearntDialog
from omnipel.bench.stations.fit.photos import PhotoDialog
from omnipel.bench.stations.panels.byhand import ByHandDialog
from omnipel.bench.stations.sew.paces import PacesDialog
from omnipel.bench.window.window import Window
from omnipel.core.drafting.panel import Cloth
from omnipel.core.explained.cloths import CLOTHS
from omnipel.core.job.document import ClothChoice
from omnipel.core.job.trying import Photo
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import tr
from omnipel.exchange.exports import EXPORTS

ALL: dict[type[Dialog], Callable[[Window], Dialog]] = {
    PapersDialog: lambda w: PapersDialog(w, w.session, EXPORTS["book"]),
    CuttingDialog: lambda w: CuttingDialog(w, w.session, w.session.draft),  # type: ignore[arg-type]
    HabitsDialog: lambda w: HabitsDialog(w, w.session, System.METRIC),
    RoundingDialog: lambda w: RoundingDialog(w, w.session, ()),
    AboutDialog: AboutDialog,
    QuestionDialog: lambda w: QuestionDialog(w, Question(tr("Shall it be so?"), tr("Yes"), tr("No"))),
    PickDialog: lambda w: PickDialog(w, tr("Go to"), [("drum", 1), ("tub", 2)]),
    ClothDialog: lambda w: ClothDialog(w, w.session, Cloth.OUTER),
    CutDialog: lambda w: CutDialog(w, w.session),
    DayDialog: lambda w: DayDialog(w, w.session),
    FitDialog: lambda w: FitDialog(w, w.session, w.session.cloth.current.lays["outer"]),  # type: ignore[union-attr]
    GoodsDialog: lambda w: GoodsDialog(w, w.session, w.session.cloth.current.taken.lines[-1]),  # type: ignore[union-attr]
    GoodsList: lambda w: GoodsList(w, w.session),
    StashDialog: lambda w: StashDialog(w, w.session, Cloth.OUTER),
    AgainDialog: lambda w: AgainDialog(w, w.session),
    FamilyDialog: lambda w: FamilyDialog(w, w.session),
    LearntDialog: lambda w: LearntDialog(w, w.session, fitting_of(w.session)),
    PhotoDialog: lambda w: PhotoDialog(w, w.session, Photo(digest="0" * 64), lambda: None),
    ByHandDialog: lambda w: ByHandDialog(w, w.session, w.session.draft.cover.panels and dict.fromkeys(["wall_cut_length"], tr("wall"))),  # type: ignore[union-attr]
    PacesDialog: lambda w: PacesDialog(w, w.session),
}  # fmt: skip


def every_dialog(of: type[QDialog]) -> set[type[QDialog]]:
    return {of, *(one for each in of.__subclasses__() for one in every_dialog(each))}


def test_every_dialog_of_the_bench_is_among_them() -> None:
    ours = {one for one in every_dialog(QDialog) if one.__module__.startswith("omnipel")}
    assert {one for one in ours if not issubclass(one, Dialog | Explained)} == set()
    assert {one for one in every_dialog(Dialog) if one is not Dialog and one.__module__.startswith("omnipel")} == set(ALL)


def stops(dialog: QDialog) -> list[QWidget]:
    """What takes the keys in it, as Tab walks it; no further than once around."""
    found, one = [], dialog.nextInFocusChain()
    while one is not dialog:
        if one.isVisible() and one.isEnabled() and one.focusPolicy().value & Qt.FocusPolicy.TabFocus.value:
            found.append(one)
        one = one.nextInFocusChain()
    return found


def test_f1_explains_whatever_has_the_focus(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "cloth")
    at_rest(sample_window, qtbot)
    for made in ALL.values():
        dialog = made(sample_window)
        dialog.show()
        settle_on(dialog)
        assert 2 <= len(sentences(dialog.whatsThis())) <= 3
        walked = stops(dialog)[:: one_in(3)]
        assert walked
        for widget in walked:
            widget.setFocus()
            qtbot.keyClick(QApplication.focusWidget() or dialog, Qt.Key.Key_F1)
            (beside,) = [one for one in dialog.findChildren(Explained) if one.isVisible()]
            words = beside.told.text()
            assert 2 <= len(sentences(words)) <= 6, words
            assert dialog.whatsThis().rstrip(".") in words
            assert not {"<", "{", "|"} & set(words)
            qtbot.keyClick(beside, Qt.Key.Key_F1)
            assert not [one for one in dialog.findChildren(Explained) if one.isVisible()]
            assert dialog.isVisible()
            settle_on(dialog)
        dialog.reject()


def settle_on(dialog: QDialog) -> None:
    QApplication.processEvents()
    dialog.activateWindow()
    QApplication.processEvents()


def test_every_property_of_a_cloth_is_told_where_it_is_typed_and_to_those_who_hear_it(
    sample_window: Window, qtbot: QtBot
) -> None:
    assert set(CLOTHS) == {field.name for field in fields(ClothChoice)}
    open_job(sample_window, "Rain butt", "cloth")
    at_rest(sample_window, qtbot)
    dialog = ClothDialog(sample_window, sample_window.session, Cloth.OUTER)
    dialog.show()
    settle_on(dialog)
    tell = sample_window.session.tell
    given = {widget.whatsThis() for widget in dialog.findChildren(QWidget)}
    assert {tell(words) for words in CLOTHS.values()} <= given
    helps = {
        QAccessible.queryAccessibleInterface(widget).text(QAccessible.Text.Help)
        for widget in dialog.findChildren(QWidget)
        if widget.whatsThis()
    }
    assert {tell(words) for words in CLOTHS.values()} <= helps
    dialog.reject()


def test_in_the_window_it_is_as_before(sample_window: Window, qtbot: QtBot) -> None:
    open_job(sample_window, "Rain butt", "tape")
    sample_window.stations["tape"].field.line.setFocus()
    qtbot.keyClick(sample_window.stations["tape"].field.line, Qt.Key.Key_F1)
    settle(sample_window)
    (beside,) = [one for one in sample_window.findChildren(Explained) if one.isVisible()]
    assert beside.picture is not None
