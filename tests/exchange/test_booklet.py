"""The booklet of every sample job, read back page by page: nothing under 8 pt, nothing on anything else, nothing beyond the border, everything told."""

import io
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta, timezone
from typing import Any

import numpy as np
import pypdfium2 as pdfium
import pytest
import shapely
from pdfminer.pdfdocument import PDFDocument
from pdfminer.pdfpage import PDFPage
from pdfminer.pdfparser import PDFParser
from pdfminer.pdftypes import resolve1
from tests.exchange.printed import pdf
from tests.wild import one_in

from omnipel.core.draft import Draft, Drafted, draft
from omnipel.core.pictures.pens import PAPERS, at_home
from omnipel.core.words.phrases import Voice
from omnipel.exchange.asked import Order
from omnipel.exchange.booklet import IN_BOOKLET, PARTS, USUAL, possible
from omnipel.exchange.export import exported
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.papers.parts import papers
from omnipel.shop.sample import SAMPLES
from omnipel.tongues import tongue_of

MADE = datetime(2026, 11, 29, 17, 5, 9, tzinfo=timezone(timedelta(hours=-5)))
MM = 72.0 / 25.4
LEAST = 7.99
"""pt"""
SHARED = 0.35
"""Signs whose boxes share more than this of the smaller one are on one another."""
STROKES = "⁄/_|"
"""Strokes lean over their neighbours, lines to write on run on."""
DRAFTS = {job.name: draft(job) for job in (each() for each in SAMPLES)}


def booklet(drafted: Draft, paper: str, voice: Voice | None = None, keys: tuple[str, ...] = USUAL) -> bytes:
    order = Order(drafted, voice or Voice(drafted.job.unit), paper, made=MADE)
    return papers(order, PARTS["title"].words, [key for key in keys if possible(key, drafted)])


@dataclass(frozen=True)
class Letters:
    """What is written on a page: signs, their type in pt, and their boxes `(n, 4)`, from the lower left corner."""

    signs: list[str]
    sizes: np.ndarray
    boxes: np.ndarray
    text: str
    size: tuple[float, float]


def pages_of(content: bytes) -> Iterator[Letters]:
    """The pages as another's reader, which also draws them, sees them."""
    document = pdfium.PdfDocument(content)
    for page in document:
        text = page.get_textpage()
        signs, sizes, boxes = [], [], []
        for k in range(text.count_chars()):
            sign = chr(pdfium.raw.FPDFText_GetUnicode(text, k))
            if sign.strip() and sign.isprintable():
                signs.append(sign)
                sizes.append(pdfium.raw.FPDFText_GetFontSize(text, k))
                boxes.append(text.get_charbox(k))
        yield Letters(signs, np.array(sizes), np.array(boxes).reshape(-1, 4), text.get_text_bounded(), page.get_size())
    document.close()


def on_one_another(page: Letters) -> list[tuple[str, str]]:
    """Signs that are drawn over one another."""
    tree = shapely.STRtree(shapely.box(*page.boxes.T))
    areas = shapely.area(tree.geometries)
    pairs = tree.query(tree.geometries, predicate="intersects").T
    pairs = pairs[pairs[:, 0] < pairs[:, 1]]
    shared = shapely.area(shapely.intersection(tree.geometries[pairs[:, 0]], tree.geometries[pairs[:, 1]]))
    over = shared > SHARED * np.minimum(areas[pairs[:, 0]], areas[pairs[:, 1]])
    return [
        (page.signs[a], page.signs[b]) for a, b in pairs[over] if page.signs[a] not in STROKES and page.signs[b] not in STROKES
    ]


def opened(content: bytes) -> tuple[PDFDocument, list[PDFPage]]:
    document = PDFDocument(PDFParser(io.BytesIO(content)))
    return document, list(PDFPage.create_pages(document))


@pytest.mark.parametrize("name", list(DRAFTS)[:: one_in(5)])
def test_every_page_of_every_booklet_can_be_read(name: str) -> None:
    readable(DRAFTS[name], Voice(DRAFTS[name].job.unit), "{number} of {all}")


@pytest.mark.parametrize("name", list(DRAFTS)[1 :: one_in(8)])
def test_every_page_of_every_booklet_can_be_read_in_german(name: str) -> None:
    readable(DRAFTS[name], Voice(DRAFTS[name].job.unit, tongue_of("de")), "{number} von {all}")


