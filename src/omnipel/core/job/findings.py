"""What the program has to say: one shape for every warning, judgement and remedy.

Every code is listed here once with its meaning, so that docs/findings.md is generated and no code is used unlisted.
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from omnipel.core.words.phrases import NOTHING, Phrase, tr
from omnipel.core.words.refs import Ref


class Severity(StrEnum):
    """How much a finding matters."""

    STOP = "stop"
    OPEN = "open"
    LOOK = "look"
    NOTE = "note"

    @property
    def words(self) -> Phrase:
        """What the severity asks of the person."""
        return {"stop": tr("do not cut"), "open": tr("to do"), "look": tr("look at this"), "note": tr("good to know")}[self.value]


class Act(StrEnum):
    """What a change does where its reference leads."""

    SET = "set"
    REMOVE = "remove"
    ADD = "add"


@dataclass(frozen=True, slots=True)
class Change:
    """One change to a job: what `ref` means is set to a value or removed; or a value is added to the list it means."""

    ref: Ref
    value: Any = None
    act: Act = Act.SET


@dataclass(frozen=True, slots=True)
class Remedy:
    """What can be done about a finding, in words, as changes that are applied together."""

    words: Phrase
    changes: tuple[Change, ...]


@dataclass(frozen=True, slots=True)
class Finding:
    """Something the program has to say. `where` is what it is about (a reading, a choice, a panel, a seam)."""

    code: str
    severity: Severity
    text: Phrase
    where: Ref
    remedies: tuple[Remedy, ...] = ()

    @property
    def advice(self) -> Phrase:
        """What to do about a stop that nothing here puts right; nothing for others."""
        return CATALOGUE[self.code].remedy if self.severity is Severity.STOP and not self.remedies else NOTHING

    def __post_init__(self) -> None:
        if self.code not in CATALOGUE:
            raise KeyError(f"finding code {self.code!r} is not in the catalogue")


@dataclass(frozen=True, slots=True)
class Entry:
    """What a code means, for the catalogue: meaning and usual remedy, in words."""

    severity: Severity
    meaning: str
    remedy: Phrase
    by_person: bool = False
    """Whether it may be that only a person can do something about it, on the object or in the cloth."""


class Impossible(ValueError):
    """Geometry that cannot be: carries its code, the place in the job and what to do. The pipeline turns it into a finding."""

    def __init__(self, text: Phrase, where: Ref, *remedies: Remedy, code: str = "size-impossible") -> None:
        self.text, self.where, self.remedies, self.code = text, where, remedies, code
        super().__init__(text.template)

    def finding(self) -> Finding:
        """What is said of it."""
        return Finding(self.code, Severity.STOP, self.text, self.where, self.remedies)


STOP, OPEN, LOOK, NOTE = Severity.STOP, Severity.OPEN, Severity.LOOK, Severity.NOTE
CATALOGUE: dict[str, Entry] = {
    "reading-missing": Entry(
        OPEN, "What has been read is not enough yet.", tr("Take the reading that is named; the sketch shows where the tape goes.")
    ),
    "reading-again": Entry(OPEN, "A reading was set aside, to be taken again.", tr("Take it again, or strike it.")),
    "outline-missing": Entry(
        OPEN, "The form needs a traced outline, and none has been brought in.", tr("Trace its side and bring the outline in.")
    ),
    "reading-misread": Entry(
        LOOK,
        "Repeats of one reading are further apart than the instrument explains.",
        tr("Leave the wrong one out, or measure again."),
    ),
    "reading-implausible": Entry(
        LOOK,
        "A reading makes the thing what hardly anybody covers.",
        tr("Say what was meant, take it again, or say that it is so."),
    ),
    "readings-disagree": Entry(
        LOOK,
        "Readings that should agree cannot all be right.",
        tr("Take the one that is named again, or say that it is right and what that means."),
    ),
    "size-impossible": Entry(
        STOP, "A size comes out zero, negative or not possible in geometry.", tr("Change the number that is named.")
    ),
    "hem-too-deep": Entry(STOP, "The hem is deeper than the panel it folds onto.", tr("Make the hem narrower.")),
    "drop-too-long": Entry(
        LOOK,
        "The drop is longer than the object is high: the cover would lie on the ground.",
        tr("End at the ground, or above it."),
    ),
    "hem-counted-twice": Entry(
        LOOK, "The drop already holds the hem: it would be added a second time.", tr("Take the hem off the drop.")
    ),
    "will-not-go-on": Entry(
        STOP,
        "The cover is narrower inside than the object where it has to pass.",
        tr("Add clearance, or let a closure open."),
        by_person=True,
    ),
    "tight": Entry(LOOK, "The cover goes on with a struggle.", tr("Add clearance.")),
    "flaps": Entry(
        LOOK, "The cover is so wide that it flaps in wind and pools water.", tr("Take clearance away, or add a drawcord.")
    ),
    "chance-low": Entry(
        LOOK,
        "The spread of readings and sewing leaves a fair chance that the cover does not go on.",
        tr("Measure the named reading again, or add clearance."),
    ),
    "seam-not-true": Entry(
        STOP, "The two sides of a seam differ by more than the tolerance.", tr("Change the side that is easier to change.")
    ),
    "cord-cannot-close": Entry(
        LOOK,
        "The cloth cannot be gathered as far as the cord is to be drawn.",
        tr("Draw it in less, or make the casing edge shorter."),
    ),
    "cord-does-nothing": Entry(
        LOOK, "A cord or elastic is no shorter than the edge that it is to draw in.", tr("Draw it in further.")
    ),
    "construction-unsuited": Entry(
        LOOK, "Something speaks against sewing a seam so.", tr("Sew it in another way, or change what stands against it.")
    ),
    "stretch-beyond-seam": Entry(
        STOP, "What is to run along a seam, or to be left open, lies beyond its end.", tr("Let it end where the seam ends.")
    ),
    "parting-misses": Entry(
        STOP, "A panel is to be parted where a level line does not part it in two.", tr("Part it elsewhere.")
    ),
    "nothing-to-bag": Entry(
        STOP, "An edge is to be bagged with a lining that is not there.", tr("Line it, or finish the edge in another way.")
    ),
    "closure-too-long": Entry(
        STOP, "The closure opens nothing, or further than the cover is high.", tr("Let it open by as much as is needed.")
    ),
    "casing-too-narrow": Entry(
        LOOK, "A casing is narrower than what runs in it needs.", tr("Make the casing wider, or take a thinner cord.")
    ),
    "hardly-meant": Entry(
        LOOK, "A decision is far beyond what any cover has.", tr("Go back to what is usual, if it was not meant.")
    ),
    "allowances-meet": Entry(
        STOP, "Two edges of a panel face each other with no room for both allowances.", tr("More panels, or narrower allowances.")
    ),
    "allowance-too-wide": Entry(
        LOOK, "An allowance is wider than half of the panel that it is on.", tr("Make the allowance narrower.")
    ),
    "choice-unused": Entry(
        LOOK, "Something was decided that this cover has no use for.", tr("Do without it, or take another scheme.")
    ),
    "gathers-too-much": Entry(
        LOOK, "Cloth would have to gather further than it can.", tr("Make the gathered edge shorter, or take finer cloth.")
    ),
    "elastic-too-short": Entry(
        STOP, "Stretched as far as it goes, the elastic does not pass the rim.", tr("Cut the elastic longer.")
    ),
    "elastic-does-not-hold": Entry(
        LOOK, "Relaxed, the elastic is no shorter than what it shall hold to.", tr("Cut the elastic shorter.")
    ),
    "gore-excess": Entry(
        LOOK, "Flat gore edges are much longer than the meridian.", tr("Use more gores, or ease the excess in.")
    ),
    "dome-coarse": Entry(LOOK, "The seams between so few bands stand far off the dome.", tr("Use more bands in the dome.")),
    "corner-too-round": Entry(
        STOP, "The ends' corners are rounded so far that they cut into the object's.", tr("Round the corners by less.")
    ),
    "rounding-measured": Entry(
        NOTE, "The over-the-top path says that the top edges are rounded.", tr("Round the end panels by as much.")
    ),
    "port-missing": Entry(
        LOOK, "Something that sticks out is to get an opening, and the cover has none for it.", tr("Add a port at its place.")
    ),
    "covers-too-far": Entry(LOOK, "The cover reaches over something it is to leave below.", tr("Make the drop shorter.")),
    "by-hand-unfit": Entry(
        STOP,
        "With sizes set by hand the sewn cover would lie inside of the object, or would not close.",
        tr("Drop the size set by hand, or set the others to go with it."),
    ),
    "promise-broken": Entry(
        STOP,
        "The cover as it is drafted does not close in space, or lies nearer to the object than its scheme promises: a mistake of ours.",
        tr("Do not cut. Try another scheme, and tell us what the job is."),
        by_person=True,
    ),
    "our-fault": Entry(
        STOP,
        "Something went wrong inside the program: a fault of ours, not of the job.",
        tr("Take back the last change, and tell us what it was."),
        by_person=True,
    ),
    "outline-simplified": Entry(
        NOTE,
        "A tracing had more points and corners than can be sewn.",
        tr("Look whether the panel still has its shape."),
        by_person=True,
    ),
    "outline-smoothed-less": Entry(
        NOTE, "Smoothed as far as asked an outline would cross itself.", tr("Look whether it is smooth enough."), by_person=True
    ),
    "nothing-to-cover": Entry(
        STOP,
        "What is to stay free below the cover stands at its top.",
        tr("Cover over it, give it a port, or measure its place again from the top edge."),
    ),
    "sticks-out-beside": Entry(
        LOOK,
        "Something is said to stick out where the object is not, or further than can be meant.",
        tr("Measure its place again, from the centre line and from the top edge."),
    ),
    "sticks-out-unreckoned": Entry(
        LOOK, "This form does not reckon with what sticks out.", tr("Measure the girth over it, and drop it from the list.")
    ),
    "port-across-seam": Entry(
        STOP, "An opening lies across a seam, a hem or the edge of its panel.", tr("Move it inward, or make it smaller.")
    ),
    "slit-reaches-nothing": Entry(STOP, "A slit does not reach the edge it is to run to.", tr("Name an edge of that panel.")),
    "pocket-too-wide": Entry(
        STOP, "A pocket, patch or window is larger than its panel has room for.", tr("Make it smaller, or move it.")
    ),
    "feature-off-panel": Entry(
        STOP, "Something is placed where this cover has nothing.", tr("Place it on a side of this cover.")
    ),
    "slope-ignored": Entry(
        LOOK, "The front is lower than the back, and the scheme cuts its top level.", tr("Use a scheme that follows the side.")
    ),
    "feature-unplaced": Entry(
        LOOK,
        "An earlier version had something on a panel, and its side of the cover is not known.",
        tr("Say on which side it is."),
    ),
    "feature-unknown": Entry(STOP, "Something put on the cover is of no kind that there is.", tr("Leave it out.")),
    "feature-choice": Entry(STOP, "Something was decided about a feature that cannot be.", tr("Go back to what is usual.")),
    "feature-in-gathers": Entry(
        LOOK,
        "Something lies where the cloth is gathered, and is drawn in with it.",
        tr("Move it to where the cloth is not gathered."),
    ),
    "flap-without-slit": Entry(
        STOP, "A flap is to lie over a slit, and there is none.", tr("Run a slit, or do without the flap.")
    ),
    "drain-not-lowest": Entry(LOOK, "An eyelet to drain water is not at the lowest place.", tr("Move it to the lowest place.")),
    "letters-missing": Entry(
        LOOK, "A typeface is not on this machine, or lacks a letter.", tr("Use the shipped typeface, or other letters.")
    ),
    "features-overlap": Entry(
        STOP, "Two things on a panel lie over one another, and one of them is an opening or a pocket.", tr("Move one of them.")
    ),
    "snap-in-stitch-line": Entry(
        LOOK, "A fastener sits in the stitch line of a hem.", tr("Move it to the middle of the hem or clear of it.")
    ),
    "handle-not-in-seam": Entry(
        STOP, "A webbing handle is to be caught in an edge that is no seam.", tr("Name an edge that is sewn.")
    ),
    "casing-without-cord": Entry(
        LOOK,
        "A casing is stitched and its ends are closed while nothing lies in it.",
        tr("Say what runs in it, or stitch it last, with a gap."),
    ),
    "gap-in-curve": Entry(
        NOTE,
        "The turning gap lies in a curved seam: it is hard to close neatly.",
        tr("Move it to a straight seam where the lining has one."),
    ),
    "ring-too-small": Entry(
        LOOK,
        "Something round is to be stitched that does not go over the machine's free arm.",
        tr("Stitch it while it is flat, or by hand."),
    ),
    "too-thick": Entry(
        LOOK,
        "Where seams cross more cloth lies under the foot than goes there.",
        tr("Turn the allowances in opposite ways, trim them in steps, or sew one of the seams plain."),
    ),
    "step-overtaken": Entry(
        LOOK,
        "Something is sewn already that another step had to come before.",
        tr("Unpick so far as it takes, or do it by hand."),
    ),
    "learnt": Entry(
        Severity.NOTE,
        "Covers made before came out otherwise than planned, in a way that this one can allow for.",
        tr("Take the proposal, or leave it."),
    ),
    "turning-gap": Entry(
        LOOK,
        "The gap to turn the lining through is too small for a hand, or too long to close neatly.",
        tr("Leave a hand's breadth open, and half as much again at the most."),
    ),
    "lining-narrow": Entry(
        STOP, "A lining of a width of its own is narrower than is needed.", tr("Piece it, or make it as wide as is needed.")
    ),
    "lining-eased": Entry(
        LOOK,
        "A lining inside of thick padding has an edge so much shorter than the outer's that this cannot be eased onto it.",
        tr("Sew the layers as one, or take thinner padding."),
    ),
    "padding-in-seam": Entry(
        LOOK,
        "Padding other than fused foam runs to the seams, and is sewn into them.",
        tr("End it short of the seams, or fuse foam."),
    ),
    "not-on-fold": Entry(
        LOOK, "A panel is to be cut on the fold and is not the same on both sides, or is not there.", tr("Cut it whole.")
    ),
    "layer-on-nothing": Entry(LOOK, "A layer is to lie on a panel that this cover does not have.", tr("Name its panels again.")),
    "padding-too-small": Entry(LOOK, "Nothing is left of the padding within its inset.", tr("Make the inset smaller.")),
    "size-unknown": Entry(LOOK, "A size set by hand is none of this cover.", tr("Leave it out.")),
    "longer-than-cloth": Entry(
        STOP, "A panel fits its cloth neither across nor along.", tr("Piece it, or take wider cloth."), by_person=True
    ),
    "cut-along-cloth": Entry(NOTE, "A panel is longer than the cloth is wide, and goes along it.", tr("Cut it along the cloth.")),
}
