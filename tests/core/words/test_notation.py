"""Lengths as people write them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.words.notation import TapeError, parse_length
from omnipel.core.words.plain_numbers import parse_number, parse_share
from omnipel.core.words.units import Unit, format_length

IN = 25.4


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("12 5/8", Unit.INCH_16, 12.625 * IN),
        ('12-5/8"', Unit.MM, 12.625 * IN),
        ("12⅝", Unit.INCH_8, 12.625 * IN),
        ("12 ⅝ in", Unit.CM, 12.625 * IN),
        ("⅝", Unit.INCH_8, 0.625 * IN),
        ("5/8", Unit.INCH_8, 0.625 * IN),
        ("3'4 1/2", Unit.MM, 40.5 * IN),
        ("3' 4 1/2\"", Unit.CM, 40.5 * IN),
        ("3 ft 4 1/2 in", Unit.MM, 40.5 * IN),
        ("3′4½″", Unit.MM, 40.5 * IN),
        ("3'", Unit.MM, 36 * IN),
        ("318", Unit.MM, 318.0),
        ("318", Unit.CM, 3180.0),
        ("31.8cm", Unit.INCH_16, 318.0),
        ("31,8 cm", Unit.MM, 318.0),
        ("0.318 m", Unit.CM, 318.0),
        ("1 m 20 cm", Unit.MM, 1200.0),
        ("2x14 3/8", Unit.INCH_16, 28.75 * IN),
        ("2 × 14 3/8 in", Unit.MM, 28.75 * IN),
        ("4 1/2 + 2 1/4", Unit.INCH_16, 6.75 * IN),
        ("12 - 5/8", Unit.INCH_16, 11.375 * IN),
        ("(12+3/8)/2", Unit.INCH_16, 6.1875 * IN),
        ("10cm + 5", Unit.MM, 105.0),
        ("girth/2", Unit.MM, 471.0),
        ("2 x (girth + 10)", Unit.MM, 1904.0),
        *(
            (text, Unit.MM, 1884.0)
            for text in ("2*girth", "2 * girth", "2xgirth", "2 x girth", "girth x 2", "girth*2", "(1+1)xgirth")
        ),
        ("1/2xgirth", Unit.MM, 471.0),
        ("½xgirth", Unit.MM, 471.0),
        ("31*pi", Unit.MM, 97.38937226),
        ("31 x pi", Unit.MM, 97.38937226),
        ("1\u202f894", Unit.MM, 1894.0),
        ("-5 + 8", Unit.MM, 3.0),
        ("1,250 m", Unit.MM, 1250.0),
    ],
)
def test_reads_what_people_write(text: str, unit: Unit, mm: float) -> None:
    assert parse_length(text, unit, {"girth": 942.0}) == pytest.approx(mm, abs=1e-8)


@pytest.mark.parametrize(
    ("text", "column", "words"),
    [
        ("", 1, "nothing is written"),
        ("   ", 1, "nothing is written"),
        ("12 5/", 4, "follows a finished"),
        ("12 abc", 4, "follows a finished"),
        ("abc", 1, "is no reading"),
        ("12 13", 4, "follows a finished"),
        ("(12+3/8", 8, "still open"),
        ("5 cm x 5 cm", 6, "area"),
        ("5 / 2 cm", 3, "divided by a length"),
        ("5/0", 1, "division by 0"),
        ("5 / 0", 3, "division by 0"),
        ("4 +", 4, "ends too early"),
        ("1,763", 1, "two ways"),
        ("1e308", 2, "follows a finished"),
        ("999999999", 1, "far too long"),
        ("12;5", 3, "not part of a length"),
        ("__import__('os')", 1, "not part of a length"),
    ],
)
def test_refuses_in_words_with_the_column(text: str, column: int, words: str) -> None:
    with pytest.raises(TapeError) as caught:
        parse_length(text, Unit.MM)
    assert caught.value.column == column
    assert words in str(caught.value)
    assert caught.value.expected


@given(st.floats(0.0, 90_000.0), st.sampled_from(Unit), st.booleans())
def test_format_then_parse_is_within_half_a_step(mm: float, unit: Unit, fine: bool) -> None:
    step = unit.step if not fine else (25.4 / max(64, unit.denominator) if unit.denominator else unit.step / 10.0)
    back = parse_length(format_length(mm, unit, fine=fine), unit)
    assert abs(back - mm) <= step / 2.0 + 1e-9 * mm
    assert parse_length(format_length(mm, unit, fine=fine, with_unit=True), Unit.MM) == pytest.approx(back)


@given(st.text(max_size=40))
def test_any_text_is_a_length_or_a_tape_error(text: str) -> None:
    try:
        mm, column = parse_length(text, Unit.INCH_16), 1
    except TapeError as error:
        mm, column = 0.0, error.column
    assert abs(mm) <= 100_000.0
    assert 1 <= column <= len(text) + 1


@pytest.mark.parametrize(
    ("text", "share"),
    [
        ("40 %", 0.4),
        ("40%", 0.4),
        ("40", 0.4),
        ("0.4", 0.4),
        ("0,4", 0.4),
        ("1", 0.01),
        ("1.1", 0.011),
        ("0.99", 0.99),
        ("100 %", 1.0),
    ],
)
def test_a_share_is_read_in_percent_or_as_a_part(text: str, share: float) -> None:
    assert parse_share(text) == pytest.approx(share)


@pytest.mark.parametrize(("text", "number"), [("12", 12.0), ("2,4", 2.4), ("2.4 : 1", 2.4), ("3:1", 3.0)])
def test_a_plain_number_or_so_many_to_one(text: str, number: float) -> None:
    assert parse_number(text) == number


def test_a_refusal_names_the_readings_there_are() -> None:
    letters = ("A", "B")  # each reading has a letter, too; nobody needs those listed
    names = dict.fromkeys((*letters, "girth", "drop", "height", "across", "string", "path", "below", "depth"), 100.0)
    with pytest.raises(TapeError) as refused:
        parse_length("widht", Unit.MM, names)
    words = str(refused.value)
    assert "“widht” is no reading of this job" in words
    assert "girth, drop, height, across, string, path" in words
    assert "below" not in words
