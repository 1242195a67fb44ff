"""The sample shop: Quillet Hill, a made-up hillside orchard and apiary co-operative that covers its kit for the winter."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

from omnipel.core.covers import SCHEMES
from omnipel.core.covers.starting import usual_choices
from omnipel.core.job.changes import changed
from omnipel.core.job.document import (
    Clearance,
    ClothChoice,
    ClothKind,
    Feature,
    FeatureKind,
    Job,
    Lining,
    LiningSchool,
    Override,
    TakeUp,
)
from omnipel.core.job.findings import Change
from omnipel.core.job.finish import BOUND, double_hem
from omnipel.core.job.reading import Instrument, Reading
from omnipel.core.job.thing import ComesOff, Lives, Outline, SticksOut, Thing, Treatment
from omnipel.core.words.habits import Habits, System
from omnipel.core.words.units import Unit
from omnipel.shop.store import Store

MOSS = ClothChoice(name="solution-dyed acrylic, moss", colour="#6d8a63", thickness=0.5, usable_width=1500.0)
SLATE = ClothChoice(name="coated canvas, slate", colour="#6f7f8a", thickness=0.6, usable_width=1800.0)
WAXED = ClothChoice(
    name="waxed cotton, bark", colour="#8a7250", thickness=0.7, usable_width=1400.0, shrink_warp=0.02, shrink_weft=0.01
)
CHECK = ClothChoice(
    name="cotton check, plum", kind=ClothKind.COTTON, colour="#8c5a6e", thickness=0.3, usable_width=1400.0, gather_limit=3.5
)
TICKING = ClothChoice(
    name="striped ticking", kind=ClothKind.GENERAL, colour="#a58f5f", thickness=0.4, usable_width=1400.0, gather_limit=2.5
)
OILCLOTH = ClothChoice(
    name="oilcloth, quince", kind=ClothKind.GENERAL, colour="#c2a13f", thickness=0.5, usable_width=1400.0, frays=False
)

TILDA, ANSEL, BRAM, ODA = ("Apiary, Tilda Marrow", "Orchard, Ansel Brook", "Press house, Bram Teasel", "Kitchen, Oda Fennimore")


def made(
    name: str,
    form: str,
    scheme: str,
    readings: Mapping[str, Any],
    cloth: ClothChoice,
    *,
    owner: str,
    place: str,
    thing: Mapping[str, Any] | None = None,
    unit: Unit = Unit.MM,
    notes: str = "",
    **cover: Any,
) -> Job:
    """A job with the scheme's own beginnings; a reading is one number or a tuple of repeats."""
    taken = tuple(Reading(place=k, repeats=v if isinstance(v, tuple) else (v,)) for k, v in readings.items())
    choices = replace(usual_choices(SCHEMES[scheme], Habits(system=System.of(unit))), **{"cloth": cloth, **cover})
    return Job(
        name=name,
        owner=owner,
        place=place,
        unit=unit,
        thing=Thing(form=form, **(thing or {})),
        readings=taken,
        cover=choices,
        notes=notes,
    )


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
        replace(MOSS, usable_width=1524.0),
        owner=ANSEL,
        place="lower gate",
        unit=Unit.INCH_16,
        thing={"lives": Lives.OUTDOORS, "comes_off": ComesOff.SEASONAL},
    )


def feed_bin() -> Job:
    """Only the girth has been taken: the next step is the tape."""
    return made("Feed bin", "drum", "wall-and-lid", {"girth": 1410.0}, MOSS, owner=TILDA, place="goat shed")


def settling_tank() -> Job:
    """Gores over the dome and a skirt below; too few gores chosen."""
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
    """A tapered tub in two panels."""
    readings = {"girth_bottom": (1180.0, 1181.0), "girth_top": (1470.0, 1469.0), "height": 360.0, "slant": 363.0}
    return made(
        "Fruit tub", "tub", "tapered-tub", readings, SLATE, owner=ANSEL, place="picking shed", clearance=Clearance(amount=5.0)
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
    )


def press_motor() -> Job:
    """A cable that has to come out, and the top edges rounded."""
    cable = SticksOut(name="cable", from_top=180.0, from_centre=-60.0, reach=40.0, size=26.0, treatment=Treatment.PORT)
    readings = {"length": (512.0, 513.0), "width": 287.0, "height": 333.0, "path": 914.0}
    return made(
        "Press motor",
        "box",
        "saddle-and-ends",
        readings,
        WAXED,
        owner=BRAM,
        place="press house",
        thing={"sticks_out": (cable,), "gets_hot": True},
        notes="Let it cool before the cover goes on.",
    )


