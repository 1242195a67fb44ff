"""Sample jobs with corners: machines, tables, cases, cushions, a traced scale."""

from dataclasses import replace

from omnipel.core.job.document import Clearance, Job, LayChoice, Lining, LiningSchool, Override, TakeUp
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.finish import BOUND, double_hem
from omnipel.core.job.joining import SeamChoice
from omnipel.core.job.thing import Lives, Outline, SticksOut, Treatment
from omnipel.core.words.units import Unit
from omnipel.shop.sample.making import ANSEL, BRAM, CHECK, MOSS, ODA, OILCLOTH, SLATE, TICKING, TILDA, WAXED, made


def feed_bin() -> Job:
    """Only the girth has been taken: the next step is the tape."""
    return made("Feed bin", "drum", "wall-and-lid", {"girth": 1410.0}, MOSS, owner=TILDA, place="goat shed")


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
    """Traced ends and a gusset; a window for the display and a pouch for the tickets."""
    window = Feature(kind="clear window", name="display", from_top=130.0, width=180.0, height=90.0)
    pouch = Feature(
        kind="pocket", name="ticket pouch", face=Facing.BACK, from_top=330.0, width=160.0, height=140.0, options={"flap": True}
    )
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
        features=(window, pouch),
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


def bottling_trolley() -> Job:
    """A tall box: wall and top, a piped top, a handle and ties on the front; a size set by hand that spoils a seam."""
    handle = Feature(kind="webbing handle", name="handle", from_top=150.0, width=160.0, options={"caught": "stitched on"})
    ties = Feature(kind="ties", name="ties", from_top=650.0, width=240.0, options={"parts": 2.0, "long": 250.0})
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
        features=(handle, ties),
        seams={"wall to top": SeamChoice(kind="piped", wide=4.0)},
    )
    by_hand = Override(size="wall_finished_length", value=1680.0, reason="the wall of last year's cover")
    return replace(job, cover=replace(job.cover, overrides=(by_hand,)))


def seed_cleaner() -> Job:
    """One piece with boxed corners, a port with a flap for the chute; its crank was forgotten when the girth was taken."""
    chute = Feature(
        kind="port", name="chute", face=Facing.RIGHT, from_top=110.0, width=70.0, height=70.0, options={"flap": "over all of it"}
    )
    name = Feature(kind="letters", name="name", from_top=120.0, height=60.0, options={"text": "SEEDS"})
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
        features=(chute, name),
        notes="The girth was taken over the crank, length and width were not.",
    )


def pump_case() -> Job:
    """A padded case for the sprayer's pump, with a pocket for the nozzles."""
    pocket = Feature(kind="pocket", name="nozzle pocket", from_top=200.0, width=180.0, height=110.0, options={"parts": 3.0})
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


def nozzle_case() -> Job:
    """A quilted case, a winter old."""
    return made(
        "Nozzle case",
        "case",
        "padded-case",
        {"length": 300.0, "width": 140.0, "height": 210.0, "handle": 110.0},
        WAXED,
        owner=ANSEL,
        place="spray store",
        lining=Lining(school=LiningSchool.AS_ONE),
        quilting=TakeUp(along=0.03, across=0.03),
        thing={"lives": Lives.SHED},
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
        lays={"outer": LayChoice(match=("lower back, bottom", "upper back, top"))},
        notes="The stripes run through from the front to both backs.",
    )


def label_printer() -> Job:
    """A drape with ties over the label printer."""
    readings = {"length": 380.0, "width": 300.0, "height": 240.0, "path": 770.0}
    return made("Label printer", "box", "drape", readings, CHECK, owner=BRAM, place="office", hem=BOUND)
