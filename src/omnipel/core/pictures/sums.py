"""A number and its sum in words, as shown in the working line, on the cutting sheet and in a terminal."""

from omnipel.core.tape.units import Unit, format_length
from omnipel.core.working import Term, Worked, scaled_words


def sum_words(size: Worked, unit: Unit) -> str:
    """A number with its sum, in one line.

    >>> from omnipel.core.working import worked
    >>> sum_words(worked("drop", 655) + worked("clearance", 8) * 2, Unit.MM)
    '671 = 655 drop + 16 clearance (2 × 8)'
    """
    return f"{format_length(size.value, unit, fine=True)} = {terms_words(size, unit)}"


def terms_words(size: Worked, unit: Unit) -> str:
    """The terms of a sum in one line."""
    words = ""
    for i, term in enumerate(size.terms):
        sign = ("−" if term.value < 0 else "") if i == 0 else (" − " if term.value < 0 else " + ")
        words += f"{sign}{format_length(abs(term.value), unit, fine=True)} {term.name}{why_words(term, unit)}"
    return words


def why_words(term: Term, unit: Unit) -> str:
    """How one term came about, in brackets; empty when it is plain."""
    scaled = scaled_words(term.factor, format_length(abs(term.amount), unit, fine=True))
    return f" ({scaled})" if scaled else f" ({term.how})" if "√" in term.how or "acos" in term.how else ""
