"""The order of work on paper, read back: every step, what to mind and to check, its letters large enough and nowhere on one another."""

import io
import re
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import pytest
from pdfminer.high_level import extract_pages
from pdfminer.layout import LTChar, LTContainer, LTPage, LTTextLine
from tests.core.cloth.test_lays import drafted_of, sample
from tests.exchange.printed import pdf
from tests.exchange.test_papers import characters
from tests.wild import some

from omnipel.cli import main
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.sewing import StepLog
from omnipel.core.learning.sizes import sizes
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.sewing.howto import how
from omnipel.core.sewing.paces import Factor, Person
from omnipel.core.sewing.plan import Plan, planned
from omnipel.core.words.phrases import Voice, mm
from omnipel.core.words.typeset import fractions
from omnipel.core.words.units import Unit
from omnipel.shop.document import write
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

MM_PER_POINT = 25.4 / 72.0
EVERY = [job.name for job in (made() for made in SAMPLES) if job.name != "Feed bin"]  # that one waits for its readings


def read_back(content: bytes) -> list[LTPage]:
    return list(extract_pages(io.BytesIO(content)))


def lines(item: object) -> list[LTTextLine]:
    if isinstance(item, LTTextLine):
        return [item]
    return [line for part in item for line in lines(part)] if isinstance(item, LTContainer) else []


def plain(words: str) -> str:
    """Letters and figures alone: how words are broken, spaced and set does not count."""
    return re.sub(r"[^\w]", "", fractions(words)).casefold()


def all_of(pages: list[LTPage]) -> str:
    return plain("".join(c.get_text() for page in pages for line in _downwards(page) for c in characters(line)))


def _downwards(page: LTPage) -> list[LTTextLine]:
    """The words left of the pictures, from the top."""
    return sorted((line for line in lines(page)), key=lambda line: (-round(line.y0), line.x0))


def order_of(job: Job) -> Plan:
    return planned(drafted_of(job), None, job.copies, job.sewing.order)


@pytest.mark.parametrize(("name", "paper"), some(EVERY, ("A4", "Letter"), of=14))
def test_every_step_of_a_sample_stands_on_paper_with_what_to_mind_and_to_check(name: str, paper: str) -> None:
    job = sample(name)
    plan, voice = order_of(job), Voice(job.unit)
    pages = read_back(pdf(drafted_of(job), "order", paper, voice))
    text, at = all_of(pages), 0
    for step in plan.steps:
        words = plain(f"{step.number} {voice.sentence(step.operation.words)}")[:18]
        at = text.find(words, at)
        assert at >= 0, words
    for caution in {caution.key: caution for step in plan.steps for caution in step.cautions}.values():
        assert plain(voice.sentence(caution.words))[:24] in text
    for size in (size for step in plan.steps if step.stage for size in sizes(plan.making, step.stage)):
        assert plain(f"{voice.sentence(size.words)}: {voice.say(mm(size.planned.value))}, made") in text
    for check in (check for step in plan.steps for check in step.operation.checks if not (step.stop and check.length)):
        assert plain(voice.sentence(check.words))[:16] in text
    sheet = PAPERS[paper]
    for page in pages:
        letters = [c for c in characters(page) if c.get_text().strip()]
        assert min(c.size for c in letters if not c.get_text().isdigit()) >= 8.0  # figures of fractions are smaller
        for c in letters:
            assert sheet.margin - 0.1 <= c.x0 * MM_PER_POINT
            assert c.x1 * MM_PER_POINT <= sheet.width - sheet.margin + 0.1
            assert sheet.margin - 0.1 <= c.y0 * MM_PER_POINT


@pytest.mark.parametrize("name", [name for (name,) in some(EVERY, of=12)])
def test_no_line_of_a_step_lies_on_another(name: str) -> None:
    job = sample(name)
    for page in read_back(pdf(drafted_of(job), "told", "A4", Voice(job.unit))):
        boxes = [_box(line) for line in lines(page) if len(line.get_text().strip()) > 6]
        for (words, a), (other, b) in combinations(boxes, 2):
            over = min(a[2], b[2]) - max(a[0], b[0]), min(a[3], b[3]) - max(a[1], b[1])
            assert min(over) < 3.0, (words, other)


def _box(line: LTTextLine) -> tuple[str, tuple[float, float, float, float]]:
    letters = [c for c in characters(line) if isinstance(c, LTChar) and c.get_text().strip()]
    return line.get_text(), (
        min(c.x0 for c in letters),
        min(c.y0 for c in letters),
        max(c.x1 for c in letters),
        max(c.y1 for c in letters),
    )


@pytest.mark.parametrize(("form", "scheme"), some(lawful_pairs(), of=12))
def test_in_inches_nothing_is_told_in_millimetres_and_all_lengths_fit(form: str, scheme: str) -> None:
    job = replace(starter(form, scheme, Unit.INCH_16), copies=3)
    made = draft(job)
    if not isinstance(made, Drafted):
        return
    pages = read_back(pdf(made, "order", "Letter", Voice(job.unit)))
    words = " ".join(line.get_text() for page in pages for line in lines(page))
    assert not re.search(r"\d\s*(mm|cm|m)\b|metre|[{}]", words)
    assert "3 covers" in words


def test_in_full_it_tells_how_where_a_kind_of_step_comes_first_and_what_was_done_and_noted() -> None:
    job = sample("Press motor")
    plan, voice = order_of(job), Voice(job.unit)
    first, second = plan.steps[0], plan.steps[6]
    logs = {first.key: StepLog(done=True, took=4.0, planned=3.0), second.key: StepLog(note="sewed 15 instead of 12")}
    noted = replace(job, sewing=replace(job.sewing, steps=logs))
    text = all_of(read_back(pdf(drafted_of(noted), "told", "A4", voice)))
    for deed in {step.operation.deed for step in plan.steps}:
        for sentence in how(deed):
            assert text.count(plain(voice.sentence(sentence))[:20]) >= 1
    assert plain("sewed 15 instead of 12") in text
    assert plain(f"{len(plan.steps) - 1} of {len(plan.steps)} steps are left") in text
    short = all_of(read_back(pdf(drafted_of(job), "order", "A4", voice)))
    assert len(short) < len(text)
    slow = Person(factors={step.operation.deed: Factor(1.0, 0.1, 9) for step in plan.steps})
    assert all_of(read_back(pdf(drafted_of(job), "order", "A4", voice, person=slow))) != short


@pytest.mark.parametrize("name", ["Press motor", "Settling tank", "Bench cushion"])
def test_the_cutting_sheet_has_the_order_in_short(name: str) -> None:
    job = sample(name)
    plan = order_of(job)
    text = all_of(read_back(pdf(drafted_of(job), "sheet", "A4")))
    assert "orderofwork" in text
    for step in plan.steps:
        if step.changeover or step.number == 1:
            words = plain(Voice(job.unit).say(step.operation.words))
            assert re.search(rf"{step.number}(\d+)?{words[:14]}", text)


def test_the_command_line_writes_both(tmp_path: Path) -> None:
    file = tmp_path / "motor.omnipel.json"
    write(sample("Press motor"), file)
    assert (
        main(["export", str(file), "--order", str(tmp_path / "o.pdf"), "--told", str(tmp_path / "t.pdf"), "--despite-stop"]) == 0
    )
    one, other = ((tmp_path / name).read_bytes() for name in ("o.pdf", "t.pdf"))
    assert one.startswith(b"%PDF")
    assert len(read_back(other)) >= len(read_back(one))
