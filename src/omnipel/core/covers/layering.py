"""The layers of a cover from outside to inside, and what lies between its inside and a sew line."""

from collections.abc import Iterable
from typing import Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, worked

HANGS: Final = (LiningSchool.BAGGED, LiningSchool.BOUND)
"""Linings that hang by themselves inside the outer, and are drafted at a gap of their own."""
INWARD: Final = {Cloth.OUTER: 0, Cloth.STIFFENER: 1, Cloth.PADDING: 2, Cloth.LINING: 3}
"""The layers from outside to inside."""


def layers(choices: CoverChoices) -> dict[Cloth, Worked]:
    """The thickness of each layer there is."""
    lined = choices.lining.school is not LiningSchool.NONE
    given = {
        Cloth.OUTER: (tr("cloth"), choices.cloth.thickness, refs.CLOTH_THICKNESS),
        Cloth.STIFFENER: (tr("stiffener"), choices.stiffener.thickness, refs.STIFFENER),
        Cloth.PADDING: (tr("padding"), choices.padding, refs.PADDING),
        Cloth.LINING: (tr("lining"), choices.lining.cloth.thickness if lined else 0.0, refs.LINING_THICKNESS),
    }
    always = {Cloth.OUTER, Cloth.LINING} if lined else {Cloth.OUTER}
    return {layer: worked(*thick) for layer, thick in given.items() if thick[1] or layer in always}


def all_layers(choices: CoverChoices) -> Worked:
    """The thickness of all layers together."""
    return _sum(layers(choices).values())


def twice_within(choices: CoverChoices, layer: Cloth) -> Worked:
    """Twice what lies between the inside of the cover and the sew line of a layer.

    That is all layers where they are one, drafted in the middle of their thickness; where a lining hangs by itself, this layer and twice those inside of it.
    """
    thick = layers(choices)
    if choices.lining.school not in HANGS:
        return _sum(thick.values())
    own = thick.pop(layer)
    inside = [amount for other, amount in thick.items() if INWARD[other] > INWARD[layer]]
    return own + _sum(inside) * 2.0 if inside else own


def _sum(numbers: Iterable[Worked]) -> Worked:
    first, *rest = numbers
    return sum(rest, first)
