"""Papers read back: a panel in the PDF and in the SVG measures what was drafted."""

import io
import math
import re
from dataclasses import replace
from xml.etree import ElementTree

import numpy as np
import pytest
import shapely
from pdfminer.high_level import extract_pages, extract_text
from pdfminer.layout import LTChar, LTContainer, LTCurve, LTLine, LTPage, LTRect
from reportlab.pdfbase import pdfmetrics
from tests.exchange.printed import pdf
from tests.jobs import drum
from tests.wild import one_in

from omnipel.core.draft import draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.forms import FORMS
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Clearance, Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.pictures.drawing import Label, Path
from omnipel.core.pictures.labels import box_of
from omnipel.core.pictures.pens import PAPERS, Layer
from omnipel.core.pictures.sheet import panel_drawing, seam_title
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice, bare
from omnipel.core.words.units import Unit
from omnipel.exchange.files.svg import svg
from omnipel.exchange.papers.cutting import WIDE, _wrapped, laid_out
from omnipel.exchange.papers.pattern import small_of
from omnipel.exchange.papers.sheets import PLAIN
from omnipel.exchange.papers.tiling import LAP, laid, tiling
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import plausible

MM = 72.0 / 25.4
SMALL = draft(drum(420.0, 130.0, c=6.0, options={"skirt": True}))


def pages(paper: str) -> list[LTPage]:
    return list(extract_pages(io.BytesIO(pdf(SMALL, "tiles", paper))))


def sheet_pages(paper: str) -> int:
    """So many pages the cutting sheet takes before the tiles."""
    voice = Voice(SMALL.job.unit)
    return len(laid_out(SMALL, small_of(PAPERS[paper], voice), voice).pages)


def curves(page: LTPage) -> list[np.ndarray]:
    return [np.array(item.pts) / MM for item in page if isinstance(item, LTCurve)]


def test_on_a_large_sheet_every_panel_measures_true() -> None:
    sheets = pages("A0")[sheet_pages("A0") :]
    assert len(sheets) == len(SMALL.panels)
    for page, panel in zip(sheets, SMALL.panels, strict=True):
        outline = cut_line(panel)
        drawn = [c for c in curves(page) if len(c) >= len(outline)]
        assert drawn, panel.name
        assert np.ptp(drawn[0], axis=0) == pytest.approx(np.ptp(outline, axis=0), abs=0.1)
        assert shapely.Polygon(drawn[0][: len(outline)]).area == pytest.approx(shapely.Polygon(outline).area, rel=1e-4)


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_tiles_laid_cross_on_cross_give_the_panel_back(paper: str) -> None:
    wall = next(p for p in SMALL.panels if p.name == "wall")
    before = SMALL.panels[: SMALL.panels.index(wall)]
    spread = {p.name: laid(p, PAPERS[paper], Voice(SMALL.job.unit)) for p in SMALL.panels}
    first = sheet_pages(paper) + sum(spread[p.name][1].count for p in before)
    drawing, own = spread["wall"]
    whole = next(item.points for item in drawing.items if isinstance(item, Path) and item.layer is Layer.CUT)
    assert own.columns * own.rows > 1
    found = []
    all_pages = pages(paper)
    for i, (column, row) in enumerate(own.tiles()):
        page = all_pages[first + i]
        margin = PAPERS[paper].margin
        shift = np.array([own.left + column * own.step_x - margin, own.low + row * own.step_y - margin - 12.0])
        # Long straight pieces of the cut line survive on every tile they touch; clipping leaves their ends where they are.
        found += [
            c + shift
            for c in curves(page)
            if len(c) >= 4 and np.ptp(c + shift, axis=0) == pytest.approx(np.ptp(whole, axis=0), abs=0.1)
        ]
    assert found
    for outline in found:
        assert outline.min(axis=0) == pytest.approx(whole.min(axis=0), abs=0.1)


def test_the_printer_reaches_everything_and_tiles_overlap() -> None:
    for paper in ("A4", "Letter"):
        for panel in SMALL.panels:
            drawing, spread = laid(panel, PAPERS[paper], Voice(SMALL.job.unit))
            x0, y0, x1, y1 = drawing.bounds
            assert spread.columns * spread.step_x + LAP >= x1 - x0
            assert spread.rows * spread.step_y + LAP >= y1 - y0
            assert spread.step_x + LAP + 2 * PAPERS[paper].margin <= PAPERS[paper].width + 1e-9


