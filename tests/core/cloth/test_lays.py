"""How jobs are laid: every copy once, nothing on anything else, turned as the cloth allows, mirrored right, on the fold, on the stash."""

import math
from collections import Counter
from dataclasses import replace

import numpy as np
import pytest
import shapely
import shapely.affinity
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried, wild_jobs

from omnipel.core.cloth.cuts import Cut, layers_of
from omnipel.core.cloth.day import cloths_of, together
from omnipel.core.cloth.fitting import fits, how_many, times
from omnipel.core.cloth.lay import Lay, laid, lay_of, rounded
from omnipel.core.cloth.leftover import left_over
from omnipel.core.cloth.remnants import corners, squared, with_corner, with_more, without_corner
from omnipel.core.cloth.sheets import BOLT, Ground, Sheet, sheet_of
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import Job, LayChoice, SoldAs
from omnipel.core.job.laying import Flaw, Remnant, Spread
from omnipel.core.nesting.checking import overlapping
from omnipel.core.words.phrases import NOTHING, tr
from omnipel.core.words.working import worked
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

PAIRS = list(lawful_pairs())


def drafted_of(job: Job) -> Drafted:
    drafted = draft(job)
    assert isinstance(drafted, Drafted)
    return drafted


def sample(name: str) -> Job:
    return next(job for job in (made() for made in SAMPLES) if job.name == name)


def with_lay(job: Job, layer: Cloth = Cloth.OUTER, **choices: object) -> Job:
    known = job.lays.get(layer.value, LayChoice())
    return replace(job, lays={**job.lays, layer.value: replace(known, **choices)})  # type: ignore[arg-type]


def sound(lay: Lay) -> None:
    """No two pieces overlap, none leaves its cloth or lies on a flaw, none is turned as it may not be; those that lie and those that are left are all."""
    assert sorted([p.piece for p in lay.placed] + list(lay.left)) == sorted(lay.sheet.by_key)
    for ground in lay.grounds:
        pieces = lay.on(ground)
        polygons = [shapely.Polygon(lay.outline(p)) for p in pieces]
        assert overlapping(polygons) == []
        flaws = [shapely.Polygon(ring) for ring in ground.avoid]
        for placed, polygon in zip(pieces, polygons, strict=True):
            x0, y0, x1, y1 = polygon.bounds
            assert min(x0, y0) > -1e-6
            assert y1 < ground.width + 1e-6
            assert x1 < ground.length + 1e-6
            assert all(polygon.intersection(flaw).area < 1e-6 for flaw in flaws)
            cut = lay.sheet.by_key[placed.piece]
            assert cut.free or any(abs(math.remainder(placed.turn - turn, math.tau)) < 1e-6 for turn in cut.turns)
        if lay.sheet.gap:
            near = [a.distance(b) for i, a in enumerate(polygons) for b in polygons[:i]]
            assert all(distance > lay.sheet.gap - 1e-6 for distance in near)


@pytest.mark.parametrize("pair", PAIRS[::4], ids=[f"{form}-{scheme}" for form, scheme in PAIRS[::4]])
def test_any_job_is_laid_soundly(pair: tuple[str, str]) -> None:
    @tried(6)
    @given(st.data())
    def check(data: st.DataObject) -> None:
        job = replace(data.draw(wild_jobs(*pair)), copies=data.draw(st.sampled_from((1, 1, 2, 3))))
        job = with_lay(job, spread=data.draw(st.sampled_from(Spread)), gap=data.draw(st.sampled_from((None, 0.0, 5.0))))
        drafted = draft(job)
        if not isinstance(drafted, Drafted):
            return
        for layer in layers_of(drafted):
            lay = laid(drafted, layer)
            sound(lay)
            wanted = Counter({panel.name: panel.count * job.copies for panel in drafted.panels if panel.cloth is layer})
            cut: Counter[str] = Counter()
            for one in lay.sheet.cuts:
                if one.panel is not None:
                    cut[one.panel.name] += 2 if one.twice and not one.on_fold else 1
            assert cut == +wanted
            assert lay.bought.value >= lay.used.value - 1e-6 or lay.sheet.cloth.sold_as is SoldAs.PIECE

    check()


