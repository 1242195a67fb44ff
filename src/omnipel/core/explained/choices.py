"""What the choices about a whole cover are for."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, tr
from omnipel.core.words.refs import Ref

Told = tuple[Phrase, ...]

WIDE: Final = tr("All of it lies inside when it is sewn; what is wider there can be let out later.")
MARK: Final = tr("It is in every cut size, so changing it changes what is cut; Panels shows where it stands in each sum.")
MEASURED: Final = tr("It is measured, not wished: a wrong one spoils every size it stands in.")

CHOICES: Final[Mapping[Ref, Told]] = {
    refs.CLEARANCE_SCHOOL: (
        tr(
            "Covers are made larger than their thing in three ways: by a gap on each side, by ease on each dimension, or by a share of the girth."
        ),
        tr("They come to the same sizes in the end. Take the one you think in; a gap is what the hand feels."),
    ),
    refs.CLEARANCE: (
        tr(
            "So much air lies between cloth and thing, or so much larger each dimension is. A girth grows by the gap times 2π around something round."
        ),
        tr(
            "Too little and it is a struggle to put on; too much and it flaps and holds water. The tally tells the chance that it goes on."
        ),
    ),
    refs.EASE_ALONG: (
        tr("How much longer the cover is than the thing from left to right, when that differs from the depth."),
        tr("Half of it lies at each end."),
    ),
    refs.EASE_DROP: (
        tr("How much longer the cover hangs than was measured."),
        tr("A hem that lifts in the wind wants a little more; one that would lie on the ground wants none."),
    ),
    refs.SEAM_ALLOWANCE: (
        tr(
            "The cloth beyond the stitch line of every seam. It is added to every edge that is sewn, and to nothing that was measured."
        ),
        WIDE,
    ),
    refs.CLOSING_ALLOWANCE: (
        tr(
            "The allowance of the seam that closes a wall to a ring; often wider, since that seam is let out or taken in at the try-on."
        ),
        MARK,
    ),
    refs.HEM_KIND: (
        tr("How the free lower edge is finished: turned once or twice, bound, faced, or as a tunnel for a cord or an elastic."),
        tr("What runs in it, and how deep it is, follows from this. Single edges can be told apart further down."),
    ),
    refs.HEM_WIDTH: (
        tr("How deep the finished edge is. It is added to the drop: measure to where the cover shall end, without the hem."),
        tr("A wide hem hangs heavier and lifts less; a tunnel has to be wider than what runs in it."),
    ),
    refs.TURN_UNDER: (
        tr("What is folded in behind the hem, so that no raw edge shows."),
        tr("It is narrower than the hem it lies in. Coated cloth that does not fray needs none."),
    ),
    refs.RING: (
        tr("A strip is sewn around a panel either as a ring that is closed before, or round and closed where its ends meet."),
        tr("Closed before, every mark can be checked; closed at the end, nothing can pucker."),
    ),
    refs.HEM_ORDER: (
        tr(
            "Hemmed first the panels are flat and the seams run through the hem; hemmed last the edge is evened out on the hanging cover."
        ),
        tr("The order of work follows it."),
    ),
    refs.CLIPS: (
        tr("A straight strip that is sewn around a curve has to spread: short snips in its allowance let it."),
        tr("They end just short of the stitch line. Cloth that frays is clipped after sewing."),
    ),
    refs.ON_FOLD: (
        tr("A panel that is the same on both sides of its middle is marked out as a half and cut through doubled cloth."),
        tr("That halves the marking, and both halves are the same. It needs cloth that is wide enough folded."),
    ),
    refs.MARKING: (
        tr(
            "Rectangles and circles are chalked by their numbers; what has curves or corners that numbers do not give is printed full size."
        ),
        tr("The pattern has fewer sheets the more is chalked."),
    ),
    refs.CLOTH_NAME: (
        tr("The cloth decides much: its width, its thickness, whether it frays, melts, shrinks or has one way."),
        tr("The shop keeps its cloths; a job keeps its own copy, as it was when it was taken."),
    ),
    refs.CLOTH_KIND: (
        tr("Canvas, other cloth, or thin cotton: each has its usual allowance."),
        tr("Needle, thread and stitch, too, are the usual ones where the cloth itself does not say."),
    ),
    refs.CLOTH_THICKNESS: (
        tr("How thick one layer is. Around a bend cloth that lies outside has to be longer: by 2π times its half."),
        tr("Fold it sixteen times, press it, measure that and divide."),
    ),
    refs.GATHER_LIMIT: (
        tr(
            "How many times its length an edge of this cloth can be drawn together: heavy canvas hardly one and a half, shirting three."
        ),
        tr("Try it on a scrap. A cord closes no further than this lets it."),
    ),
    refs.PADDING: (
        tr("The thickness of what lies between cover and lining. It takes room on every side, so the cover grows by it."),
        tr("Measure it as it will be: pressed by nothing but the lining."),
    ),
    refs.CLOTH_WIDTH: (
        tr("The width between the selvages that can be used. Panels wider than it are pieced or cut along the cloth."),
        tr("What is to be bought follows from it."),
    ),
    refs.CLOSURE_KIND: (
        tr("What lets the lower edge open wider, when the cover does not pass the widest place as it is."),
        tr("A slit is the quickest; a zip opens far; a cord draws in under the thing."),
    ),
    refs.CLOSURE_LENGTH: (
        tr("How far up it opens. An open slit spreads by about its own length at the edge."),
        tr("As long as what is wider above it is high, and a little more."),
    ),
    refs.LINING_SCHOOL: (
        tr("A lining is sewn in and turned through a gap, bound at the edge, or cut alike and sewn as one with the outer."),
        tr("It spares paint and seams. It lies inside, so it is a little smaller."),
    ),
    refs.LINING_ALLOWANCE: (
        tr("The allowance of the lining's own seams."),
        tr("Thin lining takes less than the outer; what frays takes more."),
    ),
    refs.LINING_WIDTH: (tr("The usable width of the lining's cloth."), tr("It is laid for itself, so its own width counts.")),
    refs.LINING_ON: (tr("Which panels have a lining: all, or only those that touch what is to be spared."), MARK),
    refs.LINING_AROUND: (
        tr("How wide the lining of the wall is around, when it is to be wider or narrower than is needed."),
        tr("What is wider is laid in pleats."),
    ),
    refs.LINING_PIECED: (
        tr("Whether a lining longer than its cloth is wide is sewn together of parts."),
        tr("It is inside, where a seam more disturbs nobody."),
    ),
    refs.TURNING_GAP: (
        tr("The piece of a lining's seam that stays open, so that all of it can be turned right side out through it."),
        tr("A hand has to go through. It is closed last of all."),
    ),
    refs.PADDING_INSET: (
        tr("How far padding ends before the seam, so that no needle has to go through it and the seam lies flat."),
        tr("Foam that is fused may run to the seam instead."),
    ),
    refs.PADDING_MATERIAL: (
        tr("Batting, fleece or foam: what it is held with and whether it stands by itself."),
        tr("Fleece is fused, batting is basted or quilted, foam stands up."),
    ),
    refs.PADDING_ON: (
        tr("Which panels are padded."),
        tr("Panels without padding stay thinner; the cover still grows by it where it lies."),
    ),
    refs.PADDING_AT_SEAM: (tr("Whether the padding is sewn into the seams."), tr("Only what is fused lies flat enough there.")),
    refs.FUSED: (tr("To which layer the padding is ironed on, if to any."), tr("What is not fused is basted.")),
    refs.GRID: (
        tr("The distance of quilting lines. Quilting holds the layers and takes some length and width up."),
        tr("The pieces are cut rough, quilted, squared up and then cut to size."),
    ),
    refs.STIFFENER: (tr("A stiff sheet that keeps a panel flat: its thickness counts as the padding's does."), MEASURED),
    refs.STIFFENER_ON: (tr("Which panels are stiffened."), tr("A top that water shall run off, a lid that shall not sag.")),
    refs.STIFFENER_SHORT: (
        tr("How far a stiffener ends before seams and folds, so that the cover still bends there."),
        tr("Less than a thumb's breadth."),
    ),
    refs.QUILTING_ALONG: (
        tr("How much shorter a panel gets along the cloth by quilting, as a share."),
        tr("Quilt a square, measure it before and after."),
    ),
    refs.QUILTING_ACROSS: (
        tr("How much narrower a panel gets across the cloth by quilting, as a share."),
        tr("Quilt a square, measure it before and after."),
    ),
    refs.SHRINK_WARP: (
        tr(
            "How much the cloth shrinks along the warp in its first wash. Panels are cut longer by it, unless the cloth is washed before."
        ),
        tr("Mark a length on a scrap, wash it as the cover will be washed, measure it again."),
    ),
    refs.SHRINK_WEFT: (
        tr("How much the cloth shrinks across in its first wash."),
        tr("Mark a length on a scrap, wash it as the cover will be washed, measure it again."),
    ),
    refs.PREWASHED: (
        tr("Washed and pressed before it is cut, cloth is cut as it is, and so much more of it is bought."),
        tr("Else its panels are cut larger, washed, and trimmed to their cut size; each is a step of its own."),
    ),
    refs.JOIN: (
        tr("How seams are sewn unless a seam says otherwise: plain, with allowances stitched down, felled, bound, lapped."),
        tr("Each takes its own allowances; the drawing shows them cut across."),
    ),
}
"""About choices of the whole cover."""
