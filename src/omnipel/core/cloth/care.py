"""How a cover is looked after, told for its label: what the cloth stands, from what it is made and how it is kept."""

from __future__ import annotations

from collections.abc import Iterator

from omnipel.core.cloth.kinds import cloth_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.job.document import ClothChoice, ClothKind, Iron
from omnipel.core.job.thing import Lives
from omnipel.core.words.phrases import Count, Name, Phrase, tr

SHRINKS: float = 0.01
"""Cloth that takes up more than this when it is washed is washed cool, or not at all once it is sewn."""


def care(draft: Drafted) -> tuple[Phrase, ...]:
    """What stands on the label, line by line."""
    return tuple(_care(draft))


def _care(draft: Drafted) -> Iterator[Phrase]:
    cloth, job = draft.job.cover.cloth, draft.job
    yield tr("of {cloth}", cloth=cloth_words(cloth.name))
    yield from _washed(cloth, padded=any(panel.cloth in (Cloth.PADDING, Cloth.STIFFENER) for panel in draft.panels))
    yield {Iron.NEVER: tr("do not iron: it melts"), Iron.PRESS_CLOTH: tr("iron cool, under a press cloth")}.get(
        cloth.iron, tr("iron as its fibre says, from the wrong side")
    )
    if cloth.outdoors and cloth.breathes and not coated(cloth):
        yield tr("when water no longer runs off, wash, dry and proof it again")
    if any(panel.cloth is Cloth.WINDOW for panel in draft.panels):
        yield tr("the window: water and a soft cloth, no solvent; roll it, do not fold it")
    if any("zip" in str(item.name) for item in draft.cover.hardware):
        yield tr("brush grit out of the zip; a little wax, no oil")
    yield tr("put it away dry and clean; damp cloth that is folded goes mouldy")
    if job.thing.gets_hot:
        yield tr("let the thing cool down before you cover it")
    if job.thing.lives is Lives.OUTDOORS and not cloth.outdoors:
        yield tr("this cloth fades and tears in the sun: keep it in the shade")


def coated(cloth: ClothChoice) -> bool:
    """Whether its face is a skin of plastic, which is wiped and not washed."""
    return cloth.waterproof and not cloth.breathes


def _washed(cloth: ClothChoice, *, padded: bool) -> Iterator[Phrase]:
    degrees = Count(30)
    if coated(cloth):
        yield tr("wipe with water and mild soap; no machine, no solvent, no brush")
    elif cloth.outdoors:
        yield tr("brush off, then cold water and mild soap; rinse well, hang it up to dry; no machine, no tumbler")
    elif padded:
        yield tr("by hand at {n} °C, dry it flat; no tumbler", n=degrees)
    elif max(cloth.shrink_warp, cloth.shrink_weft) > SHRINKS:
        yield tr("cold wash only: it was cut for the cloth as it is now; hang it up to dry")
    elif cloth.kind is ClothKind.COTTON:
        yield tr("wash at {n} °C, hang it up to dry", n=Count(40))
    else:
        yield tr("wash at {n} °C, hang it up to dry", n=degrees)
    if not coated(cloth):
        yield tr("no bleach")


def label_words(draft: Drafted, day: str) -> tuple[Phrase, ...]:
    """Whose and what it is, for the same label."""
    job = draft.job
    told = [tr("{job}", job=Name(job.name))]
    if job.owner:
        told.append(tr("{owner}", owner=Name(job.owner)))
    return (*told, *([tr("drafted {day}", day=Name(day))] if day else []))
