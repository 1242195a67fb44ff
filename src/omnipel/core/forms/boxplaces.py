"""The places where a tape can be laid on a box."""

import math
from typing import Final

from omnipel.core.forms.form import Place
from omnipel.core.forms.places import path_over
from omnipel.core.job.reading import Instrument
from omnipel.core.words.phrases import tr

STANDS_UP: Final = tr("a slanted tape, or something stands up on top")
UNDER_IT: Final = tr("something sticks out under the tape")

LENGTH = Place(
    "length",
    tr("length"),
    tr(
        "Along the front, left to right, at the widest; over what sticks out to the sides unless it is told as a thing of its own."
    ),
    512.0,
    ("length",),
)
WIDTH = Place("width", tr("width"), tr("From front to back at the deepest."), 287.0, ("width",))
HEIGHT = Place("height", tr("height"), tr("From the ground to the highest point of the body."), 633.0, ("height",))
DIAGONAL = Place(
    "diagonal",
    tr("diagonal of the top"),
    tr("Across the top from one corner to the opposite one."),
    587.0,
    ("length", "width"),
    lambda length, width: math.hypot(length, width),
    effort=1.2,
    asked=False,
)
EDGES = Place(
    "edges",
    tr("along three edges"),
    tr("One run of the tape: up a front corner, back along the edge of the top, and along its back edge to the other corner."),
    1432.0,
    ("length", "width", "height"),
    lambda length, width, height: length + width + height,
    effort=1.0,
    asked=False,
)
DROP = Place(
    "drop",
    tr("drop"),
    tr("From the top down to where the cover shall end, when it ends above the ground."),
    600.0,
    ("drop",),
    effort=1.5,
)
FRONT_HEIGHT = Place(
    "front_height",
    tr("height of the front"),
    tr("From the ground to the upper edge of the front, when the top slopes down to it."),
    520.0,
    ("front_height",),
    effort=3.0,
)
BELOW = Place(
    "below",
    tr("below the cover"),
    tr("From the ground up to where the cover shall end."),
    33.0,
    ("height", "drop"),
    lambda height, drop: height - drop,
    effort=1.2,
    asked=False,
)
OVER_SIDES = Place(
    "string",
    tr("string over the sides"),
    tr("From the ground up one side, along the top and down the other side to the ground."),
    1778.0,
    ("height", "length", "rounding"),
    lambda height, length, rounding: path_over(height, height, length, rounding),
    instrument=Instrument.STRING,
    effort=1.6,
    too_long=STANDS_UP,
    asked=False,
)
