"""How each kind of step is done, in a few plain sentences for who does it the first time."""

from collections.abc import Mapping
from typing import Final

from omnipel.core.words.phrases import Phrase, tr

_PIN: Final = (
    tr("Lay both pieces right sides together, edge on edge."),
    tr("Bring the middle marks together first and pin them; then the marks half-way, and half-way again."),
    tr("Pins stand square to the edge, heads outward, so that they come out as you sew."),
    tr("If one side seems longer, spread it between two marks. Never trim it to fit."),
)
_HEM_FOLD: Final = (
    tr("Fold the turn-under first, all along, then the hem; measure every hand's breadth."),
    tr("Where the cloth is pressed, use a press cloth and lift the iron instead of sliding it."),
    tr("Cloth that stands no iron is scored with a blunt edge and held with basting tape."),
)
_SEW: Final = (
    tr("Sew a few stitches, back over them, and on: the end is locked."),
    tr("Guide by the edge of the cloth, not by the needle. Let the machine feed; do not pull."),
    tr("Stop at each mark with the needle down and see whether both sides arrive together."),
    tr("Lock the other end in the same way. Check the marks before you cut the threads."),
)
_BIND: Final = (
    tr("Fold the strip lengthwise and open it again; lay its edge on the raw edge, on the inside."),
    tr("Sew in the first fold. Turn the start under, or join both ends to a ring."),
    tr("Turn the strip over the edge so that it covers the stitches, and topstitch close to its fold."),
    tr("In an inner curve stretch the strip a little; around an outer one ease it."),
)
_PART: Final = (
    tr("Finish the edges that stay free first: they are out of reach later."),
    tr("Fold the others under along the stitch line and crease them."),
    tr("Measure the finished size once before you sew it on."),
)
_SEW_ON: Final = (
    tr("Lay it on its marks, right side up, and baste it or use basting tape."),
    tr("Stitch close to its edge, needle down at the corners to turn."),
    tr("Sew a small triangle or back and forth where it is pulled at."),
)
_PRESS: Final = (
    tr("Press the line of stitches as it was sewn, then turn the allowances and press again."),
    tr("Where it crosses another seam, turn them the other way from that one, so that the bulk alternates."),
    tr("Cloth that stands no iron is creased with the thumbnail or a wooden edge."),
)
_FASTEN: Final = (
    tr("Begin at the corners, then set those half-way, then half-way again: what is uneven spreads and does not add up."),
    tr("Two layers of cloth at least, or a patch, lie under every one."),
    tr("Punch a hole a little smaller than the post; try one on a scrap first."),
    tr("Pull at each when it is set."),
)
_GAP: Final = (
    tr("Fold the edges of the gap in along the stitch line."),
    tr("Close it by hand with small stitches that go from fold to fold, or close to the edge by machine."),
    tr("Knot the thread inside."),
)
_LAYERS: Final = (
    tr("Lay the outer cloth wrong side up and smooth it from the middle."),
    tr("Lay the other layer on it without stretching either."),
    tr("Hold the layers together all round, just inside the allowance, and across where the piece is large."),
)
_OPENING: Final = (
    tr("Draw the opening once more and measure it from the centre line and the top edge."),
    tr("Cut from the middle outward, up to the line and not over it; clip into corners."),
    tr("Keep what you cut out: it shows whether the opening has the right size."),
)

