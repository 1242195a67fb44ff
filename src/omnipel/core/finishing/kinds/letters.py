"""Letters and appliqué: a line of text in a typeface, or a drawing, sewn on along its outline."""

import math
from collections.abc import Iterator
from typing import Final

import numpy as np
import shapely

from omnipel.core.covers.options import drawing, pick, text
from omnipel.core.drafting.panel import Figure, Shows
from omnipel.core.drafting.shapes import even
from omnipel.core.finishing.fixing import Fixing
from omnipel.core.finishing.kind import Kind, Lies, Put, Values
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.placing import off_edges
from omnipel.core.job.findings import Change, Impossible, Remedy
from omnipel.core.job.finish import RAW
from omnipel.core.plane.curves import Points
from omnipel.core.plane.lettering import NoLetters, lettered
from omnipel.core.plane.trace import path_points
from omnipel.core.words.phrases import Name, Phrase, Rule, mm, term, tr
from omnipel.core.words.working import worked

FROM_BACK: Final = "from the back"
ROUNDING: Final = 1e-6


def rings(put: Put) -> tuple[Points, ...]:
    """The outlines in the frame of the feature: a drawing as high as was chosen, or the letters."""
    path = put.picked("drawing")
    if path:
        points = path_points(path)
        low, high = points.min(axis=0), points.max(axis=0)
        return ((points - (low + high) / 2.0) * put.feature.height / max(float(high[1] - low[1]), ROUNDING),)
    try:
        made, _ = lettered(put.picked("text") or put.feature.name, put.feature.height, put.picked("typeface"))
    except NoLetters:
        made, _ = lettered(put.picked("text") or put.feature.name, put.feature.height)
    return made


def outline(put: Put) -> Points:
    """The box around them."""
    drawn = rings(put)
    if not drawn:
        half = put.feature.height / 2.0
        return np.array([(-half, -half), (half, -half), (half, half), (-half, half)])
    everything = np.concatenate(drawn)
    (a, b), (c, d) = everything.min(axis=0), everything.max(axis=0)
    return np.array([(a, b), (c, b), (c, d), (a, d)])


def room(put: Put) -> float:
    """They keep clear of seams and hems."""
    return put.habit("letters room")


def idle(put: Put) -> frozenset[str]:
    """A drawing stands in for what it says."""
    return frozenset({"text", "typeface"} if put.picked("drawing") else ())


def letters(put: Put) -> None:
    """Their outlines on the panel, and on a template of their own, turned over where they are traced from the back."""
    put.made.say(off_edges(put, "pocket-too-wide"))
    _lacking(put)
    drawn = rings(put)
    for i, ring in enumerate(drawn, 1):
        put.draw(f"{put.feature.name} {i}", ring, closed=True, shows=Shows.PRINT)
    low, high = put.local.min(axis=0), put.local.max(axis=0)
    edge = put.habit("patch seam")
    wide, tall = high - low + 2.0 * edge
    back = put.picked("traced") == FROM_BACK
    template = even(
        f"template of {put.feature.name}",
        worked(tr("letters"), float(wide), put.where),
        worked(tr("letters"), float(tall), put.where),
        RAW,
        figures=tuple(
            Figure(f"{put.feature.name} {i}", _on_template(ring, low - edge, high + edge, back=back), closed=True)
            for i, ring in enumerate(drawn, 1)
        ),
        notes=(tr("traced from the back: it is drawn the wrong way round"),) if back else (),
    )
    put.lay(template, float(low[0] + high[0]) / 2.0, float(low[1] + high[1]) / 2.0, inside=True)
    stitched = sum(shapely.LinearRing(ring).length for ring in drawn)
    put.buy(
        tr("thread for the outline"),
        worked(tr("around the letters"), float(stitched), put.where),
        note=tr("{feature}, {how}", feature=put.name, how=term(put.picked("sewn"))),
    )
    if back:
        size = tr("{feature}, {width} by {height}", feature=put.name, width=mm(float(wide)), height=mm(float(tall)))
        put.buy(tr("fusible web"), count=1, note=size)


