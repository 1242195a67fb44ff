"""What the shop has, as the Cloth station asks for it: cloths, prices, the stash."""

import shapely
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.bench.atcloth import WAIT, at_cloth, laid
from tests.bench.conftest import in_dialog
from tests.core.cloth.test_lays import sound

from omnipel.bench.stations.cloth.clothdialog import ClothDialog
from omnipel.bench.stations.cloth.cutdialog import CutDialog
from omnipel.bench.stations.cloth.goods import GoodsDialog
from omnipel.bench.stations.cloth.stashdialog import StashDialog
from omnipel.bench.window.window import Window
from omnipel.core.cloth.remnants import corners


def test_a_price_is_typed_where_it_is_missing_and_counts(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Bench cushion")
    now = sample_window.session.cloth.current
    assert now is not None
    line = next(line for line in now.taken.unknown)

    def price(dialog: GoodsDialog) -> None:
        dialog.price.line.setText("0.75")
        dialog.price.line.setModified(True)
        dialog.price.line.editingFinished.emit()
        dialog.accept()

    in_dialog(GoodsDialog, price)
    station.buying._cost(line).click()  # type: ignore[attr-defined]
    assert sample_window.session.cloth.stock.price(line.key) == 0.75

    def counted() -> bool:
        after = sample_window.session.cloth.current
        return after is not None and line.key not in [one.key for one in after.taken.unknown]

    qtbot.waitUntil(counted, timeout=WAIT)
    sample_window.session.cloth.undo_booking()
    assert sample_window.session.cloth.stock.price(line.key) is None


def test_a_cloth_is_taken_from_the_list_and_allowances_follow(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Press motor")

    def take(dialog: ClothDialog) -> None:
        rows = [dialog.list.item(i).text() for i in range(dialog.list.count())]
        assert len(rows) == 14
        dialog.list.setCurrentRow(rows.index("cotton duck"))
        dialog._set("usable_width", 1234.0)
        dialog._use()

    in_dialog(ClothDialog, take)
    station.layers.wants.emit("cloth")  # type: ignore[attr-defined]
    cloth = sample_window.session.open_job.cover.cloth
    assert (cloth.name, cloth.usable_width, cloth.shrink_warp) == ("cotton duck", 1234.0, 0.05)
    assert sample_window.session.cloth.stock.cloths["duck"].usable_width == 1234.0
    sound(laid(sample_window, qtbot))


def test_the_stash_is_added_to_used_and_booked_after_cutting(sample_window: Window, qtbot: QtBot) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth = sample_window.session.cloth
    begun = dict(cloth.stock.pieces)

    def add(dialog: StashDialog) -> None:
        dialog._add()
        dialog._size("length", 900.0)
        dialog._size("width", 900.0)
        dialog.accept()

    in_dialog(StashDialog, add)
    station.layers.wants.emit("stash")  # type: ignore[attr-defined]
    (key,) = set(cloth.stock.pieces) - set(begun)
    laid(sample_window, qtbot)
    station.layers._use(key, True)  # type: ignore[attr-defined]
    lay = laid(sample_window, qtbot)
    sound(lay)
    assert key in {p.on for p in lay.placed}

    def book(dialog: CutDialog) -> None:
        assert dialog.gone
        dialog.where.setText("on the loft")
        dialog.accept()

    in_dialog(CutDialog, book)
    station.layers.wants.emit("cut")  # type: ignore[attr-defined]
    assert key not in cloth.stock.pieces
    assert any(piece.where == "on the loft" for piece in cloth.stock.pieces.values())
    cloth.undo_booking()
    assert key in cloth.stock.pieces
    cloth.undo_booking()
    cloth.undo_booking()
    cloth.undo_booking()
    assert dict(cloth.stock.pieces) == begun


def test_a_piece_of_an_outline_is_drawn_with_the_mouse_and_nothing_is_laid_outside_of_it(
    sample_window: Window, qtbot: QtBot
) -> None:
    station = at_cloth(sample_window, qtbot, "Honey extractor")
    cloth = sample_window.session.cloth
    begun = dict(cloth.stock.pieces)

    def draw(dialog: StashDialog) -> None:
        dialog._add()
        for part, length in (("length", 1000.0), ("width", 900.0)):
            dialog._size(part, length)
        view = dialog.view
        at = view._seen((500.0, 900.0)).toPoint()
        qtbot.mouseDClick(view, Qt.MouseButton.LeftButton, pos=at)  # one more corner on the upper edge
        assert len(corners(dialog.piece)) == 5
        begin, end = view._seen((1000.0, 900.0)).toPoint(), view._seen((1000.0, 300.0)).toPoint()
        qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=begin)
        qtbot.mouseMove(view, end)
        qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)
        assert not dialog.long.isEnabled()
        assert dialog.parts.currentItem().text().startswith("corner 3: 1\u202f000 mm from the left end, 300")
        dialog._part_size(0, 0.0)  # it would meet itself
        assert "cross itself" in dialog.told.text()
        dialog._part_size(1, 250.0)
        assert not dialog.told.isVisible()
        dialog._add_flaw()
        dialog._part_size(0, 20.0)
        dialog._drop()
        assert not dialog.piece.flaws
        dialog.accept()

    in_dialog(StashDialog, draw)
    station.layers.wants.emit("stash")  # type: ignore[attr-defined]
    (key,) = set(cloth.stock.pieces) - set(begun)
    outline = cloth.stock.pieces[key].piece.outline
    assert outline[2] == (1000.0, 250.0)
    assert len(outline) == 5
    laid(sample_window, qtbot)
    station.layers._use(key, True)  # type: ignore[attr-defined]
    lay = laid(sample_window, qtbot)
    sound(lay)
    on = [shapely.Polygon(lay.outline(p)) for p in lay.placed if p.on == key]
    assert on
    assert all(piece.difference(shapely.Polygon(outline)).area < 1.0 for piece in on)
