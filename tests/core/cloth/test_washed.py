"""Cloth that shrinks: either it is washed before it is cut, or panels are cut larger. Never both, and never neither."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.core.cloth.test_lays import drafted_of
from tests.wild import some, tried

from omnipel.core.cloth.kinds import KINDS
from omnipel.core.cloth.lay import laid
from omnipel.core.cloth.leftover import left_over
from omnipel.core.cloth.takeoff import takeoff
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import Job, SoldAs
from omnipel.core.sewing.plan import planned
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
        assert [washes(one) for one in (usual, washed, new)] == [[], ["cloth:outer/prewash"], ["cloth:outer/wash"]]

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
    assert washed.there >= washed.used.value
    reach = max((piece.length for piece in left_over(washed, 50.0)), default=0.0)
    assert reach <= washed.bought.value * 0.94 + 1e-6  # what is left is left of washed cloth
    line = next(line for line in takeoff(drafted_of(of(job, prewashed=True))).lines if line.key == "outer")
    assert line.needed.value == pytest.approx(washed.bought.value)


def test_cloth_that_does_not_shrink_is_told_nothing_of_a_wash() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), shrink_warp=0.0, shrink_weft=0.0)
    plain, said = (laid(drafted_of(of(job, prewashed=p)), Cloth.OUTER) for p in (False, True))
    assert said.bought == plain.bought
    assert said.there == pytest.approx(said.bought.value)
    assert "wash" not in " ".join(Voice(Unit.MM).say(term.name) for term in said.bought.terms)


def test_pieces_are_shorter_once_they_are_washed() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), sold_as=SoldAs.PIECE, piece_length=3000.0, shrink_warp=0.1, prewashed=True)
    lay = laid(drafted_of(job), Cloth.OUTER)
    assert lay.sheet.cloth.cut_piece == pytest.approx(2700.0)
    assert all(lay.sheet.shapes[placed.piece] is not None for placed in lay.placed)
    assert max(piece.length for piece in left_over(lay, 50.0)) <= 2700.0 + 1e-6


def test_new_cloth_is_washed_in_pieces_and_trimmed_to_its_cut_size_before_anything_is_sewn() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), shrink_warp=0.06, shrink_weft=0.03)
    for washed, chain in (
        (True, ["prewash", "square", "mark", "cut", "label", "measure"]),
        (False, ["square", "mark", "cut", "wash", "label", "measure"]),
    ):
        drafted = drafted_of(of(job, prewashed=washed))
        steps = [step for step in planned(drafted).steps if step.key.startswith("cloth:outer/")]
        assert [step.key.removeprefix("cloth:outer/") for step in steps] == chain
        asked = {check.length for check in steps[-1].operation.checks if check.length is not None}
        wall = next(panel for panel in drafted.panels if panel.name == "wall")
        assert {wall.cut_length.value, wall.cut_width.value} <= asked
        assert (wall.rough_cut is None) is washed
        said = Voice(Unit.MM).say(steps[-1].operation.words)
        assert ("Trim" in said) is not washed


def test_quilted_pieces_are_trimmed_when_they_are_quilted() -> None:
    job = of(starter("drum", "wall-and-lid", Unit.MM), shrink_warp=0.06, shrink_weft=0.03)
    drafted = drafted_of(replace(job, cover=replace(job.cover, padding=6.0)))
    steps = {step.key: step.operation for step in planned(drafted).steps}
    assert "cloth:outer/wash" in steps
    assert steps["cloth:outer/measure"].checks == ()
    assert "padding/trim" in steps or not any(key.startswith("padding/quilt") for key in steps)


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
