"""The end of a cloth that is squared off: the square against the selvage, and the line that everything is measured from."""

from collections.abc import Iterator
from typing import Final

import numpy as np

from omnipel.core.pictures.drawing import Drawing, Item, Label, Path
from omnipel.core.pictures.labels import extent
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Voice, tr

LONG: Final = 1.15
"""So much of the cloth's length is shown, in its widths; where it goes on it is broken off in waves."""
CROOKED: Final = (0.03, 0.12)
"""How far in its end lies at either selvage, in widths: more than it will be, so that it is seen."""
LINE: Final = 0.16
"""The line stands so far in, in widths."""
STOCK, BLADE, THICK = 0.42, 0.58, 0.055
"""The square lies so far along the selvage and so far across, and its legs are so wide, in widths."""
SELVAGE: Final = 0.03
"""How wide a selvage is drawn."""
WAVES: Final = 3.0
WAVE: Final = 0.02


def squaring(wide: float, voice: Voice, letters: float) -> Drawing:
    """The end of a cloth `wide` mm wide, its warp to the right; `letters`: how high they are, as a share of the picture's longer side."""
    bare = list(_cloth(wide))
    x0, y0, x1, y1 = extent(Drawing(tuple(bare)))
    text = letters * max(x1 - x0, y1 - y0)
    words = [  # beside the cloth: it may be as dark as ink
        Label(((LINE + LONG) / 2.0 * wide, -1.3 * text), voice.say(tr("selvage")), text),
        Label((LINE * wide, wide + 0.5 * text), voice.say(tr("measure from here")), text, anchor=0.0),
    ]
    return Drawing((*bare, *words))


def _cloth(wide: float) -> Iterator[Item]:
    def reaches(y: Points) -> Points:
        """Where it is broken off, by the height, in widths."""
        far: Points = LONG + WAVE * np.sin(y * 2.0 * np.pi * WAVES)
        return far

    down = np.linspace(1.0, 0.0, 49)
    ring = np.vstack(((CROOKED[0], 0.0), (CROOKED[1], 1.0), np.column_stack((reaches(down), down)))) * wide
    yield Path(ring, Layer.FACE, closed=True, fill="cloth")
    yield Path(ring, Layer.CONTOUR, closed=True)
    across = np.array((SELVAGE, 1.0 - SELVAGE))
    for x0, x1, y in zip(np.interp(across, (0.0, 1.0), CROOKED), reaches(across), across, strict=True):
        yield Path(np.array(((x0, y), (x1, y))) * wide, Layer.STITCH)
    square = np.array(((0.0, 0.0), (STOCK, 0.0), (STOCK, THICK), (THICK, THICK), (THICK, BLADE), (0.0, BLADE))) + (LINE, 0.0)
    yield Path(square * wide, Layer.FACE, closed=True, fill="object")
    yield Path(square * wide, Layer.CONTOUR, closed=True)
    yield Path(np.array(((LINE, 0.0), (LINE, 1.0))) * wide, Layer.LIT)