HOW: Final[Mapping[str, tuple[Phrase, ...]]] = {
    "prewash": (
        tr("Wash the whole length as the cover will be washed, and let it dry flat or hanging straight."),
        tr("Press it along the warp without stretching it."),
        tr("Measure its width again: it is narrower now."),
    ),
    "square": (
        tr("Lay a square against the selvage near the cut end and draw a line across."),
        tr("Cloth that tears straight can be torn; other cloth is cut along the line."),
        tr("Everything is measured from this line, so take your time."),
    ),
    "mark": (
        tr("Lay the cloth flat, right side down, without stretching it."),
        tr("Draw all lines from one baseline and one end; place every piece as the lay shows it."),
        tr("Mark notches, corners and openings at once. Put the name on every piece."),
        tr("Check both diagonals of rectangles before you cut."),
    ),
    "cut": (
        tr("Cut the large pieces first, along the line, the cloth flat on the table."),
        tr("Cut notches outward or as a short snip, never deeper than a third of the allowance."),
        tr("Lay the pieces flat or roll them; do not fold coated cloth sharply."),
    ),
    "cut goods": (
        tr("Pull an arm's length off and let it lie; measure without tension."),
        tr("Wrap tape around the place before you cut, so that the end does not fray."),
        tr("Hang the lengths up with their names."),
    ),
    "label": (
        tr("Write name, right side and which way is up on a slip for every piece."),
        tr("Pin it inside the allowance, or use tape where pin holes stay."),
        tr("Mirrored pieces look alike until they are sewn: label them one by one."),
    ),
    "measure": (
        tr("Measure each piece as it was cut and compare it with the list."),
        tr("Off by more than a chalk line: mark it now, and correct the partner or cut it again."),
        tr("It is the last moment at which a mistake costs only one piece."),
    ),
    "fuse": (
        tr("Glue side down on the wrong side of the cloth, inside the stitch line."),
        tr("Press, count to ten, lift, go on: sliding moves it."),
        tr("Let it cool flat before you move it."),
    ),
    "spray": _LAYERS,
    "baste layers": _LAYERS,
    "quilt": (
        tr("Sew the first line through the middle, then outward in turns to both sides."),
        tr("Keep the layers flat with spread hands; a walking foot feeds them evenly."),
        tr("Begin and end beyond the stitch line, so that nothing has to be locked."),
    ),
    "trim to size": (
        tr("Fusing and quilting take some up: lay the pattern on again."),
        tr("Square one corner first, then cut the other sides from it."),
        tr("Mark notches and openings again where they were lost."),
    ),
    "put in": (
        tr("Turn the outer right side out, the lining inside out, and put one into the other."),
        tr("Meet seam on seam and middle on middle; the lining may be a little looser."),
        tr("Hold the edges together all round before you sew anything."),
    ),
    "open": _OPENING,
    "bind opening": _BIND,
    "face opening": (
        tr("Lay the facing on the right side, right sides together, over the drawn opening."),
        tr("Sew around exactly on the line, with short stitches at corners."),
        tr("Cut out the middle, clip to the stitches, turn it through and roll the edge."),
    ),
    "window": (
        tr("Hold the clear sheet behind the whole cloth with tape; pins leave holes."),
        tr("Sew around it once, with a long stitch: close holes tear like a stamp."),
        tr("A little soap or paper under the foot keeps the sheet from sticking."),
    ),
    "prepare part": _PART,
    "bind part": _BIND,
    "press part": _PART,
    "score part": _PART,
    "baste part": (
        tr("Lay it on its marks with the raw ends to the edge."),
        tr("Sew inside the allowance, so that the basting disappears in the seam."),
        tr("Look from the right side: what hangs must point away from the edge now."),
    ),
    "sew on": _SEW_ON,
    "touch": (
        tr("The soft half goes where it touches skin or cloth, the hooks on the other."),
        tr("Round its corners, tape it down, sew all round close to its edge."),
        tr("Close it once before you go on: both halves must meet."),
    ),
    "touch edge": (
        tr("The soft half goes where it touches skin or cloth, the hooks on the other."),
        tr("Sew both long sides, and across at the ends."),
        tr("Close it all round once: both halves must meet."),
    ),
    "lettering": _SEW_ON,
    "fuse letters": (
        tr("Trace the letters the wrong way round on the paper side of the web."),
        tr("Fuse it to the back of the letter cloth, cut out, peel the paper."),
        tr("Read it once from the right side before you press it on for good."),
    ),
    "make piping": (
        tr("Lay the cord into the fold of the strip, raw edges together."),
        tr("Sew close to the cord with the zip foot, not touching it."),
        tr("Join strips on the slant, so that the join is not one thick place."),
    ),
    "baste piping": (
        tr("Lay it on the right side, raw edges together, the cord to the inside."),
        tr("At a corner clip the strip to its stitches and turn sharply."),
        tr("Where another seam crosses, pull the cord out and cut it back; run the strip off into the allowance."),
    ),
    "make tie": _PART,
    "stitch line": (
        tr("Draw the line, or follow a guide at the needed distance."),
        tr("Sew it in one go, both lines of a channel in the same direction."),
        tr("Lock the ends; they are pulled at."),
    ),
    "set in zip": (
        tr("Lay the zip along the edge, right side on right side, and hold it with tape."),
        tr("Sew with the zip foot, as far from the teeth as the draft says."),
        tr("Move the slider out of the way half-way, the needle down."),
        tr("Open and close it once before you sew the other side."),
    ),
    "gather": (
        tr("Two rows with the longest stitch and loose upper tension, both inside the allowance."),
        tr("Leave long threads; knot them at one end."),
        tr("Stop and begin anew at the quarter marks, so that a broken thread costs a quarter only."),
    ),
    "draw up": (
        tr("Meet the quarter marks and pin them first."),
        tr("Pull both under threads from one end and spread the gathers with the fingers."),
        tr("Wind the threads around a pin when the length is right."),
    ),
    "press hem": _HEM_FOLD,
    "score hem": _HEM_FOLD,
    "lay cord": (
        tr("Lay the cord into the open fold, both ends beyond it."),
        tr("Fold the hem over it and pin well away from the cord."),
        tr("Pin its ends down, so that neither can slip in."),
    ),
    "hem": (
        tr("Stitch close to the inner fold, from the wrong side, so that you see what you catch."),
        tr("At thick places turn the hand wheel, a folded scrap behind the foot to keep it level."),
        tr("Lock both ends, or run the last stitches over the first."),
    ),
    "casing": (
        tr("Stitch close to the inner fold with the zip foot."),
        tr("A cord that lies inside stays in the fold, never under the needle."),
        tr("Where a gap is marked, lock the stitches at both its ends."),
    ),
    "bind edge": _BIND,
    "bind seam": _BIND,
    "face edge": _SEW,
    "pipe edge": _SEW,
    "seal edge": (
        tr("Draw the hot knife along without stopping, or zigzag over the edge."),
        tr("Try it on a scrap first."),
        tr("Run a finger along when it is cool: nothing may pull out."),
    ),
    "quarters": (
        tr("Fold the ring in half, mark both folds; lay the marks together and mark the new folds."),
        tr("Do the same on the other side, beginning at the same mark."),
        tr("Four short snips or chalk lines are enough."),
    ),
    "clip": (
        tr("Clip only the side that has to spread, the straight one as a rule."),
        tr("The snips end just short of the stitch line."),
        tr("Closer together where the curve is tighter."),
    ),
    "pin": _PIN,
    "pin corners": (
        tr("Now the ends, then the curves, the corners last."),
        tr("At a corner clip the strip to the stitch line and spread it around."),
        tr("Two pins beside each corner, one in it."),
    ),
    "lap": (
        tr("Lay one edge over the other by the overlap that is drawn."),
        tr("Hold it with basting tape, not pins, on coated cloth."),
        tr("Check the overlap at both ends and in the middle."),
    ),
    "sew": _SEW,
    "sew ring": (
        tr("Begin at a quarter mark. The flat piece lies below, the strip on top, so that you see the clips open."),
        tr("Sew a hand's breadth at a time, needle down when you stop and lift the foot to let it relax."),
        tr("Compare the marks at each quarter."),
        tr("Run the last stitches over the first."),
    ),
    "sew piped": _SEW,
    "catch": _SEW,
    "press seam": _PRESS,
    "finger-press": _PRESS,
    "trim seam": (
        tr("Trim one allowance narrower than the other, so that no edge shows as a ridge."),
        tr("Keep the scissors flat and the cloth away below."),
        tr("Never nearer to the stitches than a third of the allowance."),
    ),
    "neaten": (
        tr("Run both allowances through together, the knife just shaving the edge."),
        tr("Without an overlock: a zigzag whose outer stitch falls off the edge."),
        tr("Press once more."),
    ),
    "topstitch": (
        tr("From the right side, the allowances below turned as you pressed them."),
        tr("Use the edge of the foot as a guide along the seam."),
        tr("Flatten the cloth to both sides, so that no fold is caught."),
    ),
    "mark boxed": (
        tr("Flatten the corner until one seam or fold lies exactly on the other."),
        tr("Draw the stitch line square to it, as long as is said."),
        tr("Pin through both seams, so that they meet."),
    ),
    "sew boxed": _SEW,
    "cut boxed": (
        tr("Only when it was tried and fits."),
        tr("Cut an allowance away from the stitches."),
        tr("Keep the ears: they are good patches."),
    ),
    "mark gap": (
        tr("Mark beginning and end of the gap on both edges of the straightest seam."),
        tr("Write “open” on it. It is forgotten most of all."),
        tr("A hand has to go through."),
    ),
    "bag": (
        tr("Right sides together: the one that is right side out goes into the other."),
        tr("Meet seam on seam, pin all round."),
        tr("Sew around once without a stop; the gap is in the lining."),
    ),
    "turn": (
        tr("Reach through the gap, take the far corner, pull it out gently."),
        tr("Push the corners out with something blunt."),
        tr("Lay it flat and see whether nothing is twisted before you go on."),
    ),
    "press": _PRESS,
    "shape": _PRESS,
    "edge stitch": (
        tr("Roll the edge until the seam lies right on it."),
        tr("Stitch close to the edge from the outside."),
        tr("Over thick places by the hand wheel."),
    ),
    "close gap": _GAP,
    "close casing": _GAP,
    "try on": (
        tr("Put it on the object, inside out where it can be, and let it hang."),
        tr("Mark with chalk or pins what is to be taken in or let out, and where ports really are."),
        tr("Take it off with two hands. If that is hard, it is too tight: now is the time."),
        tr("Write down what it measures."),
    ),
    "fit": (
        tr("Put it on as it will be used, close all that closes."),
        tr("Measure once more and write it down: the next one will be drafted from it."),
        tr("A picture of it helps."),
    ),
    "unpick": (
        tr("Cut every fifth stitch on one side with the ripper, guard down, away from the hand."),
        tr("Pull the thread out on the other side; pick the short ends out, they dull the needle."),
        tr("Press or smooth the edge: the old holes show how it was sewn."),
    ),
    "cut in": (
        tr("Mark it on what is left of the cloth, with the grain as in what it joins."),
        tr("Measure it before you cut, and write on it what it is and which end is up."),
        tr("Cut it with its allowances."),
    ),
    "sew in": (
        tr("Mark the new line on both sides first; pin from the hem upward."),
        tr("Run the new line into the old one over a hand's breadth, so that no step shows."),
        tr("Lock both ends. Try it on before you trim anything."),
    ),
    "bind in": _BIND,
    "hem again": (
        tr("Fold the hem along its old creases; where it is wider now it needs a new one."),
        tr("Pin or tape it, and sew into the old line for a thumb's breadth on both sides."),
        tr("Lock the ends."),
    ),
    "draw in": (
        tr("Sew the new end to the old one and draw it through with that."),
        tr("Pin both ends before you let go of them; join them, let them slip into the casing, close it."),
        tr("Draw the edge along once, so that it lies evenly."),
    ),
    "thread": (
        tr("A safety pin or a bodkin in the end goes ahead through the casing."),
        tr("Pin the other end beside the gap before you pull."),
        tr("Even the gathers out by hand, from the gap to the far side."),
    ),
    "join elastic": (
        tr("Lay the ends over one another without a twist."),
        tr("Zigzag across three times."),
        tr("Let it slip into the casing and stretch the edge once all round."),
    ),
    "sew over cord": (
        tr("Draw the cord aside in its casing, so that it lies away from the seam."),
        tr("Whip both ends of the casing together, outside and inside, the needle always above the cord."),
        tr("Draw the cord to and fro: it has to slide."),
    ),
    "finish cord": (
        tr("Draw the cord until the edge has its girth; put the lock on, or tie it."),
        tr("Stitch across one end where it must not slip out."),
        tr("Cut off what is over and seal or whip the ends."),
    ),
    "set flat": _FASTEN,
    "fasten": _FASTEN,
    "set on object": (
        tr("Put the cover on and stretch it evenly, no more on one side than on the other."),
        tr("Mark through the first half of the fastener with a punch; corners first, then halves."),
        tr("Set each one and close it before you mark the next."),
    ),
    "punch": (
        tr("With the cover on and stretched evenly, mark the middle of each fastener."),
        tr("Take the cover off; one firm blow on the punch."),
        tr("Look behind the place before you drill."),
    ),
    "drill": (
        tr("A depth stop or a tape around the bit, a little deeper than the screw."),
        tr("Begin slowly in the punch mark."),
        tr("Seal the hole where water could get in."),
    ),
    "tidy": (
        tr("Cut all threads, look over every seam from both sides."),
        tr("Count the pins: as many as went out must come back."),
        tr("Run a hand along the inside."),
    ),
    "staystitch": _SEW,
    "tack part": _SEW_ON,
    "tack": _SEW_ON,
    "neaten boxed": (
        tr("Run both layers through together, the knife just shaving the edge."),
        tr("Without an overlock: a zigzag whose outer stitch falls off the edge."),
        tr("Turn it out and look at the corner."),
    ),
}
"""By the key of the deed."""


def how(deed: str) -> tuple[Phrase, ...]:
    """How a kind of step is done; nothing for one that brings no words."""
    return HOW.get(deed, ())
