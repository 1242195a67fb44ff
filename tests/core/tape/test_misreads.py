"""Slips are named: every digit swapped, doubled or dropped, a factor of ten, one unit for another; and what is no slip is not."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from omnipel.core.tape.misreads import named
from omnipel.core.words.units import Unit

UNITS = st.sampled_from([Unit.MM, Unit.INCH_16])
SIGMA = 1.5


def near(unit: Unit) -> float:
    """What counts as the same number."""
    return 3.0 * SIGMA + unit.step / 2.0


SLIPS = {
    "swapped": lambda d, i: d[:i] + d[i + 1 : i + 2] + d[i] + d[i + 2 :],
    "dropped": lambda d, i: d[:i] + d[i + 1 :],
    "doubled": lambda d, i: d[: i + 1] + d[i:],
}


@pytest.mark.parametrize("slip", SLIPS)
@given(number=st.integers(120, 98_765), at=st.integers(0, 4), unit=UNITS)
def test_one_slip_with_any_digit_is_found(slip: str, number: int, at: int, unit: Unit) -> None:
    wrong = SLIPS[slip](str(number), at % len(str(number)))
    meant, read = number * unit.mm, int(wrong) * unit.mm
    assume(abs(read - meant) > near(unit) and wrong[0] != "0")
    found = named(read, unit, meant, SIGMA)
    assert found is not None
    assert found.meant == pytest.approx(meant, abs=near(unit))


def test_feet_are_mixed_up_only_where_inches_are_read() -> None:
    assert "feet" in str(named(3048.0, Unit.INCH_16, 254.0, SIGMA) or "")
    assert named(3048.0, Unit.MM, 254.0, SIGMA) is None


@pytest.mark.parametrize(
    ("read", "meant", "words"),
    [
        (1673.0, 1763.0, "two digits swapped"),
        (1736.0, 1763.0, "two digits swapped"),
        (17763.0, 1763.0, "a digit doubled"),
        (173.0, 1763.0, "a digit dropped"),
        (176.0, 1763.0, "ten times"),
        (17630.0, 1763.0, "ten times"),
        (694.1, 1763.0, "inches"),
        (4478.0, 1763.0, "inches"),
    ],
)
def test_each_has_its_name(read: float, meant: float, words: str) -> None:
    found = named(read, Unit.MM, meant, SIGMA)
    assert found is not None
    assert words in str(found.words) or words in str(found.phrase) or (words == "ten times" and "10" in str(found.words)), str(
        found.words
    )


@pytest.mark.parametrize("read", [1763.0, 1766.0, 1790.0, 1850.0, 2000.0])
def test_what_is_no_slip_has_no_name(read: float) -> None:
    assert named(read, Unit.MM, 1763.0, SIGMA) is None
