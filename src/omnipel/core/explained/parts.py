"""What the parts of a job are, and what is decided about each."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.explained.choices import MARK, WIDE, Told
from omnipel.core.words.phrases import tr
from omnipel.core.words.refs import Of

PARTS: Final[Mapping[tuple[Of, str], Told]] = {
    (Of.SEAM, ""): (
        tr("A seam joins two edges of the same length; their marks meet, and Panels tells by how much they do not."),
        tr("Allowances, topstitching, a stretch that is left open: what is decided here is for this seam alone."),
    ),
    (Of.SEAM, "kind"): (
        tr("How this seam is sewn. Cut across you see which layer lies where and where the stitches go."),
        tr("As usual follows what is decided for all."),
    ),
    (Of.SEAM, "allowance"): (tr("The allowance of one side of this seam."), WIDE),
    (Of.SEAM, "under"): (
        tr("The allowance of the other side, where both are not the same: the one that is trimmed or covered."),
        MARK,
    ),
    (Of.SEAM, "wide"): (tr("The width of what makes the seam: a lap, a binding, the tape of a zip."), MARK),
    (Of.SEAM, "fuller"): (
        tr("How many times longer one side is cut than the other, to be gathered or eased in."),
        tr("Over the limit of the cloth it cannot be drawn up."),
    ),
    (Of.SEAM, "start"): (tr("Where along the seam this begins, from its first mark."), tr("Zero is its beginning.")),
    (Of.SEAM, "stop"): (tr("Where along the seam this ends."), tr("Zero is its end.")),
    (Of.SEAM, "open_from"): (
        tr("A stretch of the seam that is not sewn begins here: for a handle, a spout, a hand."),
        tr("Its edges are turned back and reinforced."),
    ),
    (Of.SEAM, "open_to"): (
        tr("A stretch of the seam that is not sewn ends here."),
        tr("Its edges are turned back and reinforced."),
    ),
    (Of.SEAM, "rows"): (
        tr("How many rows of stitches show on the right side beside the seam."),
        tr("They hold the allowances down and carry what pulls."),
    ),
    (Of.SEAM, "tacked"): (
        tr("Whether both ends are sewn to and fro, a bar across."),
        tr("Where something pulls, an end opens first."),
    ),
    (Of.EDGE, ""): (
        tr("A free edge of the cover: what finishes it, what runs in it, what holds it."),
        tr("As usual follows what is decided for the lower edge."),
    ),
    (Of.EDGE, "finish"): (tr("How this edge is finished, cut across."), tr("A tunnel has to be wider than what runs in it.")),
    (Of.EDGE, "order"): (
        tr("Whether this edge is hemmed while its panel is flat, or when the cover hangs."),
        tr("The order of work follows it."),
    ),
    (Of.EDGE, "held_by"): (
        tr("What holds this edge under the thing: nothing, a cord, an elastic, hook-and-loop."),
        tr("A cord needs a tunnel and a gap to draw it in."),
    ),
    (Of.EDGE, "drawn_to"): (
        tr("To which girth a cord or an elastic draws this edge."),
        tr("Zero is as far as the cloth gathers."),
    ),
    (Of.EDGE, "wide"): (tr("How thick the cord or how wide the elastic is."), tr("The tunnel is asked to be wider than that.")),
    (Of.FEATURE, ""): (
        tr("Something on the cover: it lies on a panel, is cut and sewn with it, and moves with the side it is measured from."),
        tr("Drag it in the picture, or type its place: from the centre line and from the top edge."),
    ),
    (Of.FEATURE, "face"): (
        tr("On which side of the cover it lies, as one stands before it."),
        tr("The piece of cloth that lies there carries it."),
    ),
    (Of.FEATURE, "from_centre"): (
        tr("How far its middle lies from the centre line of its side; to the left is less than nothing."),
        tr("Measured over the thing, not from an edge of cloth."),
    ),
    (Of.FEATURE, "from_top"): (tr("How far its middle lies below the top edge."), tr("Measured straight down from the edge.")),
    (Of.FEATURE, "width"): (tr("How wide it is when it is finished."), tr("Allowances are added to what is cut for it.")),
    (Of.FEATURE, "height"): (tr("How high it is when it is finished."), tr("Allowances are added to what is cut for it.")),
    (Of.FEATURE, "name"): (
        tr("What you call it. It stands so on every paper."),
        tr("Letters say it, when nothing else is written."),
    ),
    (Of.FEATURE, "serves"): (
        tr("What comes out through it: then its place and size follow what was measured there."),
        tr("Nothing, if it is for no such thing."),
    ),
    (Of.PANEL, ""): (
        tr("A piece of cloth as it is cut: its finished size is between the stitch lines, its cut size has all allowances."),
        tr("Point at a size and its sum stands in the working line; click a term, and you are where it was decided."),
    ),
    (Of.PARTING, ""): (
        tr("Where a panel is cut in two and sewn together again, or joined by a zip."),
        tr("To fit narrow cloth, or to open the cover there."),
    ),
    (Of.JOB, "name"): (
        tr("What the job is called on the shelf and on every paper."),
        tr("It may be anything; the file that is written takes what a file may be called."),
    ),
    (Of.JOB, "owner"): (tr("For whom the cover is."), tr("It stands on papers and labels and is found by the shelf's search.")),
    (Of.JOB, "place"): (tr("Where the thing stands."), tr("It stands on papers and labels and is found by the shelf's search.")),
    (Of.JOB, "notes"): (
        tr("Whatever has to be remembered about this job."),
        tr("It stays with the job and travels in its file."),
    ),
    (Of.THING, "form"): (
        tr("What shape the thing has. The form says which readings are needed and which schemes can cover it."),
        tr("Take the nearest: what sticks out is told for itself."),
    ),
    (Of.THING, "lives"): (
        tr("Where the thing is kept: that decides which cloth lasts, how wide a hem should be, how often to look at it."),
        tr("Proposals and due dates follow it."),
    ),
    (Of.THING, "comes_off"): (
        tr("How often the cover comes off: what is handled daily wants an easy closure and a lining."),
        tr("Proposals follow it."),
    ),
    (Of.THING, "gets_hot"): (
        tr("Whether the thing is warm when it is covered."),
        tr("It changes no size; it is said on the papers, since cloth burns."),
    ),
    (Of.STICKS_OUT, ""): (
        tr(
            "Something that stands out of the thing: a knob, a handle, a valve. It is placed from the centre line of its side and the top edge."
        ),
        tr("Cover over it, give it a port, or leave it below: each changes what is measured and cut."),
    ),
    (Of.TAPE, "instrument"): (
        tr("What this reading was taken with. A soft tape stretches and a string bends: each is trusted as far as it deserves."),
        tr("The chance of going on counts with it."),
    ),
    (Of.TAPE, "note"): (
        tr("Where exactly it was taken, or what was in the way."),
        tr("It stays with the reading and on the readings' sheet."),
    ),
    (Of.TAPE, "card"): (
        tr("All readings in one line, by the letters of the tape card, in any order: A 69 7/16, B 25 3/4."),
        tr("Two numbers of one reading are parted by a stroke with spaces around it."),
    ),
    (Of.TAPE, "listen"): (
        tr("A wireless tape sends what it reads to the reading that is asked for."),
        tr("docs/tape-protocol.md tells how one is connected."),
    ),
    (Of.LAY, ""): (
        tr("How the pieces lie on this cloth: from the squared end on, between the selvages, the grain as it has to run."),
        tr("Drag a piece, turn it with R, lock it with L; what is not locked can be laid anew."),
    ),
    (Of.LOG, ""): (
        tr("What happened to the cover after it was made: washed, mended, proofed, retired."),
        tr("When to look again follows from it."),
    ),
}
"""About parts of a job, by their kind and what of them is meant."""
