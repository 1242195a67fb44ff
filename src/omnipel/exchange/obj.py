"""The sewn cover and the object as a Wavefront OBJ file, so that anyone can measure it with another program. Millimetres, z up.

Groups: `cover/<panel>/<piece>`, `cover/<feature>/<id and number>` for webbing and tape, and `object/<part>`; names
have their blanks as underscores. Faces are flat, counter-clockwise seen from outside.
"""

from collections.abc import Iterator

import numpy as np

from omnipel.core.draft import Drafted
from omnipel.core.drafting.pieces import facets
from omnipel.core.space.frames import Solid

FINE = 0.2
"""No facet leaves the cloth by more than this, mm."""
DIGITS = 4
"""Decimals of a coordinate."""


def obj(draft: Drafted) -> str:
    """The file's content."""
    lines = [f"# {draft.job.name}".encode("ascii", "replace").decode().replace("\n", " "), "# millimetres, z up"]
    count = 0
    for group, faces in _groups(draft):
        lines.append(f"g {group}")
        for points in faces:
            lines += [f"v {x:.{DIGITS}f} {y:.{DIGITS}f} {z:.{DIGITS}f}" for x, y, z in points + 0.0]
            lines.append("f " + " ".join(str(count + k) for k in range(1, len(points) + 1)))
            count += len(points)
    return "\n".join(lines) + "\n"


def _groups(draft: Drafted) -> Iterator[tuple[str, list[Solid]]]:
    """Groups of faces: every piece of the cover, then every part of the object."""
    cover = draft.cover
    for piece in cover.pieces:
        panel = cover.flat[piece.name]
        size = float(np.ptp(panel.sew_points, axis=0).max())
        yield _name("cover", panel.name, piece.name), facets(piece, panel, max(FINE, size * 1e-4))
    for id_, ribbons in cover.ribbons.items():
        for i, ribbon in enumerate(ribbons, 1):
            yield _name("cover", ribbon.name, f"{id_} {i}"), ribbon.faces
    parts: dict[str, list[Solid]] = {}
    for face in draft.body.mesh().faces:
        parts.setdefault(face.part, []).append(face.points)
    for part, faces in parts.items():
        yield _name("object", part), faces


def _name(*parts: str) -> str:
    """A group's name."""
    return "/".join("_".join(part.replace("/", " ").split()) for part in parts)
