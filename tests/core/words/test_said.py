"""Whatever any draft says: in the job's unit and no other, in words and no inner name, with sums that add up as shown."""

import re
import unicodedata

import pytest
from hypothesis import given
from tests.wild import said, tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.job.document import Job
from omnipel.core.tolerances import LONGEST
from omnipel.core.words.notation import parse_length
from omnipel.core.words.phrases import Pseudo, Voice
from omnipel.core.words.sums import shown_sum, sign_of, sum_words
from omnipel.core.words.units import Unit, format_length
from omnipel.core.words.working import Worked

PAIRS = lawful_pairs()
METRIC_UNIT = re.compile(r"(?<![a-z])(mm|cm|m|m²)(?![a-z\u0307])")
INCH_UNIT = re.compile(r"(?<![a-z])(in|ft|yd|sq)(?![a-z\u0307])")
INNER = re.compile(
    r"[a-z]_[a-z]|\b[a-z]+\.\d|\b(readings|cover|thing|panels|seams)\.\w|[{}<>]|\b(None|True|False|nan|inf)\b"
    r"|\b0 (in|mm|cm)\b (narrower|wider|too|longer|shorter|is|on)"
)

NO_LENGTH = re.compile(r"(?<![\d.,/ ])\s0 (in|mm|cm)\b")
"""Nobody says that something is to stay 0 clear, or is rounded by 0."""


def heard(unit: Unit, value: object) -> str:
    """A text or a sum in a made-up language: letters that are left plain come from values, not from words."""
    voice = Voice(unit, Pseudo())
    words = sum_words(value, voice) if isinstance(value, Worked) else voice.say(value)  # type: ignore[arg-type]
    return unicodedata.normalize("NFC", words)


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_no_foreign_unit_and_no_inner_name(form: str, scheme: str) -> None:
    @tried(6)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        for value in set(said(draft(job))):
            for unit in (Unit.MM, Unit.CM, Unit.INCH_16):
                words = heard(unit, value)
                foreign = METRIC_UNIT if unit.denominator else INCH_UNIT
                assert not foreign.search(words), (unit, words, str(value))
            plain = Voice(job.unit)
            english = sum_words(value, plain) if isinstance(value, Worked) else plain.say(value)
            assert not INNER.search(english), english
        for finding in draft(job).findings:
            for words in (finding.text, *(remedy.words for remedy in finding.remedies)):
                assert not NO_LENGTH.search(Voice(job.unit).say(words)), str(words)

    run()


@pytest.mark.parametrize(("form", "scheme"), PAIRS)
def test_shown_sums_add_up_when_they_are_read_back(form: str, scheme: str) -> None:
    @tried(6)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        # The sector radius of a tub that hardly tapers may be longer than anything that could be typed.
        for number in {v for v in said(draft(job)) if isinstance(v, Worked) and abs(v.value) < LONGEST}:
            for unit in Unit:
                voice = Voice(unit)
                line, shown = sum_words(number, voice), shown_sum(number, voice)
                total = read_back(line.partition(" = ")[0], unit)
                rest, added = line.partition(" = ")[2], 0.0
                for i, part in enumerate(shown.terms):
                    piece = f"{sign_of(part.shown, first=i == 0)}{format_length(abs(part.shown), unit)} {voice.say(part.term.name)}{part.why}"
                    assert rest.startswith(piece), (rest, piece)
                    rest = rest.removeprefix(piece)
                    sign = -1.0 if "−" in sign_of(part.shown, first=i == 0) else 1.0
                    added += sign * read_back(format_length(abs(part.shown), unit), unit)
                assert added == pytest.approx(total, abs=1e-6), line
                assert total == pytest.approx(number.value, abs=unit.step / 2.0 + 1e-6)

    run()


def read_back(words: str, unit: Unit) -> float:
    """A shown length as a person would type it again."""
    sign = -1.0 if words.startswith("−") else 1.0
    digits = words.removeprefix("−")
    return 0.0 if digits == "0" else sign * parse_length(digits, unit)
