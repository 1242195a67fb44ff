"""Sample jobs that are round: barrels, tubs, wheels, crocks, bottles."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from omnipel.core.job.document import Clearance, Job
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.finish import double_hem
from omnipel.core.job.joining import Parting
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import ComesOff, Lives, SticksOut
from omnipel.core.job.trying import Kin
from omnipel.core.words.habits import System
from omnipel.core.words.units import Unit
from omnipel.shop.sample.making import ANSEL, CHECK, MOSS, ODA, SLATE, TILDA, WAXED, made


def extractor() -> Job:
    """A crank at the rim, a second skirt against dust, one repeat misread."""
    crank = SticksOut(name="crank", from_top=90.0, from_centre=120.0, reach=95.0, size=70.0)
    job = made(
        "Honey extractor",
        "drum",
        "wall-and-lid",
        {"girth": (1762.0, 1764.0, 1673.0, 1763.0), "drop": (655.0, 656.0), "height": 742.0},
        MOSS,
        owner=TILDA,
        place="extraction room",
        thing={"sticks_out": (crank,), "lives": Lives.INDOORS, "comes_off": ComesOff.SEASONAL},
        options={"skirt": True},
        notes="The crank is folded in for the winter; measured over its knob.",
    )
    across = Reading(place="across", repeats=(558.0,), instrument=Instrument.EYE)
    return replace(job, readings=(*job.readings, across))


def rain_butt() -> Job:
    """A plain drum measured in inches, in good order."""
    readings = {"girth": (1879.6, 1881.2), "drop": 609.6, "height": 914.4}
    return made(
        "Rain butt",
        "drum",
        "wall-and-lid",
        readings,
        replace(MOSS, usable_width=1524.0, sold_by=System.INCH.sold_by),
        owner=ANSEL,
        place="lower gate",
        unit=Unit.INCH_16,
        thing={"lives": Lives.OUTDOORS, "comes_off": ComesOff.SEASONAL},
    )


def rain_butt_west() -> Job:
    """A year old: its girth was read too short, a strip was let in; cut up for patches since."""
    readings = {"girth": 1892.3, "drop": 609.6, "height": 914.4}
    kin = Kin(thing="quillet-hill-west-butt")
    return replace(_butt("West butt", readings), kin=kin)


def rain_butt_west_again() -> Job:
    """Made again with what the first one showed."""
    readings = {"girth": (1974.85, 1973.2625), "drop": 609.6, "height": 914.4}
    kin = Kin(thing="quillet-hill-west-butt", again_of="West butt")
    job = _butt("West butt 2", readings)
    return replace(job, kin=kin, cover=replace(job.cover, seam_take=0.8, hem_take=1.1))


def _butt(name: str, readings: Mapping[str, Any]) -> Job:
    cloth = replace(MOSS, usable_width=1524.0, sold_by=System.INCH.sold_by)
    thing = {"lives": Lives.OUTDOORS, "comes_off": ComesOff.SEASONAL}
    return made(name, "drum", "wall-and-lid", readings, cloth, owner=ANSEL, place="west gate", unit=Unit.INCH_16, thing=thing)


def settling_tank() -> Job:
    """Gores over the dome and a skirt below with its number; too few gores chosen."""
    number = Feature(kind="letters", name="number", from_top=800.0, height=120.0, options={"text": "No. 2"})
    readings = {"girth.1": (2580.0, 2578.0), "girth.2": (2576.0, 2577.0), "height.2": 450.0, "rise": 330.0}
    return made(
        "Settling tank",
        "turned",
        "gores",
        readings,
        SLATE,
        owner=TILDA,
        place="honey house",
        options={"skirt": True, "gores": 8.0},
        features=(number,),
    )


def churn() -> Job:
    """A belly in the middle: a wall that will not go on until something opens."""
    readings = {"girth.1": 1310.0, "girth.2": 1495.0, "height.2": 260.0, "girth.3": 940.0, "height.3": 610.0}
    return made(
        "Butter churn",
        "turned",
        "bands",
        readings,
        WAXED,
        owner=ODA,
        place="dairy",
        notes="Narrow at the foot: see what Goes on says.",
    )


def fruit_tub() -> Job:
    """A tapered tub in two panels, with straps to tie it down by."""
    straps = tuple(
        Feature(kind="strap", name=f"strap {side}", face=side, from_top=120.0, width=150.0, options={"caught": "stitched on"})
        for side in (Facing.LEFT, Facing.RIGHT)
    )
    readings = {"girth_bottom": (1180.0, 1181.0), "girth_top": (1470.0, 1469.0), "height": 360.0, "slant": 363.0}
    return made(
        "Fruit tub",
        "tub",
        "tapered-tub",
        readings,
        SLATE,
        owner=ANSEL,
        place="picking shed",
        clearance=Clearance(amount=5.0),
        features=straps,
    )


def barrow_wheel() -> Job:
    """Both faces, slit at the axle."""
    return made(
        "Barrow wheel",
        "wheel",
        "wheel-both-faces",
        {"girth": (1295.0, 1296.0), "width": 98.0, "hub": 70.0},
        SLATE,
        owner=ANSEL,
        place="cart lodge",
        hem=double_hem(8.0, 6.0),
        clearance=Clearance(amount=6.0),
    )


def turntable() -> Job:
    """A wheel cap over the sorting turntable; across does not agree with the girth."""
    readings = {"girth": 3142.0, "width": 90.0, "across": 968.0}
    return made(
        "Sorting turntable",
        "wheel",
        "wheel-cap",
        readings,
        MOSS,
        owner=TILDA,
        place="sorting bench",
        clearance=Clearance(amount=5.0),
        parted=(Parting(panel="boxing", at=1500.0, upright=True, joined=True),),
        notes="The boxing is pieced once: it came out of two offcuts.",
    )


def crocks() -> Job:
    """One of four crocks: a reversible cap; the elastic does not hold yet."""
    return made(
        "Fermenting crock",
        "cap-body",
        "cap",
        {"rim": (1040.0, 1041.0), "below": 905.0, "height": 330.0},
        CHECK,
        owner=ODA,
        place="cellar",
        options={"layers": "reversible", "share": 0.1},
        seam_allowance=10.0,
        notes="A set of four, all alike.",
        copies=4,
    )


def flagon() -> Job:
    """A sleeve tied at the neck."""
    return made(
        "Juice flagon",
        "bottle",
        "sleeve-tied",
        {"girth": 640.0, "height": 380.0, "neck_height": 250.0, "neck": 190.0},
        CHECK,
        owner=ODA,
        place="market stall",
        hem=double_hem(10.0, 8.0),
    )


def wax_melter() -> Job:
    """A cosy of gathered halves."""
    return made(
        "Wax melter cosy",
        "drum",
        "gathered-halves",
        {"girth": 597.0, "drop": 240.0},
        CHECK,
        owner=TILDA,
        place="candle room",
        thing={"gets_hot": True},
        options={"ratio": 2.0},
        clearance=Clearance(amount=4.0),
        notes="Only when it is off and cold.",
    )