def platform_scale() -> Job:
    """Traced ends and a gusset."""
    side = ((0, 0), (560, 0), (560, 70), (470, 90), (455, 640), (430, 720), (330, 735), (300, 640), (292, 95), (0, 70))
    outline = Outline(points=tuple((float(x), float(y)) for x, y in side))
    return made(
        "Platform scale",
        "traced",
        "traced-ends",
        {"width": (420.0, 421.0), "height": 735.0},
        SLATE,
        owner=ANSEL,
        place="packing floor",
        thing={"outline": outline},
        options={"rounding": 20.0},
    )


def trestle_table() -> Job:
    """A sheet with grommets."""
    return made(
        "Trestle table",
        "flat",
        "sheet",
        {"length": 1830.0, "width": 790.0},
        OILCLOTH,
        owner=ODA,
        place="yard",
        hem=double_hem(20.0, 10.0),
        unit=Unit.CM,
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
    )


def bottling_trolley() -> Job:
    """A tall box: wall and top, a size set by hand that spoils a seam."""
    readings = {"length": (455.0, 456.0), "width": 330.0, "height": 940.0, "drop": 900.0}
    job = made(
        "Bottling trolley",
        "box",
        "wall-and-top",
        readings,
        SLATE,
        owner=BRAM,
        place="bottling line",
        clearance=Clearance(amount=15.0),
    )
    by_hand = Override(size="wall_finished_length", value=1680.0, reason="the wall of last year's cover")
    return replace(job, cover=replace(job.cover, overrides=(by_hand,)))


def seed_cleaner() -> Job:
    """One piece with boxed corners; its crank was forgotten when the girth was taken."""
    readings = {"length": 380.0, "width": 265.0, "height": 248.0, "girth": 1398.0}
    return made(
        "Seed cleaner",
        "box",
        "one-piece",
        readings,
        MOSS,
        owner=ANSEL,
        place="seed loft",
        clearance=Clearance(amount=8.0),
        seam_allowance=8.0,
        notes="The girth was taken over the crank, length and width were not.",
    )


def pump_case() -> Job:
    """A padded case for the sprayer's pump, with a pocket for the nozzles."""
    pocket = Feature(
        kind=FeatureKind.POCKET,
        name="nozzle pocket",
        panel="lower tube",
        from_centre=0.0,
        from_top=110.0,
        width=180.0,
        height=110.0,
        parts=3,
    )
    readings = {"length": 420.0, "width": 180.0, "height": 330.0, "handle": 120.0, "girth": 1203.0, "girth_handle": 1028.0}
    return made(
        "Sprayer pump case",
        "case",
        "padded-case",
        readings,
        WAXED,
        owner=ANSEL,
        place="spray store",
        features=(pocket,),
        lining=Lining(school=LiningSchool.AS_ONE),
        quilting=TakeUp(),
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
        TICKING,
        owner=TILDA,
        place="candle room",
        thing={"gets_hot": True},
        clearance=Clearance(amount=4.0),
        notes="Only when it is off and cold.",
    )


def comb_board() -> Job:
    """A slip sleeve; the clearance is too small to go on surely."""
    return made(
        "Comb board",
        "slab",
        "slip-sleeve",
        {"length": 610.0, "width": 430.0, "thickness": 22.0},
        TICKING,
        owner=TILDA,
        place="extraction room",
        clearance=Clearance(amount=0.4),
    )


def bench_cushion() -> Job:
    """An envelope."""
    return made(
        "Bench cushion",
        "slab",
        "envelope",
        {"length": 980.0, "width": 420.0, "thickness": 60.0},
        TICKING,
        owner=ODA,
        place="tasting room",
        clearance=Clearance(amount=6.0),
        hem=double_hem(15.0, 10.0),
    )


def label_printer() -> Job:
    """A drape with ties over the label printer."""
    readings = {"length": 380.0, "width": 300.0, "height": 240.0, "path": 770.0}
    return made("Label printer", "box", "drape", readings, CHECK, owner=BRAM, place="office", hem=BOUND)


SAMPLES: tuple[Callable[[], Job], ...] = (
    feed_bin,
    label_printer,
    bench_cushion,
    comb_board,
    wax_melter,
    flagon,
    pump_case,
    seed_cleaner,
    bottling_trolley,
    crocks,
    trestle_table,
    platform_scale,
    press_motor,
    turntable,
    barrow_wheel,
    fruit_tub,
    churn,
    settling_tank,
    rain_butt,
    extractor,
)
"""The last one is touched last and stands first on the shelf."""


def fill(path: Path) -> Store:
    """A fresh copy of the sample shop at a path where there is none yet."""
    store = Store(path)
    if not store.cards(archived=True):
        for sample in SAMPLES:
            job = sample()
            # Two steps, so that undo has something to show from the start.
            key = store.add(changed(job, Change("notes", "")), "sample job")
            if job.notes:
                store.commit(key, job, "notes")
    return store
