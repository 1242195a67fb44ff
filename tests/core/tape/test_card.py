"""Readings by their letters: whatever is written on a card is read back, in any order, all or nothing."""

import string

import pytest
from hypothesis import given
from hypothesis import strategies as st

from omnipel.core.tape.card import CardError, read_card
from omnipel.core.words.units import Unit, format_length

LETTERS = [*string.ascii_uppercase[:12], "AA"]


@st.composite
def cards(draw: st.DrawFn) -> tuple[str, dict[int, list[float]], Unit]:
    """A card as it may be typed, and what stands on it in whole steps of its unit."""
    unit = draw(st.sampled_from(Unit))
    wanted: dict[int, list[float]] = {}
    entries = []
    for number in draw(st.lists(st.integers(0, len(LETTERS) - 1), min_size=1, max_size=6, unique=True)):
        steps = draw(st.lists(st.integers(1, 20_000), min_size=1, max_size=5))
        wanted[number] = [n * unit.step for n in steps]
        letter = LETTERS[number] if draw(st.booleans()) else LETTERS[number].lower()
        shown = " / ".join(format_length(n * unit.step, unit, with_unit=draw(st.booleans())) for n in steps)
        entries.append(f"{letter}{draw(st.sampled_from([' ', ': ', ' = ']))}{shown}")
    return draw(st.sampled_from([", ", "; ", "\n"])).join(entries), wanted, unit


@given(cards())
def test_what_is_on_the_card_is_read(card: tuple[str, dict[int, list[float]], Unit]) -> None:
    text, wanted, unit = card
    found = read_card(text, LETTERS, unit)
    assert {number: list(lengths) for number, lengths in found.items()} == {
        number: pytest.approx(lengths, abs=1e-6) for number, lengths in wanted.items()
    }
    assert list(found) == list(wanted)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "nothing is written"),
        ("A 1763, Q 12", "“Q” is not on the card; there are A, B"),
        ("A 1763, a 1764", "“A” stands twice"),
        ("A 1763, 655", "“655”: a letter and a length"),
        ("A", "“A”: a letter and a length"),
        ("A 1763, B abc", "B: “abc”"),
        ("A -5", "A: −5 mm is no reading"),
        ("A 0", "A: 0 mm is no reading"),
        ("A 1 / 2 / 3 / 4 / 5 / 6", "more than 5 repeats"),
        ("B 1,763", "B: “1,763”"),
    ],
)
def test_what_cannot_be_read_is_said_and_nothing_is_taken(text: str, said: str) -> None:
    with pytest.raises(CardError) as refused:
        read_card(text, ["A", "B"], Unit.MM)
    assert said in str(refused.value)
