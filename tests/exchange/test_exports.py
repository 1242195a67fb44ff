"""Every export: what it needs, what it asks, what it writes; and that nothing is written over by mistake."""

import json
from dataclasses import replace
from pathlib import Path

import pytest
from tests.jobs import drum

from omnipel.cli import main
from omnipel.core.draft import NotYet, draft
from omnipel.core.job.changes import changed
from omnipel.core.job.document import Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.trying import Stage, TryOn
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.export import DESPITE_STOP, MANY, MANY_SHEETS, exported
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.document import read, write
from omnipel.shop.starter import starter

BY_HAND = Override(size="wall_sew_length", value=380.0, reason="remnant")
GOOD, OPEN = draft(drum()), draft(replace(drum(), readings=()))
MADE = draft(replace(drum(), tries=(TryOn(stage=Stage.FINISHED, day="2026-10-14"),)))
STOPPED = draft(changed(drum(), Change(refs.by_hand(), BY_HAND, Act.ADD)))


def huge() -> Order:
    """A cover as long as a street, on the smallest paper."""
    job = starter("box", "saddle-and-ends")
    made = draft(replace(job, readings=tuple(replace(r, repeats=(r.repeats[0] * 60.0,)) for r in job.readings)))
    return Order(made, Voice(), "A4")


@pytest.mark.parametrize("export", EXPORTS.values(), ids=lambda e: e.id)
def test_each_writes_its_kind_when_it_may_and_says_why_not(export) -> None:  # type: ignore[no-untyped-def]
    good = GOOD if export.possible(GOOD) else MADE
    content = exported(export, Order(good, Voice(), "A4"), MANY_SHEETS)
    assert content.startswith(export.begins)
    assert isinstance(OPEN, NotYet)
    assert STOPPED.stops
    if export.needs_panels:
        with pytest.raises(NotExported, match="no panels yet"):
            exported(export, Order(OPEN, Voice(), "A4"), DESPITE_STOP)
        with pytest.raises(NotExported, match="do not cut") as caught:
            exported(export, Order(STOPPED, Voice(), "A4"))
        assert caught.value.asks == DESPITE_STOP
    elif export.possible(OPEN):
        assert exported(export, Order(OPEN, Voice(), "A4")).startswith(export.begins)
    else:
        with pytest.raises(NotExported, match="nothing is due"):
            exported(export, Order(OPEN, Voice(), "A4"))


def test_very_many_sheets_are_asked_about_and_far_too_many_are_not_made() -> None:
    order = huge()
    tiles = EXPORTS["tiles"]
    count = tiles.sheets(order)  # type: ignore[misc]
    assert count > MANY
    with pytest.raises(NotExported, match=f"{count} sheets"):
        exported(tiles, order, DESPITE_STOP, MANY_SHEETS)
    with pytest.raises(NotExported) as caught:
        exported(tiles, replace(order, paper="A0"), DESPITE_STOP)
    assert caught.value.asks == MANY_SHEETS


def test_sheets_are_counted_as_they_are_printed() -> None:
    import io

    from pdfminer.pdfpage import PDFPage

    for paper in ("A4", "Letter", "A0", "roll914"):
        order = Order(GOOD, Voice(), paper)
        for way in ("pdf", "tiles"):
            pages = list(PDFPage.get_pages(io.BytesIO(exported(EXPORTS[way], order, MANY_SHEETS))))
            assert len(pages) == EXPORTS[way].sheets(order)  # type: ignore[misc]


def test_nothing_is_written_over_that_is_something_else(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job, pdf = tmp_path / "job.json", tmp_path / "job.pdf"
    write(drum(), job)
    before = job.read_bytes()
    for command in (
        ["export", str(job), "--pdf", str(job)],
        ["new", "drum", "wall-and-lid", "-o", str(job)],
        ["card", str(job), str(job)],
    ):
        assert main(command) == 2
        assert "is there already" in capsys.readouterr().err
        assert job.read_bytes() == before
    assert main(["export", str(job), "--pdf", str(pdf), "--paper", "A0"]) == 0
    assert main(["export", str(job), "--pdf", str(pdf), "--paper", "A0"]) == 0  # an earlier one of its kind
    assert main(["new", "drum", "wall-and-lid", "-o", str(job), "--replace"]) == 0
    assert read(job) != drum()


def test_what_cannot_be_written_leaves_nothing_behind(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    job = tmp_path / "job.json"
    write(drum(), job)
    assert main(["export", str(job), "--pdf", str(tmp_path / "none" / "p.pdf"), "--paper", "A0"]) == 2
    said = capsys.readouterr().err
    assert "there is no folder" in said
    assert "Errno" not in said
    assert [path.name for path in tmp_path.iterdir()] == ["job.json"]
    assert main(["export", str(job), "--json", str(tmp_path / "d.json"), "--sheet", str(tmp_path / "s.pdf")]) == 0
    assert {p["name"] for p in json.loads((tmp_path / "d.json").read_text())["panels"]} == {p.name for p in GOOD.panels}
