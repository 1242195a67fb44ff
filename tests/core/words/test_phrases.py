"""Phrases, their values and their sums: what is written, rounded, shared out and left to a translator."""

import math
from string import Formatter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.words.phrases import (
    NOTHING,
    Angle,
    Area,
    Count,
    Length,
    Name,
    Pseudo,
    Ratio,
    Rule,
    Run,
    Share,
    Voice,
    bare,
    either,
    listed,
    mm,
    plain,
    reads_exactly,
    term,
    tr,
    trn,
)
from omnipel.core.words.sums import apportioned, shown_sum, sum_words
from omnipel.core.words.units import Unit, format_length
from omnipel.core.words.working import worked

UNITS = st.sampled_from(Unit)


@given(st.lists(st.floats(-50.0, 50.0), min_size=1, max_size=9))
def test_shares_add_up_and_none_moves_by_a_whole_step(values: list[float]) -> None:
    total = math.floor(math.fsum(values) + 0.5)
    parts = apportioned(values, total)
    assert sum(parts) == total
    assert all(abs(part - value) < 1.0 + 1e-6 for part, value in zip(parts, values, strict=True))


@given(st.floats(0.01, 5000.0), UNITS, st.booleans())
def test_a_length_is_what_it_reads_only_on_a_step(length: float, unit: Unit, fine: bool) -> None:
    step = unit.fine_step if fine else unit.step
    on = max(1, round(length / step)) * step
    assert reads_exactly(on, unit, fine=fine)
    assert reads_exactly(on + 1e-7 * max(1.0, on), unit, fine=fine)  # the rounding of a conversion
    assert not reads_exactly(on + 0.3 * step, unit, fine=fine)
    voice = Voice(unit)
    assert not voice.say(Length(on, fine=fine, chosen=True)).startswith("≈")
    off = voice.say(Length(on + 0.3 * step, fine=fine, chosen=True))
    assert off == "≈\u202f" + voice.say(Length(on + 0.3 * step, fine=fine))


@given(UNITS, st.floats(0.01, 0.49), st.booleans())
def test_what_is_there_is_never_written_as_nothing(unit: Unit, part: float, fine: bool) -> None:
    step = unit.fine_step if fine else unit.step
    words = Voice(unit).say(mm(part * step, fine=fine))
    assert words == f"under {format_length(step, unit, fine=fine)} {unit.short}"
    assert Voice(unit).say(mm(0.0)) == f"0 {unit.short}"
    assert Voice(unit).say(bare(part * step, fine=fine)) == "0"


@pytest.mark.parametrize(
    ("value", "unit", "words"),
    [
        (Rule(12.0, 0.5), Unit.MM, "12 mm"),
        (Rule(12.0, 0.5), Unit.INCH_8, "1/2 in"),
        (Rule(12.0, 0.5), Unit.CM, "1.2 cm"),
        (Angle(math.pi / 3), Unit.MM, "60°"),
        (Share(0.125, 1), Unit.MM, "12.5\u202f%"),
        (Share(0.4), Unit.MM, "40\u202f%"),
        (Ratio(2.4), Unit.MM, "2.4\u202f:\u202f1"),
        (Ratio(3.0), Unit.MM, "3\u202f:\u202f1"),
        (Count(7), Unit.MM, "7"),
        (Count(12.4), Unit.MM, "12"),
        (Count(7.25, 2), Unit.MM, "7.25"),
        (Count(7.0, 2), Unit.MM, "7"),
        (Area(2_000_000), Unit.MM, "2.00 m²"),
        (Area(2_000_000), Unit.INCH_16, "21.5 sq ft"),
        (Run(1828.8), Unit.INCH_16, "2.00 yd"),
        (Run(1828.8), Unit.CM, "1.83 m"),
        (Name("{not} a template"), Unit.MM, "{not} a template"),
        (plain("{not} either"), Unit.MM, "{not} either"),
        (term("top {left}"), Unit.MM, "top {left}"),
        (listed((mm(25.4), Count(2)), " / "), Unit.INCH_16, "1 in / 2"),
        (either((term("girth"),)), Unit.MM, "girth"),
        (either((term("girth"), term("drop"), term("across"))), Unit.MM, "girth, drop or across"),
        (NOTHING, Unit.MM, ""),
    ],
)
def test_every_value_has_its_own_way_of_being_written(value: object, unit: Unit, words: str) -> None:
    assert Voice(unit).say(value) == words  # type: ignore[arg-type]


@given(st.integers(0, 30))
def test_one_and_many(n: int) -> None:
    phrase = trn("{n} piece of {what}", "{n} pieces of {what}", n, what=term("cloth"))
    assert str(phrase) == (f"{n} piece of cloth" if n == 1 else f"{n} pieces of cloth")

    class Slavic:
        """A language with three numbers."""

        def gettext(self, message: str) -> str:
            return message

        def ngettext(self, one: str, many: str, count: int) -> str:
            return "{n} kusy" if count in (2, 3, 4) else "{n} kus" if count == 1 else "{n} kusov"

    assert Voice(Unit.MM, Slavic()).say(phrase) == f"{n} " + ("kus" if n == 1 else "kusy" if n in (2, 3, 4) else "kusov")


@given(
    st.text(alphabet="abc xyz{}", max_size=20).filter(lambda t: t.count("{") == t.count("}") == 0),
    st.sampled_from(["", "{a}", "{b} and {a}"]),
)
def test_a_made_up_language_keeps_the_fields(text: str, fields: str) -> None:
    made = Pseudo().gettext(f"{text}{fields}")
    wanted = [name for _, name, _, _ in Formatter().parse(fields) if name]
    assert [name for _, name, _, _ in Formatter().parse(made) if name] == wanted
    assert not any(
        "a" <= letter <= "z"
        for letter in made.translate({ord(c): None for c in "{}"}).replace("a", "").replace("b", "")
        if letter in "cegst"
    )


def test_a_sentence_begins_with_a_capital_and_a_name_stays() -> None:
    voice = Voice(Unit.INCH_16)
    assert voice.sentence(tr("the {x} is {y} deep", x=Name("iron lid"), y=mm(12.7))) == "The iron lid is 1/2 in deep"
    assert sum_words(worked(tr("drop"), 25.4 * 3) + worked(tr("hem"), 25.4), voice) == "4 = 3 drop + 1 hem"


def test_a_sum_of_thin_terms_shows_its_largest_and_names_the_rest() -> None:
    thin = worked(tr("cloth"), 0.2) + worked(tr("thread"), 0.15)
    voice = Voice(Unit.INCH_16)
    shown = shown_sum(thin, voice)
    assert [str(t.term.name) for t in shown.terms] == ["cloth"]
    assert [str(t.name) for t in shown.thin] == ["thread"]
    assert sum_words(thin, voice) == "0 = 0 cloth (0.01) (and under 1/16 in: thread)" or "thread" in sum_words(thin, voice)
    less = worked(tr("path"), 900.0) - worked(tr("corners"), 47.0) * (4 - math.pi)
    assert sum_words(less, Voice(Unit.MM)) == "860 = 900 path − 40 corners (0.8584 × 47)"
