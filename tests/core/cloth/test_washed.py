"""Cloth that shrinks: either it is washed before it is cut, or panels are cut larger. Never both, and never neither."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.cloth.test_lays import drafted_of
from tests.wild import some, tried

from omnipel.core.cloth.care import care
from omnipel.core.cloth.kinds import KINDS
from omnipel.core.cloth.lay import laid
from omnipel.core.cloth.leftover import left_over
from omnipel.core.cloth.takeoff import takeoff
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothChoice, Job, SoldAs
from omnipel.core.sewing.plan import planned
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.document import envelope, from_data
from omnipel.shop.starter import starter

SHARES = st.floats(0.005, 0.08)


def of(job: Job, **cloth: object) -> Job:
    return replace(job, cover=replace(job.cover, cloth=replace(job.cover.cloth, **cloth)))  # type: ignore[arg-type]


def washes(drafted: Drafted) -> list[str]:
    return [step.key for step in planned(drafted).steps if step.operation.deed == "prewash"]


@pytest.mark.parametrize("pair", some(lawful_pairs(), of=4), ids="-".join)
def test_washed_cloth_is_cut_as_it_is_and_new_cloth_larger(pair: tuple[str, str]) -> None:
    @tried(12)
    @given(SHARES, SHARES)
    def check(warp: float, weft: float) -> None:
        job = starter(*pair, Unit.MM)
        usual, washed, new = (
            draft(of(job, shrink_warp=a, shrink_weft=b, prewashed=p))
            for a, b, p in ((0.0, 0.0, False), (warp, weft, True), (warp, weft, False))
        )
        assert isinstance(usual, Drafted)
        assert isinstance(washed, Drafted)
        assert isinstance(new, Drafted)
        for plain, after, larger in zip(usual.panels, washed.panels, new.panels, strict=True):
            assert after.take_up == plain.take_up
            if plain.cloth is Cloth.OUTER:
                ratio = [(1.0 - a) / (1.0 - b) for a, b in zip(plain.take_up, larger.take_up, strict=True)]
                assert sorted(ratio) == pytest.approx(sorted((1.0 / (1.0 - warp), 1.0 / (1.0 - weft))))
        assert [bool(washes(one)) for one in (usual, washed, new)] == [False, True, False]

    check()


def test_so_much_more_is_bought_as_the_wash_takes_up() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), shrink_warp=0.06, shrink_weft=0.03, usable_width=1500.0)
    new, washed = (laid(drafted_of(of(job, prewashed=p)), Cloth.OUTER) for p in (False, True))
    assert washed.bolt.width == pytest.approx(1500.0 * 0.97)
    assert new.bolt.width == 1500.0
    needed = washed.used.value / 0.94
    assert washed.bought.value >= needed - 1e-6
    assert washed.bought.value - needed < washed.sheet.cloth.sold_by
    assert sum(term.value for term in washed.bought.terms) == pytest.approx(washed.bought.value)
    assert "the first wash takes up" in Voice(Unit.MM).say(washed.bought.terms[-2].name)
    assert washed.bought.value * washed.left_by_wash >= washed.used.value
    reach = max((piece.length for piece in left_over(washed, 50.0)), default=0.0)
    assert reach <= washed.bought.value * 0.94 + 1e-6  # what is left is left of washed cloth
    line = next(line for line in takeoff(drafted_of(of(job, prewashed=True))).lines if line.key == "outer")
    assert line.needed.value == pytest.approx(washed.bought.value)


def test_pieces_are_shorter_once_they_are_washed() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), sold_as=SoldAs.PIECE, piece_length=3000.0, shrink_warp=0.1, prewashed=True)
    lay = laid(drafted_of(job), Cloth.OUTER)
    assert lay.sheet.cloth.cut_piece == pytest.approx(2700.0)
    assert all(lay.sheet.shapes[placed.piece] is not None for placed in lay.placed)
    assert max(piece.length for piece in left_over(lay, 50.0)) <= 2700.0 + 1e-6


def test_the_care_label_says_what_the_first_wash_does() -> None:
    cotton = KINDS["quilting cotton"].begun(System.METRIC)
    said = {
        washed: " ".join(Voice(Unit.MM).say(one) for one in care(drafted_of(of(starter("drum", "wall-and-lid", Unit.MM), **vars_of(cotton, washed)))))
        for washed in (True, False)
    }  # fmt: skip
    assert "first wash brings it to its size" in said[False]
    assert "first wash" not in said[True]


def vars_of(cloth: ClothChoice, washed: bool) -> dict[str, object]:
    names = ("kind", "shrink_warp", "shrink_weft", "outdoors", "waterproof", "breathes", "name")
    return {name: getattr(cloth, name) for name in names} | {"prewashed": washed}


def test_cottons_that_are_washed_before_say_so_and_old_jobs_stay_as_they_were_cut() -> None:
    assert {name for name, kind in KINDS.items() if kind.cloth.prewashed} == {"quilting cotton", "linen"}
    assert all(kind.cloth.shrinks for kind in KINDS.values() if kind.cloth.prewashed)
    job = of(starter("drum", "wall-and-lid", Unit.MM), shrink_warp=0.05, prewashed=True)
    assert from_data(envelope(job)) == job
    old = envelope(job)
    old["version"] = 10
    del old["job"]["cover"]["cloth"]["prewashed"]
    assert from_data(old).cover.cloth.prewashed is False
    assert from_data(old).cover.cloth.still_shrinks == (0.05, 0.0)
