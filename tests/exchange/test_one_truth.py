"""What one paper says of a piece, a good or a step, all papers and tables say: read back from what was printed and written, number by number."""

import csv
import io
import json
import re
from collections import Counter
from collections.abc import Iterator
from fractions import Fraction

import pytest
from odf import opendocument, table, teletype
from tests.exchange.test_booklet import DRAFTS, MADE, pages_of
from tests.wild import one_in

from omnipel.core.draft import Drafted
from omnipel.core.pictures.pens import at_home
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import Order
from omnipel.exchange.booklet import PARTS
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.papers.parts import papers

NAMES = [name for name, drafted in DRAFTS.items() if isinstance(drafted, Drafted)]
NUMBER = r"(?:\d+ \d+[/⁄]\d+|\d+[/⁄]\d+|\d+(?:\.\d+)?)"
SIZE = re.compile(rf"({NUMBER}) × ({NUMBER})")
MINUTES = re.compile(r"(?:(\d+) h )?(\d+(?:\.\d+)?) min")


def ungrouped(text: str) -> str:
    """Words with plain spaces, and thousands without one."""
    text = re.sub(r"(?<=\d)[\u202f\u00a0](?=\d{3}\b)", "", text)
    return text.replace("\u202f", " ").replace("\u00a0", " ")


def number(said: str) -> float:
    """A number as it is printed: whole, with a fraction, or with decimals."""
    return float(sum(Fraction(part) for part in said.replace("⁄", "/").split()))


def sizes(text: str) -> Counter[tuple[float, float]]:
    return Counter((number(long), number(wide)) for long, wide in SIZE.findall(text))


def minutes(text: str) -> list[float]:
    return [60.0 * int(hours or 0) + float(rest) for hours, rest in MINUTES.findall(text)]


class Written:
    """A job, as it is printed and written."""

    def __init__(self, name: str) -> None:
        self.drafted = DRAFTS[name]
        self.unit = self.drafted.job.unit
        self.order = Order(self.drafted, Voice(self.unit), at_home(self.unit), made=MADE)

    @property
    def half(self) -> float:
        """How far a printed length may be from the true one, in the job's unit."""
        return {Unit.INCH_16: 1 / 32, Unit.INCH_8: 1 / 16, Unit.CM: 0.05, Unit.MM: 0.5}[self.unit] + 1e-3

    def paper(self, part: str) -> str:
        content = papers(self.order, PARTS["title"].words, [part])
        return "\n".join(ungrouped(page.text) for page in pages_of(content))

    def rows(self, export: str) -> list[dict[str, str]]:
        text = EXPORTS[export].make(self.order).decode("utf-8-sig")
        return list(csv.DictReader(io.StringIO(ungrouped(text))))

    def data(self, export: str) -> dict[str, object]:
        return json.loads(EXPORTS[export].make(self.order))  # type: ignore[no-any-return]

    def close(self, a: tuple[float, float], b: tuple[float, float]) -> bool:
        return all(abs(x - y) <= self.half for x, y in zip(a, b, strict=True))


@pytest.fixture(params=NAMES[:: one_in(4)])
def written(request: pytest.FixtureRequest) -> Written:
    return Written(request.param)


def sized(row: dict[str, str], what: str) -> tuple[float, float]:
    """Two columns of a table, whatever their unit is called."""
    long, wide = (next(key for key in row if key.startswith(f"{what}{side} (")) for side in ("length", "width"))
    return float(row[long]), float(row[wide])


def unmatched(true: list[tuple[float, float]], said: Counter[tuple[float, float]], written: Written) -> Iterator[object]:
    """Sizes of which no printed one is as near as it is printed; each printed one serves once."""
    left = list(said.elements())
    for size in true:
        found = next((one for one in left if written.close(one, size)), None)
        if found is None:
            yield size
        else:
            left.remove(found)