def _on_template(ring: Points, low: Points, high: Points, *, back: bool) -> Points:
    """A ring in the frame of the template; turned over left to right when that is traced from the back."""
    moved = ring - low
    return np.column_stack((float(high[0] - low[0]) - moved[:, 0], moved[:, 1]))[::-1] if back else moved


def _lacking(put: Put) -> None:
    """A typeface that is not on this machine, or that lacks a letter."""
    if put.picked("drawing"):
        return
    words, typeface = put.picked("text") or put.feature.name, put.picked("typeface")
    ours = Remedy(tr("Write {feature} in the shipped typeface", feature=put.name), (Change(put.at("typeface"), ""),))
    try:
        made, missing = lettered(words, put.feature.height, typeface)
    except NoLetters:
        put.look(
            "letters-missing",
            tr("{feature}: the typeface {face} is not on this machine.", feature=put.name, face=Name(typeface)),
            ours,
        )
        return
    if not made and not missing:
        raise Impossible(tr("there is nothing to write"), put.where)
    if missing:
        lacks = tr("{feature}: the typeface has no {letters}.", feature=put.name, letters=Name(" ".join(sorted(missing))))
        known = "".join(letter for letter in words if letter not in missing).strip()
        ways = [ours] if typeface else []
        if known:
            ways.append(Remedy(tr("Write only {text}", text=Name(known)), (Change(put.at("text"), known),)))
        put.look("letters-missing", lacks, *ways)


def sizes(values: Values) -> dict[str, Phrase]:
    """How high the capitals are."""
    return {"height": tr("height of the drawing") if values["drawing"] else tr("height of the capitals")}


def operations(f: Fixing) -> Iterator[Operation]:
    """Fused where they are traced from the back, else basted; then sewn along their outline."""
    return in_turn(_operations(f))


def _operations(f: Fixing) -> Iterator[Operation]:
    if f.picked("traced") == FROM_BACK:
        mirror = (Check(tr("they read the right way round from outside")),)
        yield f.does(
            "fuse",
            "fuse letters",
            tr("Fuse {feature} to {host}", feature=f.name, host=f.on),
            Work(Pace.FIXED, 4.0),
            on=(f.host,),
            checks=mirror,
        )
    else:
        yield f.does(
            "baste",
            "open",
            tr("Cut {feature} out and tape it to {host}", feature=f.name, host=f.on),
            Work(Pace.FIXED, 5.0),
            on=(f.host,),
        )
    outline = math.fsum(float(shapely.LinearRing(figure.points).length) for figure in f.figures if len(figure.points) > 3)
    words = tr("Sew {feature} on along its outline with {how}", feature=f.name, how=term(f.picked("sewn")))
    yield f.does("sew", "lettering", words, Work(Pace.CURVED, outline), on=(f.host,))


LETTERS = Kind(
    key="letters",
    words=tr("letters or a drawing"),
    about=tr("Cut from cloth and sewn on along its outline."),
    lies=Lies.UNDER,
    put=letters,
    options=(
        text("text", tr("what it says"), tr("Left empty it says its name.")),
        text("typeface", tr("typeface"), tr("The name of a typeface file that is installed; empty for the shipped one.")),
        drawing("drawing", tr("a drawing instead"), tr("The outline of a drawing stands in for the letters.")),
        pick(
            "traced",
            tr("traced"),
            ("from the front", FROM_BACK),
            tr("What is fused from the back is traced the wrong way round."),
        ),
        pick("sewn", tr("sewn with"), ("a satin stitch", "a straight stitch")),
    ),
    sizes=sizes,
    outline=outline,
    room=room,
    idle=idle,
    operations=operations,
    usual=(Rule(120.0, 4.5), Rule(60.0, 2.5)),
)
