"""Strips of cloth for bindings and piping: how long, how wide, from how many cuts, straight or on the bias."""

import math

from omnipel.core.covers.scheme import Hardware
from omnipel.core.tolerances import BIAS_BEND
from omnipel.core.words.phrases import Length, Phrase, tr, trn
from omnipel.core.words.working import Worked, worked


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
    return Hardware(name, total, note=note)


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
