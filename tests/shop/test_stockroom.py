"""The shop's cloths, stash and prices: what is booked can be taken back, and done again."""

from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.cloth.kinds import KINDS
from omnipel.core.cloth.stock import Goods, StashPiece, Stock
from omnipel.core.job.laying import Flaw, Remnant
from omnipel.core.words.habits import System
from omnipel.shop.stockroom import CLOTH, GOODS, PIECE, Change, Stockroom
from omnipel.shop.store import Store

CLOTHS = list(KINDS.values())


@st.composite
def changes(draw: st.DrawFn) -> list[Change]:
    made: list[Change] = []
    for _ in range(draw(st.integers(1, 3))):
        key = str(draw(st.integers(1, 4)))
        cloth = draw(st.sampled_from(CLOTHS)).cloth
        match draw(st.sampled_from((CLOTH, PIECE, GOODS))):
            case "cloth":
                made.append(Change(CLOTH, draw(st.sampled_from(("acrylic", key))), draw(st.sampled_from((cloth, None)))))
            case "piece":
                flaws = (Flaw(x=1.0, y=2.0, length=30.0, width=4.5),) if draw(st.booleans()) else ()
                piece = StashPiece(
                    cloth=cloth, piece=Remnant(id=key, length=draw(st.floats(1.0, 5000.0)), width=700.0, flaws=flaws)
                )
                made.append(Change(PIECE, key, draw(st.sampled_from((piece, None)))))
            case _:
                goods = Goods(key=f"cord {key}", price=draw(st.none() | st.floats(0.0, 99.0)), there=draw(st.floats(0.0, 1e6)))
                made.append(Change(GOODS, goods.key, draw(st.sampled_from((goods, None)))))
    return made


@tried(40)
@given(st.lists(changes(), min_size=1, max_size=6))
def test_every_booking_can_be_taken_back_and_done_again(tmp_path_factory: object, booked: list[list[Change]]) -> None:
    folder: Path = tmp_path_factory.mktemp("shop")  # type: ignore[attr-defined]
    with Store(folder / "shop.sqlite") as store:
        room = Stockroom(store)
        seen: list[Stock] = [room.stock()]
        for number, several in enumerate(booked):
            room.book(f"booking {number}", several)
            seen.append(room.stock())
        for before in reversed(seen[:-1]):
            assert room.undo() is not None
            assert room.stock() == before
        assert room.undo() is None
        for after in seen[1:]:
            assert room.redo() is not None
            assert room.stock() == after
        assert room.redo() is None
        assert [booking.undone for booking in room.bookings()] == [False] * len(booked)
    with Store(folder / "shop.sqlite") as store:
        assert Stockroom(store).stock() == seen[-1]


def test_a_shop_begins_with_the_kinds_of_its_system_and_keeps_what_it_has_changed(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        room = Stockroom(store)
        assert room.stock(System.INCH).cloths["acrylic"].usable_width == 60 * 25.4
        assert room.stock(System.METRIC).cloths["acrylic"].usable_width == 1520.0
        mine = KINDS["acrylic"].begun(System.METRIC)
        room.book("mine", [Change(CLOTH, "acrylic", mine)])
        assert room.stock(System.INCH).cloths["acrylic"] == mine
        assert len(room.stock().cloths) == len(KINDS)


def test_a_damaged_line_is_one_line_and_a_new_booking_ends_what_was_taken_back(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        room = Stockroom(store)
        for key in ("snaps", "buckle"):
            room.book(key, [Change(GOODS, key, Goods(key=key, price=1.0, by_length=False))])
        store.db.execute("UPDATE stock SET document = '{\"key\": 3' WHERE key = 'snaps'")
        assert list(room.stock().goods) == ["buckle"]
        room.undo()
        room.book("zip", [Change(GOODS, "zip", Goods(key="zip"))])
        assert room.redo() is None
        assert room.free_key(PIECE) == "1"
