"""Strips of cloth for bindings and piping: how long, how wide, from how many cuts, straight or on the bias."""

import math
from collections.abc import Iterator
from typing import Final

from omnipel.core.covers.scheme import Hardware, Strip
from omnipel.core.job.document import CoverChoices
from omnipel.core.tolerances import BIAS_BEND
from omnipel.core.words.phrases import Length, Phrase, Value, mm, tr, trn
from omnipel.core.words.working import Worked, worked

THICK: Final = 1.0
"""Cloth thicker than this, mm, takes a wider strip around its cord."""
TIGHTEST: Final = 4.0
"""A cord does not go around a bend of less than so many times its thickness."""


def on_the_bias(bend: float) -> bool:
    """Whether a strip that follows a bend of a radius, mm, has to be cut on the bias."""
    return bend < BIAS_BEND


def strip(name: Phrase, length: Worked, wide: float, bend: float, cloth: float, what: Phrase) -> Hardware:
    """A strip of cloth, so long and `wide`, around bends as tight as `bend`, from cloth of a usable width; `what` says what for.

    Across the cloth a cut is as long as that is wide, on the bias √2 times that; every join takes the strip's width more.
    """
    bias = on_the_bias(bend)
    cut = cloth * math.sqrt(2.0) - wide if bias else cloth
    cuts = max(1, math.ceil((length.value - wide) / max(cut - wide, 1.0) - 1e-9))
    total = length + worked(tr("joins"), wide) * float(cuts - 1) if cuts > 1 else length
    note = trn(
        "{what}: {wide} wide, {way}, {n} cut",
        "{what}: {wide} wide, {way}, {n} cuts joined",
        cuts,
        what=what,
        wide=Length(wide),
        way=tr("on the bias") if bias else tr("cut straight"),
    )
    return Hardware(name, total, note=note, size=wide, strip=Strip(wide, bias, cuts))


def piping(
    run: Worked, cord: float, allowance: float, bend: float, ends: int, how: CoverChoices, called: Value
) -> Iterator[Hardware]:
    """The strip and the cord in it, along a run with so many `ends` at a crossing seam: before these the cord ends, and beyond them the strip is cut longer."""
    habits = how.habits
    wide = piping_width(cord, allowance, habits.mm("thick piping") if how.cloth.thickness > THICK else 0.0)
    what = tr("around the piping of {seam}", seam=called)
    beyond = ends if ends else 2  # a ring is joined
    long = run + worked(tr("end"), habits.mm("strip end")) * float(beyond)
    yield strip(tr("piping strip"), long, wide, bend, how.cloth.cut_width, what)
    short = worked(tr("short of the crossing seam"), habits.mm("short of a seam"))
    yield Hardware(
        tr("piping cord"),
        run - short * float(ends) if ends else run,
        note=tr("{wide} thick, in {seam}", wide=mm(cord, fine=True), seam=called),
        size=cord,
    )


def binding_width(finished: float, thick: float) -> float:
    """How wide a binding is cut: four times as wide as it shows, and the cloth's thickness for each of its four turns.

    >>> binding_width(10.0, 0.5)
    42.0
    """
    return 4.0 * finished + 4.0 * thick


def piping_width(cord: float, allowance: float, more: float = 0.0) -> float:
    """How wide the strip around a piping cord is cut: around it, and both allowances; so much `more` for thick cloth.

    >>> round(piping_width(4.0, 12.7), 3)
    37.966
    """
    return math.pi * cord + 2.0 * allowance + more
