"""The sample shop: Quillet Hill, a made-up hillside orchard and apiary co-operative that covers its kit for the winter."""

from collections.abc import Callable
from pathlib import Path

from omnipel.core.forms.thing import ComesOff, Lives, SticksOut, Thing, Treatment
from omnipel.core.job import ClothChoice, CoverChoices, Job
from omnipel.core.tape.readings import Instrument, Reading
from omnipel.core.tape.units import Unit
from omnipel.shop.store import Store

GREEN = ClothChoice(name="solution-dyed acrylic, moss", colour="#6d8a63", thickness=0.5, usable_width=1500.0)


def extractor() -> Job:
    """Honey extractor drum: a crank on the rim side, a second skirt against dust, one repeat misread."""
    return Job(
        name="Honey extractor",
        owner="Apiary, Tilda Marrow",
        place="extraction room",
        thing=Thing(
            form="drum",
            lives=Lives.INDOORS,
            comes_off=ComesOff.SEASONAL,
            sticks_out=(
                SticksOut(
                    name="crank", from_top=90.0, from_centre=120.0, reach=95.0, size=70.0, treatment=Treatment.COVER
                ),
            ),
        ),
        readings=(
            Reading(place="girth", repeats=(1762.0, 1764.0, 1673.0, 1763.0)),
            Reading(place="drop", repeats=(655.0, 656.0)),
            Reading(place="height", repeats=(742.0,)),
            Reading(place="across", repeats=(558.0,), instrument=Instrument.EYE),
        ),
        cover=CoverChoices(scheme="wall-and-lid", cloth=GREEN, options={"skirt": True}),
        notes="Crank is folded in for the winter; measured over its knob.",
    )


def rain_butt() -> Job:
    """A plain drum measured in inches, in good order."""
    return Job(
        name="Rain butt",
        owner="Orchard, Ansel Brook",
        place="lower gate",
        unit=Unit.INCH_16,
        thing=Thing(form="drum", lives=Lives.OUTDOORS, comes_off=ComesOff.SEASONAL),
        readings=(
            Reading(place="girth", repeats=(1879.6, 1881.2)),
            Reading(place="drop", repeats=(609.6,)),
            Reading(place="height", repeats=(914.4,)),
        ),
        cover=CoverChoices(scheme="wall-and-lid", cloth=GREEN),
    )


def feed_bin() -> Job:
    """A bin of which only the girth has been taken: the next step is the tape."""
    return Job(
        name="Feed bin",
        owner="Yard, Tilda Marrow",
        place="goat shed",
        thing=Thing(form="drum", lives=Lives.SHED),
        readings=(Reading(place="girth", repeats=(1410.0,)),),
        cover=CoverChoices(scheme="wall-and-lid", cloth=GREEN),
    )


SAMPLES: tuple[Callable[[], Job], ...] = (feed_bin, rain_butt, extractor)
"""The last one is touched last and stands first on the shelf."""


def fill(path: Path) -> Store:
    """A fresh copy of the sample shop at a path where there is none yet."""
    store = Store(path)
    if not store.cards(archived=True):
        for sample in SAMPLES:
            store.add(sample(), "sample job")
    return store
