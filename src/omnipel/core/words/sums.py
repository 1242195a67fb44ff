"""A number and its sum in words, as shown in the working line, on the cutting sheet and in a terminal.

What is shown adds up: the terms are rounded to the shown step so that they make the shown total (largest remainder), in every unit.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from omnipel.core.words.phrases import Length, Voice, listed, tr
from omnipel.core.words.units import Unit, format_length
from omnipel.core.words.working import Term, Worked


@dataclass(frozen=True, slots=True)
class ShownTerm:
    """A term as it is shown: its rounded value in mm, name and bracket."""

    term: Term
    shown: float
    why: str


@dataclass(frozen=True, slots=True)
class ShownSum:
    """A number and its terms, rounded so that they add up; `thin` are terms too small to show."""

    total: float
    terms: tuple[ShownTerm, ...]
    thin: tuple[Term, ...]


def shown_sum(size: Worked, voice: Voice) -> ShownSum:
    """The sum as it is shown in the voice's unit. The shown terms add up to the shown total exactly."""
    step = voice.unit.step
    total = _steps(size.value / step)
    parts = apportioned([term.value / step for term in size.terms], total)
    made = [ShownTerm(term, part * step, why_words(term, voice)) for term, part in zip(size.terms, parts, strict=True) if part]
    thin = tuple(term for term, part in zip(size.terms, parts, strict=True) if not part)
    if not made:  # everything is under a step, and so is the sum: the largest stands for it
        first = max(size.terms, key=lambda term: abs(term.value))
        return ShownSum(0.0, (ShownTerm(first, 0.0, why_words(first, voice)),), tuple(t for t in thin if t is not first))
    return ShownSum(total * step, tuple(made), thin)


def apportioned(values: Sequence[float], total: int) -> list[int]:
    """Whole numbers next to `values` that add up to `total`: rounded down, then up where the remainder is largest.

    >>> apportioned([1.4, 1.4, 1.4], 4), apportioned([2.0, 2.0, 2.9], 4)
    ([2, 1, 1], [1, 1, 2])
    """
    parts = [math.floor(value + 1e-9) for value in values]
    order = sorted(range(len(values)), key=lambda i: parts[i] - values[i])
    missing = total - sum(parts)
    turn = 0
    while missing:
        # More than one round is only needed where the total was rounded elsewhere; it then goes on from the front.
        parts[order[turn % len(order)] if missing > 0 else order[-1 - turn % len(order)]] += 1 if missing > 0 else -1
        missing += -1 if missing > 0 else 1
        turn += 1
    return parts


def _steps(value: float) -> int:
    """The nearest whole number of steps, halves away from zero: as a length is written."""
    return int(math.copysign(math.floor(abs(value) + 0.5 + 1e-9), value)) if value else 0


def sum_words(size: Worked, voice: Voice) -> str:
    """A number with its sum, in one line.

    >>> from omnipel.core.words.working import worked
    >>> sum_words(worked(tr("drop"), 655) + worked(tr("clearance"), 8) * 2, Voice(Unit.MM))
    '671 = 655 drop + 16 clearance (2 × 8)'
    """
    return f"{voice.length(shown_sum(size, voice).total)} = {terms_words(size, voice)}"


def terms_words(size: Worked, voice: Voice) -> str:
    """The terms of a sum in one line."""
    shown = shown_sum(size, voice)
    words = ""
    for i, part in enumerate(shown.terms):
        words += f"{sign_of(part.shown, first=i == 0)}{voice.length(abs(part.shown))} {voice.say(part.term.name)}{part.why}"
    return words + thin_words(shown, voice)


def sign_of(value: float, *, first: bool) -> str:
    """The sign in front of a term."""
    if first:
        return "−" if value < 0 else ""
    return " − " if value < 0 else " + "


def thin_words(shown: ShownSum, voice: Voice) -> str:
    """What counts but is too thin to show; "" for nothing."""
    names = [term.name for term in shown.thin if term.value]
    if not names:
        return ""
    return " " + voice.say(tr("(and under {step}: {names})", step=Length(voice.unit.step), names=listed(names)))


def why_words(term: Term, voice: Voice) -> str:
    """How one term came about, in brackets; empty when it is plain."""
    scaled = voice.figure(scaled_words(term.factor, exact_words(abs(term.amount), voice.unit)))
    how = voice.say(term.how) if term.how else ""
    inside = "; ".join(part for part in (scaled, how) if part)
    return f" ({inside})" if inside else ""


def exact_words(length: float, unit: Unit) -> str:
    """A length as finely as it takes: to a tenth of a step, else in decimals.

    >>> exact_words(0.25, Unit.MM), exact_words(12.7, Unit.INCH_16), exact_words(0.25, Unit.INCH_16)
    ('0.25', '1/2', '0.01')
    """
    step = unit.fine_step
    if abs(length - round(length / step) * step) < 1e-6 or length > 100 * unit.step:
        return format_length(length, unit, fine=True)
    return f"{length / unit.mm:.2f}".rstrip("0").rstrip(".")


def scaled_words(factor: float, amount: str) -> str:
    """How a factor and an amount are written as on paper; empty for 1 × amount.

    >>> scaled_words(2 * math.pi, "12"), scaled_words(1 / (2 * math.pi), "1763"), scaled_words(0.5, "0.5"), scaled_words(1, "7")
    ('2π × 12', '1763 ÷ 2π', '0.5 ÷ 2', '')
    """
    size = abs(factor)
    if math.isclose(size, 1.0, rel_tol=1e-12):
        return ""
    if size < 1e-6:
        return f"0 × {amount}"
    for scale, mark in ((1.0, ""), (math.pi, "π")):
        for number, sign in ((size / scale, "×"), (1.0 / (size * scale), "÷")):
            whole = round(number)
            if whole and math.isclose(whole, number, rel_tol=1e-12):
                words = f"{'' if whole == 1 and mark else whole}{mark}"
                return f"{words} × {amount}" if sign == "×" else f"{amount} ÷ {words}"
    return f"{size:.4g} × {amount}"