def _matches(cut: Cut, ring: np.ndarray) -> bool:
    """Whether a cut is a panel's own outline turned along the grain, mirrored or not as it says."""
    scale = (-1.0, 1.0) if cut.mirrored else (1.0, 1.0)
    polygon = shapely.affinity.scale(shapely.Polygon(ring), *scale, origin=(0.0, 0.0))
    assert cut.panel is not None
    turned = shapely.affinity.rotate(
        polygon, math.degrees(cut.panel.grain if cut.mirrored else -cut.panel.grain), origin=(0.0, 0.0)
    )
    if cut.mirrored:  # mirrored along x here, across the cloth there: half a turn apart
        turned = shapely.affinity.rotate(turned, 180.0, origin=(0.0, 0.0))
    x, y, *_ = turned.bounds
    moved = shapely.affinity.translate(turned, -x, -y)
    return moved.symmetric_difference(shapely.Polygon(cut.ring)).area < 1e-6 * moved.area


@pytest.mark.parametrize("name", [made().name for made in SAMPLES])
def test_pieces_are_cut_along_the_grain_and_mirrored_where_they_are(name: str) -> None:
    drafted = draft(sample(name))
    if not isinstance(drafted, Drafted):
        return
    for layer in layers_of(drafted):
        for cut in sheet_of(drafted, layer).cuts:
            if cut.panel is not None and not any(cut.panel.take_up):
                assert _matches(cut, cut_line(cut.panel)), cut.key


def test_the_sum_of_what_is_used_is_that_of_the_drawing() -> None:
    lay = laid(drafted_of(sample("Honey extractor")), Cloth.OUTER)
    assert lay.sheet.gap == 3.0
    last = max(lay.placed, key=lambda placed: float(lay.outline(placed)[:, 0].max()))
    before, piece = (term.value for term in lay.used.terms[:2])
    assert before == pytest.approx(
        float(lay.outline(last)[:, 0].min()), abs=0.1
    )  # corners of what is round are a little further out
    assert piece == pytest.approx(lay.sheet.by_key[last.piece].size[0], abs=0.2)


def test_what_comes_out_the_same_is_not_called_mirrored() -> None:
    called = {
        cut.key: (cut.mirrored, cut.turned_over) for cut in sheet_of(drafted_of(sample("Platform scale")), Cloth.OUTER).cuts
    }
    assert called["left end"] == (True, True)  # its front is lower than its back
    inner = sheet_of(drafted_of(sample("Fermenting crock")), Cloth.LINING).cuts
    assert any(cut.mirrored for cut in inner)  # seen from inside
    for cut in inner:
        if cut.mirrored:
            assert not cut.turned_over
            own = shapely.Polygon(cut.ring)
            assert own.symmetric_difference(shapely.affinity.scale(own, 1.0, -1.0)).area < 0.01 * own.area


def test_what_was_kept_stays_and_what_no_longer_fits_is_said() -> None:
    job = starter("box", "saddle-and-ends")
    first = laid(drafted_of(job), Cloth.OUTER)
    kept = with_lay(job, placed=first.placed)
    again = laid(drafted_of(kept), Cloth.OUTER)
    assert again.kept
    assert again.placed == first.placed
    narrower = replace(kept, cover=replace(kept.cover, hem=replace(kept.cover.hem, width=15.0)))
    still = laid(drafted_of(narrower), Cloth.OUTER)
    assert still.kept
    assert not still.moved
    larger = replace(kept, cover=replace(kept.cover, clearance=replace(kept.cover.clearance, amount=40.0)))
    lay = laid(drafted_of(larger), Cloth.OUTER)
    assert lay.moved
    assert not lay.kept
    sound(lay)


def test_a_locked_piece_stays_where_it_is() -> None:
    job = starter("drum", "wall-and-lid")
    lid = next(p for p in laid(drafted_of(job), Cloth.OUTER).placed if p.piece == "lid")
    locked = replace(lid, x=333.0, y=77.0, locked=True)
    lay = laid(drafted_of(with_lay(job, placed=(locked,))), Cloth.OUTER)
    assert locked in lay.placed
    sound(lay)


