"""What one draft takes more than another: cloth, what is bought besides, length of seams and of topstitching, time."""

import math
from collections.abc import Iterator

import shapely

from omnipel.core.draft import Drafted
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth
from omnipel.core.sewing.paces import Person
from omnipel.core.sewing.plan import planned
from omnipel.core.words.phrases import Area, Minutes, Phrase, Run, tr, trn

LEAST_CLOTH = 2000.0
"""A difference of less cloth than this is none, mm²."""
LEAST_LENGTH = 5.0
"""A difference of less length than this is none, mm."""

LEAST_MINUTES = 0.75
"""A difference of less time than this is none."""


def cost(before: Drafted, after: Drafted) -> Iterator[Phrase]:
    """What the second takes more or less than the first, each as a phrase with its sign."""
    cloth = _cloth(after) - _cloth(before)
    if abs(cloth) > LEAST_CLOTH:
        yield _signed(cloth, tr("{amount} cloth in panels", amount=Area(abs(cloth))))
    for name, length in _differences(_lengths(before), _lengths(after)).items():
        if abs(length) > LEAST_LENGTH:
            yield _signed(length, tr("{amount} {goods}", amount=Run(abs(length)), goods=name))
    for name, count in _differences(_counts(before), _counts(after)).items():
        if count:
            yield _signed(count, trn("{n} {goods}", "{n} {goods}", round(abs(count)), goods=name))
    stitched = _stitches(after) - _stitches(before)
    if abs(stitched) > LEAST_LENGTH:
        yield _signed(stitched, tr("{amount} to sew", amount=Run(abs(stitched))))


def time_cost(before: Drafted, after: Drafted, person: Person) -> Iterator[Phrase]:
    """Minutes that the second takes more or less to make, for so many covers as the job says."""
    one, other = (planned(made, person, made.job.copies).span().likely for made in (before, after))
    if abs(other - one) >= LEAST_MINUTES:
        yield _signed(other - one, tr("{amount}", amount=Minutes(abs(other - one))))


def _signed(amount: float, words: Phrase) -> Phrase:
    return tr("+ {amount}", amount=words) if amount > 0.0 else tr("− {amount}", amount=words)


def _differences(one: dict[Phrase, float], other: dict[Phrase, float]) -> dict[Phrase, float]:
    return {name: other.get(name, 0.0) - one.get(name, 0.0) for name in dict.fromkeys((*one, *other))}


def _cloth(drafted: Drafted) -> float:
    """Of all outer panels, mm²."""
    return math.fsum(shapely.Polygon(cut_line(p)).area * p.count for p in drafted.panels if p.cloth is Cloth.OUTER)


def _lengths(drafted: Drafted) -> dict[Phrase, float]:
    """Goods that are bought by length, mm."""
    made: dict[Phrase, float] = {}
    for item in drafted.cover.hardware:
        if item.length is not None:
            made[item.name] = made.get(item.name, 0.0) + item.length.value
    return made


def _counts(drafted: Drafted) -> dict[Phrase, float]:
    """Goods that are bought by number."""
    made: dict[Phrase, float] = {}
    for item in drafted.cover.hardware:
        if item.length is None:
            made[item.name] = made.get(item.name, 0.0) + item.count
    return made


def _stitches(drafted: Drafted) -> float:
    """All seams, and their rows of topstitching, mm."""
    return math.fsum(t.length_b * t.times * (1.0 + t.seam.rows) for t in drafted.seams)