@pytest.mark.parametrize("paper", PAPERS)
def test_a_dashed_line_is_only_where_another_sheet_follows(paper: str) -> None:
    sheets = iter(pages(paper)[sheet_pages(paper) :])
    for panel in SMALL.panels:
        _, spread = laid(panel, PAPERS[paper], Voice(SMALL.job.unit))
        for column, row in spread.tiles():
            page = next(sheets)
            lines = [
                i
                for i in page
                if isinstance(i, LTLine) and i.dashing_style and i.dashing_style[0] and i.stroking_color not in (0, 0.0)
            ]
            upright = [i for i in lines if i.width < 0.1 and i.height > 0.9 * spread.step_y * MM]
            level = [i for i in lines if i.height < 0.1 and i.width > 0.9 * spread.step_x * MM]
            assert (len(upright) == 1) is (column < spread.columns - 1)
            assert (len(level) == 1) is (row < spread.rows - 1)


def test_a_strip_lies_along_a_roll() -> None:
    strip = draft(drum(1763.0, 300.0))
    wall = next(panel for panel in strip.panels if panel.name == "wall")
    across = tiling(panel_drawing(wall, Voice(), 5.0, dimensions=False), PAPERS["roll914"])
    drawing, along = laid(wall, PAPERS["roll914"], Voice())
    assert (across.columns, across.rows) == (3, 1)
    assert along.count == 1
    words = [item for item in drawing.items if isinstance(item, Label)]
    assert words
    assert all(label.angle == pytest.approx(math.pi / 2) for label in words if label.words.startswith("wall"))


def test_the_test_square_is_fifty_and_the_cutting_sheet_is_one_page() -> None:
    first = pages("A4")[0]
    squares = [c for c in curves(first) if np.ptp(c, axis=0) == pytest.approx((50.0, 50.0), abs=0.01)]
    assert squares
    text = extract_text(io.BytesIO(pdf(SMALL, "pattern", "A4")), page_numbers=[0])
    for panel in SMALL.panels:
        assert panel.name in text
    for words in ("test square", "girth", "clearance", "seam allowance", "turn-under", "cord", "true"):
        assert words in text


@pytest.mark.parametrize("name", [sample().name for sample in SAMPLES[:: one_in(5)]])
def test_no_blank_tile_is_printed_and_nothing_is_lost_with_one(name: str) -> None:
    drafted = draft(next(job for job in (sample() for sample in SAMPLES) if job.name == name))
    for panel in drafted.panels:
        drawing, spread = laid(panel, PAPERS["A4"], Voice(drafted.job.unit))
        lines = [
            (shapely.LinearRing if item.closed and len(item.points) > 2 else shapely.LineString)(item.points)
            for item in drawing.items
            if isinstance(item, Path) and len(item.points) > 1
        ]
        words = [box_of(item) for item in drawing.items if isinstance(item, Label) and item.words]
        printed = shapely.union_all(
            [
                shapely.box(x, y, x + spread.step_x + LAP, y + spread.step_y + LAP)
                for column, row in spread.tiles()
                for x, y in [(spread.left + column * spread.step_x, spread.low + row * spread.step_y)]
            ]
        )
        assert not [line for line in (*lines, *words) if line.difference(printed.buffer(1e-6)).length > 1e-3], panel.name
        assert {(c, r) for c in range(spread.columns) for r in range(spread.rows)} == {*spread.tiles(), *spread.blank}
        for tile in spread.blank:
            assert not any(line.intersects(spread.own(*tile)) for line in (*lines, *words))
        if min(panel.length.value, panel.width.value) > 150.0 and not any(f.closed for f in panel.figures):
            plate = [box_of(i) for i in drawing.items if isinstance(i, Label) and i.layer is Layer.TEXT]
            assert not [box for box in plate if box.intersects(spread.joins())], panel.name
        assert [item for item in drawing.items if isinstance(item, Path) and item.layer is Layer.GRAIN] or len(plate) < 2