def test_every_piece_is_of_one_size_on_lay_label_and_table(written: Written) -> None:
    rows = written.rows("pieces")
    true = [sized(row, "") for row in rows]
    assert true
    on_labels = sizes(written.paper("labels"))
    assert list(unmatched(true, on_labels, written)) == []
    assert on_labels.total() == len(rows)  # one label for each piece, and none besides
    lay = written.paper("lay")
    listed = Counter({size: n for size, n in sizes(lay).items() if any(written.close(size, one) for one in true)})
    assert list(unmatched(true, listed, written)) == []
    lays = written.data("lays")["lays"]
    assert sum(len(ground["pieces"]) for one in lays for ground in one["grounds"]) == len(rows)  # type: ignore[union-attr, index, attr-defined]


def test_every_panel_is_cut_to_one_size_on_cutting_sheet_and_table(written: Written) -> None:
    rows = written.rows("panels")
    sheet = sizes(written.paper("sheet"))
    true = [sized(row, what) for row in rows for what in ("cut ", "finished ")]
    assert list(unmatched(true, sheet, written)) == []
    panels = written.data("json")["panels"]
    assert [row["panel"] for row in rows] == [one["name"] for one in panels]  # type: ignore[union-attr, index, attr-defined]
    counts = sum(int(row["cut"]) for row in rows)
    assert counts * written.drafted.job.copies >= len({row["piece"] for row in written.rows("pieces")}) > 0


def test_what_is_bought_is_the_same_on_paper_in_the_table_and_in_the_spreadsheet(written: Written) -> None:
    rows = written.rows("purchases")
    paper = written.paper("shopping")
    joined = " ".join(paper.split()).casefold()
    for row in rows:
        assert " ".join(row["what"].split()).casefold() in joined, row["what"]
    document = opendocument.load(io.BytesIO(EXPORTS["spreadsheet"].make(written.order)))
    sheets = document.spreadsheet.getElementsByType(table.Table)
    cells = [
        [teletype.extractText(cell) for cell in line.getElementsByType(table.TableCell)]
        for line in sheets[-1].getElementsByType(table.TableRow)
    ]
    words = [line[0] for line in cells[1:]]
    assert [ungrouped(one) for one in words] == [row["what"] for row in rows]
    taken = written.data("takeoff")
    amounts = [line["needed"] for line in taken["lines"]]  # type: ignore[attr-defined]
    assert len(amounts) == len(rows) - 1  # the last is what is to be paid
    title = written.paper("title")
    first = next(line for line in title.splitlines() if line.startswith("to buy"))
    assert rows[0]["what"].casefold() in first.casefold()
    assert number(re.findall(NUMBER, first)[-1]) == pytest.approx(float(rows[0]["needed"]), abs=0.006)


def test_every_step_and_all_minutes_are_the_same_on_paper_in_the_table_and_on_the_first_page(written: Written) -> None:
    rows, paper = written.rows("steps"), written.paper("order")
    told = " ".join(paper.split())
    for row in rows:
        assert re.search(rf"\b{row['step']} {re.escape(row['what'])}", told), row
    likely = sum(float(row["minutes"]) for row in rows)
    title = next(line for line in written.paper("title").splitlines() if line.startswith("to sew"))
    first, low, high = minutes(title)
    assert minutes(paper)[:3] == [first, low, high]
    assert first == pytest.approx(likely, rel=0.03, abs=1.0)
    assert low <= first <= high
    plan = written.data("orderdata")
    assert len(plan["steps"]) == len(rows)  # type: ignore[arg-type]


def test_sizes_to_be_checked_while_sewing_are_those_of_the_pieces(written: Written) -> None:
    """The step that measures cut pieces against the list asks for sizes that the list has."""
    told = written.paper("order")
    asked = [number(said) for said in re.findall(rf"cut (?:length|width): ({NUMBER})", told)]
    listed = [side for row in written.rows("pieces") for side in sized(row, "")]
    rough = [side for row in written.rows("panels") for side in sized(row, "cut ")]
    assert all(any(abs(one - side) <= written.half for side in (*listed, *rough)) for one in asked), asked
