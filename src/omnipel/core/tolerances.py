"""Every tolerance of the program, each with its reason. Lengths in mm unless the name says otherwise."""

from typing import Final

CHORD_ERROR: Final = 0.01
"""A curve is flattened so that no chord leaves it by more: a tenth of what a test measures on paper."""

ON_CIRCLE: Final = 1e-5
"""Points no further than this from a circle lie on it: outlines joined on a grid of a millionth of a mm still do."""

FOLD_ALIKE: Final = 0.2
"""Halves of a panel that differ by no more are cut as one on the fold: less than a chalk line."""

SAME_POINT: Final = 1e-6
"""Two points nearer than this are one: far under a chalk line, far over rounding at 20 m (4e-12)."""

STRAIGHT_ANGLE: Final = 1e-9
"""Radians. A turn smaller than this between two edges is no corner."""

CORNER_ANGLE: Final = 0.35
"""Radians (20°). A traced outline that turns more than this at one point has a corner there."""

SEAM: Final = 1.5
"""How much the two sides of a seam may differ before a sewist sees a pucker (trade practice)."""

CLOSES: Final = 0.05
"""Two sides of a seam that lie nearer to one another in space than this are closed, and a promised gap is kept to within as much: half a needle."""

MOST_EASE: Final = 0.03
"""Share by which cloth can be eased onto a shorter edge without a pleat (trade practice)."""

SEAM_SOUND: Final = 0.01
"""How much two sides that come from the same number may differ: rounding only."""

MITRE_REACH: Final = 4.0
"""A sharp corner of the cut line is blunted beyond this many allowances, so that no spike leaves the cloth."""

MITRE_ALLOWANCE: Final = 10.0
"""A mitre between two hems leaves this much to sew, or the hem width when that is less."""

NOTCH_SPACING: Final = 300.0
"""No match mark is further than this from the next: an arm's comfortable reach at the machine."""

CLIP_RADIUS: Final = 250.0
"""A straight edge bent to a sew-line radius under this wants relief clips."""

CLIP_SPACING: Final = 25.0
"""Relief clips this far apart on an ordinary curve ..."""

CLIP_RADIUS_TIGHT: Final = 80.0
"""... and closer when the sew-line radius is under this ..."""

CLIP_SPACING_TIGHT: Final = 15.0
"""... namely this far apart."""

CLIP_SHORT_OF_STITCH: Final = 2.0
"""A relief clip ends this far short of the stitch line, so that it never cuts a stitch."""

TIGHT_CLEARANCE: Final = 3.0
"""Slack over 2π below this is a struggle to get on (no lubricated cloth slides under less)."""

FLAP_CLEARANCE: Final = 30.0
"""Slack over 2π above this lets the wall flap in wind and pool water."""

SURE_CHANCE: Final = 0.95
"""Share. Below this chance of going on the program asks for better readings or more clearance."""


ELASTIC_STRETCH: Final = 2.0
"""Braided elastic stretches to about twice its length before it gives way."""

BIAS_BEND: Final = 300.0
"""A strip that follows a bend of a smaller radius, mm, is cut on the bias (trade practice)."""

LEAST_GAP: Final = 75.0
"""A hand goes through about 80 (3 in), mm ..."""

MOST_GAP: Final = 155.0
"""... and over 150 (6 in) the closing shows. A little is allowed for round numbers in either."""

SURE_SPARE: Final = 0.01
"""A remedy aims at so much more than a sure chance (share): its clearance is rounded, and the girth it adds to moves."""

GORE_EXCESS: Final = 0.01
"""Share by which flat gore edges may exceed the meridian before more gores are proposed."""

BAND_EXCESS: Final = 0.05
"""Share of its radius by which the seams between flat bands may stand off a dome before more bands are proposed."""

SHORTEST: Final = 1.0
"""Nothing shorter can be measured with a tape or sewn."""

LARGEST_GAP: Final = 1000.0
"""mm. A gap, a cloth's thickness, padding, what is squared off: more than this is a slip of the pen."""

LONGEST: Final = 100_000.0
"""Nothing longer is a cover: 100 m."""

SLOPE_STEP: Final = 1e-4
"""Share of a number by which a rule is moved to find its slope: the error of a central difference there is about 1e-8."""

AS_TYPED: Final = 1e-6
"""A typed length nearer to the stored one is the same, mm: the rounding of a conversion, not a decision."""

CONTRADICTION: Final = 3.3
"""A reading further from what the others say than this many of its own standard deviations is 1 in 1000 on a good job ..."""

FALSE_ALARM: Final = 0.004
"""... and where many readings check one another the limit grows, so that a good job as a whole is accused no more often than this (share)."""

REPEATS_APART: Final = 5.0
"""A repeat further from the others' middle than this many σ of one reading is likely misread: 1 in 2000 on good repeats, read at eight places."""

TWO_APART: Final = 4.0
"""The same where there are only two, as a multiple of the σ of their difference: 1 in 16 000."""

MOST_GATHERED: Final = 6.0
"""No cloth gathers further, ungathered over gathered."""

FINEST_SIGMA: Final = 0.01
"""Nobody reads better than this with a tape or a rule, whatever is stated, mm."""

SAME_SIZE: Final = 0.01
"""A box that differs from a size by less has that size, mm."""
