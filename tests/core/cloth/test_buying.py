"""What is bought, chalked and saved: amounts against measured edges, sums that add up, outlines drawn again from their own numbers."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.core.cloth.test_lays import drafted_of, sample, sound
from tests.wild import tried, wild_jobs

from omnipel.core.cloth.cuts import layers_of
from omnipel.core.cloth.kinds import KINDS
from omnipel.core.cloth.lay import laid
from omnipel.core.cloth.marking import ChalkKind, chalk_of, proposed, rounded_to, step_of
from omnipel.core.cloth.saving import Saver, advised, best, sentence
from omnipel.core.cloth.stock import Goods, StashPiece, Stock
from omnipel.core.cloth.takeoff import Group, takeoff
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Marking
from omnipel.core.job.findings import Severity
from omnipel.core.job.laying import Remnant
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.shop.document import lawful
from omnipel.shop.starter import starter

PAIRS = lawful_pairs()


def test_thirteen_kinds_in_both_systems_are_round_in_their_own() -> None:
    assert len(KINDS) == 13
    for kind in KINDS.values():
        metric, inch = kind.begun(System.METRIC), kind.begun(System.INCH)
        assert metric.usable_width in metric.widths
        assert inch.usable_width in inch.widths
        assert all(abs(math.remainder(width, 25.4)) < 1e-6 for width in inch.widths)
        assert all(width % 10.0 == 0.0 for width in metric.widths)
        assert inch.sold_by == pytest.approx(228.6)
        assert not (kind.cloth.hot_cut and "vinyl" in metric.name)


@pytest.mark.parametrize("pair", PAIRS[1::5], ids=[f"{form}-{scheme}" for form, scheme in PAIRS[1::5]])
def test_every_amount_is_the_sum_of_its_terms_and_grows_with_the_covers(pair: tuple[str, str]) -> None:
    @tried(6)
    @given(st.data())
    def check(data: st.DataObject) -> None:
        job = data.draw(wild_jobs(*pair))
        one = draft(job)
        if not isinstance(one, Drafted):
            return
        taken, twice = takeoff(one), takeoff(drafted_of(replace(job, copies=2)))
        doubled = {line.key: line for line in twice.lines}
        assert taken.pay == 0.0
        for line in taken.lines:
            assert line.needed.value == pytest.approx(math.fsum(term.value for term in line.needed.terms))
            assert line.unknown is (line.price is None and line.to_buy > 1e-9)
            if line.group is Group.GOODS and line.by_length:
                assert doubled[line.key].needed.value == pytest.approx(2.0 * line.needed.value)

    check()


def test_thread_tape_and_cord_of_a_drum_by_pencil() -> None:
    drafted = drafted_of(sample("Honey extractor"))
    lines = {line.key: line for line in takeoff(drafted).lines}
    cloth = drafted.job.cover.cloth
    girth = next(trued.length_b for trued in drafted.seams if trued.seam.name == "wall to lid")
    wall = next(panel for panel in drafted.panels if panel.name == "wall")
    assert lines["cord 5"].needed.value == pytest.approx(girth + 2.0 * 50.0, abs=0.5)
    assert lines["basting tape"].needed.value == pytest.approx(2.0 * girth)
    sewn = sum(trued.length_b * trued.times for trued in drafted.seams)
    top = sum(trued.length_b * trued.times for trued in drafted.seams if trued.seam.kind == "semi-flat felled")
    hems = 2.0 * girth + 2.0 * 0.0
    ends = [edge.curve.length for p in drafted.panels for edge in p.edges if edge.finish.folded]
    assert hems <= sum(ends) + 1e-6
    per = [2.0 * (1.0 + layers * cloth.thickness / cloth.stitch) for layers in (2.0, 3.0, 3.0)]
    wanted = 1.15 * (sewn * per[0] + top * per[1] + sum(ends) * per[2])
    assert lines["thread Tex 90"].needed.value == pytest.approx(wanted, rel=1e-6)
    assert wall.cut_length.value > girth


def test_what_is_in_the_stash_is_not_paid_and_what_has_no_price_is_not_nothing() -> None:
    drafted = drafted_of(sample("Honey extractor"))
    stock = Stock(
        {"cord 5": Goods(key="cord 5", price=2.0, there=1500.0), "thread Tex 90": Goods(key="thread Tex 90", there=1e6)}
    )
    taken = takeoff(drafted, None, stock)
    lines = {line.key: line for line in taken.lines}
    cord = lines["cord 5"]
    assert cord.stashed == 1500.0
    assert cord.to_buy == pytest.approx(cord.needed.value - 1500.0)
    cloth = lines["outer"]
    assert taken.pay == pytest.approx(2.0 * cord.to_buy / 1000.0 + 18.5 * cloth.needed.value / 1000.0)
    assert taken.stashed == pytest.approx(3.0)
    assert taken.material == pytest.approx(taken.pay + taken.stashed)
    assert not lines["thread Tex 90"].unknown
    assert lines["basting tape"].unknown
    assert lines["basting tape"] in taken.unknown


def test_fasteners_have_one_in_ten_to_spare() -> None:
    drafted = drafted_of(sample("Trestle table"))
    item = next(item for item in drafted.cover.hardware if item.count > 3 and str(item.name) == "grommets")
    line = next(line for line in takeoff(drafted).lines if line.key == "grommets")
    assert line.needed.value == item.count + math.ceil(item.count / 10)


# Chalk


@pytest.mark.parametrize("pair", PAIRS[::3], ids=[f"{form}-{scheme}" for form, scheme in PAIRS[::3]])
def test_what_is_chalked_from_its_numbers_is_the_outline(pair: tuple[str, str]) -> None:
    @tried(8)
    @given(st.data())
    def check(data: st.DataObject) -> None:
        unit = data.draw(st.sampled_from((Unit.MM, Unit.INCH_16)))
        drafted = draft(data.draw(wild_jobs(*pair, unit)))
        if not isinstance(drafted, Drafted):
            return
        for panel in drafted.panels:
            scale = np.array([1.0 / (1.0 - share) for share in panel.take_up])
            ring = cut_line(panel) * scale
            ring = ring - ring.min(axis=0)
            if proposed(panel) is Marking.TEMPLATE:
                continue
            chalk, step = chalk_of(panel, unit), step_of(unit)
            told = rounded_to(chalk, step)
            made = told.redrawn()
            if told.kind is ChalkKind.DISC:  # where its middle is does not count
                made = made - (made.min(axis=0) + made.max(axis=0)) / 2.0 + (ring.min(axis=0) + ring.max(axis=0)) / 2.0
            lines = [shapely.segmentize(shapely.LinearRing(points), 4.0) for points in (ring, made)]
            assert shapely.hausdorff_distance(*lines) <= max(0.5, 0.3 + step * 0.75) + 0.15 * bool(unit.denominator)
            assert chalk.diagonal == pytest.approx(math.hypot(*chalk.size))

    check()


def test_rectangles_and_discs_are_chalked_small_curves_are_printed_rounded_sheets_by_their_corner() -> None:
    ways = {
        panel.name: proposed(panel)
        for name in ("Rain butt", "Barrow wheel", "Trestle table")
        for panel in drafted_of(sample(name)).panels
    }
    assert ways["lid"] is ways["wall"] is ways["boxing"] is Marking.CHALK
    assert ways["outer face"] is Marking.TEMPLATE
    assert ways["sheet"] is Marking.CORNER


# Advice


@pytest.mark.parametrize("name", ["Press motor", "Bottling trolley", "Rain butt", "Juice flagon"])
def test_advice_saves_what_it_says_and_makes_nothing_worse(name: str) -> None:
    job = sample(name)
    drafted = drafted_of(job)
    before = {layer: laid(drafted, layer).bought.value for layer in layers_of(drafted)}
    codes = {f.code for f in drafted.findings if f.severity in (Severity.STOP, Severity.LOOK)}
    found = advised(drafted, lawful=lawful)
    assert 0 < len(found) <= 5
    assert found == sorted(found, key=lambda a: -round(a.saves, 2))
    for advice in found:
        after = drafted_of(changed(job, *advice.changes))
        assert {f.code for f in after.findings if f.severity in (Severity.STOP, Severity.LOOK)} <= codes
        lay = laid(after, Cloth(advice.layer))
        sound(lay)
        assert lay.kept
        assert before[Cloth(advice.layer)] - lay.bought.value == pytest.approx(advice.less)
        assert advice.less > 0.0 or advice.saves > 0.0
        assert takeoff(drafted).pay - takeoff(after).pay == pytest.approx(advice.saves, abs=0.011)
        assert Voice(job.unit).say(sentence(advice))


def test_a_piece_of_the_stash_is_advised_where_it_serves() -> None:
    drafted = drafted_of(sample("Fermenting crock"))
    cloth = drafted.job.cover.cloth
    piece = StashPiece(cloth=cloth, piece=Remnant(id="3", length=900.0, width=1100.0), where="cupboard")
    lays = [laid(drafted, layer) for layer in layers_of(drafted)]
    found = best([a for a in Saver(drafted, lays, Stock(pieces={"3": piece}), lawful).look() if a is not None])
    assert any("stash" in str(advice.words) for advice in found)


def test_one_way_cloth_is_never_advised_to_be_turned() -> None:
    job = sample("Press motor")
    job = replace(job, cover=replace(job.cover, cloth=replace(job.cover.cloth, one_way=True)))
    assert all("across the grain" not in str(advice.words) for advice in advised(drafted_of(job), lawful=lawful))


def test_a_plain_drum_in_inches_is_advised_in_round_inches() -> None:
    job = starter("drum", "wall-and-lid", Unit.INCH_16)
    for advice in advised(drafted_of(job), lawful=lawful):
        said = Voice(job.unit).say(sentence(advice))
        assert " mm" not in said
        assert "≈" not in said
