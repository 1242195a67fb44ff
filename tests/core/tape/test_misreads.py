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


@given(st.integers(120, 98_765), st.integers(0, 4), UNITS)
def test_two_digits_swapped_anywhere(number: int, at: int, unit: Unit) -> None:
    digits = str(number)
    i = at % (len(digits) - 1)
    swapped = digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :]
    meant, read = number * unit.mm, int(swapped) * unit.mm
    assume(abs(read - meant) > near(unit) and swapped[0] != "0")
    found = named(read, unit, meant, SIGMA)
    assert found is not None
    assert found.meant == pytest.approx(meant, abs=max(near(unit), 0.011 * meant))


@given(st.integers(120, 9_876), st.integers(0, 4), UNITS)
def test_a_digit_dropped_anywhere(number: int, at: int, unit: Unit) -> None:
    digits = str(number)
    i = at % len(digits)
    kept = digits[:i] + digits[i + 1 :]
    meant, read = number * unit.mm, int(kept) * unit.mm
    assume(abs(read - meant) > near(unit) and kept[0] != "0")
    found = named(read, unit, meant, SIGMA)
    assert found is not None
    assert found.meant == pytest.approx(meant, abs=max(near(unit), 0.011 * meant))


@given(st.integers(12, 9_876), st.integers(0, 4), UNITS)
def test_a_digit_doubled_anywhere(number: int, at: int, unit: Unit) -> None:
    digits = str(number)
    i = at % len(digits)
    meant, read = number * unit.mm, int(digits[: i + 1] + digits[i:]) * unit.mm
    assume(abs(read - meant) > near(unit))
    found = named(read, unit, meant, SIGMA)
    assert found is not None
    assert found.meant == pytest.approx(meant, abs=max(near(unit), 0.011 * meant))


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