def test_folded_cloth_takes_half_the_width_and_a_piece_on_the_fold_its_half() -> None:
    drafted = drafted_of(with_lay(starter("box", "saddle-and-ends"), spread=Spread.FOLDED))
    lay = laid(drafted, Cloth.OUTER)
    sound(lay)
    assert lay.bolt.width == drafted.job.cover.cloth.usable_width / 2.0
    by_panel = {cut.panel.name: cut for cut in lay.sheet.cuts if cut.panel is not None}
    assert len(lay.sheet.cuts) == 2  # both ends at once, and half of the saddle
    assert by_panel["end"].twice
    saddle = by_panel["saddle"]
    assert saddle.on_fold
    placed = next(p for p in lay.placed if p.piece == saddle.key)
    assert placed.y == pytest.approx(0.0, abs=1e-9)
    assert saddle.panel is not None
    assert 2.0 * saddle.area == pytest.approx(shapely.Polygon(cut_line(saddle.panel)).area, rel=1e-6)


def test_pieces_go_onto_the_stash_first_and_never_onto_a_flaw() -> None:
    flaw = Flaw(x=200.0, y=150.0, length=200.0, width=120.0)
    remnant = Remnant(id="7", length=1200.0, width=900.0, flaws=(flaw,))
    job = starter("drum", "wall-and-lid")
    lay = laid(drafted_of(with_lay(job, pieces=(remnant,))), Cloth.OUTER)
    sound(lay)
    assert [p.on for p in lay.placed if p.piece == "lid"] == ["7"]
    assert [p.piece for p in lay.on(lay.bolt)] == ["wall"]
    triangle = Remnant(id="8", length=1400.0, width=1000.0, outline=((0.0, 0.0), (1400.0, 0.0), (0.0, 1000.0)))
    odd = laid(drafted_of(with_lay(job, pieces=(triangle,))), Cloth.OUTER)
    sound(odd)
    shape = shapely.Polygon(triangle.outline)
    assert all(shape.buffer(1e-6).covers(shapely.Polygon(odd.outline(p))) for p in odd.placed if p.on == "8")


def test_stripes_meet_where_the_cushion_is_sewn() -> None:
    drafted = drafted_of(sample("Bench cushion"))
    lay = laid(drafted, Cloth.OUTER)
    sound(lay)
    step = lay.sheet.cloth.repeat_across
    heights = []
    for placed in lay.placed:
        cut = lay.sheet.by_key[placed.piece]
        assert cut.start is not None
        heights.append(placed.y + cut.start[1])
    assert all(abs(math.remainder(height, step)) < 1e-6 for height in heights)


def test_a_pieced_strip_is_two_parts_and_a_seam_with_its_allowances() -> None:
    drafted = drafted_of(sample("Sorting turntable"))
    whole = drafted_of(replace(drafted.job, cover=replace(drafted.job.cover, parted=())))
    parts = [panel for panel in drafted.panels if panel.name.startswith("boxing")]
    strip = next(panel for panel in whole.panels if panel.name == "boxing")
    both = 2.0 * drafted.job.cover.seam_allowance
    assert len(parts) == 2
    assert sum(part.cut_length.value for part in parts) == pytest.approx(strip.cut_length.value + both)
    assert "piecing of boxing" in [trued.seam.name for trued in drafted.seams]
    assert all(trued.true for trued in drafted.seams)


def test_cloth_that_is_sold_by_the_piece_is_laid_on_pieces() -> None:
    job = starter("box", "wall-and-top")
    cloth = replace(job.cover.cloth, sold_as=SoldAs.PIECE, piece_length=2400.0, usable_width=1200.0)
    job = replace(job, copies=3, cover=replace(job.cover, cloth=cloth))
    lay = laid(drafted_of(job), Cloth.OUTER)
    sound(replace(lay, left=lay.left))
    grounds = {p.on for p in lay.placed}
    assert lay.bought.value == len(grounds) > 1
    assert lay.bolt.id == BOLT


@tried(60)
@given(st.floats(1.0, 9000.0), st.sampled_from((100.0, 228.6, 0.0)), st.sampled_from((0.0, 300.0)))
def test_cloth_is_bought_in_steps_and_its_sum_adds_up(used: float, step: float, least: float) -> None:
    bought = rounded(worked(tr("used"), used), step, least)
    assert bought.value >= max(used, least) - 1e-6
    assert not step or bought.value == pytest.approx(least) or abs(math.remainder(bought.value, step)) < 1e-6
    assert bought.value < max(used + (step or 1e-6), least) + 1e-6


