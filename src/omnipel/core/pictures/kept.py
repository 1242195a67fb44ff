"""A picture as a few hundred bytes, to be kept beside a job and painted again without geometry or numbers being loaded.

Format: `K3`, then width and height of the picture and the colour of its cloth (red, green, blue); then for each path its layer, flags, tone, what
fills it, the numbers of its rings and of its points, then where its rings begin but for the first, and its points, y down from the upper left corner,
the longer side being `SIDE`. All little-endian; labels are left out.
"""

import re
import struct
from typing import Final

import numpy as np

from omnipel.core.pictures.drawing import Drawing, Path
from omnipel.core.pictures.pens import FILLS, FULL, HEAD, KEPT, LAYERS, PATH, SIDE


def packed(drawing: Drawing, cloth: str = "") -> bytes:
    """The picture's paths as bytes; `cloth` is the colour of its cloth, `#rrggbb`."""
    x0, y0, x1, y1 = drawing.bounds
    scale = SIDE / max(x1 - x0, y1 - y0, 1e-9)
    colour = bytes.fromhex(cloth[1:]) if HEX.fullmatch(cloth) else bytes.fromhex(PLAIN)
    parts = [struct.pack(HEAD, KEPT, round((x1 - x0) * scale), round((y1 - y0) * scale), *colour)]
    for item in drawing.items:
        if not isinstance(item, Path) or not 0 < len(item.points) < MOST:
            continue
        flags = item.closed | item.pairs << 1 | item.far << 2 | item.hatched << 3
        fill = FILLS.index(item.fill) if item.fill in FILLS else FILLS.index("cloth")
        tone = round(FULL * min(max(item.tone, 0.0), 255.0 / FULL))
        begins = item.rings[1:]
        parts.append(struct.pack(PATH, LAYERS.index(item.layer), flags, tone, fill, len(begins), len(item.points)))
        parts.append(np.array(begins, dtype="<u2").tobytes())
        flat = (item.points - (x0, y1)) * (scale, -scale)
        parts.append(flat.round().astype("<i2").tobytes())
    return b"".join(parts)


HEX: Final = re.compile("#[0-9a-fA-F]{6}")
PLAIN: Final = "cdc2ae"
"""The colour of cloth that is told no other."""
MOST: Final = 1 << 16
"""Points of one path."""