@pytest.mark.parametrize("name", ["Sprayer pump case", "Honey extractor", "Trestle table"][:: one_in(3)])
def test_the_cutting_sheet_can_be_read_and_shows_every_panel(name: str) -> None:
    drafted = draft(next(job for job in (sample() for sample in SAMPLES) if job.name == name))
    sheets = list(extract_pages(io.BytesIO(pdf(drafted, "sheet", "A4"))))
    letters = [c for page in sheets for c in characters(page)]
    assert min(c.fontsize if hasattr(c, "fontsize") else c.size for c in letters) >= 8.0 * 0.99
    bottom = min(c.y0 for c in letters) / MM
    assert bottom > PAPERS["A4"].margin - 2.0
    fills = [c for page in sheets for c in page if isinstance(c, LTCurve) and c.fill and c.x1 / MM < 50.0]
    assert len(fills) >= len(drafted.panels)  # a miniature each, left of the sums
    rows = [c for c in letters if c.get_text().strip() and c.x0 / MM > 48.0]
    assert max(f.x1 for f in fills) <= min(c.x0 for c in rows)
    squares = [c for c in curves(sheets[0]) if np.ptp(c, axis=0) == pytest.approx((50.0, 50.0), abs=0.01)]
    assert squares
    text = "".join(c.get_text() for c in letters).replace(" ", "")
    for trued in drafted.seams:
        assert str(seam_title(trued)).replace(" ", "") in text


def test_fractions_of_an_inch_are_real_ones_and_read_as_what_they_are() -> None:
    drafted = draft(replace(drum(), unit=Unit.INCH_16))
    letters = [c for page in extract_pages(io.BytesIO(pdf(drafted, "sheet", "Letter"))) for c in characters(page)]
    strokes = [i for i, c in enumerate(letters) if c.get_text() == "⁄"]
    assert strokes
    for i in strokes:
        over, under, full = letters[i - 1], letters[i + 1], letters[i]
        assert over.get_text().isdigit()
        assert under.get_text().isdigit()
        assert max(over.size, under.size) < 0.7 * full.size
        assert over.y0 > under.y0
        assert over.x1 <= full.x1
        assert full.x0 <= under.x0
    said = "".join(c.get_text() for c in letters).replace("⁄", "/")
    for panel in drafted.panels:
        assert Voice(Unit.INCH_16).say(bare(panel.cut_length.value)) in said


def characters(item: object) -> list[LTChar]:
    """Every letter of a page."""
    if isinstance(item, LTChar):
        return [item]
    return [c for part in item for c in characters(part)] if isinstance(item, LTContainer) else []


def test_svg_is_in_millimetres_with_layers() -> None:
    root = ElementTree.fromstring(svg(SMALL))
    space = "{http://www.w3.org/2000/svg}"
    box = [float(v) for v in root.attrib["viewBox"].split()]
    assert root.attrib["width"] == f"{box[2]:.4f}mm"
    groups = {g.attrib["id"]: g for g in root.findall(f"{space}g")}
    assert {"cut", "sew", "marks", "text", "fold"} <= set(groups)
    assert any(g.attrib["id"] == "cut-lid" for g in groups["cut"])