def one_sheet(name: str) -> Sheet:
    sheet = sheet_of(drafted_of(replace(sample(name), copies=1)), Cloth.OUTER)
    return replace(sheet, gap=0.0)


def test_how_many_come_out_of_a_piece_grows_with_it() -> None:
    crock = one_sheet("Fermenting crock")
    side = crock.cuts[0].size[0] + 0.5
    sizes = [(side, side), (2.02 * side, side), (2.02 * side, 2.02 * side), (4.05 * side, 2.02 * side)]
    counts = [how_many(crock, Remnant(id="p", length=long, width=wide)) for long, wide in sizes]
    assert counts == [1, 2, 4, 8]
    assert len(times(crock, 3).cuts) == 3


def test_what_does_not_fit_is_named_with_what_would_make_it_fit() -> None:
    sheet = one_sheet("Press motor")
    saddle = max(sheet.cuts, key=lambda cut: cut.size[0])
    long, wide = saddle.size
    piece = Remnant(id="p", length=wide + 10.0, width=long + 10.0)
    found = fits(sheet, piece)
    assert saddle.key in found.left
    big = fits(sheet, Remnant(id="p", length=long - 5.0, width=long + 10.0))
    assert big.left
    assert any("across the grain" in str(change) for change in big.would)
    assert fits(sheet, Remnant(id="p", length=9000.0, width=1400.0)).all


def test_a_cutting_day_saves_cloth_and_shares_it_by_area() -> None:
    jobs = [drafted_of(sample(name)) for name in ("Honey extractor", "Sorting turntable", "Seed cleaner")]
    cloths = cloths_of(jobs)
    assert len(cloths) == 1
    day = together(jobs, cloths[0])
    lay = day.laid()
    sound(lay)
    assert sum(day.share(k) for k in range(3)) == pytest.approx(1.0)
    assert day.share(0) > day.share(2)
    assert lay.bought_length < day.alone


@tried(12)
@given(st.sampled_from(("Honey extractor", "Rain butt", "Seed cleaner", "Press motor")), st.floats(150.0, 500.0))
def test_what_is_left_over_lies_beside_all_pieces(name: str, least: float) -> None:
    lay = laid(drafted_of(sample(name)), Cloth.OUTER)
    found = left_over(lay, least)
    whole = lay.bought.value * lay.bolt.width
    assert all(min(rest.length, rest.width) >= least - 10.0 for rest in found)
    assert sum(rest.length * rest.width for rest in found) + lay.area <= whole + 1e-6


def test_a_lay_is_the_same_every_time() -> None:
    drafted = drafted_of(sample("Settling tank"))
    one, other = (lay_of(sheet_of(drafted, Cloth.OUTER), seconds=60.0) for _ in range(2))
    assert one.placed == other.placed


@tried(60)
@given(
    st.lists(st.tuples(st.sampled_from("mac"), st.integers(0, 9), st.integers(-300, 2500), st.integers(-300, 2500)), max_size=12)
)
def test_however_corners_are_moved_a_piece_is_one(steps: list[tuple[str, int, int, int]]) -> None:
    piece = Remnant(id="rest", length=1000.0, width=800.0, flaws=(Flaw(x=100.0, y=100.0, length=50.0, width=50.0),))
    for what, number, x, y in steps:
        k = number % len(corners(piece))
        made = (
            with_corner(piece, k, (float(x), float(y)))
            if what == "m"
            else with_more(piece, k)
            if what == "a"
            else without_corner(piece, k)
        )
        if made is None:
            continue
        change = {"m": 0, "a": 1, "c": -1}[what]
        assert len(corners(made)) in (len(corners(piece)) + change, 4)
        piece = made
        outline = shapely.Polygon(corners(piece))
        assert outline.is_valid
        assert outline.bounds[2:] == pytest.approx((piece.length, piece.width))
        ground = Ground("rest", NOTHING, piece.length, piece.width, piece)
        away = shapely.union_all([shapely.Polygon(ring) for ring in ground.avoid])
        free = shapely.box(0.0, 0.0, piece.length, piece.width).difference(away)
        assert free.difference(outline.buffer(0.01)).area < 3.0
        assert outline.difference(shapely.box(100.0, 100.0, 150.0, 150.0)).area == pytest.approx(free.area, abs=3.0)
    assert squared(piece).outline == ()