def readable(drafted: Draft, voice: Voice, counted: str) -> None:
    """No letter too small, none on another, none beyond the border; head and foot on every page."""
    paper = PAPERS[at_home(drafted.job.unit)]
    content = booklet(drafted, at_home(drafted.job.unit), voice)
    pages = list(pages_of(content))
    margin = (paper.margin - 0.5) * MM
    for number, page in enumerate(pages, 1):
        small = {(round(float(size), 1), sign) for size, sign in zip(page.sizes, page.signs, strict=True) if size < LEAST}
        assert not {(size, sign) for size, sign in small if sign not in "0123456789/ "}, f"page {number}: {small}"
        assert not on_one_another(page), f"page {number}: {on_one_another(page)[:8]}"
        wide, high = page.size
        x0, y0, x1, y1 = page.boxes.T
        beyond = (x0 < margin) | (x1 > wide - margin) | (y0 < margin - 3.0) | (y1 > high - margin + 3.0)
        assert not beyond.any(), f"page {number}: {''.join(np.array(page.signs)[beyond])[:60]}"
        assert counted.format(number=number, all=len(pages)) in page.text
        assert "2026-11-29" in page.text
        assert drafted.job.name[:20] in page.text


def fonts(page: PDFPage) -> list[Any]:
    return [resolve1(font) for font in resolve1(resolve1(page.resources)["Font"]).values()]


@pytest.mark.parametrize("name", ["Honey extractor", "West butt", "Feed bin"])
def test_a_booklet_has_bookmarks_titles_its_fonts_and_true_metadata(name: str) -> None:
    drafted = DRAFTS[name]
    content = booklet(drafted, "A4")
    document, pages = opened(content)
    told = {key: value for key, value in document.info[0].items() if isinstance(value, bytes)}
    info = {key: value.decode("utf-16" if value[:2] == b"\xfe\xff" else "latin-1") for key, value in told.items()}
    assert info["CreationDate"].startswith("D:20261129170509")
    assert "-05'00'" in info["CreationDate"]
    assert info["Creator"].startswith("Omnipel ")
    assert "anonymous" not in "".join(info.values())
    assert drafted.job.name in info["Title"]
    marked = [title for _, title, *_ in document.get_outlines()]
    expected = [key for key in USUAL if possible(key, drafted)]
    assert len(marked) >= len(expected) - 1  # nothing is chalked of some
    for page in pages:
        for font in fonts(page):
            descriptor = resolve1(font["FontDescriptor"])
            assert "FontFile2" in descriptor, font
    tree = resolve1(document.catalog["StructTreeRoot"])
    assert resolve1(document.catalog["MarkInfo"])["Marked"] is True
    whole = resolve1(tree["K"])
    kinds = [str(resolve1(kid)["S"]) for kid in resolve1(whole["K"])]
    assert sum("H1" in kind for kind in kinds) == len(marked)
    if drafted.panels:
        assert any("Figure" in kind for kind in kinds)
    parents = resolve1(resolve1(tree["ParentTree"])["Nums"])
    assert parents[::2] == list(range(len(pages)))
    assert len(resolve1(whole["K"])) == sum(len(resolve1(kids)) for kids in parents[1::2])


def test_the_title_page_tells_on_which_sheet_everything_stands() -> None:
    drafted = DRAFTS["Honey extractor"]
    content = booklet(drafted, "A4", keys=IN_BOOKLET)
    document, _ = opened(content)
    texts = [page.text for page in pages_of(content)]
    told = 0
    for _, title, *_ in document.get_outlines():
        starts = [n for n, text in enumerate(texts, 1) if f"{title} · " in text.replace("\u00a0", " ") and n > 1]
        told += bool(starts) and str(starts[0]) in texts[0] and title in texts[0]
    assert told >= 8


def test_the_same_order_makes_the_same_file_and_parts_are_taken_in_their_order() -> None:
    drafted = DRAFTS["Rain butt"]
    assert isinstance(drafted, Drafted)
    once, twice = (booklet(drafted, "Letter") for _ in range(2))
    assert once == twice
    order = Order(drafted, Voice(drafted.job.unit), "Letter", parts=("care", "lay"), made=MADE)
    marks = [title for _, title, *_ in opened(exported(EXPORTS["book"], order))[0].get_outlines()]
    assert marks == ["Lay", "Care"]
    with pytest.raises(KeyError):
        pdf(drafted, "nothing", "A4")


@pytest.mark.parametrize("paper", PAPERS)
def test_templates_stand_on_the_paper_that_is_asked_for_and_lists_at_home(paper: str) -> None:
    drafted = DRAFTS["Platform scale"]
    _, pages = opened(pdf(drafted, "tiles", paper))
    sizes = {tuple(round(v / MM, 1) for v in page.mediabox[2:]) for page in pages}
    home = PAPERS[at_home(drafted.job.unit)] if paper not in ("A4", "Letter", "A3") else PAPERS[paper]
    assert (home.width, home.height) in sizes
    if PAPERS[paper].roll:
        rolls = sizes - {(home.width, home.height)}
        assert {wide for wide, _ in rolls} == {PAPERS[paper].width}
        assert all(high <= PAPERS[paper].height for _, high in rolls)
        assert len({high for _, high in rolls}) > 1  # of a roll as much as each takes