@pytest.mark.parametrize("paper", list(PAPERS)[:: one_in(4)])
def test_every_sheet_of_a_job_that_must_not_be_cut_says_so(paper: str) -> None:
    good, bad = (
        SMALL,
        draft(replace(SMALL.job, cover=replace(SMALL.job.cover, clearance=Clearance(amount=0.0), padding_inset=0.0))),
    )
    bad = draft(
        changed(bad.job, Change(refs.by_hand(), Override(size="wall_sew_length", value=380.0, reason="remnant"), Act.ADD))
    )
    assert bad.stops
    for drafted, says, full in ((good, False, False), (bad, True, False), (good, False, True), (bad, True, True)):
        text = [
            extract_text(io.BytesIO(pdf(drafted, "tiles" if full else "pattern", paper)), page_numbers=[i])
            for i in range(2 + full)
        ]
        assert [("DO NOT CUT" in page) for page in text] == [says] * len(text), paper


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_on_the_tape_card_every_tape_stands_out_from_its_thing_and_no_page_is_wasted(paper: str) -> None:
    saved = 0
    for sample in SAMPLES[:: one_in(4)] if paper == "A4" else SAMPLES[:: one_in(6)]:
        job = sample()
        body, places = plausible(job), FORMS[job.thing.form].places(job.readings, job.thing)
        ways = [body.tape(place.key) for place in places] if body is not None else []
        assert all(len(way) > 1 and np.ptp(way, axis=0).max() > 1.0 for way in ways), (
            job.name
        )  # also where nothing was measured yet
        sheets = list(extract_pages(io.BytesIO(pdf(draft(job), "card", paper))))
        boxes = [[c for c in sheet if isinstance(c, LTRect) and c.height == pytest.approx(9.0 * MM, abs=0.1)] for sheet in sheets]
        rows = [len({round(box.y0, 1) for box in found}) for found in boxes]
        assert sum(rows) == len(places)
        saved += max(rows) == max(len(places), 8) == 8
        assert len(sheets) == 1 or max(rows) >= 6, job.name
        marked = []
        for sheet, found in zip(sheets, boxes, strict=True):
            lines = [c for c in sheet if isinstance(c, LTCurve) and not isinstance(c, LTRect)]
            wide = [c for c in lines if c.linewidth > 0.75 * MM]
            assert body is None or sum(0.0 < c.linewidth <= 0.4 * MM for c in lines) > len(wide)  # the thing itself
            lows = np.array(sorted({round(box.y0, 1) for box in found}, reverse=True))
            near = {int(np.abs(lows + 12.0 * MM - (c.y0 + c.y1) / 2.0).argmin()) for c in wide}
            marked += [k in near for k in range(len(lows))]
        assert all(marked) == (body is not None), job.name
    assert saved or paper != "A4"  # a bottle's eight readings stand on one page


@pytest.mark.parametrize("width", [60.0, 75.0, 90.0, 118.0, 140.0])
def test_a_whole_number_and_its_fraction_stand_in_one_row(width: float) -> None:
    words = "cut length:  103 13/16 = 74 3/4 height (2 × 37 3/8) + 2 clearance (4 × 1/2) + 1/16 cloth + 23 3/4 width + 2 hem"
    made = list(_wrapped([("sum", words, 0.0)], 6.0, width))
    assert len(made) > 1
    assert " ".join(line for _, line, _ in made) == words
    for number in ("103 13/16", "74 3/4", "(2 × 37 3/8)", "(4 × 1/2)", "23 3/4"):
        assert sum(number in line for _, line, _ in made) == 1


@pytest.mark.parametrize("name", ["Grandmother's odd cupboard – ∆ <b>x</b> & 100 %", "w" * 200, "drum"])
def test_a_long_name_keeps_clear_of_the_picture_and_of_the_margin(name: str) -> None:
    job = replace(drum(420.0, 130.0), name=name)
    paper = PAPERS["A4"]
    for made, room in (
        (pdf(draft(job), "sheet", "A4"), paper.width - paper.margin - 5.0 - WIDE),
        (pdf(draft(job), "card", "A4"), paper.width - paper.margin - 5.0),
    ):
        first = next(iter(extract_pages(io.BytesIO(made))))
        letters = [c for box in first if isinstance(box, LTContainer) for line in box for c in line if isinstance(c, LTChar)]
        highest = max(c.y0 for c in letters)
        title = [c for c in letters if c.y0 > highest - 8.0]
        assert max(c.x1 for c in title) <= room * MM + 1.0
        assert min(c.size for c in title) >= 10.0


@pytest.mark.parametrize(
    ("name", "read"),
    [
        ("Tractor 🚜 no. 2", "Tractor (tractor) no. 2"),
        ("👍🏽 Ida 🇳🇴", "(thumbs up sign) Ida (n)(o)"),
        ("Zoe\u0308 ⁄ ∆ √2", "Zoë ⁄ ∆ √2"),
    ],
)
def test_on_paper_a_picture_in_a_name_is_a_word_and_nothing_is_an_empty_box(name: str, read: str) -> None:
    job = replace(SMALL.job, name=name, owner=name)
    drafted = draft(job)
    sheet = pdf(drafted, "sheet", "A4")
    for paper in (sheet, pdf(drafted, "pattern", "A4"), pdf(drafted, "card", "A4")):
        known = pdfmetrics.getFont(PLAIN).face.charToGlyph
        assert {sign for sign in extract_text(io.BytesIO(paper)) if ord(sign) not in known} <= {"\n", "\x0c"}
    assert read in re.sub(r"\s+", " ", extract_text(io.BytesIO(sheet)))
