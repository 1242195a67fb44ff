"""The covers whose order practised sewists have told, as jobs."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from random import Random
from typing import Any, Final

from omnipel.core.cloth.kinds import KINDS as CLOTHS
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.job.document import ClipSchool, Iron, Job, Lining, LiningSchool
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.job.finish import BOUND, single_hem
from omnipel.core.job.joining import Parting, SeamChoice
from omnipel.core.job.layers import Fused, Material, Padded
from omnipel.shop.starter import starter


def changed(job: Job, **cover: Any) -> Job:
    """The job with other choices about its cover."""
    return replace(job, cover=replace(job.cover, **cover))


def second_skirt() -> Job:
    """Wall and lid with a second skirt in which a cord runs, felled, hems first."""
    return changed(
        starter("drum", "wall-and-lid"), options={"skirt": True}, join="semi-flat felled", hem_order=HemOrder.HEM_FIRST
    )


def carried() -> Job:
    """Saddle and ends with a boxed pocket, a port with a flap over it, two handles."""
    put = (
        Feature(
            kind="pocket", name="tool pocket", id="pocket", face=Facing.RIGHT, options={"depth": 20.0, "corners": "left open"}
        ),
        Feature(kind="port", name="cable", id="cable", face=Facing.LEFT, from_top=200.0, options={"flap": "over all of it"}),
        Feature(kind="webbing handle", name="right handle", id="right", face=Facing.RIGHT),
        Feature(kind="webbing handle", name="left handle", id="left", face=Facing.LEFT),
    )
    return changed(starter("box", "saddle-and-ends"), features=put)


def reversible() -> Job:
    """Traced ends: the right one piped, fused fleece, a lining, the edge bound, a pocket with a bound mouth."""
    pocket = Feature(kind="pocket", name="front pocket", id="pocket", face=Facing.RIGHT, options={"mouth": "bound"})
    return changed(
        starter("box", "traced-ends"),
        features=(pocket,),
        lining=Lining(school=LiningSchool.BOUND),
        padding=3.0,
        padded=Padded(material=Material.FLEECE, fused=Fused.OUTER),
        hem=BOUND,
        seams={"gusset to right end": SeamChoice(kind="piped")},
    )


def bagged() -> Job:
    """Wall and lid with a bagged lining."""
    return changed(starter("drum", "wall-and-lid"), lining=Lining(school=LiningSchool.BAGGED))


def padded_case() -> Job:
    """Foam fused to both cloths, quilted, a zip at a height."""
    how = Padded(material=Material.FOAM, fused=Fused.BOTH, grid=60.0, at_seam=True)
    return changed(starter("case", "padded-case"), padded=how, padding=6.0, lining=Lining(school=LiningSchool.AS_ONE))


def cap() -> Job:
    """A reversible cap of cotton that is washed before, with elastic."""
    return changed(starter("cap-body", "cap"), options={"layers": "reversible"}, cloth=CLOTHS["quilting cotton"].cloth)


def sheet() -> Job:
    """A sheet of coated cloth, hems single and square, snaps all round."""
    return changed(
        starter("flat", "sheet"),
        options={"fastener": "snaps", "mitred": False},
        hem=single_hem(25.0),
        cloth=CLOTHS["vinyl"].cloth,
    )


def wheel() -> Job:
    """Both faces of a wheel, hub opening and slit bound, a flap under it."""
    return starter("wheel", "wheel-both-faces")


def cosy() -> Job:
    """Halves gathered onto a closed base, padded, with a channel."""
    return starter("drum", "gathered-halves")


COVERS: Final[Mapping[str, Callable[[], Job]]] = {
    "wall and lid": second_skirt,
    "saddle and ends": carried,
    "traced ends and gusset": reversible,
    "bagged lining": bagged,
    "padded case": padded_case,
    "cap": cap,
    "sheet": sheet,
    "wheel, both faces": wheel,
    "gathered halves": cosy,
}
"""By the names of the told orders."""

MEANT: Final[Mapping[str, Mapping[str, str]]] = {
    "wall and lid": {
        "hem and casing of the second skirt": "edge:lower edge of the second skirt/(press|stitch)",
        "second skirt basted to the wall": "seam:second skirt to lid/catch",
        "second skirt basted to the wall at the lid edge": "seam:second skirt to lid/catch",
        "second skirt closed into a ring": "seam:close the second skirt/.*",
        "wall joined to the lid": "seam:wall to lid/sew",
        "quarter marks on wall and lid": "seam:wall to lid/quarters",
        "cord laid into the casing": "edge:lower edge of the second skirt/cord",
        "ends of the casing closed": "seam:close the second skirt/sew",
        "cord clear of the needle": "edge:lower edge of the second skirt/cord",
        "every stitch line of the casing": "edge:lower edge of the second skirt/stitch",
    },
    "saddle and ends": {
        "pocket basted on the end panel": "feature:pocket/baste",
        "end panel joined to the saddle": "seam:saddle to right end/(pin|sew)",
        "port cut and bound": "feature:cable/(open|bind)",
        "saddle joined to an end": "seam:saddle to left end/(pin|sew)",
        "flap over the port": "feature:cable/sew on .*",
        "handles basted to the edge": "feature:(left|right)/baste",
        "the seam that catches them": "seam:saddle to (left|right) end/sew",
        "centre of the saddle pinned to the centre of the end": "seam:saddle to (left|right) end/pin",
        "corners pinned": "seam:saddle to (left|right) end/corners",
        "first try-on": "try/first",
        "lower hem": "edge:lower edge/(press|stitch)",
    },
    "traced ends and gusset": {
        "fleece fused to outer panels": "padding/fuse",
        "fused panels cut to size again": "padding/trim",
        "top edge of the pocket bound": "feature:pocket/bind .*",
        "pocket basted on the front": "feature:pocket/baste",
        "piping basted to the front end": "seam:gusset to right end/baste",
        "front end joined to the gusset": "seam:gusset to right end/sew",
        "back end joined to the gusset": "seam:gusset to left end/sew",
        "outer shell": "seam:gusset to (left|right) end/.*",
        "lining shell put in": "lining/put in",
        "lower edge bound": "edge:lower edge/bind",
    },
    "bagged lining": {
        "gap marked": "lining/mark gap",
        "that lining seam sewn": "seam:lining: close the wall/sew",
        "outer and lining joined at the edge": "lining/bag",
        "turned through the gap": "lining/turn",
        "edge topstitched": "lining/edge",
        "gap closed": "lining/close",
    },
    "padded case": {
        "foam fused to both cloths": "padding/fuse",
        "quilting": "padding/quilt",
        "squared again and trimmed": "padding/trim",
        "zip set in": "seam:zip/sew",
        "tube closed": "seam:close the lower tube/sew",
        "ends folded and sewn": "seam:bottom seam/sew",
        "bottom boxed": "boxed:lower tube/sew",
        "bottom boxed and tried": "(boxed:lower tube/sew|try/first)",
        "corner cut off": "boxed:lower tube/cut off",
    },
    "cap": {
        "pre-wash and press": "cloth:outer/prewash",
        "cut": "cloth:outer/cut",
        "outer and lining sewn round with the gap": "lining/bag",
        "turned": "lining/turn",
        "pressed": "lining/press",
        "elastic drawn in": "lining/thread",
        "casing stitched": "lining/casing",
        "elastic ends overlapped and sewn": "lining/join",
        "gap closed": "lining/close",
    },
    "sheet": {
        "hems of two opposite sides": "edge:edge/1/(press|stitch)",
        "hems of the other two": "edge:edge/2/(press|stitch)",
        "all hems": "edge:edge/[12]/stitch",
        "corner snaps": "figure:sheet/snap/ends",
        "snaps at the halves, then at the quarters": "figure:sheet/snap/(halves|rest)",
        "punch mark": "figure:sheet/snap/punch ends",
        "drilling": "figure:sheet/snap/drill ends",
    },
    "wheel, both faces": {
        "hub opening bound": "figure:axle face/openings/bind",
        "face joined to the boxing": "seam:boxing to axle face/(pin|sew)",
        "slit bound": "figure:axle face/openings/bind",
        "flap sewn over the slit": "piece:flap/sew on",
        "hook-and-loop sewn to the flap": "piece:flap/touch flap",
        "first face joined to the boxing": "seam:boxing to axle face/sew",
        "second face joined to the boxing": "seam:boxing to outer face/sew",
    },
    "gathered halves": {
        "channel lines stitched": "figure:(front|back) half/channel",
        "side seams": "seam:(left|right) side/sew",
        "padding basted short of the seam": "padding/baste",
        "gather stitch": "seam:(front|back) half to base/gather",
        "gather stitch, two rows": "seam:(front|back) half to base/gather",
        "drawn to the ring": "seam:(front|back) half to base/draw",
        "quarter marks": "seam:(front|back) half to base/quarters",
        "base joined": "seam:(front|back) half to base/sew",
    },
}
"""Which operations a told step means, as a pattern of their keys."""


def varied(job: Job, lot: Random) -> Job:
    """The job with seams sewn in any way, a panel parted, hems first, layers fused and quilted: what wild jobs leave as it is."""
    drafted = draft(job)
    if not isinstance(drafted, Drafted):
        return job
    names = sorted({seam.whole or seam.name for seam in drafted.cover.seams} & set(drafted.cover.joins))
    seams = {
        name: SeamChoice(kind=lot.choice(sorted(CONSTRUCTIONS)), tacked=lot.random() < 0.2)
        for name in names
        if lot.random() < 0.4
    }
    panels = [panel for panel in drafted.panels if panel.cloth is Cloth.OUTER]
    parted = tuple(
        Parting(panel=panel.name, at=panel.width.value * lot.uniform(0.3, 0.7), joined=lot.random() < 0.5)
        for panel in panels
        if lot.random() < 0.2
    )
    return changed(
        job,
        seams=seams,
        parted=parted,
        hem_order=lot.choice(list(HemOrder)),
        padded=Padded(
            material=lot.choice(list(Material)),
            fused=lot.choice(list(Fused)),
            grid=lot.choice((0.0, 60.0)),
            at_seam=lot.random() < 0.3,
        ),
        clips=lot.choice(list(ClipSchool)),
        join=lot.choice(("", "", "flat-felled", "bound")),
        cloth=replace(job.cover.cloth, iron=lot.choice(list(Iron)), hot_cut=lot.random() < 0.3, frays=lot.random() < 0.7),
    )
